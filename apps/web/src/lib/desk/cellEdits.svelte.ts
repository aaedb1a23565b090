import { Problem, type Cell, type Edit } from '@fadenkreuz/core';
import { Change, ChangeAnswer, Stored } from '../api/changes.js';
import {
  heard,
  loaded,
  made,
  queueOf,
  refused,
  takenOver,
  type EditQueue,
  type Pending,
} from './editQueue.js';
import type { KeptChanges } from './keptChanges.js';
import { send, type Note } from './send.js';

/** A change that is not answered in this time is sent again, with the same id, ms. */
const storedWithinMs = 5000;
/** Pause before a change is sent again, ms. */
const retryMs = 700;

/**
 * The cell with its unsaved edits. An edit shows at once, is sent until it is confirmed or refused, and is never stored
 * twice; one that is refused is kept with its reason, and the others go on.
 */
export class CellEdits {
  private state = $state.raw<EditQueue>() as EditQueue;
  undoTitle = $state<string | null>(null);
  redoTitle = $state<string | null>(null);
  /** Why the oldest unsaved change is not stored yet, while it is being sent again. */
  waiting = $state<Note | null>(null);
  private sending = false;
  private kept: KeptChanges | undefined;

  constructor(
    stored: Stored,
    /** Whose changes these are, and of which browser window. */
    private readonly person: string,
    private readonly desk: string,
    /** Tells what a change met; null: it went well. */
    private readonly tell: (note: Note | null) => void,
  ) {
    this.queue = queueOf(stored.cell, stored.version);
    this.takeSteps(stored);
  }

  private get queue(): EditQueue {
    return this.state;
  }
  private set queue(next: EditQueue) {
    const waits = next.pending !== this.state?.pending;
    this.state = next;
    if (waits) this.kept?.keep(next.pending);
  }

  /** From now on unsaved changes outlive the page; those that an earlier one left are sent. */
  keepIn(kept: KeptChanges): void {
    this.kept = kept;
    const left = kept.takeOver();
    if (left.length === 0) return;
    this.queue = takenOver(this.queue, left);
    void this.flush();
  }

  readonly cell: Cell = $derived(this.queue.shown);
  readonly unsaved: number = $derived(this.queue.pending.length);

  /** Shows an edit at once and has it stored; one that the model refuses changes nothing and says why. */
  edit(edit: Edit): boolean {
    try {
      this.queue = made(this.queue, { id: crypto.randomUUID(), path: 'changes', edit });
    } catch (error) {
      if (!(error instanceof Problem)) throw error;
      this.tell(error.report());
      return false;
    }
    this.tell(null);
    void this.flush();
    return true;
  }

  undo(): void {
    this.step('undo');
  }

  redo(): void {
    this.step('redo');
  }

  private step(path: 'undo' | 'redo'): void {
    this.queue = made(this.queue, { id: crypto.randomUUID(), path, edit: undefined });
    void this.flush();
  }

  /** A change has been stored, by whomever. */
  hear(change: Change): void {
    this.advance(() => heard(this.queue, change));
    // Something on the way was not heard of.
    if (this.queue.ahead.length > 0) void this.reload();
  }

  /** The cell has moved on to this version, without a word of how. */
  hearVersion(version: number): void {
    if (version > this.queue.version) void this.reload();
  }

  /** Loads the whole cell; changes of one's own stay. */
  async reload(): Promise<void> {
    const answer = await send('GET', `/api/cells/${this.cell.id}`, Stored);
    if (!answer.ok) {
      if (!answer.away) this.tell(answer.problem);
      return;
    }
    this.queue = loaded(this.queue, answer.value.cell, answer.value.version);
    if (this.queue.version === answer.value.version) this.takeSteps(answer.value);
  }

  /** Sends what waits, one after the other, each until the server has said yes or no. */
  private async flush(): Promise<void> {
    if (this.sending) return;
    this.sending = true;
    for (let next = this.queue.pending[0]; next; next = this.queue.pending[0]) await this.sendOne(next);
    this.waiting = null;
    this.sending = false;
  }

  private async sendOne({ id, path, edit, madeOn }: Pending): Promise<void> {
    const head = { id, madeOn, known: this.queue.version, person: this.person, desk: this.desk };
    const body = { ...head, ...(edit ? { edit } : {}) };
    const answer = await send(
      'POST',
      `/api/cells/${this.cell.id}/${path}`,
      ChangeAnswer,
      body,
      storedWithinMs,
    );
    if (answer.ok) return this.take(answer.value, id);
    if (answer.away) {
      // No answer, or a part is away: the same change with the same id is sent again until it is confirmed.
      this.waiting = answer.problem;
      await new Promise((resolve) => setTimeout(resolve, retryMs));
      return;
    }
    this.queue = refused(this.queue, id);
    const again = edit && { title: 'Make it again', go: () => void this.edit(edit) };
    this.tell({ ...answer.problem, ...(again ? { action: again } : {}) });
  }

  private async take(answer: ChangeAnswer, id: string): Promise<void> {
    this.waiting = null;
    this.takeSteps(answer);
    if (!answer.whole) this.advance(() => answer.changes.reduce(heard, this.queue));
    // It is stored, but what it stands on could not be told.
    if (this.queue.version < answer.version) await this.reload();
    if (this.queue.pending.some((p) => p.id === id)) this.queue = refused(this.queue, id);
  }

  /** What others made of the cell must fit what this desk has; where it does not, the whole is loaded. */
  private advance(next: () => EditQueue): void {
    try {
      this.queue = next();
    } catch (error) {
      if (!(error instanceof Problem)) throw error;
      void this.reload();
    }
  }

  private takeSteps({ undo, redo }: { undo: string | null; redo: string | null }): void {
    this.undoTitle = undo;
    this.redoTitle = redo;
  }
}
