import type { ByteOrder } from './field.js';
import type { FieldType } from './fieldTypes.js';
import type { Image } from './image.js';
import { signalsOf, type Signal } from './signals.js';

/** The bytes of an image from a time on, ms. */
export interface HeldBytes {
  at: number;
  bytes: Uint8Array;
}

/** How some bytes could be read as one number. */
export interface NumberGuess {
  type: FieldType;
  bits: 8 | 16 | 32;
  order: ByteOrder;
  minimum: number;
  maximum: number;
}

/** A part of an image that changed. */
export interface ChangedPlace {
  /** First bit, from the image's first byte; number of bits. */
  at: number;
  bits: number;
  /** The signal that it is already; undefined where nothing is laid out. */
  signal: Signal | undefined;
  /** How often it changed, when first and when last. */
  times: number;
  first: number;
  last: number;
  /** The bytes or the bit before the first change and after the last one. */
  before: number[];
  after: number[];
  /** As what numbers it could be read, the likeliest first; none for a single bit. */
  readings: NumberGuess[];
}

/**
 * A byte of which so many different bits changed, and several at once in so large a part of its changes, is more likely
 * part of a number than a set of flags.
 */
const bitsOfNumber = 3;
const togetherShare = 0.3;
/** The low word of a number of 32 bits goes through so much of its range. */
const lowWordRough = 0.4;
/** Of more than this nobody wants to see the rest. */
const mostPlaces = 200;

/**
 * What changed in an image between the first of the given states and the last: known signals as such; where nothing is
 * laid out, single bits, and bytes that move like numbers, joined where they move together. `states` are the bytes at
 * each change, in order.
 */
export function whatChanged(image: Image, states: readonly HeldBytes[]): ChangedPlace[] {
  const size = Math.min(image.size, ...states.map((s) => s.bytes.length));
  if (states.length < 2) return [];
  const signals = signalsOf(image).filter((s) => s.at + s.bits <= size * 8);
  const known = signals.flatMap((signal) => placeOf(states, signal.at, signal.bits, signal) ?? []);
  const covered = new Uint8Array(size * 8);
  for (const { at, bits } of signals) covered.fill(1, at, at + bits);

  const free = Array.from({ length: size }, (_, byte) => freeBitsOf(states, byte, covered));
  const places: ChangedPlace[] = [];
  for (let byte = 0; byte < size;) {
    const length = numberAt(states, free, byte);
    if (length === 0) {
      for (const bit of free[byte]!.changed) places.push(...(placeOf(states, byte * 8 + bit, 1) ?? []));
      byte += 1;
      continue;
    }
    places.push(...(placeOf(states, byte * 8, length * 8) ?? []));
    byte += length;
  }
  return [...known, ...places].sort((a, b) => a.at - b.at).slice(0, mostPlaces);
}

interface FreeByte {
  /** Nothing of it is laid out. */
  whole: boolean;
  /** Its free bits that changed. */
  changed: number[];
  /** Indices of the states at which it changed. */
  when: number[];
  /** It moves as part of a number. */
  moves: boolean;
}

const bitsIn = (byte: number) => [0, 1, 2, 3, 4, 5, 6, 7].filter((bit) => (byte >> bit) & 1);

function freeBitsOf(states: readonly HeldBytes[], byte: number, covered: Uint8Array): FreeByte {
  const free = bitsIn(0xff).filter((bit) => !covered[byte * 8 + bit]);
  let differing = 0;
  let several = 0;
  const when: number[] = [];
  for (let i = 1; i < states.length; i += 1) {
    const now = states[i]!.bytes[byte]! ^ states[i - 1]!.bytes[byte]!;
    if (now === 0) continue;
    when.push(i);
    differing |= now;
    if (bitsIn(now).length > 1) several += 1;
  }
  const whole = free.length === 8;
  const changed = free.filter((bit) => (differing >> bit) & 1);
  const moves = whole && changed.length >= bitsOfNumber && several >= when.length * togetherShare;
  return { whole, changed, when, moves };
}

/**
 * How many bytes from this one on move as one number; 0 where it is none. A byte that does not move like one itself
 * belongs to a number when it only changes together with one that does.
 */
function numberAt(states: readonly HeldBytes[], free: readonly FreeByte[], byte: number): 0 | 1 | 2 | 4 {
  const isWord = (at: number) => {
    const [one, other] = [free[at], free[at + 1]];
    if (!one?.whole || !other?.whole || !(one.moves || other.moves)) return false;
    // In a word its neighbour would have counted on.
    if (one.when.length === 0 && wraps(states, at + 1)) return false;
    if (other.when.length === 0 && wraps(states, at)) return false;
    return (one.moves || within(one, other)) && (other.moves || within(other, one));
  };
  if (byte % 2 !== 0) return free[byte]!.moves ? 1 : 0;
  const [low, high] = [isWord(byte), isWord(byte + 2)];
  const four = [0, 1, 2, 3].map((i) => free[byte + i]);
  if ((low || high) && four.every((one) => one?.whole) && isDouble(states, four as FreeByte[], byte))
    return 4;
  if (low) return 2;
  return free[byte]!.moves ? 1 : 0;
}

/** Whether a byte goes on from its end at its beginning. */
const wraps = (states: readonly HeldBytes[], byte: number): boolean => {
  const steps = states.slice(1).map((s, i) => Math.abs(s.bytes[byte]! - states[i]!.bytes[byte]!));
  const sorted = steps.filter((step) => step > 0).sort((a, b) => a - b);
  return (sorted.at(-1) ?? 0) > 192 && (sorted[sorted.length >> 1] ?? 0) < 64;
};

