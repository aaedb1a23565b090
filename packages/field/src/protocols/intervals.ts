/** Percentiles of the times between packets, over the last minute or the last `kept` of them. */
export class Intervals {
  private static readonly kept = 20_000;
  private static readonly recent = 150;
  private static readonly spanMs = 60_000;
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
   * Median, 99th and 99.9th percentile in ms (nearest rank) over the last minute; undefined before two packets came.
   * Sorting is done again only after 50 more packets, or when a tenth of them is new, because live views ask many times
   * a second.
   */
  percentiles(): { p50: number; p99: number; p999: number } | undefined {
    if (this.count === 0) return undefined;
    const fresh = this.known ? this.count - this.known.upTo : Infinity;
    if (fresh >= 50 || fresh > this.count / 10) {
      const sorted = this.lastMinute().sort();
      const { length } = sorted;
      const at = (share: number) => sorted[Math.min(length - 1, Math.ceil(share * length) - 1)]!;
      this.known = { upTo: this.count, p50: at(0.5), p99: at(0.99), p999: at(0.999) };
    }
    const { p50, p99, p999 } = this.known!;
    return { p50, p99, p999 };
  }

  private lastMinute(): Float64Array {
    const held = Math.min(this.count, Intervals.kept);
    let wanted = 0;
    for (let span = 0; wanted < held && span < Intervals.spanMs; wanted += 1)
      span += this.times[(this.count - 1 - wanted) % Intervals.kept]!;
    return this.last(wanted);
  }
}
