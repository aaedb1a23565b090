import type { Image } from './image.js';
import { hexPair } from '../bytes/hexBytes.js';
import { Problem } from '../messages/problem.js';
import { swappedByte } from './byteOrder.js';
import { readText, writeHexPairs, writeText } from './characters.js';
import { planOf, type Plan } from './codecPlan.js';
import { readsOf, type Value } from './fieldTypes.js';
import { exactly } from './ratio.js';
import { bcdOf, bitsOfNumber, checkedRaw, doubleOf, floatOf, nearest, refuseValue } from './rawBits.js';
import { signalsInside, type Signal } from './signals.js';
import {
  parseValue,
  rawOf,
  readingOf,
  shortText,
  type Around,
  type RawEntry,
  type Reading,
} from './valueChain.js';

/**
 * Reads and writes whole images. Hot path: `decode`, `decodeChanges`, `encode` and `encodeNumbers` run for every cyclic
 * packet and allocate nothing; signals of one kind are gone through in one loop over typed arrays that are made once.
 * The benchmark is bench/layout.bench.ts.
 */
export interface Codec {
  readonly signals: readonly Signal[];
  /** Bytes that an image needs for all signals. */
  readonly bytes: number;
  /**
   * Engineering values after `decode`, by index: 0 or 1 for a bit, NaN for a special raw number, for text and raw
   * bytes. A number of more than 53 bits is rounded; `valueAt` has it exactly.
   */
  readonly numbers: Float64Array;
  /** 1 for each signal that the last `decodeChanges` found changed. */
  readonly changed: Uint8Array;
  /** Takes the values from an image that begins at byte `start` of the view. */
  decode(view: DataView, start?: number): void;
  /** As decode, and marks in `changed` which signals differ from the image before; returns how many. */
  decodeChanges(view: DataView, start?: number): number;
  /** Writes all signals to an image that begins at byte `start`; bits without a signal stay as they are. */
  encode(view: DataView, start?: number): void;
  /**
   * Writes engineering values, one a signal, and keeps them as `decode` would; text and raw bytes stay. A sign bit of
   * another signal follows the number that it belongs to. Throws `value.doesNotFit`, and nothing is written then.
   */
  encodeNumbers(numbers: Float64Array, view: DataView, start?: number): void;
  /** A raw number: 0 or 1 for a bit; beyond 2^53 it is rounded. */
  numberAt(index: number): number;
  /** The exact raw value. */
  valueAt(index: number): Value;
  /** What a signal takes from other signals. */
  aroundAt(index: number): Around;
  readingAt(index: number): Reading;
  textAt(index: number): string;
  /** Puts a raw value in for the next `encode`. Throws `value.doesNotFit`; never wraps. */
  setValue(index: number, value: Value): void;
  /** Puts in what a person typed; see parseValue. */
  setTyped(index: number, typed: string): void;
  /** Puts in an engineering value; see rawOf. */
  setEngineering(index: number, value: number): void;
}

type Laid = Pick<Image, 'fields' | 'groups' | 'order' | 'size'> & Partial<Pick<Image, 'swapped'>>;

/** By the list of fields, which is another one after each edit. */
const compiled = new WeakMap<Laid['fields'], Compiled>();

/** What was worked out for a layout, and for which one. */
interface Compiled extends Pick<Laid, 'groups' | 'order' | 'size'> {
  signals: readonly Signal[];
  plan: Plan;
}
function compiledOf(image: Laid): Compiled {
  const { fields, groups, order, size } = image;
  const known = compiled.get(fields);
  if (known && known.groups === groups && known.order === order && known.size === size) return known;
  const signals = signalsInside(image);
  const fresh = { groups, order, size, signals, plan: planOf(signals) };
  compiled.set(fields, fresh);
  return fresh;
}

/** A codec of the signals that lie inside an image, with a state of its own; each layout is compiled once. */
export function codecOf(image: Laid): Codec {
  const { signals, plan } = compiledOf(image);
  return codecBy(signals, plan, image.swapped ? image.size : undefined);
}

/** Plans the reading and writing of these signals once; `swappedSize`: bytes of an image whose words are swapped. */
export const compileCodec = (signals: readonly Signal[], swappedSize?: number): Codec =>
  codecBy(signals, planOf(signals), swappedSize);

