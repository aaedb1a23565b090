import {
  allImages,
  swappedByte,
  whatChanged,
  type Cell,
  type ChangedPlace,
  type HeldBytes,
  type ImagePlace,
} from '@fadenkreuz/core';
import type { ImageFollower } from './imageFollower.svelte.js';

/** Of how many images all packets can be compared at once. */
const mostImages = 200;
/** What changes within so long before the first mark changes by itself, ms. */
const beforeMs = 3000;

export interface ChangedImage {
  place: ImagePlace;
  /** `restless`: it changed before anybody acted as well. */
  changes: (ChangedPlace & { restless: boolean })[];
  /** The first and the last state, in the device's order of bytes. */
  from: HeldBytes;
  to: HeldBytes;
}

/** Finds what changed in the images of a device, or of all, between two marks. */
export class ChangeFinder {
  /** The time of the first mark, and of the second one, ms since 1970 at the bench. */
  from = $state<number>();
  to = $state<number>();
  whole = $state(false);
  private device = $state<string>();

  constructor(
    private readonly cell: () => Cell,
    private readonly images: ImageFollower,
  ) {}

  /** The images that are looked at: of the device that was chosen when it was marked, or of the whole cell. */
  private get places(): ImagePlace[] {
    const all = allImages(this.cell());
    return (this.whole ? all : all.filter((p) => p.device.id === this.device)).slice(0, mostImages);
  }

  /** Follows the images of a device before anything is marked, so that a mark has what went before. */
  watch(device: string | undefined): void {
    if (this.from === undefined) this.device = device;
    this.images.follow(
      'finder',
      this.places.map((p) => p.image.id),
    );
  }

  /** The first mark, then the second one. */
  mark(): void {
    const now = this.images.now();
    if (this.from === undefined) this.from = now;
    else this.to = now;
  }

  /** Everything since a time counts. */
  over(from: number, to: number | undefined): void {
    this.from = from;
    this.to = to;
  }

  startOver(): void {
    this.from = this.to = undefined;
  }

  /** What changed between the marks; up to now, as long as there is no second one. */
  found(): ChangedImage[] {
    const { from, to = Infinity } = this;
    if (from === undefined) return [];
    return this.places.flatMap((place) => {
      const { image } = place;
      const statesIn = (first: number, last: number): HeldBytes[] =>
        (this.images.of(image.id)?.between(first, last) ?? []).map(({ at, bytes }) => ({
          at,
          bytes: image.swapped ? bytes.map((_, b) => bytes[swappedByte(b, bytes.length)] ?? 0) : bytes,
        }));
      const states = statesIn(from, to);
      const before = whatChanged(image, statesIn(from - beforeMs, from));
      const changes = whatChanged(image, states)
        .map((one) => ({
          ...one,
          restless: before.some((b) => b.at < one.at + one.bits && one.at < b.at + b.bits),
        }))
        .sort((a, b) => Number(a.restless) - Number(b.restless));
      return changes.length > 0 ? [{ place, changes, from: states[0]!, to: states.at(-1)! }] : [];
    });
  }
}
