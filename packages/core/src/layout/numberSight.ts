import { byteOrders, type ByteOrder } from './field.js';
import { bothSides, type AddressScene, type BothSides } from './address.js';
import { byteOffset, valueBitAt } from './byteOrder.js';
import { hasOrder, valueInOrders } from './orderSight.js';
import { signalAtBit } from './placement.js';
import { signalsInside, type Signal } from './signals.js';
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
  /** What the field at this place would then read, with its unit; undefined where none of this length is. */
  value: { text: string; plausible: boolean } | undefined;
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
 * the one whose set bits all have a meaning; the order that the image states decides between equals. Where a number of
 * several bytes is laid out there, each reading has its value, and the order of the field, or of its neighbours, is the
 * likely one unless only another gives a value within its limits.
 */
export function numberSight(value: bigint, scene: AddressScene, firstByte: number, minimum = 2): NumberSight {
  const field = numberAt(scene, firstByte);
  const bytes = Math.max(widthOf(value), field ? field.bits / 8 : minimum);
  const raw = BigInt.asUintN(bytes * 8, value);
  const orders =
    bytes === 1 ? (['little'] as const) : bytes === 2 ? (['little', 'big'] as const) : byteOrders;
  const readings = orders.map((order) => readingIn(order, raw, bytes, scene, firstByte));
  const likely =
    field && readings[0]!.value ? likelyValue(readings, scene, field) : likelyOf(readings, scene);
  return { value, bytes, readings, likely };
}

/** The number of several bytes that begins at a byte of the image. */
const numberAt = ({ image }: AddressScene, byte: number): Signal | undefined =>
  signalsInside(image).find((s) => s.at === byte * 8 && hasOrder(s));

/** What the field at the place reads from bytes laid there, in its own order. */
function valueOf(scene: AddressScene, firstByte: number, laid: readonly number[]): NumberReading['value'] {
  const { image } = scene;
  const field = numberAt(scene, firstByte);
  if (field?.bits !== laid.length * 8) return undefined;
  const held = new Uint8Array(image.size);
  held.set(laid, firstByte);
  const [own] = valueInOrders({ ...image, swapped: false }, field, held);
  return own && { text: own.text, plausible: own.plausible };
}

/** The order that most fields of the image state for themselves. */
function orderOfNeighbours({ image }: AddressScene, field: Signal): ByteOrder | undefined {
  const stated = image.fields.flatMap((f) => (f.id === field.of || f.order === null ? [] : [f.order]));
  const counts = byteOrders.map((order) => stated.filter((o) => o === order).length);
  const most = Math.max(...counts);
  return most > 0 ? byteOrders[counts.indexOf(most)] : undefined;
}

function likelyValue(readings: NumberReading[], scene: AddressScene, field: Signal): NumberSight['likely'] {
  const { image } = scene;
  const own = image.fields.find((f) => f.id === field.of)!;
  const neighbours = own.order === null && image.order === null ? orderOfNeighbours(scene, field) : undefined;
  const wanted = neighbours ?? field.order;
  const stated = Math.max(
    0,
    readings.findIndex((r) => r.order === wanted),
  );
  const why =
    own.order !== null
      ? `${field.name} states ${wanted}`
      : image.order !== null
        ? `the image states ${wanted}`
        : neighbours
          ? `its neighbours state ${wanted}`
          : `nothing is stated; read as ${wanted}`;
  const { value } = readings[stated]!;
  if (value?.plausible !== false)
    return { index: stated, reason: `${field.name} is ${value?.text}: ${why}.` };
  const other = readings.findIndex((r) => r.value?.plausible);
  if (other < 0) return { index: stated, reason: `${field.name} is ${value.text}: ${why}.` };
  return {
    index: other,
    reason: `${field.name} is ${readings[other]!.value!.text}; ${why}, but ${value.text} would be outside its limits.`,
  };
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
  return {
    order,
    bytes: laid,
    setBits,
    unnamed: setBits.filter((b) => b.signal === undefined).length,
    value: valueOf(scene, firstByte, laid),
  };
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