function codecBy(signals: readonly Signal[], plan: Plan, swappedSize: number | undefined): Codec {
  const count = signals.length;
  const { ways, runs, inPieces, whole, scaled, multiply, divide, add, minimum, maximum, exceptions, mask } =
    plan;
  const bytes = swappedSize === undefined ? plan.bytes : Math.min(swappedSize, plan.bytes + (plan.bytes & 1));
  const held = new Uint8Array(bytes + 8);
  const before = new Uint8Array(bytes + 8);
  const own = new DataView(held.buffer);
  const masks = new DataView(mask.buffer);
  // Text and raw bytes are no numbers and stay NaN.
  const numbers = new Float64Array(count).fill(NaN);
  const raws = new Float64Array(count);
  const minus = new Uint8Array(count);
  const changed = new Uint8Array(count);

  function take(view: DataView, start: number): void {
    if (swappedSize !== undefined) {
      for (let b = 0; b < bytes; b += 1) held[swappedByte(b, swappedSize)] = view.getUint8(start + b);
      return;
    }
    let b = 0;
    for (; b + 4 <= bytes; b += 4) own.setInt32(b, view.getInt32(start + b, true), true);
    for (; b < bytes; b += 1) held[b] = view.getUint8(start + b);
  }

  function put(view: DataView, start: number): void {
    if (swappedSize !== undefined) {
      for (let b = 0; b < bytes; b += 1) {
        const wire = start + swappedByte(b, swappedSize);
        view.setUint8(wire, (view.getUint8(wire) & ~mask[b]!) | (held[b]! & mask[b]!));
      }
      return;
    }
    let b = 0;
    for (; b + 4 <= bytes; b += 4) {
      const mask4 = masks.getInt32(b, true);
      const own4 = own.getInt32(b, true);
      if (mask4 === -1) view.setInt32(start + b, own4, true);
      else view.setInt32(start + b, (view.getInt32(start + b, true) & ~mask4) | (own4 & mask4), true);
    }
    for (; b < bytes; b += 1)
      view.setUint8(start + b, (view.getUint8(start + b) & ~mask[b]!) | (held[b]! & mask[b]!));
  }

  function fetch(into: Float64Array): void {
    for (let r = 0; r < runs.length; r += 1) runs[r]!.fetch(runs[r]!, held, own, into);
    for (let k = 0; k < inPieces.length; k += 1) into[inPieces[k]!] = fromPieces(inPieces[k]!);
  }

  /** The bits of a signal as an unsigned number; beyond 2^53 it is rounded. */
  function bitsAt(i: number): number {
    let sum = 0;
    for (let p = plan.firstPiece[i]!; p < plan.firstPiece[i + 1]!; p += 1)
      sum += ((held[plan.pieceByte[p]!]! >> plan.pieceShift[p]!) & plan.pieceMask[p]!) * plan.pieceFactor[p]!;
    return sum;
  }

  function fromPieces(i: number): number {
    const signal = signals[i]!;
    const sum = bitsAt(i);
    switch (readsOf(signal)) {
      case 'bcd':
        return signal.bits > 32 ? Number(digitsAt(i)) : bcdOf(sum);
      case 'signed':
        // Subtracting the range from the rounded sum would lose the digits of small negative numbers.
        if (signal.bits > 53) return Number(BigInt.asIntN(signal.bits, exactBitsAt(i)));
        return sum >= 2 ** (signal.bits - 1) ? sum - 2 ** signal.bits : sum;
      case 'float':
        if (signal.bits === 32) return floatOf(sum);
        return doubleOf(exactBitsAt(i));
      default:
        return sum;
    }
  }

  function exactBitsAt(i: number): bigint {
    let sum = 0n;
    for (let p = plan.firstPiece[i]!; p < plan.firstPiece[i + 1]!; p += 1)
      sum |=
        BigInt((held[plan.pieceByte[p]!]! >> plan.pieceShift[p]!) & plan.pieceMask[p]!) <<
        BigInt(plan.pieceBit[p]!);
    return sum;
  }

  function setBits(i: number, value: bigint): void {
    for (let p = plan.firstPiece[i]!; p < plan.firstPiece[i + 1]!; p += 1) {
      const part = Number((value >> BigInt(plan.pieceBit[p]!)) & 0xffn) & plan.pieceMask[p]!;
      const b = plan.pieceByte[p]!;
      const shift = plan.pieceShift[p]!;
      held[b] = (held[b]! & ~(plan.pieceMask[p]! << shift)) | (part << shift);
    }
  }

  /** BCD digits as a number; NaN when one is above 9. */
  function digitsAt(i: number): bigint | number {
    const text = exactBitsAt(i).toString(16);
    return /^\d+$/.test(text) ? BigInt(text) : NaN;
  }

  function toEngineering(): void {
    for (const { signal, sign, bias, wraps, specials } of exceptions) {
      const raw = numbers[signal]!;
      if (specials.includes(raw)) numbers[signal] = NaN;
      else if (sign) {
        const set = (held[sign.byte]! & sign.mask) !== 0;
        const magnitude = sign.inside > 0 && set ? raw - sign.inside : raw;
        numbers[signal] = set !== sign.inverted ? -magnitude : magnitude;
      } else numbers[signal] = wraps > 0 && raw >= wraps / 2 ? raw - wraps : raw - bias;
    }
    for (let k = 0; k < scaled.length; k += 1) {
      const i = scaled[k]!;
      numbers[i] = (numbers[i]! * multiply[i]!) / divide[i]! + add[i]!;
    }
    for (const { signal, places } of exceptions)
      if (places !== undefined)
        numbers[signal] = (numbers[signal]! - add[signal]!) / 10 ** rawAt(places) + add[signal]!;
  }

  function decode(view: DataView, start = 0): void {
    take(view, start);
    fetch(numbers);
    if (scaled.length > 0 || exceptions.length > 0) toEngineering();
  }

  function decodeChanges(view: DataView, start = 0): number {
    before.set(held);
    decode(view, start);
    let changes = 0;
    for (let i = 0; i < count; i += 1) {
      const differs = signalDiffers(i) ? 1 : 0;
      changed[i] = differs;
      changes += differs;
    }
    return changes;
  }

  function signalDiffers(i: number): boolean {
    if (ways[i] === 'none') {
      const first = signals[i]!.at >> 3;
      for (let b = first; b < first + signals[i]!.bits / 8; b += 1) if (held[b] !== before[b]) return true;
      return false;
    }
    for (let p = plan.firstPiece[i]!; p < plan.firstPiece[i + 1]!; p += 1) {
      const b = plan.pieceByte[p]!;
      if (((held[b]! ^ before[b]!) >> plan.pieceShift[p]!) & plan.pieceMask[p]!) return true;
    }
    return false;
  }

  function encodeNumbers(from: Float64Array, view: DataView, start = 0): void {
    raws.set(from);
    for (const { signal, places } of exceptions)
      if (places !== undefined)
        raws[signal] = (raws[signal]! - add[signal]!) * 10 ** from[places]! + add[signal]!;
    for (let k = 0; k < scaled.length; k += 1) {
      const i = scaled[k]!;
      raws[i] = ((raws[i]! - add[i]!) * divide[i]!) / multiply[i]!;
    }
    for (const { signal, sign, bias, wraps } of exceptions) {
      raws[signal]! += bias;
      if (wraps > 0) {
        const raw = nearest(raws[signal]!);
        const inside = raw >= -wraps / 2 && raw < wraps / 2;
        // What does not fit is refused with the others.
        if (!Number.isNaN(raw)) raws[signal] = inside ? (raw < 0 ? raw + wraps : raw) : Infinity;
      }
      if (!sign) continue;
      minus[signal] = nearest(raws[signal]!) < 0 ? 1 : 0;
      raws[signal] = Math.abs(raws[signal]!);
    }
    // A number that stands for no measurement was decoded as NaN; it stays what it is.
    for (const { signal, specials } of exceptions)
      if (specials.length > 0 && Number.isNaN(raws[signal]!)) raws[signal] = rawAt(signal);
    for (let k = 0; k < whole.length; k += 1) {
      const i = whole[k]!;
      const given = raws[i]!;
      const raw = (given | 0) === given ? given : nearest(given);
      if (!(raw >= minimum[i]! && raw <= maximum[i]!)) refuseValue(signals[i]!, String(from[i]));
      raws[i] = raw;
    }
    for (let r = 0; r < runs.length; r += 1) {
      if (runs[r]!.way !== 'bit') continue;
      const bits = runs[r]!.signals;
      for (let k = 0; k < bits.length; k += 1) {
        const value = raws[bits[k]!]!;
        if (value !== 0 && value !== 1) refuseValue(signals[bits[k]!]!, String(value));
      }
    }
    store();
    for (const { signal, sign } of exceptions) {
      if (!sign) continue;
      const set = (minus[signal] === 1) !== sign.inverted;
      held[sign.byte] = set ? held[sign.byte]! | sign.mask : held[sign.byte]! & ~sign.mask;
    }
    put(view, start);
    numbers.set(from);
  }

  function store(): void {
    for (let r = 0; r < runs.length; r += 1) runs[r]!.store(runs[r]!, held, own, raws);
    for (let k = 0; k < inPieces.length; k += 1) {
      const i = inPieces[k]!;
      setBits(i, bitsOfNumber(signals[i]!, raws[i]!));
    }
  }

  function rawAt(i: number): number {
    return ways[i] === 'none' ? NaN : Number(valueAt(i));
  }

  function valueAt(i: number): Value {
    const signal = signals[i]!;
    switch (readsOf(signal)) {
      case 'boolean':
        return bitsAt(i) === 1;
      case 'text':
        return readText(signal, held);
      case 'bytes':
        return [...held.subarray(signal.at >> 3, (signal.at + signal.bits) >> 3)].map(hexPair).join(' ');
      case 'bcd':
        return signal.bits > 32 ? digitsAt(i) : bcdOf(bitsAt(i));
      case 'float':
        return signal.bits === 32 ? fromPieces(i) : doubleOf(exactBitsAt(i));
      case 'signed':
        return signal.bits > 32 ? BigInt.asIntN(signal.bits, exactBitsAt(i)) : fromPieces(i);
      case 'unsigned':
        return signal.bits > 32 ? exactBitsAt(i) : bitsAt(i);
    }
  }

  function aroundAt(i: number): Around {
    const exception = exceptions.find((e) => e.signal === i);
    if (!exception) return {};
    const { sign, places } = exception;
    return {
      negative: sign ? ((held[sign.byte]! & sign.mask) !== 0) !== sign.inverted : undefined,
      places: places === undefined ? undefined : Math.max(0, Math.min(15, rawAt(places))),
    };
  }

  function setValue(i: number, value: Value): void {
    const signal = signals[i]!;
    const reads = readsOf(signal);
    if (reads === 'text') writeText(signal, String(value), held);
    else if (reads === 'bytes') writeHexPairs(signal, String(value), held);
    else setBits(i, bitsOfNumber(signal, checkedRaw(signal, value)));
  }

  function setEntry(i: number, { raw, negative }: RawEntry): void {
    setValue(i, raw);
    const sign = exceptions.find((e) => e.signal === i)?.sign;
    if (negative === undefined) return;
    if (!sign) {
      if (negative) throw new Problem('value.noSign', { field: signals[i]!.name });
      return;
    }
    held[sign.byte] =
      negative !== sign.inverted ? held[sign.byte]! | sign.mask : held[sign.byte]! & ~sign.mask;
  }

  return {
    signals,
    bytes,
    numbers,
    changed,
    decode,
    decodeChanges,
    encode: (view, start = 0) => put(view, start),
    encodeNumbers,
    numberAt: rawAt,
    valueAt,
    aroundAt,
    readingAt: (i) => readingOf(signals[i]!, valueAt(i), aroundAt(i)),
    textAt: (i) => shortText(signals[i]!, valueAt(i), aroundAt(i)),
    setValue,
    setTyped: (i, typed) => setEntry(i, parseValue(signals[i]!, typed, aroundAt(i))),
    setEngineering: (i, value) => {
      const exact = exactly(value);
      if (exact) setEntry(i, rawOf(signals[i]!, exact, aroundAt(i)));
      else setValue(i, value);
    },
  };
}
