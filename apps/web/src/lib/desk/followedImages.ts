import type { Cell } from '@fadenkreuz/core';
import type { ImageChange } from '@fadenkreuz/field/agent-api';

/** The bytes of an image from a time on. */
export interface Held {
  /** ms since 1970, with a fraction. */
  at: number;
  bytes: Uint8Array;
}

/** So many changes of an image are kept, and for so long. */
const mostKept = 20_000;
const keptMs = 10 * 60_000;

/** One image that is followed. */
export class FollowedImage {
  readonly changes: Held[] = [];
  /** How many were given up because they are too old: what counts from the beginning adds them. */
  dropped = 0;
  /** When each bit last changed, ms since 1970; 0 where it has not since it is followed. */
  changedAt = new Float64Array(0);

  take(held: Held): void {
    const before = this.changes.at(-1)?.bytes;
    const { bytes, at } = held;
    if (this.changedAt.length !== bytes.length * 8) this.changedAt = new Float64Array(bytes.length * 8);
    for (let byte = 0; before && byte < Math.min(bytes.length, before.length); byte += 1) {
      const differs = bytes[byte]! ^ before[byte]!;
      for (let bit = 0; differs >> bit; bit += 1)
        if ((differs >> bit) & 1) this.changedAt[byte * 8 + bit] = at;
    }
    this.changes.push(held);
    const old = this.changes.findIndex((c) => c.at > at - keptMs);
    const gone = Math.max(this.changes.length - mostKept, old - 1, 0);
    this.changes.splice(0, gone);
    this.dropped += gone;
  }

  /** Changes from a time on, and the one that held when it began. */
  between(from: number, to = Infinity): Held[] {
    const first = this.changes.findLastIndex((c) => c.at <= from);
    return this.changes.slice(Math.max(0, first)).filter((c) => c.at <= to);
  }
}

/** Images that are followed, by id. */
export class FollowedImages {
  private readonly images = new Map<string, FollowedImage>();

  get(image: string): FollowedImage | undefined {
    return this.images.get(image);
  }

  /** Takes what a link tells, as an image of the cell; of a link that the cell does not have any more, nothing. */
  take(cell: Cell, changes: readonly ImageChange[]): void {
    const planned = new Map(cell.devices.flatMap((d) => d.links.map((l) => [l.id, l])));
    for (const { link, direction, at, bytes } of changes) {
      const image = planned.get(link)?.[direction].id;
      if (!image) continue;
      let followed = this.images.get(image);
      if (!followed) this.images.set(image, (followed = new FollowedImage()));
      followed.take({ at, bytes: Uint8Array.from(atob(bytes), (c) => c.charCodeAt(0)) });
    }
  }

  clear(): void {
    this.images.clear();
  }
}
