/** Percentiles of the times between packets, over the last `kept` of them. */
export class Intervals {
  private static readonly kept = 20_000;
  private readonly times = new Float64Array(Intervals.kept);
  private count = 0;

  add(ms: number): void {
    this.times[this.count % Intervals.kept] = ms;
    this.count += 1;
  }

  /** Median, 99th and 99.9th percentile in ms (nearest rank); undefined before two packets came. */
  percentiles(): { p50: number; p99: number; p999: number } | undefined {
    const known = Math.min(this.count, Intervals.kept);
    if (known === 0) return undefined;
    const sorted = this.times.slice(0, known).sort();
    const at = (share: number) => sorted[Math.min(known - 1, Math.ceil(share * known) - 1)]!;
    return { p50: at(0.5), p99: at(0.99), p999: at(0.999) };
  }
}
