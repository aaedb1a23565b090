import type { Field } from '../cell/model.js';
import { Problem } from '../messages/problem.js';
import { fieldTypes, limitsOf, type Value } from './fieldTypes.js';

/**
 * Reads and writes whole images, little-endian. Hot path: `decode`, `encode` and `numberAt` run for every cyclic packet
 * and allocate nothing; the plan and the two halves of every raw value live in typed arrays that are made once. The
 * benchmark is bench/codec.bench.ts.
 */
export interface Codec {
  readonly fields: readonly Field[];
  /** 1 for each field that the last `decode` found changed. */
  readonly changed: Uint8Array;
  /** Bytes that an image needs for all fields. */
  readonly bytes: number;
  /** Takes the values from an image that begins at byte `start` of the view; returns how many changed. */
  decode(view: DataView, start?: number): number;
  /** Writes all values to an image that begins at byte `start`; bits without a field stay as they are. */
  encode(view: DataView, start?: number): void;
  /** A field's value as a number: 0 or 1 for a bit; beyond 2^53 it is rounded. */
  numberAt(index: number): number;
  /** A field's exact value; a bigint for whole numbers wider than 32 bits. */
  valueAt(index: number): Value;
  /** Puts a value in for the next `encode`. Throws `value.doesNotFit`; never wraps. */
  setValue(index: number, value: Value): void;
}

const enum Way {
  Bit,
  Byte,
  Word,
  Double,
  Quad,
  Bits,
}

const float32 = new Float32Array(1);
const float32Bits = new Uint32Array(float32.buffer);
const float64 = new Float64Array(1);
const float64Bits = new Uint32Array(float64.buffer);
// The machine's own order tells which half of a double comes first in memory.
const lowHalf = new Uint8Array(new Uint16Array([1]).buffer)[0] === 1 ? 0 : 1;

const powers = Float64Array.from({ length: 33 }, (_, i) => 2 ** i);

function readBits(view: DataView, bit: number, count: number): number {
  let sum = 0;
  for (let got = 0; got < count;) {
    const place = (bit + got) & 7;
    const take = Math.min(8 - place, count - got);
    const part = (view.getUint8((bit + got) >> 3) >>> place) & ((1 << take) - 1);
    sum += part * powers[got]!;
    got += take;
  }
  return sum;
}

function writeBits(view: DataView, bit: number, count: number, value: number): void {
  for (let done = 0; done < count;) {
    const place = (bit + done) & 7;
    const take = Math.min(8 - place, count - done);
    const mask = ((1 << take) - 1) << place;
    const byte = (bit + done) >> 3;
    const part = ((value >>> done) << place) & mask;
    view.setUint8(byte, (view.getUint8(byte) & ~mask) | part);
    done += take;
  }
}

function wayOf(field: Field): Way {
  if (field.bits === 1) return Way.Bit;
  if (field.at % 8 !== 0) return Way.Bits;
  return { 8: Way.Byte, 16: Way.Word, 32: Way.Double, 64: Way.Quad }[field.bits] ?? Way.Bits;
}