/** Whether one byte only changes when the other does. */
const within = (one: FreeByte, other: FreeByte): boolean => {
  const at = new Set(other.when);
  return one.when.every((i) => at.has(i));
};

/**
 * Whether four bytes are one number and not two: one word only changes with the other, and the other goes through much
 * of its range or is no more than its sign; or read as a float they move smoothly.
 */
function isDouble(states: readonly HeldBytes[], bytes: readonly FreeByte[], at: number): boolean {
  const wordOf = (one: FreeByte, other: FreeByte) => ({
    ...one,
    when: [...new Set([...one.when, ...other.when])],
  });
  const words = [wordOf(bytes[0]!, bytes[1]!), wordOf(bytes[2]!, bytes[3]!)] as const;
  if (words[0].when.length === 0 || words[1].when.length === 0) return false;
  const rough = (length: 2 | 4, from: number, type?: FieldType) =>
    Math.min(
      ...readingsOf(states, from, length)
        .filter((r) => type === undefined || r.type === type)
        .map((r) => r.rough),
    );
  const whole = rough(4, at);
  const halves = [rough(2, at), rough(2, at + 2)] as const;
  if (rough(4, at, 'REAL') < Infinity) return whole < Math.max(...halves);
  return ([0, 1] as const).some((low) => {
    const high = 1 - low;
    if (!within(words[high]!, words[low])) return false;
    const read = (s: HeldBytes, word: number) =>
      new DataView(s.bytes.buffer, s.bytes.byteOffset).getInt16(at + word * 2, low === 0);
    if (states.every((s) => read(s, high) === (read(s, low) < 0 ? -1 : 0))) return true;
    return halves[low] > lowWordRough && whole < halves[low] / 4;
  });
}

function placeOf(
  states: readonly HeldBytes[],
  at: number,
  bits: number,
  signal?: Signal,
): [ChangedPlace] | undefined {
  const bytesOf = ({ bytes }: HeldBytes) =>
    bits === 1 ? [(bytes[at >> 3]! >> (at & 7)) & 1] : [...masked(bytes, at, bits)];
  let times = 0;
  let first = 0;
  let last = 0;
  for (let i = 1; i < states.length; i += 1) {
    const [now, before] = [bytesOf(states[i]!), bytesOf(states[i - 1]!)];
    if (now.every((byte, k) => byte === before[k])) continue;
    if (times === 0) first = states[i]!.at;
    last = states[i]!.at;
    times += 1;
  }
  if (times === 0) return undefined;
  const length = bits / 8;
  const number = !signal && (length === 1 || length === 2 || length === 4);
  const readings = number
    ? readingsOf(states, at >> 3, length)
        .sort((a, b) => a.rough - b.rough)
        .map(({ rough: _, ...reading }) => reading)
    : [];
  const [start, end] = [states[0]!, states.at(-1)!];
  return [{ at, bits, signal, times, first, last, before: bytesOf(start), after: bytesOf(end), readings }];
}

/** The bytes that hold these bits, with the others at 0. */
function masked(bytes: Uint8Array, at: number, bits: number): Uint8Array {
  const held = bytes.slice(at >> 3, (at + bits + 7) >> 3);
  if ((at & 7) !== 0) held[0]! &= 0xff << (at & 7);
  const over = (at + bits) & 7;
  if (over !== 0) held[held.length - 1]! &= 0xff >> (8 - over);
  return held;
}

const reads: {
  type: FieldType;
  bytes: 1 | 2 | 4;
  read: (view: DataView, at: number, little: boolean) => number;
}[] = [
  { type: 'USINT', bytes: 1, read: (v, at) => v.getUint8(at) },
  { type: 'UINT', bytes: 2, read: (v, at, little) => v.getUint16(at, little) },
  { type: 'INT', bytes: 2, read: (v, at, little) => v.getInt16(at, little) },
  { type: 'UDINT', bytes: 4, read: (v, at, little) => v.getUint32(at, little) },
  { type: 'DINT', bytes: 4, read: (v, at, little) => v.getInt32(at, little) },
  { type: 'REAL', bytes: 4, read: (v, at, little) => v.getFloat32(at, little) },
];

/** Magnitudes that measured values have; a float outside is more likely something else. */
const plausible = (value: number) => value === 0 || (Math.abs(value) > 1e-6 && Math.abs(value) < 1e9);

/**
 * Every reading of so many bytes, and how rough it is: the way that its values go, as parts of the range that its type
 * has. What is measured moves in small steps when it is read rightly, and jumps when it is not.
 */
function readingsOf(
  states: readonly HeldBytes[],
  byte: number,
  length: number,
): (NumberGuess & { rough: number })[] {
  return reads
    .filter((r) => r.bytes === length)
    .flatMap(({ type, bytes, read }) =>
      (bytes === 1 ? (['little'] as const) : (['little', 'big'] as const)).map((order) => {
        const values = states.map((s) =>
          read(
            new DataView(s.bytes.buffer, s.bytes.byteOffset, s.bytes.byteLength),
            byte,
            order === 'little',
          ),
        );
        const [minimum, maximum] = [Math.min(...values), Math.max(...values)];
        const way = values.reduce((sum, v, i) => sum + (i === 0 ? 0 : Math.abs(v - values[i - 1]!)), 0);
        const unlikely = type === 'REAL' && !values.every((v) => Number.isFinite(v) && plausible(v));
        const span = type === 'REAL' ? Math.max(maximum - minimum, Number.MIN_VALUE) * 1e3 : 2 ** (bytes * 8);
        return {
          ...{ type, bits: (bytes * 8) as NumberGuess['bits'], order, minimum, maximum },
          rough: unlikely ? Infinity : way / span,
        };
      }),
    );
}
