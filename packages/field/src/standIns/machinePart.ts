import { identifierOf, quantitiesOf, type Device } from '@fadenkreuz/core';
import type { ConnectionPoint } from '@fadenkreuz/core/devices';
import type { SimulatedPoint } from '../protocols/driver.js';
import { LaidOut } from '@fadenkreuz/core/stand-ins';
import type { MachineAround } from './machineAround.js';

/** A stand-in as a part of the machine: what acts on it, what the machine has it show, what is seen of it. */
export class MachinePart {
  private laidOut: LaidOut | undefined;
  /** Identifiers of the quantities that act on its kind, by name. */
  private readonly meets: ReadonlyMap<string, string>;
  private readonly quantities: ReadonlySet<string>;

  /** Without a machine it acts as on a test bench. */
  constructor(
    readonly device: Device,
    private readonly machine: MachineAround | undefined,
    private readonly points: () => readonly SimulatedPoint[],
  ) {
    this.meets = new Map(quantitiesOf(device.kind).map(({ name }) => [name, identifierOf(name)]));
    this.quantities = new Set(this.meets.values());
    this.layOut(device);
  }

  /** Takes over another layout. */
  layOut({ links: [link], description }: Pick<Device, 'links' | 'description'>): void {
    this.laidOut = link && new LaidOut(link, description);
  }

  join(): void {
    this.machine?.join(this);
  }
  leave(): void {
    this.machine?.leave(this);
  }

  /** What of the machine acts on it; undefined where nothing does. */
  readonly met = (quantity: string): number | undefined => {
    const name = this.meets.get(quantity);
    return name === undefined ? undefined : this.machine?.actsOn(this.device.id).get(name);
  };

  /** The value of a role or field, by its identifier. */
  valueOf(name: string): number | undefined {
    return this.laidOut?.valueOf(name, this.points());
  }

  /** Shows over a point what the machine has it show: whatever is no quantity that acts on its kind. */
  over(point: ConnectionPoint, into: Uint8Array): void {
    const acting = this.machine?.actsOn(this.device.id);
    if (!acting?.size) return;
    const shown = new Map([...acting].filter(([name]) => !this.quantities.has(name)));
    if (shown.size > 0) this.laidOut?.over(point, into, shown);
  }
}
