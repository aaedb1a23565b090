import TinyQueue from 'tinyqueue';
import { dueAfter, earlyEnough, type Beat } from './beat.js';

/** Time for patient beats before the sockets are looked at again, ms. */
const patientMs = 0.4;

const byDue = (beats: Beat[]) => new TinyQueue(beats, (a, b) => a.due - b.due);

/**
 * Beats that no packet waits for: each link's questions beside its cyclic data, each stand-in's steps. There may be
 * hundreds, of which few are due at a time, so they stand in a queue by their due times. Whose turn has been late the
 * longest comes first: on a busy computer one may be due again before all have run.
 */
export class BackgroundBeats {
  private queue = byDue([]);

  /** When the first is due; Infinity when there is none. */
  get due(): number {
    return this.queue.peek()?.due ?? Infinity;
  }

  add(beat: Beat): void {
    this.queue.push(beat);
  }

  delete(beat: Beat): void {
    this.queue = byDue(this.queue.data.filter((other) => other !== beat));
  }

  clear(): void {
    this.queue = byDue([]);
  }

  /** Runs those that are due at `now`, but for a moment only. Says whether some are left. */
  run(now: number): boolean {
    while (this.due - now <= earlyEnough) {
      const at = performance.now();
      if (at - now > patientMs) return true;
      const beat = this.queue.pop()!;
      beat.due = dueAfter(beat, at);
      this.queue.push(beat);
      beat.run(at);
    }
    return false;
  }
}
