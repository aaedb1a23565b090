import { setImmediate } from 'node:timers/promises';
import { Worker } from 'node:worker_threads';

/** The computer's own clock, the same in all threads and processes, ms. */
const computerClock = () => Number(process.hrtime.bigint()) / 1e6;

/**
 * What one clock is ahead of another, ms. The greatest of some readings: a halt between the two clocks of one makes it
 * smaller (the first use of `performance` loads it, for milliseconds), and everything would be woken too early, again
 * and again.
 */
export const aheadOf = (clock: () => number, other: () => number): number =>
  Math.max(...Array.from({ length: 8 }, () => clock() - other()));

/** What the computer's own clock is ahead of `performance.now()`, ms. */
const ahead = aheadOf(computerClock, () => performance.now());

/**
 * The next multiple of a period, at or after a time of `performance.now()`, on the clock of the whole computer: what
 * several processes send falls into the same moments, and none is woken for each single packet of another
 * (bench/cyclic).
 */
export const nextOnClock = (time: number, periodMs: number): number =>
  Math.ceil((time + ahead) / periodMs) * periodMs - ahead;

/**
 * Where what in the memory of both threads is: two moments in ms of the computer's clock as doubles, then two counts.
 */
const places = { wanted: 0, sleepsUntil: 1, strokes: 4, changes: 5, bytes: 24 } as const;

interface Settings {
  memory: SharedArrayBuffer;
  at: typeof places;
  /** After a stroke the thread looks again this much later, ms, without being asked to. */
  usual: number;
}

/** What the thread does: it sleeps to the moment that is wanted, counts a stroke, and wakes who waits for it. */
function sleepAndTick({ memory, at, usual }: Settings): void {
  const moments = new Float64Array(memory, 0, 2);
  const counts = new Int32Array(memory);
  const clock = () => Number(process.hrtime.bigint()) / 1e6;
  let answered = 0;
  let struck = -Infinity;
  for (;;) {
    const asked = Atomics.load(counts, at.changes);
    const wanted = moments[at.wanted]!;
    const now = clock();
    if (wanted <= now && asked !== answered) {
      answered = asked;
      struck = wanted;
      Atomics.add(counts, at.strokes, 1);
      Atomics.notify(counts, at.strokes);
    }
    // Most strokes follow each other at the usual distance: then nobody has to wake this thread for the next one.
    const usualNext = struck + usual > now ? struck + usual : now + usual;
    const wake = wanted > now ? Math.min(wanted, now + usual) : usualNext;
    moments[at.sleepsUntil] = wake;
    Atomics.wait(counts, at.changes, asked, wake - now);
  }
}

/**
 * Calls back at a moment, to about a tenth of a millisecond, where Node's own timers count whole milliseconds from
 * whenever they were set: a thread sleeps and wakes this one. Shared memory costs a third of what a message does.
 */
export class Metronome {
  private readonly thread: Worker;
  private readonly moments: Float64Array;
  private readonly counts: Int32Array<SharedArrayBuffer>;
  private stopped = false;

  /** `usualMs`: the distance at which most calls will be wanted. */
  constructor(
    usualMs: number,
    private readonly run: () => void,
  ) {
    const memory = new SharedArrayBuffer(places.bytes);
    this.moments = new Float64Array(memory, 0, 2).fill(Infinity);
    this.counts = new Int32Array(memory);
    const workerData: Settings = { memory, at: places, usual: usualMs };
    // The thread's program is this text, so that it needs no file of its own beside a bundle.
    this.thread = new Worker(`(${sleepAndTick.toString()})(require('node:worker_threads').workerData);`, {
      eval: true,
      workerData,
      stdin: false,
    });
    this.thread.unref();
    void this.listen();
  }

  /** Calls back once at this time of `performance.now()`, in place of any other that was asked for. */
  wakeAt(time: number): void {
    const wanted = time + ahead;
    this.moments[places.wanted] = wanted;
    Atomics.add(this.counts, places.changes, 1);
    // The same moment, reckoned in two ways, differs in the last digits.
    if (wanted < this.moments[places.sleepsUntil]! - 0.01) Atomics.notify(this.counts, places.changes);
  }

  stop(): void {
    this.stopped = true;
    void this.thread.terminate();
    Atomics.notify(this.counts, places.strokes);
  }

  private async listen(): Promise<void> {
    for (let heard = 0; ;) {
      const stroke = Atomics.waitAsync(this.counts, places.strokes, heard);
      // One that fell while the last was attended to lets the sockets have their turn first.
      await (stroke.async ? stroke.value : setImmediate());
      if (this.stopped) return;
      heard = Atomics.load(this.counts, places.strokes);
      this.run();
    }
  }
}