/** Plans the reading and writing of these fields once. */
export function compileCodec(fields: readonly Field[]): Codec {
  const count = fields.length;
  const ways = Uint8Array.from(fields, wayOf);
  const starts = Uint32Array.from(fields, (f) => f.at);
  const lengths = Uint8Array.from(fields, (f) => f.bits);
  const lows = new Uint32Array(count);
  const highs = new Uint32Array(count);
  const changed = new Uint8Array(count);

  function decode(view: DataView, start = 0): number {
    let changes = 0;
    for (let i = 0; i < count; i += 1) {
      const at = starts[i]!;
      const byte = start + (at >> 3);
      let low = 0;
      let high = 0;
      switch (ways[i]! as Way) {
        case Way.Bit:
          low = (view.getUint8(byte) >>> (at & 7)) & 1;
          break;
        case Way.Byte:
          low = view.getUint8(byte);
          break;
        case Way.Word:
          low = view.getUint16(byte, true);
          break;
        case Way.Double:
          low = view.getUint32(byte, true);
          break;
        case Way.Quad:
          low = view.getUint32(byte, true);
          high = view.getUint32(byte + 4, true);
          break;
        case Way.Bits: {
          const bits = lengths[i]!;
          low = readBits(view, start * 8 + at, bits > 32 ? 32 : bits);
          if (bits > 32) high = readBits(view, start * 8 + at + 32, bits - 32);
        }
      }
      const differs = low !== lows[i] || high !== highs[i] ? 1 : 0;
      changed[i] = differs;
      changes += differs;
      lows[i] = low;
      highs[i] = high;
    }
    return changes;
  }

  function encode(view: DataView, start = 0): void {
    for (let i = 0; i < count; i += 1) {
      const bits = lengths[i]!;
      writeBits(view, start * 8 + starts[i]!, bits > 32 ? 32 : bits, lows[i]!);
      if (bits > 32) writeBits(view, start * 8 + starts[i]! + 32, bits - 32, highs[i]!);
    }
  }

  function numberAt(i: number): number {
    const bits = lengths[i]!;
    const reads = fieldTypes[fields[i]!.type].reads;
    if (reads === 'float') {
      if (bits === 32) {
        float32Bits[0] = lows[i]!;
        return float32[0]!;
      }
      float64Bits[lowHalf] = lows[i]!;
      float64Bits[1 - lowHalf] = highs[i]!;
      return float64[0]!;
    }
    if (bits === 64) return (reads === 'signed' ? highs[i]! | 0 : highs[i]!) * powers[32]! + lows[i]!;
    const magnitude = highs[i]! * powers[32]! + lows[i]!;
    return reads === 'signed' && magnitude >= powers[bits - 1]! ? magnitude - powers[bits]! : magnitude;
  }

  function valueAt(i: number): Value {
    const { type, bits } = fields[i]!;
    const reads = fieldTypes[type].reads;
    if (reads === 'boolean') return lows[i] === 1;
    if (reads === 'float' || bits <= 32) return numberAt(i);
    const raw = (BigInt(highs[i]!) << 32n) | BigInt(lows[i]!);
    return reads === 'signed' ? BigInt.asIntN(bits, raw) : raw;
  }

  function setValue(i: number, value: Value): void {
    const field = fields[i]!;
    const { type, bits } = field;
    const { least, most } = limitsOf(type, bits);
    if (fieldTypes[type].reads === 'float') {
      const number = Number(value);
      // Infinity and NaN are values of IEEE 754; only a finite number that binary32 cannot hold is refused.
      if (Number.isFinite(number) && (number < least || number > most)) refuse(field, value, least, most);
      if (bits === 32) {
        float32[0] = number;
        lows[i] = float32Bits[0]!;
      } else {
        float64[0] = number;
        lows[i] = float64Bits[lowHalf]!;
        highs[i] = float64Bits[1 - lowHalf]!;
      }
      return;
    }
    if (typeof value === 'number' && !Number.isInteger(value)) refuse(field, value, least, most);
    const whole = BigInt(value);
    if (whole < BigInt(least) || whole > BigInt(most)) refuse(field, value, least, most);
    lows[i] = Number(BigInt.asUintN(Math.min(bits, 32), whole));
    highs[i] = bits > 32 ? Number(BigInt.asUintN(bits - 32, whole >> 32n)) : 0;
  }

  return {
    fields,
    changed,
    bytes: Math.ceil(fields.reduce((end, f) => Math.max(end, f.at + f.bits), 0) / 8),
    decode,
    encode,
    numberAt,
    valueAt,
    setValue,
  };
}

function refuse(field: Field, value: Value, least: number | bigint, most: number | bigint): never {
  throw new Problem('value.doesNotFit', {
    field: field.name,
    value: String(value),
    least: String(least),
    most: String(most),
  });
}
