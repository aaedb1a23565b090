import type { Note } from './send.js';

export interface Message {
  id: number;
  /** ms since 1970. */
  at: number;
  note: Note;
  /** Nothing is to be done about it any more: it was read, or what it was about has gone well since. */
  answered: boolean;
}

/** So many are kept; older ones go. */
const mostKept = 50;

/** What a person was told since the page was opened, the newest last. */
export class Messages {
  private list = $state.raw<readonly Message[]>([]);
  private last = 0;

  get all(): readonly Message[] {
    return this.list;
  }
  /** The newest one, unless it is answered. */
  get open(): Message | undefined {
    const newest = this.list.at(-1);
    return newest?.answered ? undefined : newest;
  }
  /** Tells something; what was told before is answered by it. */
  tell(note: Note): void {
    const same = this.open?.note.says === note.says;
    if (!same) this.answer();
    const message = { id: ++this.last, at: Date.now(), note, answered: false };
    this.list = [...(same ? this.list.slice(0, -1) : this.list), message].slice(-mostKept);
  }
  /** The newest one needs nothing any more. */
  answer(): void {
    const { open } = this;
    if (open) this.list = this.list.map((m) => (m === open ? { ...m, answered: true } : m));
  }
}
