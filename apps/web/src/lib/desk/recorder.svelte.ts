import { codecOf, imageById, type Cell, type Codec, type Image } from '@fadenkreuz/core';
import type { ImageFollower } from './imageFollower.svelte.js';

/** A signal that is recorded. */
export interface Pick {
  /** Id of the signal. */
  signal: string;
  image: string;
  device: string;
  name: string;
  unit: string;
  direction: Image['direction'];
  bit: boolean;
}

/** The values of a signal, each from its time on (ms since 1970); NaN where there was none. */
export interface Series {
  at: number[];
  values: number[];
}

interface Decoded extends Series {
  codec: Codec;
  index: number;
  /** Changes of the image that are in it. */
  taken: number;
}

export const maxPicks = 16;

/** Picked signals over time, packet by packet, whatever view is open. */
export class Recorder {
  picks = $state.raw<readonly Pick[]>([]);
  /** The two cursors of the chart, ms since 1970. */
  cursors = $state<{ a: number | undefined; b: number | undefined }>({ a: undefined, b: undefined });
  /** By signal. */
  private decoded: Record<string, Decoded> = {};
  /** What was heard before is not shown, ms since 1970. */
  private from = 0;

  constructor(
    private readonly cell: () => Cell,
    private readonly images: ImageFollower,
  ) {}

  picked(signal: string): boolean {
    return this.picks.some((p) => p.signal === signal);
  }

  /** Adds a signal, or takes it out; false where no more can be recorded at once. */
  toggle(pick: Pick): boolean {
    const at = this.picks.findIndex((p) => p.signal === pick.signal);
    if (at < 0 && this.picks.length >= maxPicks) return false;
    this.picks = at < 0 ? [...this.picks, pick] : this.picks.toSpliced(at, 1);
    this.images.follow(
      'recorder',
      this.picks.map((p) => p.image),
    );
    return true;
  }

  /** Forgets what was recorded; the picks stay. */
  clear(): void {
    this.from = this.images.now();
    this.decoded = {};
  }

  /** All values of a pick that are kept, from those on that were decoded last time. */
  series({ signal, image: imageId }: Pick): Series {
    const followed = this.images.of(imageId);
    const image = imageIn(this.cell(), imageId);
    if (!followed || !image) return { at: [], values: [] };
    const codec = codecOf(image);
    let known = this.decoded[signal];
    if (known?.codec !== codec || known.taken > followed.dropped + followed.changes.length) {
      const index = codec.signals.findIndex((s) => s.id === signal);
      known = { codec, index, taken: followed.dropped, at: [], values: [] };
      this.decoded[signal] = known;
    }
    const fresh = followed.changes.slice(Math.max(0, known.taken - followed.dropped));
    known.taken = followed.dropped + followed.changes.length;
    for (const { at, bytes } of fresh) {
      if (at < this.from) continue;
      const value = valueOf(codec, known.index, bytes);
      // Of packets that bring the same, the first is enough: the value stands until the next.
      if (known.values.length > 0 && Object.is(known.values.at(-1), value)) continue;
      known.at.push(at);
      known.values.push(value);
    }
    return known;
  }
}

const imageIn = (cell: Cell, id: string): Image | undefined => {
  try {
    return imageById(cell, id).image;
  } catch {
    // Somebody has removed it meanwhile.
    return undefined;
  }
};

function valueOf(codec: Codec, index: number, bytes: Uint8Array): number {
  if (index < 0 || bytes.length < codec.bytes) return NaN;
  codec.decode(new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength));
  return codec.numbers[index]!;
}

/** The value that stood at a time; undefined before the first. */
export function valueAt({ at, values }: Series, time: number): number | undefined {
  const index = at.findLastIndex((t) => t <= time);
  return index < 0 ? undefined : values[index];
}

/** Every time at which one of the series changes, in order. */
export const timesOf = (all: readonly Series[]): number[] =>
  all
    .flatMap((s) => s.at)
    .sort((a, b) => a - b)
    .filter((time, i, sorted) => time !== sorted[i - 1]);
