import { identifierOf, Problem, quantitiesOf, type Device } from '@fadenkreuz/core';
import type { ConnectionPoint } from '@fadenkreuz/core/devices';
import type { SimulatedPoint } from '../protocols/driver.js';
import { LaidOut } from '@fadenkreuz/core/stand-ins';
import type { MachineAround } from './machineAround.js';

/** A stand-in as a part of the machine: what acts on it, what the machine has it show, what is seen of it. */
export class MachinePart {
  private laidOut: LaidOut | undefined;
  /** Identifiers of the quantities that act on its kind, by name. */
  private meets: ReadonlyMap<string, string> = new Map();
  private quantities: ReadonlySet<string> = new Set();
  /** What a person does to it by hand, by quantity: it stands over what the machine does. */
  private readonly byHand = new Map<string, number>();

  /** Without a machine it acts as on a test bench. */
  constructor(
    readonly device: Device,
    private readonly machine: MachineAround | undefined,
    private readonly points: () => readonly SimulatedPoint[],
  ) {
    this.layOut(device);
  }

  /** Takes over another layout. */
  layOut(device: Device): void {
    const [link] = device.links;
    this.laidOut = link && new LaidOut(link, device.description);
    this.meets = new Map(quantitiesOf(device).map(({ name }) => [name, identifierOf(name)]));
    this.quantities = new Set(this.meets.values());
  }

  /** What is done to it by hand. */
  get held(): Record<string, number> {
    return Object.fromEntries(this.byHand);
  }

  /** Does something to it from now on; null lets it go. Throws `edit.unknown` for what does not act on it. */
  hold(quantity: string, value: number | null): void {
    if (!this.meets.has(quantity)) throw new Problem('edit.unknown', { what: 'quantity', id: quantity });
    if (value === null) this.byHand.delete(quantity);
    else this.byHand.set(quantity, value);
  }

  join(): void {
    this.machine?.join(this);
  }
  leave(): void {
    this.machine?.leave(this);
  }

  /** What of the machine acts on it; undefined where nothing does. */
  readonly met = (quantity: string): number | undefined => {
    const hand = this.byHand.get(quantity);
    if (hand !== undefined) return hand;
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
