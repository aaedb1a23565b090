import {
  plannedValues,
  snapshotValues,
  type Cell,
  type Device,
  type Snapshot,
  type SnapshotValue,
} from '@fadenkreuz/core';
import type { Desk } from '$lib/desk/desk.svelte.js';

/** What the values of a device are compared with beside its plan: a snapshot, another device, an earlier plan. */
export class Comparison {
  snapshot = $state.raw<Snapshot>();
  /** Another device, by id; empty: none. */
  beside = $state('');
  earlier = $state.raw<{ title: string; cell: Cell }>();
  /** What the device says it is; undefined while it was not asked, or does not answer. */
  said = $state.raw<Awaited<ReturnType<Desk['parameters']['identityOf']>>>();

  constructor(
    private readonly desk: Desk,
    private readonly device: () => Device | undefined,
  ) {}

  /** Devices of the kind that have parameters, too. */
  get alike(): Device[] {
    const device = this.device();
    return this.desk.cell.devices.filter(
      (d) => d.id !== device?.id && d.kind === device?.kind && d.description.parameters.length > 0,
    );
  }
  get besides(): Device | undefined {
    return this.alike.find((d) => d.id === this.beside);
  }

  /** Undefined where it is compared with nothing. */
  get values(): readonly SnapshotValue[] | undefined {
    if (this.snapshot) return this.snapshot.values;
    if (this.earlier) {
      const before = this.earlier.cell.devices.find((d) => d.id === this.device()?.id);
      return plannedValues(before?.description.parameters ?? []);
    }
    const { besides } = this;
    return besides && snapshotValues(besides.description.parameters, this.desk.parameters.readOf(besides.id));
  }
  /** As a column is headed. */
  get title(): string {
    if (this.snapshot) return 'snapshot';
    return this.earlier ? 'earlier plan' : (this.besides?.name ?? '');
  }

  clear(): void {
    this.snapshot = this.earlier = this.said = undefined;
    this.beside = '';
  }
}
