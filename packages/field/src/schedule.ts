/** Something that is due again and again; times in ms of `performance.now()`. */
interface Beat {
  period: number;
  due: number;
  run: (now: number) => void;
}

/** A timer may wake this much too early and still be taken as on time; Node's timers count whole milliseconds. */
const earlyEnough = 0.5;

/** Wake-ups that are remembered to tell how late they are. */
const remembered = 400;

/**
 * One schedule for everything cyclic. Due times are counted from the first one, so that a late wake-up does not shift those that
 * follow; a beat that was missed as a whole is left out, not made up for in a burst.
 */
export class Schedule {
  private readonly beats = new Set<Beat>();
  private timer: NodeJS.Timeout | undefined;
  private readonly late = new Float64Array(remembered);
  private wakes = 0;
  private wanted = 0;

  /** By how much nine of ten of the last wake-ups stayed under, ms: what this computer itself adds to every interval. */
  lateness(): number {
    const length = Math.min(this.wakes, remembered);
    return length === 0 ? 0 : this.late.slice(0, length).sort()[Math.ceil(0.9 * length) - 1]!;
  }

  /** Runs now + period, now + 2 periods, …; returns the way to stop it. */
  every(periodMs: number, run: (now: number) => void): () => void {
    const beat: Beat = { period: periodMs, due: performance.now() + periodMs, run };
    this.beats.add(beat);
    this.arrange();
    return () => {
      this.beats.delete(beat);
    };
  }

  stop(): void {
    this.beats.clear();
    clearTimeout(this.timer);
  }

  private arrange(): void {
    clearTimeout(this.timer);
    let next = Infinity;
    for (const beat of this.beats) next = Math.min(next, beat.due);
    this.wanted = next;
    if (next < Infinity) this.timer = setTimeout(() => this.wake(), Math.max(0, next - performance.now()));
  }

  private wake(): void {
    const now = performance.now();
    this.late[this.wakes++ % remembered] = Math.max(0, now - this.wanted);
    for (const beat of this.beats) {
      if (beat.due - now > earlyEnough) continue;
      beat.due += beat.period * Math.max(1, Math.floor((now - beat.due) / beat.period) + 1);
      beat.run(now);
    }
    this.arrange();
  }
}
