import { setImmediate } from 'node:timers/promises';
import { Worker } from 'node:worker_threads';

/** What the computer's own clock, the same in all threads and processes, is ahead of `performance.now()`, ms. */
const ahead = Number(process.hrtime.bigint()) / 1e6 - performance.now();

/**
 * The next multiple of a period, at or after a time of `performance.now()`, on the clock of the whole computer: what several
 * processes send falls into the same moments, and none is woken for each single packet of another (bench/cyclic).
 */
export const nextStroke = (time: number, periodMs: number): number =>
  Math.ceil((time + ahead) / periodMs) * periodMs - ahead;

interface Beat {
  memory: SharedArrayBuffer;
  /** ms between two strokes, and of the computer's clock at one of them. */
  period: number;
  from: number;
}

/** What the thread does: it sleeps to the next stroke, counts it, wakes who waits for it, and sleeps on. */
function sleepAndStrike({ memory, period, from }: Beat): void {
  const strokes = new Int32Array(memory, 0, 1);
  const never = new Int32Array(memory, 4, 1);
  const clock = () => Number(process.hrtime.bigint()) / 1e6;
  for (let due = from; ; ) {
    const left = due - clock();
    if (left > 0) {
      Atomics.wait(never, 0, 0, left);
      continue;
    }
    Atomics.add(strokes, 0, 1);
    Atomics.notify(strokes, 0);
    // Strokes that a halt of the machine swallowed are not made up for.
    due += period * Math.max(1, Math.ceil(-left / period));
  }
}

/**
 * Calls back at every stroke of a period (`nextStroke`), to about a tenth of a millisecond, where Node's own timers count
 * whole milliseconds from whenever they were set: a thread sleeps and wakes this one. Shared memory costs a third of a message.
 */
export class Metronome {
  private readonly thread: Worker;
  private readonly strokes: Int32Array<SharedArrayBuffer>;
  private stopped = false;

  constructor(
    periodMs: number,
    private readonly run: () => void,
  ) {
    const memory = new SharedArrayBuffer(8);
    this.strokes = new Int32Array(memory, 0, 1);
    const from = nextStroke(performance.now(), periodMs) + ahead;
    const workerData: Beat = { memory, period: periodMs, from };
    // The thread's program is this text, so that it needs no file of its own beside a bundle.
    this.thread = new Worker(
      `(${sleepAndStrike.toString()})(require('node:worker_threads').workerData);`,
      { eval: true, workerData, stdin: false },
    );
    this.thread.unref();
    void this.listen();
  }

  stop(): void {
    this.stopped = true;
    void this.thread.terminate();
    Atomics.notify(this.strokes, 0);
  }

  private async listen(): Promise<void> {
    for (let heard = 0; ; ) {
      const stroke = Atomics.waitAsync(this.strokes, 0, heard);
      // One that fell while the last was attended to lets the sockets have their turn first.
      await (stroke.async ? stroke.value : setImmediate());
      if (this.stopped) return;
      heard = Atomics.load(this.strokes, 0);
      this.run();
    }
  }
}
