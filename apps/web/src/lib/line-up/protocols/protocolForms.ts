import { firstFree, type Cell, type Direction, type Link } from '@fadenkreuz/core';
import type { Component } from 'svelte';

/** What the line-up shows of one protocol alone. */
export interface ProtocolForms<L extends Link = Link> {
  /** What its links alone have; absent where images say everything. */
  link?: Component<{ link: L }>;
  /** Whether images are told apart by an instance number. */
  instances: boolean;
  /** What its devices go by on the wire, beside their address. */
  nameOnTheWire?: { title: string; says: string; of: (name: string) => string };
  /** What time-outs are counted in, where that is not one time for the whole link. */
  countedIn?: string;
  /** How a device is added of which only the manual's table is known; absent where a table cannot say enough. */
  byHand?: ByHand;
}

/** Entries for a device by hand that every protocol has. */
export interface ByHandEntry {
  updateMs: number;
}

/** Adding a device by hand, as far as it belongs to the protocol. Its entries are known to itself alone. */
export interface ByHand {
  /** What stands in the form at first. */
  initial: () => ByHandEntry;
  form: Component<{ entry: ByHandEntry }>;
  /** The link with both its images, empty. Nothing is checked here: the model does that. */
  link: (cell: Cell, entry: ByHandEntry, newId: () => string) => Link;
}
interface ByHandWith<E extends ByHandEntry> {
  initial: () => E;
  form: Component<{ entry: E }>;
  link: (cell: Cell, entry: E, newId: () => string) => Link;
}

/** Its form and its link get the entries that it made. */
export const byHand = <E extends ByHandEntry>(of: ByHandWith<E>): ByHand => of as unknown as ByHand;

/** An image without fields, behind all others of the controller. */
export const emptyImage = <D extends Direction>(
  cell: Cell,
  direction: D,
  { instance, size }: { instance: number; size: number },
  newId: () => string,
) => ({
  ...{ id: newId(), instance, size, start: firstFree(cell, direction) },
  ...{ order: null, swapped: false, numbering: null, groups: [], fields: [], direction },
});
