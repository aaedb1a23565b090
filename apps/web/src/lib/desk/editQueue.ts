import { applyEdit, Problem, type Cell, type Edit } from '@fadenkreuz/core';
import type { Change } from '../api/changes.js';

/**
 * The cell of one desk, as a value: what is stored, what this desk has changed beyond that, and what is shown. Every
 * step takes a state and gives the next one; sending and hearing are done by who keeps it (desk.svelte.ts).
 */
export interface EditQueue {
  /** The newest state that this desk has in full. */
  stored: Cell;
  version: number;
  /** Changes that are not known to be stored, in the order in which they were made. */
  pending: readonly Pending[];
  /** What is shown: always the stored state with these changes. */
  shown: Cell;
  /** Changes that came before one that they stand on. */
  ahead: readonly Change[];
}

/** A change on its way to the server. */
export interface Pending {
  id: string;
  path: 'changes' | 'undo' | 'redo';
  /** None for undo and redo: what they do is known with the answer. */
  edit: Edit | undefined;
  /** The version that the person saw. */
  madeOn: number;
}

export const queueOf = (cell: Cell, version: number): EditQueue => ({
  stored: cell,
  version,
  pending: [],
  shown: cell,
  ahead: [],
});

/** A change is made: shown at once, and to be sent. Throws the Problem of an edit that the model refuses. */
export const made = (queue: EditQueue, change: Omit<Pending, 'madeOn'>): EditQueue => ({
  ...queue,
  shown: change.edit ? applyEdit(queue.shown, change.edit) : queue.shown,
  pending: [...queue.pending, { ...change, madeOn: queue.version }],
});

/**
 * Changes that another page of this browser made and could not send: shown where they still can be made, and to be
 * sent.
 */
export const takenOver = (queue: EditQueue, changes: readonly Pending[]): EditQueue => {
  const pending = [...changes, ...queue.pending];
  return { ...queue, pending, shown: replayed(queue.stored, pending) };
};

/** A change has been stored, by this desk or by another; what is known already is left alone. */
export function heard(queue: EditQueue, change: Change): EditQueue {
  if (change.version <= queue.version) return queue;
  if (change.version > queue.version + 1)
    return queue.ahead.some((c) => c.version === change.version)
      ? queue
      : { ...queue, ahead: [...queue.ahead, change] };
  const own = queue.pending.find((p) => p.id === change.id);
  const edit = change.edit ?? own?.edit;
  if (!edit) return queue;
  const stored = applyEdit(queue.stored, edit);
  const pending = queue.pending.filter((p) => p.id !== change.id);
  const next = { ...queue, stored, version: change.version, pending };
  // Confirming what was shown already changes nothing for the eye: what was worked out for it stands.
  const asShown = own?.edit !== undefined && own === queue.pending[0];
  return caughtUp({ ...next, shown: asShown ? queue.shown : replayed(stored, pending) });
}

/** What was ahead may now be in turn. */
function caughtUp(queue: EditQueue): EditQueue {
  const next = queue.ahead.find((c) => c.version === queue.version + 1);
  const ahead = queue.ahead.filter((c) => c.version > queue.version + 1);
  return next ? heard({ ...queue, ahead }, next) : { ...queue, ahead };
}

/**
 * Those of the changes that still can be made, on a state; what cannot will be refused by the server, with its reason.
 */
function replayed(stored: Cell, pending: readonly Pending[]): Cell {
  return pending.reduce((cell, { edit }) => {
    if (!edit) return cell;
    try {
      return applyEdit(cell, edit);
    } catch (error) {
      if (error instanceof Problem) return cell;
      throw error;
    }
  }, stored);
}

/** A change that the server refuses: only this one is given up. */
export function refused(queue: EditQueue, id: string): EditQueue {
  const pending = queue.pending.filter((p) => p.id !== id);
  return { ...queue, pending, shown: replayed(queue.stored, pending) };
}

/** The whole cell was loaded; one that is older than what is known already is left alone. */
export function loaded(queue: EditQueue, cell: Cell, version: number): EditQueue {
  if (version < queue.version) return queue;
  const stored = sharing(queue.stored, cell);
  const ahead = queue.ahead.filter((c) => c.version > version);
  return caughtUp({ ...queue, stored, version, ahead, shown: replayed(stored, queue.pending) });
}

/**
 * A loaded cell, with the values of `known` for all parts that are equal: what was worked out for them (signals,
 * findings, the tape) stays.
 */
function sharing(known: Cell, cell: Cell): Cell {
  const same = <T>(own: T | undefined, other: T): T =>
    own !== undefined && JSON.stringify(own) === JSON.stringify(other) ? own : other;
  const own = new Map(known.devices.map((d) => [d.id, d]));
  return {
    ...cell,
    controller: same(known.controller, cell.controller),
    notations: same(known.notations, cell.notations),
    devices: cell.devices.map((device) => same(own.get(device.id), device)),
  };
}
