import type { Symptoms } from '@fadenkreuz/core';
import type { LinkCounts } from '../protocols/runningLink.js';

/** How far back "lately" goes, ms, and how often it is noted. */
const windowMs = 10_000;
const stepMs = 500;

/** Shares of the last seconds from counters that only rise. */
export class Lately {
  private readonly notes: { at: number; counts: LinkCounts }[] = [];

  note(counts: LinkCounts, now: number): void {
    const last = this.notes.at(-1);
    if (last && now - last.at < stepMs) return;
    this.notes.push({ at: now, counts: { ...counts } });
    while (this.notes.length > 1 && now - this.notes[0]!.at > windowMs) this.notes.shift();
  }

  shares(counts: LinkCounts): Omit<Symptoms['lately'], 'interval'> {
    const from = this.notes[0]?.counts ?? counts;
    const since = (key: keyof LinkCounts) => counts[key] - from[key];
    const came = since('received') + since('late') + since('doubled');
    // Half a dozen packets are too few to speak of a share.
    const share = (count: number) => (came < 10 ? 0 : count / (came + since('lost')));
    return {
      lost: share(since('lost')),
      late: share(since('late')),
      doubled: share(since('doubled')),
      overtaken: share(since('overtaken')),
      timeouts: since('timeouts') + since('reconnects'),
    };
  }
}
