export const intervalMs = 10;
export type Side = 'originator' | 'target';

/** What one run of one side gives, times in ms. */
export interface Result {
  side: Side;
  sent: number;
  received: number;
  p50: number;
  p99: number;
  timedOut: number;
  /** Share of one core. */
  cpu: number;
}

/** How far the intervals of many streams lie from the one that was agreed; one shared list, so that nothing is allocated meanwhile. */
export class Deviations {
  sent = 0;
  private received = 0;
  private measuring = false;
  private sentBefore = 0;
  private cpuBefore = process.cpuUsage();
  private startedAt = 0;
  private readonly last: Float64Array;
  private readonly list = new Float64Array(4_000_000);

  constructor(streams: number) {
    this.last = new Float64Array(streams);
  }

  begin(): void {
    this.measuring = true;
    this.sentBefore = this.sent;
    this.cpuBefore = process.cpuUsage();
    this.startedAt = performance.now();
  }

  heard(stream: number, now: number): void {
    const before = this.last[stream]!;
    this.last[stream] = now;
    if (!this.measuring || before === 0) return;
    this.list[this.received % this.list.length] = Math.abs(now - before - intervalMs);
    this.received += 1;
  }

  /** Intervals that were measured elsewhere, ms. */
  take(intervals: Float64Array): void {
    for (const ms of intervals) this.list[this.received++ % this.list.length] = Math.abs(ms - intervalMs);
  }

  result(side: Side, timedOut: number): Result {
    const sorted = this.list.slice(0, Math.min(this.received, this.list.length)).sort();
    const at = (share: number) => sorted[Math.floor(share * (sorted.length - 1))] ?? NaN;
    const { user, system } = process.cpuUsage(this.cpuBefore);
    return {
      side,
      sent: this.sent - this.sentBefore,
      received: this.received,
      p50: at(0.5),
      p99: at(0.99),
      timedOut,
      cpu: (user + system) / 1000 / (performance.now() - this.startedAt),
    };
  }
}

/** One line of JSON for the run that started this process. */
export function report(side: Side, deviations: Deviations, { timedOut }: { timedOut: number }): void {
  process.stdout.write(JSON.stringify(deviations.result(side, timedOut)) + '\n');
}
