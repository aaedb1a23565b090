import type { Cell } from '../cell/model.js';
import type { Link } from '../cell/link.js';
import { codecOf, type Codec } from '../layout/codec.js';
import type { Image } from '../layout/image.js';
import { ratioNumber } from '../layout/ratio.js';
import { rangeOf } from '../layout/valueChain.js';
import type { Signal } from '../layout/signals.js';
import { Problem } from '../messages/problem.js';
import type { Place } from '../cell/exchange.js';
import { findPlace, whatText, type Found } from './resolve.js';

/**
 * The images of an exchange, read and written value by value. A hot path: each scan of each exchange; of each image
 * only the fields that are asked for are decoded (bench/exchanges).
 */

/** Where the bytes of a link are. */
export interface LinkBytes {
  command: Uint8Array;
  feedback: Uint8Array;
}
export type BytesOf = (link: Link) => LinkBytes;
export type Plain = boolean | number | string;

/** One value of one image. */
export interface Access {
  found: Found;
  read(): Plain;
  /** Puts it there at once. Throws `value.doesNotFit`. */
  put(value: Plain): void;
  /** How near two numbers count as the same: half of what its raw number resolves; 0 for whole numbers. */
  near: number;
  /** The least and the greatest number of its field. */
  range: { least: number; greatest: number };
}

/** An image of which some fields are read or written, each at once. */
class PartOfImage {
  private readonly codec: Codec;
  private bytes: Uint8Array;
  private view: DataView;
  /** The codec holds the values of this scan. */
  private decoded = false;

  constructor(
    private readonly whole: { link: Link; image: Image },
    fields: ReadonlySet<string>,
    private readonly bytesOf: BytesOf,
  ) {
    const { image } = whole;
    this.codec = codecOf({ ...image, fields: image.fields.filter(({ id }) => fields.has(id)) });
    this.bytes = bytesOf(whole.link)[image.direction];
    this.view = viewOf(this.bytes);
  }

  /** Another scan: a link that was opened again has other bytes. */
  read(): void {
    this.decoded = false;
    const bytes = this.bytesOf(this.whole.link)[this.whole.image.direction];
    if (bytes === this.bytes) return;
    this.bytes = bytes;
    this.view = viewOf(bytes);
  }

  private decode(): void {
    if (this.decoded || this.bytes.length < this.codec.bytes) return;
    this.codec.decode(this.view);
    this.decoded = true;
  }
  private put(set: () => void): void {
    this.decode();
    set();
    if (this.bytes.length >= this.codec.bytes) this.codec.encode(this.view);
  }

  access(found: Found): Access {
    const { codec } = this;
    const index = codec.signals.findIndex(({ id }) => id === found.signal.id);
    const signal = codec.signals[index]!;
    const { bit, reads } = found;
    const base = { found, near: nearOf(signal), range: rangeIn(signal) };
    if (reads === 'bit') {
      const { byte, mask } = bitPlace(codec, index, bit);
      const rests = signal.normallyClosed;
      return {
        ...base,
        read: () => ((this.bytes[byte]! & mask) !== 0) !== rests,
        put: (value) => {
          if (truthy(value) !== rests) this.bytes[byte]! |= mask;
          else this.bytes[byte]! &= ~mask;
          this.decoded = false;
        },
      };
    }
    if (reads === 'text')
      return {
        ...base,
        read: () => (this.decode(), String(codec.valueAt(index))),
        put: (value) => this.put(() => codec.setTyped(index, String(value))),
      };
    return {
      ...base,
      read: () => (this.decode(), codec.numbers[index]!),
      put: (value) => this.put(() => codec.setEngineering(index, Number(value))),
    };
  }
}

const viewOf = (bytes: Uint8Array) => new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);

/** Where a bit lies among the bytes: the one that differs when it alone is set. */
function bitPlace(codec: Codec, index: number, bit: number | null): { byte: number; mask: number } {
  const [zeros, ones] = [new Uint8Array(codec.bytes), new Uint8Array(codec.bytes)];
  codec.decode(viewOf(zeros));
  const signal = codec.signals[index]!;
  const alone = bit === null ? 1 : signal.bits > 53 ? 1n << BigInt(bit) : 2 ** bit;
  codec.setValue(index, signal.type === 'BOOL' ? true : alone);
  codec.encode(viewOf(ones));
  const byte = ones.findIndex((value) => value !== 0);
  return { byte: Math.max(0, byte), mask: ones[byte] ?? 0 };
}

export const truthy = (value: Plain): boolean => value === true || (typeof value === 'number' && value !== 0);

/** Numbers that are measured are compared to half of their step; those of binary floating point to a thousandth. */
export function nearOf(signal: Signal): number {
  if (signal.type === 'REAL' || signal.type === 'LREAL') return 0.001;
  const factor = signal.scale ? Math.abs(ratioNumber(signal.scale.factor)) : 1;
  const { decimals } = signal;
  const places = decimals && decimals.way !== 'field' ? decimals.places : 0;
  return signal.scale || signal.decimals ? (factor * 10 ** -places) / 2 : 0;
}
export function rangeIn(signal: Signal): Access['range'] {
  const { minimum, maximum } = rangeOf(signal);
  return { least: Number(minimum), greatest: Number(maximum) };
}

/** All images that an exchange touches. */
export class ExchangeImages {
  private readonly parts: readonly PartOfImage[];
  private readonly accesses = new Map<string, Access>();
  /** The links that it commands, and all that it touches. */
  readonly commanded: readonly Link[];
  readonly links: readonly Link[];

  /** Throws `exchange.noPlace` for a place that the cell does not have. */
  constructor(cell: Pick<Cell, 'devices'>, places: readonly Place[], bytesOf: BytesOf) {
    const founds = places.map((place) => {
      const found = findPlace(cell, place);
      if (!found)
        throw new Problem('exchange.noPlace', { place: whatText(cell, place), step: '', exchange: '' });
      return [keyOf(place), found] as const;
    });
    const byImage = new Map<Image, { link: Link; fields: Set<string> }>();
    for (const [, { link, image, signal }] of founds) {
      const one = byImage.get(image) ?? { link, fields: new Set<string>() };
      byImage.set(image, one);
      one.fields.add(signal.of);
      // Its sign and its decimal point are read with it.
      if (signal.sign?.way === 'bit') one.fields.add(signal.sign.field);
      if (signal.decimals?.way === 'field') one.fields.add(signal.decimals.field);
    }
    const parts = new Map(
      [...byImage].map(([image, { link, fields }]) => [
        image,
        new PartOfImage({ link, image }, fields, bytesOf),
      ]),
    );
    this.parts = [...parts.values()];
    for (const [key, found] of founds)
      if (!this.accesses.has(key)) this.accesses.set(key, parts.get(found.image)!.access(found));
    this.links = [...new Set(founds.map(([, f]) => f.link))];
    this.commanded = [
      ...new Set(founds.flatMap(([, f]) => (f.image.direction === 'command' ? [f.link] : []))),
    ];
  }

  at(place: Place): Access {
    return this.accesses.get(keyOf(place))!;
  }
  read(): void {
    for (const part of this.parts) part.read();
  }
}

const keyOf = ({ device, side, role, number, field, bit }: Place): string =>
  [device, side, role ?? field, number ?? 1, bit ?? ''].join(' ');
