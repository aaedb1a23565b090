import type { Image } from './image.js';
import { byteOffset, bytesOf, swappedByte } from './byteOrder.js';
import { codecAlone } from './orderSight.js';
import { isNumber, readsOf } from './fieldTypes.js';
import type { Signal } from './signals.js';
import { readingOf } from './valueChain.js';

/** One step of the way from bytes to meaning. */
export interface ReadoutStep {
  step: 'bytes' | 'ordered' | 'raw' | 'signed' | 'scaled' | 'value' | 'limits' | 'label';
  /** What was done, such as 'bytes 14–15' or 'little first'. */
  title: string;
  text: string;
}

type Layout = Pick<Image, 'fields' | 'groups' | 'order' | 'swapped' | 'size'>;

const hex = (value: number | bigint, digits: number) =>
  value.toString(16).toUpperCase().padStart(digits, '0');
const pairs = (bytes: readonly number[]) => bytes.map((b) => hex(b, 2)).join(' ');

const orderTitles = {
  little: 'little first',
  big: 'big first',
  bigSwapped: 'words swapped, big first in each',
  littleSwapped: 'words in order, little first in each',
} as const;

/**
 * The readout of a signal: bytes → ordered → raw number → signed → scaled → value with unit → label. `bytes` are those
 * of the whole image as they came; a signal that they do not reach ends after the first step. `placeName` calls a bit
 * as the device's manual does, so that margins and readout agree on what bit 8 of a register is.
 */
export function readout(
  image: Layout,
  signal: Signal,
  bytes: Uint8Array,
  placeName: (bit: number) => string = (bit) => `bit ${bit & 7}`,
): ReadoutStep[] {
  const { first, count } = bytesOf(signal);
  const last = first + count - 1;
  const range = count === 1 ? `byte ${first}` : `bytes ${first}–${last}`;
  const wire = Array.from({ length: count }, (_, i) => {
    const byte = first + i;
    return bytes[image.swapped ? swappedByte(byte, image.size) : byte];
  });
  const there = wire.filter((b) => b !== undefined);
  const title = image.swapped ? `${range}, swapped back in each word` : range;
  const steps: ReadoutStep[] = [{ step: 'bytes', title, text: pairs(there) || 'none' }];
  if (there.length < count) return steps;

  const { codec, index } = codecAlone(image, signal);
  if (codec.bytes > bytes.length) return steps;
  codec.decode(new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength));
  const raw = codec.valueAt(index);
  const around = codec.aroundAt(index);
  const reading = readingOf(signal, raw, around);
  const reads = readsOf(signal);

  const whole = isNumber(signal) || signal.bits === 1 ? wholeOf(there, signal) : 0n;
  if (isNumber(signal) && count > 1)
    steps.push({ step: 'ordered', title: orderTitles[signal.order], text: `16#${hex(whole, count * 2)}` });
  if (signal.bits % 8 !== 0 || signal.at % 8 !== 0) {
    const own = BigInt.asUintN(signal.bits, whole >> BigInt(signal.at & 7));
    const first = placeName(signal.at);
    const place = signal.bits === 1 ? first : `${signal.bits} bits from ${first}`;
    steps.push({
      step: 'raw',
      title: place,
      text: signal.bits === 1 ? String(own) : `2#${own.toString(2).padStart(signal.bits, '0')}`,
    });
  }
  if (reads === 'text') steps.push({ step: 'raw', title: 'characters', text: `'${String(raw)}'` });
  else if (isNumber(signal))
    steps.push({
      step: 'raw',
      title: reads === 'bcd' ? 'digits' : `as ${signal.type}`,
      text: Number.isNaN(raw) && reads === 'bcd' ? reading.text : String(raw),
    });
  if (reading.special) return [...steps, { step: 'label', title: 'special number', text: reading.special }];
  if (reading.signed !== undefined) steps.push(...numberSteps(signal, reading, around.places));
  if (reading.acts !== undefined)
    steps.push({
      step: 'label',
      title: 'normally closed: 0 acts',
      text: reading.acts ? 'acts' : 'at rest',
    });
  if (reading.label !== undefined) steps.push({ step: 'label', title: 'means', text: reading.label });
  if (reading.bitTexts.length)
    steps.push({ step: 'label', title: 'set bits mean', text: reading.bitTexts.join(', ') });
  return steps;
}

/** All bytes that a signal touches, put in order, as one number. */
const wholeOf = (bytes: readonly number[], { order }: Signal): bigint =>
  bytes.reduce(
    (sum, _, significance) =>
      sum | (BigInt(bytes[byteOffset(order, significance, bytes.length)]!) << BigInt(significance * 8)),
    0n,
  );

function numberSteps(signal: Signal, reading: ReturnType<typeof readingOf>, places = 0): ReadoutStep[] {
  const { sign, decimals, scale, unit, limits } = signal;
  const steps: ReadoutStep[] = [];
  if (sign?.way === 'offset')
    steps.push({
      step: 'signed',
      title: `offset binary, − 2^${signal.bits - 1}`,
      text: String(reading.signed),
    });
  if (sign?.way === 'complement')
    steps.push({
      step: 'signed',
      title: `two’s complement of ${signal.bits} bits`,
      text: String(reading.signed),
    });
  if (sign?.way === 'bit')
    steps.push({
      step: 'signed',
      title: `magnitude, sign from ${sign.field === signal.of ? 'its own' : 'another'} bit`,
      text: String(reading.signed),
    });
  const point = decimals ? (decimals.way === 'field' ? places : decimals.places) : 0;
  const factor = scale ? ` × ${scale.factor}` : '';
  const offset =
    !scale || /^-?0+(\.0+)?$/.test(scale.offset) ? '' : ` + ${scale.offset}`.replace('+ -', '− ');
  const parts = `${decimals ? `${point} decimals` : ''}${factor}${offset}`.trim();
  if (parts) steps.push({ step: 'scaled', title: parts, text: reading.text });
  if (unit) steps.push({ step: 'value', title: 'with unit', text: `${reading.text} ${unit}` });
  if (limits && reading.beyond)
    steps.push({
      step: 'limits',
      title: `limits ${limits.minimum ?? '…'} to ${limits.maximum ?? '…'}`,
      text: `${reading.beyond} the limits`,
    });
  return steps;
}
