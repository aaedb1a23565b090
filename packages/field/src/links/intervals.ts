/** Percentiles of the times between packets, over the last `kept` of them. */
export class Intervals {
  private static readonly kept = 20_000;
  private static readonly recent = 150;
  private readonly times = new Float64Array(Intervals.kept);
  private count = 0;
  private known: { upTo: number; p50: number; p99: number; p999: number } | undefined;

  add(ms: number): void {
    this.times[this.count % Intervals.kept] = ms;
    this.count += 1;
  }

  /** The last so many of them, or all that are kept, in ms, the newest first. */
  last(wanted: number): Float64Array {
    const length = Math.min(wanted, this.count, Intervals.kept);
    return Float64Array.from({ length }, (_, i) => this.times[(this.count - 1 - i) % Intervals.kept]!);
  }

  /** 90th percentile of the last intervals, for what is happening now; undefined before there are enough. */
  lately(): number | undefined {
    const last = this.last(Intervals.recent);
    return last.length < 10 ? undefined : last.sort()[Math.ceil(0.9 * last.length) - 1];
  }

  /**
   * Median, 99th and 99.9th percentile in ms (nearest rank); undefined before two packets came. Sorting is done again
   * only after 50 more packets, because live views ask many times a second.
   */
  percentiles(): { p50: number; p99: number; p999: number } | undefined {
    const length = Math.min(this.count, Intervals.kept);
    if (length === 0) return undefined;
    if (!this.known || this.count - this.known.upTo >= 50) {
      const sorted = this.times.slice(0, length).sort();
      const at = (share: number) => sorted[Math.min(length - 1, Math.ceil(share * length) - 1)]!;
      this.known = { upTo: this.count, p50: at(0.5), p99: at(0.99), p999: at(0.999) };
    }
    const { p50, p99, p999 } = this.known;
    return { p50, p99, p999 };
  }
}
