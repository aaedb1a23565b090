import { Edit } from '@fadenkreuz/core';
import { z } from 'zod';
import type { Pending } from './editQueue.js';

/** What of a browser's storage is used. */
export type TextStore = Pick<Storage, 'getItem' | 'setItem' | 'removeItem' | 'key' | 'length'>;

const Kept = z.array(
  z.strictObject({
    id: z.string(),
    path: z.enum(['changes', 'undo', 'redo']),
    edit: Edit.optional(),
    madeOn: z.number(),
  }),
);

/**
 * Unsaved changes of one cell in the browser's storage, so that they outlive the page: what was on its way when a page
 * was left, or when the browser was closed, is sent by the next one. The server stores no change twice, so two pages
 * may send the same one.
 */
export class KeptChanges {
  private readonly prefix: string;
  private readonly own: string;

  constructor(
    private readonly store: TextStore,
    cell: string,
    desk: string,
  ) {
    this.prefix = `unsaved ${cell} `;
    this.own = this.prefix + desk;
  }

  /** What waits now; an edit too large for the storage waits in the page alone. */
  keep(pending: readonly Pending[]): void {
    if (pending.length === 0) return this.store.removeItem(this.own);
    try {
      this.store.setItem(this.own, JSON.stringify(pending));
    } catch {
      this.store.removeItem(this.own);
    }
  }

  /** Takes over what other pages of this cell have left, oldest first; it is theirs no more. */
  takeOver(): Pending[] {
    const keys = Array.from({ length: this.store.length }, (_, i) => this.store.key(i));
    const left = keys.filter((key) => key?.startsWith(this.prefix) && key !== this.own) as string[];
    const changes = left.flatMap((key) => readKept(this.store.getItem(key)));
    for (const key of left) this.store.removeItem(key);
    return changes.sort((a, b) => a.madeOn - b.madeOn);
  }
}

/** Changes of another version of this program may be unreadable: they are left out. */
function readKept(text: string | null): Pending[] {
  try {
    const read = Kept.safeParse(JSON.parse(text ?? '[]'));
    return read.success ? (read.data as Pending[]) : [];
  } catch {
    return [];
  }
}
