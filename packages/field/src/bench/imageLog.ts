import type { Image } from '@fadenkreuz/core';
import type { ImageWatcher } from '../protocols/runningLink.js';

/** Bytes that an image had from a packet on. */
export interface ImageChange {
  /** Counts from 1, over all links. */
  number: number;
  /** ms since 1970, with a fraction: when the packet was heard or sent. */
  at: number;
  link: string;
  direction: Image['direction'];
  /** base64 */
  bytes: string;
}

/** What somebody who follows images is told. */
export interface ImageNews {
  /** When the log was begun, ms since 1970: another bench has another log. */
  begun: number;
  /** The bench's clock, as `at` of a change. */
  now: number;
  changes: ImageChange[];
}

/** Whoever follows asks again within this time; else nothing is noted any more, ms. */
const patienceMs = 10_000;
/** So many changes, and so many bytes of images, are kept for those who ask late. */
const mostKept = 40_000;
const mostBytes = 8 * 1024 * 1024;
/** Changes that are told at once. */
const mostTold = 4000;

/**
 * The images of followed links, packet by packet: each time one differs from the packet before it. Links that nobody
 * follows cost nothing.
 */
export class ImageLog {
  private readonly begun = Math.round(performance.timeOrigin + performance.now());
  private readonly kept: ImageChange[] = [];
  private count = 0;
  private bytes = 0;
  /** By link. */
  private readonly followed = new Map<string, Followed>();

  /** Follows these links from now on, for a while, and tells what changed behind a number. */
  follow(links: readonly string[], since: number, now: number): ImageNews {
    for (const [link, followed] of this.followed) if (followed.until < now) this.followed.delete(link);
    for (const link of links) {
      const followed = this.followed.get(link);
      if (followed) followed.until = now + patienceMs;
      else this.followed.set(link, new Followed((change) => this.keep(link, change), now + patienceMs));
    }
    const missing = Math.min(this.kept.length, Math.max(0, this.count - since));
    const changes = missing === 0 ? [] : this.kept.slice(-missing).slice(0, mostTold);
    return { begun: this.begun, now: performance.timeOrigin + now, changes };
  }

  /** What a link is to tell of its packets; undefined where nobody follows it. */
  watcherOf(link: string): ImageWatcher | undefined {
    return this.followed.get(link);
  }

  private keep(link: string, change: Pick<ImageChange, 'at' | 'direction' | 'bytes'>): void {
    this.kept.push({ number: (this.count += 1), link, ...change });
    this.bytes += change.bytes.length;
    while (this.kept.length > mostKept || this.bytes > mostBytes)
      this.bytes -= this.kept.shift()!.bytes.length;
  }
}

/** One link that is followed: its images as they were last noted. */
class Followed implements ImageWatcher {
  private readonly last: Partial<Record<Image['direction'], Buffer>> = {};

  constructor(
    private readonly keep: (change: Pick<ImageChange, 'at' | 'direction' | 'bytes'>) => void,
    /** `performance.now()` at which nobody follows it any more. */
    public until: number,
  ) {}

  exchanged(direction: Image['direction'], bytes: Uint8Array, now: number): void {
    if (now > this.until || this.last[direction]?.equals(bytes)) return;
    const copy = Buffer.from(bytes);
    this.last[direction] = copy;
    this.keep({ at: performance.timeOrigin + now, direction, bytes: copy.toString('base64') });
  }
}
