import type { ByteOrder } from './field.js';
import { byteOrders } from './field.js';
import { bytesOf } from './byteOrder.js';
import { compileCodec } from './codec.js';
import { isNumber, readsOf } from './fieldTypes.js';
import type { Image } from './image.js';
import { ratioNumber } from './ratio.js';
import { signalsOf, type Signal } from './signals.js';
import type { Reading } from './valueChain.js';

type Layout = Pick<Image, 'fields' | 'groups' | 'order' | 'swapped' | 'size'>;

/**
 * A codec for one signal and what it takes its sign and its decimal point from. Hand it the signal in another byte
 * order to read the same bytes so.
 */
export function codecAlone(image: Layout, signal: Signal) {
  const { sign, decimals } = signal;
  const partners = signalsOf(image).filter(
    (s) =>
      s.id !== signal.id &&
      ((sign?.way === 'bit' && s.of === sign.field) ||
        (decimals?.way === 'field' && s.of === decimals.field)),
  );
  const needed = [...partners, signal].sort((a, b) => a.at - b.at);
  const codec = compileCodec(needed, image.swapped ? image.size : undefined);
  return { codec, index: needed.indexOf(signal) };
}

/** The value of a signal, its bytes read in one order. */
export interface OrderReading {
  order: ByteOrder;
  reading: Reading;
  /** With its unit. */
  text: string;
  /** It is a number, and one within the limits of the field. */
  plausible: boolean;
}

/** Whether a signal takes up several whole bytes as a number, so that their order counts. */
export const hasOrder = (signal: Signal): boolean =>
  isNumber(signal) && signal.bits > 8 && signal.bits % 8 === 0 && signal.at % 8 === 0;

/** The orders in which so many bytes can lie. */
const ordersFor = (bytes: number): readonly ByteOrder[] =>
  bytes === 2 ? ['little', 'big'] : bytes % 2 === 0 ? byteOrders : ['little', 'big'];

/**
 * A signal's value under each byte order, its own first; none for signals that have no order, and for bytes that do not
 * reach it.
 */
export function valueInOrders(image: Layout, signal: Signal, bytes: Uint8Array): OrderReading[] {
  if (!hasOrder(signal)) return [];
  const orders = ordersFor(bytesOf(signal).count).filter((order) => order !== signal.order);
  return [signal.order, ...orders].flatMap((order): OrderReading[] => {
    const { codec, index } = codecAlone(image, { ...signal, order });
    if (index < 0 || codec.bytes > bytes.length) return [];
    codec.decode(new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength));
    const reading = codec.readingAt(index);
    const text = reading.special ?? `${reading.text} ${signal.unit}`.trim();
    return [{ order, reading, text, plausible: isPlausible(signal, reading) }];
  });
}

/** Beyond these magnitudes a floating number is something else read wrongly; common practice, no source. */
const [tiniest, hugest] = [1e-20, 1e20];

function isPlausible(signal: Signal, { value, beyond, special, signed }: Reading): boolean {
  if (special) return true;
  if (beyond) return false;
  if (readsOf(signal) !== 'float') return signed !== undefined;
  const magnitude = Math.abs(value?.valueOf() ?? NaN);
  return magnitude === 0 || (magnitude > tiniest && magnitude < hugest);
}

/** How far a value may lie outside its limits, as multiples of their range, before its bytes are doubted. */
const farOff = 1;

function isFarOff(signal: Signal, { value, beyond }: Reading): boolean {
  if (!value) return readsOf(signal) === 'float' || readsOf(signal) === 'bcd';
  if (!beyond) return false;
  const [low, high] = [signal.limits?.minimum, signal.limits?.maximum].map((l) =>
    l == null ? 0 : ratioNumber(l),
  );
  const range = Math.abs(high! - low!) || 1;
  const over = beyond === 'above' ? value.valueOf() - high! : low! - value.valueOf();
  return over > farOff * range;
}

/** Whether a whole number of four bytes or more has nothing in its low half: a small one with its ends exchanged. */
function isTopHeavy(signal: Signal, { signed, beyond }: Reading): boolean {
  if (beyond || signal.bits < 32 || readsOf(signal) === 'float' || signed === undefined || signal.limits)
    return false;
  const magnitude = BigInt.asUintN(signal.bits, BigInt(signed));
  return magnitude !== 0n && BigInt.asUintN(signal.bits / 2, magnitude) === 0n;
}

/** Whether a reading makes no sense: far outside its limits, no number, or nothing in the low half of a wide one. */
function isSenseless(signal: Signal, reading: Reading): boolean {
  if (reading.special) return false;
  const wrong = !isPlausible(signal, reading) && (isFarOff(signal, reading) || !reading.beyond);
  return wrong || isTopHeavy(signal, reading);
}

/**
 * The byte order in which a signal would make sense, where it makes none in its own. Undefined where there is nothing
 * to doubt, or where no other order helps. `reading` is the signal's own where it is known: most make sense.
 */
export function orderDoubt(
  image: Layout,
  signal: Signal,
  bytes: Uint8Array,
  reading?: Reading,
): { now: OrderReading; better: OrderReading } | undefined {
  if (!hasOrder(signal) || (reading && !isSenseless(signal, reading))) return undefined;
  const [now, ...others] = valueInOrders(image, signal, bytes);
  if (!now || !isSenseless(signal, now.reading)) return undefined;
  const better = others.filter((o) => o.plausible && !isTopHeavy(signal, o.reading)).sort(bySize)[0];
  return better && { now, better };
}

const bySize = (a: OrderReading, b: OrderReading) => sizeOf(a) - sizeOf(b);
const sizeOf = ({ reading: { value } }: OrderReading) => Math.abs(value?.valueOf() ?? 0);
