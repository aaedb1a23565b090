import type { Cell } from '@fadenkreuz/core';
import { ImageNews } from '../api/live.js';
import { FollowedImages, type FollowedImage } from './followedImages.js';
import { linksOfImages } from './liveBytes.js';
import { send } from './send.js';

/** How often the bench is asked, ms. */
const askMs = 250;
/**
 * Images packet by packet, as long as a part of the screen wants them: each time one differs from the packet before.
 */
export class ImageFollower {
  /** Rises with each change that is heard, for what follows. */
  count = $state(0);
  private wanted: Record<string, readonly string[]> = {};
  private readonly followed = new FollowedImages();
  private known = 0;
  private begun = 0;
  /** How far the bench's clock is ahead of this browser's, ms. */
  private ahead = 0;
  private timer: ReturnType<typeof setTimeout> | undefined;
  private ended = false;

  constructor(
    private readonly cell: () => Cell,
    private readonly running: () => boolean,
  ) {}

  /** A part of the screen wants these images from now on; none: it wants none any more. */
  follow(part: string, images: readonly string[]): void {
    this.wanted = { ...this.wanted, [part]: images };
    if (images.length > 0 && this.timer === undefined && !this.ended) this.plan(0);
  }

  of(image: string): FollowedImage | undefined {
    return this.followed.get(image);
  }

  /** The bench's clock, ms since 1970. */
  now(): number {
    return Date.now() + this.ahead;
  }

  /** Forgets what was heard. */
  clear(): void {
    this.followed.clear();
    this.count += 1;
  }

  end(): void {
    this.ended = true;
    clearTimeout(this.timer);
  }

  private plan(ms: number): void {
    clearTimeout(this.timer);
    this.timer = this.ended ? undefined : setTimeout(() => void this.ask(), ms);
  }

  private async ask(): Promise<void> {
    const images = Object.values(this.wanted).flat();
    if (images.length === 0) {
      this.timer = undefined;
      return;
    }
    if (!this.running()) return this.plan(askMs);
    const links = linksOfImages(this.cell(), images).slice(0, 200);
    const answer = await send('POST', '/api/bench/images', ImageNews, { links, since: this.known });
    this.plan(askMs);
    if (!answer.ok) return;
    const { begun, now, changes } = answer.value;
    this.ahead = now - Date.now();
    if (begun !== this.begun) {
      // Another bench: what it has told is a new story, told from the beginning.
      this.begun = begun;
      this.followed.clear();
      if (this.known > 0) {
        this.known = 0;
        return this.plan(0);
      }
    }
    const last = changes.at(-1);
    if (!last) return;
    this.known = last.number;
    this.followed.take(this.cell(), changes);
    this.count += changes.length;
  }
}
