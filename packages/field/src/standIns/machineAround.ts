import { Machine, type Cell } from '@fadenkreuz/core';
import type { Schedule } from '../timing/schedule.js';

/** Milliseconds between two steps of the machine: as often as its devices look at it. */
const stepMs = 20;

/** A device of the machine, as far as it can be looked at. */
export interface Observed {
  readonly device: { id: string };
  /** A role or a field by its identifier. */
  valueOf(name: string): number | undefined;
}

/** The machine around all stand-ins of a bench: what they do acts on it, and it acts on them. */
export class MachineAround {
  private machine: Machine;
  private readonly parts = new Map<string, Observed>();
  private readonly stopSteps: () => void;

  constructor(cell: Pick<Cell, 'machine' | 'devices'>, schedule: Schedule) {
    this.machine = new Machine(cell.machine, cell.devices);
    let last = performance.now();
    const step = (now: number) => {
      this.machine.step((now - last) / 1000, (device, name) => this.parts.get(device)?.valueOf(name));
      last = now;
    };
    this.stopSteps = schedule.every(stepMs, step, { patient: true });
  }

  /** Takes over another table, or devices under other names. */
  follow(cell: Pick<Cell, 'machine' | 'devices'>): void {
    this.machine = new Machine(cell.machine, cell.devices, this.machine);
  }

  join(part: Observed): void {
    this.parts.set(part.device.id, part);
  }

  leave(part: Observed): void {
    if (this.parts.get(part.device.id) === part) this.parts.delete(part.device.id);
  }

  /** What acts on a device now, by the identifiers of quantities, roles and fields. */
  actsOn(deviceId: string): ReadonlyMap<string, number> {
    return this.machine.actsOn(deviceId);
  }

  /** What the lines of the table gave last, by their ids, in six digits. */
  get values(): Record<string, number> {
    return Object.fromEntries(
      [...this.machine.values].map(([id, value]) => [id, Number(value.toPrecision(6))]),
    );
  }

  close(): void {
    this.stopSteps();
  }
}
