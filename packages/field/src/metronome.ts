import { Worker, type MessagePort } from 'node:worker_threads';

/** `performance.now()` counts from another moment in each thread; this clock is the same in all of them. */
const sharedClock = (): number => Number(process.hrtime.bigint()) / 1e6;

/** What the thread does: it sleeps to the moment that was asked for, says so, and sleeps until another one is asked for. */
function sleepAndTell({ memory }: { memory: SharedArrayBuffer }, port: MessagePort): void {
  const turn = new Int32Array(memory, 0, 1);
  const due = new Float64Array(memory, 8, 1);
  for (;;) {
    const seen = Atomics.load(turn, 0);
    const left = due[0]! - Number(process.hrtime.bigint()) / 1e6;
    if (left > 0) {
      Atomics.wait(turn, 0, seen, left);
      continue;
    }
    port.postMessage(null);
    Atomics.wait(turn, 0, seen);
  }
}

/**
 * Calls back at a moment, to about a tenth of a millisecond, where Node's own timers count whole milliseconds from whenever they were
 * set: a thread sleeps and sends a message.
 */
export class Metronome {
  private readonly memory = new SharedArrayBuffer(16);
  private readonly turn = new Int32Array(this.memory, 0, 1);
  private readonly due = new Float64Array(this.memory, 8, 1);
  /** What `performance.now()` lies behind the shared clock, ms. */
  private readonly behind = sharedClock() - performance.now();
  private readonly thread: Worker;

  constructor(run: () => void) {
    this.due[0] = Infinity;
    // The thread's program is this text, so that it needs no file of its own beside a bundle.
    this.thread = new Worker(
      `const { workerData, parentPort } = require('node:worker_threads');(${sleepAndTell.toString()})(workerData, parentPort);`,
      { eval: true, workerData: { memory: this.memory }, stdin: false },
    );
    this.thread.unref();
    this.thread.on('message', run);
  }

  /** Calls back once at this time of `performance.now()`, in place of any other that was asked for. */
  wakeAt(time: number): void {
    this.due[0] = time + this.behind;
    Atomics.add(this.turn, 0, 1);
    Atomics.notify(this.turn, 0);
  }

  stop(): void {
    this.thread.removeAllListeners('message');
    void this.thread.terminate();
  }
}
