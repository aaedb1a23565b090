import { byteOrders, type ByteOrder } from './field.js';
import { bothSides, type AddressScene, type BothSides } from './address.js';
import { byteOffset, valueBitAt } from './byteOrder.js';
import { signalAtBit } from './placement.js';
import { signalsInside } from './signals.js';
import { basedNumber } from './valueChain.js';

/** A set bit of a number, where it lies when the number is read in one byte order. */
export interface SetBit {
  /** Which bit of the number, from 0. */
  bit: number;
  sides: BothSides;
  signal: string | undefined;
  /** What it says when it is set, where the signal has a text for it. */
  means: string | undefined;
}

export interface NumberReading {
  order: ByteOrder;
  /** The bytes as they lie in the image. */
  bytes: number[];
  /** Lowest bit of the number first. */
  setBits: SetBit[];
  /** Set bits that no signal covers. */
  unnamed: number;
}

export interface NumberSight {
  value: bigint;
  /** Bytes that it takes up: 1, 2, 4 or 8. */
  bytes: number;
  readings: NumberReading[];
  /** Index into readings, and why. */
  likely: { index: number; reason: string };
}

/** A decimal, 16#, 8#, 2#, 0x or 0b number, whole and not negative below −2^63; undefined for any other text. */
export function numberTyped(text: string): bigint | undefined {
  const plain = text.trim().replace(/[\s_']/g, '');
  const based = basedNumber(plain);
  const value = based ?? (/^-?\d{1,20}$/.test(plain) ? BigInt(plain) : undefined);
  return value !== undefined && value >= -(2n ** 63n) && value < 2n ** 64n ? value : undefined;
}

const widthOf = (value: bigint): number =>
  [1, 2, 4, 8].find((bytes) =>
    value < 0n ? value >= -(1n << BigInt(bytes * 8 - 1)) : value < 1n << BigInt(bytes * 8),
  ) ?? 8;

/**
 * What a raw number says at a place of an image: its set bits under every byte order, with both sides' addresses and
 * what they mean. `least`: the bytes that were read at least, 2 when it came out of a 16-bit word. The likely order is
 * the one whose set bits all have a meaning; the order that the image states decides between equals.
 */
export function numberSight(value: bigint, scene: AddressScene, firstByte: number, minimum = 2): NumberSight {
  const bytes = Math.max(widthOf(value), minimum);
  const raw = BigInt.asUintN(bytes * 8, value);
  const orders =
    bytes === 1 ? (['little'] as const) : bytes === 2 ? (['little', 'big'] as const) : byteOrders;
  const readings = orders.map((order) => readingIn(order, raw, bytes, scene, firstByte));
  return { value, bytes, readings, likely: likelyOf(readings, scene) };
}

function readingIn(
  order: ByteOrder,
  raw: bigint,
  bytes: number,
  scene: AddressScene,
  firstByte: number,
): NumberReading {
  const laid = new Array<number>(bytes).fill(0);
  for (let s = 0; s < bytes; s += 1)
    laid[byteOffset(order, s, bytes)] = Number((raw >> BigInt(s * 8)) & 0xffn);
  const signals = signalsInside(scene.image);
  const setBits: SetBit[] = [];
  for (let bit = 0; bit < bytes * 8; bit += 1) {
    if (!((raw >> BigInt(bit)) & 1n)) continue;
    const place = (firstByte + byteOffset(order, bit >> 3, bytes)) * 8 + (bit & 7);
    if (place >= scene.image.size * 8) continue;
    const signal = signalAtBit(signals, place);
    const own = signal && valueBitAt(signal, place);
    const means =
      signal?.bits === 1
        ? signal.labels.find((l) => l.value === 1)?.text
        : signal?.bitLabels.find((l) => l.bit === own)?.text;
    setBits.push({ bit, sides: bothSides(scene, place), signal: signal?.name, means });
  }
  return { order, bytes: laid, setBits, unnamed: setBits.filter((b) => b.signal === undefined).length };
}

function likelyOf(readings: NumberReading[], { image }: AddressScene): NumberSight['likely'] {
  if (readings.length === 1) return { index: 0, reason: 'A single byte has no order.' };
  const stated = readings.findIndex((r) => r.order === (image.order ?? 'little'));
  const fewest = Math.min(...readings.map((r) => r.unnamed));
  const best = readings.map((r, i) => ({ r, i })).filter(({ r }) => r.unnamed === fewest);
  const total = readings[0]!.setBits.length;
  if (best.length === readings.length) {
    const why =
      total === 0 ? 'No bit is set, so the order does not show.' : 'All orders meet as many named bits.';
    return {
      index: stated,
      reason: `${why} ${image.order ? 'The image states' : 'Nothing is stated; read as'} ${image.order ?? 'little'}.`,
    };
  }
  const index = best.some(({ i }) => i === stated) ? stated : best[0]!.i;
  const rest =
    readings[
      index === stated ? (best.find(({ i }) => i !== index)?.i ?? (index + 1) % readings.length) : stated
    ]!;
  const named = readings[index]!.setBits.length - fewest;
  return {
    index,
    reason: `${named} of ${readings[index]!.setBits.length} set bits are named in this order; read ${rest.order}, ${rest.setBits.length - rest.unnamed} of ${rest.setBits.length}.`,
  };
}
