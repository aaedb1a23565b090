export const intervalMs = 10;
/** Before the measurement: what is used most is still being compiled in the first seconds. */
export const warmUpMs = 3000;
export type Side = 'originator' | 'target';

/**
 * What one run of one side gives, times in ms. Percentiles are taken in windows of half a second, and the median of the
 * windows stands for the run: these machines halt for a quarter of a second at times, and whom that meets is chance.
 */
export interface Result {
  side: Side;
  received: number;
  p50: number;
  p99: number;
  timedOut: number;
  /** Share of one core. */
  cpu: number;
}

const windowMs = 500;
/** Most packets of a window that are kept. */
const mostInWindow = 200_000;

const at = (sorted: Float64Array | number[], share: number): number =>
  sorted[Math.floor(share * (sorted.length - 1))] ?? NaN;
export const median = (values: number[]): number =>
  at(
    [...values].sort((a, b) => a - b),
    0.5,
  );

/** How far the intervals of many streams lie from the one that was agreed. Nothing is allocated while it measures. */
export class Deviations {
  private measuring = false;
  private cpuBefore = process.cpuUsage();
  private startedAt = 0;
  private received = 0;
  private readonly last: Float64Array;
  private readonly windows: { count: number; list: Float64Array }[];

  constructor(streams: number, seconds: number) {
    this.last = new Float64Array(streams);
    this.windows = Array.from({ length: Math.ceil((seconds * 1000) / windowMs) }, () => ({
      count: 0,
      list: new Float64Array(mostInWindow),
    }));
  }

  begin(): void {
    this.measuring = true;
    this.cpuBefore = process.cpuUsage();
    this.startedAt = performance.now();
  }

  /** A packet of a stream has come. */
  heard(stream: number, now: number): void {
    const before = this.last[stream]!;
    this.last[stream] = now;
    if (this.measuring && before !== 0) this.note(now - this.startedAt, now - before);
  }

  /** Intervals of one stream that were measured elsewhere, ms, the newest first; the newest ended at `now`. */
  take(intervals: Float64Array, now: number): void {
    let end = now - this.startedAt;
    for (const ms of intervals) {
      this.note(end, ms);
      end -= ms;
    }
  }

  private note(at: number, ms: number): void {
    this.received += 1;
    // What ends a little outside belongs to no window.
    const window = this.windows[Math.floor(at / windowMs)];
    if (window && window.count < mostInWindow) window.list[window.count++] = Math.abs(ms - intervalMs);
  }

  /** Share of one core since `begin`. */
  cpu(): number {
    const { user, system } = process.cpuUsage(this.cpuBefore);
    return (user + system) / 1000 / (performance.now() - this.startedAt);
  }

  result(side: Side, timedOut: number, cpu: number): Result {
    const sorted = this.windows.filter((w) => w.count > 0).map((w) => w.list.slice(0, w.count).sort());
    const { received } = this;
    const [p50, p99] = [0.5, 0.99].map((share) => median(sorted.map((list) => at(list, share))));
    return { side, received, p50: p50!, p99: p99!, timedOut, cpu };
  }
}

/** One line of JSON for the run that started this process. */
export function report(side: Side, deviations: Deviations, timedOut: number, cpu = deviations.cpu()): void {
  process.stdout.write(JSON.stringify(deviations.result(side, timedOut, cpu)) + '\n');
}
