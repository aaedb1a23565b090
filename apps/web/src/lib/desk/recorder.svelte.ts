import {
  bytesOfHex,
  codecOf,
  decimalPlaces,
  imageById,
  ParameterCodec,
  type Cell,
  type Codec,
  type Image,
} from '@fadenkreuz/core';
import type { ImageFollower } from './imageFollower.svelte.js';
import type { ParameterFollower } from './parameterFollower.svelte.js';

/** A signal, or a parameter that is read again and again, of which the values are recorded. */
export interface Pick {
  /** Id of the signal. */
  signal: string;
  /** Empty for a parameter. */
  image: string;
  parameter?: { device: string; id: string };
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
  private unfollow: (() => void) | undefined;

  constructor(
    private readonly cell: () => Cell,
    private readonly images: ImageFollower,
    private readonly parameters: ParameterFollower,
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
      this.picks.flatMap((p) => (p.parameter ? [] : p.image)),
    );
    const read = this.picks.some((p) => p.parameter);
    if (read) this.unfollow ??= this.parameters.follow();
    else {
      this.unfollow?.();
      this.unfollow = undefined;
    }
    return true;
  }

  /** Forgets what was recorded; the picks stay. */
  clear(): void {
    this.from = this.images.now();
    this.decoded = {};
  }

  /** All values of a pick that are kept, from those on that were decoded last time. */
  series(pick: Pick): Series {
    if (pick.parameter) return this.readings(pick.parameter);
    const { signal, image: imageId } = pick;
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

  /** The values of a parameter, as often as it was read. */
  private readings(place: { device: string; id: string }): Series {
    const parameter = parameterIn(this.cell(), place);
    const series: Series = { at: [], values: [] };
    if (!parameter) return series;
    const { parameters } = this.cell().devices.find((d) => d.id === place.device)!.description;
    const read = this.parameters.readOf(place.device);
    const codec = new ParameterCodec(parameter, decimalPlaces(parameters, read)(parameter));
    for (const { at, bytes } of this.parameters.samplesOf(place.device, place.id)) {
      if (at < this.from) continue;
      const value = bytes === null ? NaN : numberOf(codec, bytes);
      if (series.values.length > 0 && Object.is(series.values.at(-1), value)) continue;
      series.at.push(at);
      series.values.push(value);
    }
    return series;
  }
}

const parameterIn = (cell: Cell, { device, id }: { device: string; id: string }) =>
  cell.devices.find((d) => d.id === device)?.description.parameters.find((p) => p.id === id);

const imageIn = (cell: Cell, id: string): Image | undefined => {
  try {
    return imageById(cell, id).image;
  } catch {
    // Somebody has removed it meanwhile.
    return undefined;
  }
};

/** NaN where the device sends another number of bytes than is planned. */
function numberOf(codec: ParameterCodec, hex: string): number {
  const bytes = bytesOfHex(hex);
  return bytes.length === codec.size ? codec.number(bytes) : NaN;
}

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
