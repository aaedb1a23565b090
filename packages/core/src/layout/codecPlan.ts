import { fetchBits, loopsFor, storeBits, type Loops, type Run } from './codecLoops.js';
import { readsOf, limitsOf } from './fieldTypes.js';
import { bytesOf, piecesOf, placeOfValueBit } from './byteOrder.js';
import { ratio } from './ratio.js';
import { signalEnd, type Signal } from './signals.js';

/**
 * How a raw number is fetched: a single bit, a whole number or a floating one by its own loop, bit by bit in pieces
 * (groups of bits, BCD, 64-bit whole numbers, words swapped), or not at all: text and raw bytes are read on request.
 */
export type Way = 'bit' | 'whole' | 'float' | 'pieces' | 'none';

export interface PlannedRun extends Run, Loops {
  way: Way;
}

/** A number that takes its sign or its decimal places from elsewhere, or is none at certain raw numbers. */
export interface Exception {
  signal: number;
  /** Byte and mask of the bit that says minus; `inverted` when a clear one does. */
  sign: { byte: number; mask: number; inverted: boolean; inside: number } | undefined;
  /** Half of the range, of offset binary. */
  bias: number;
  /** All numbers that the bits of a two's complement have; 0 for others. */
  wraps: number;
  /** The signal that says the decimal places. */
  places: number | undefined;
  specials: readonly number[];
}

/** All that the loops of a codec need, worked out once. */
export interface Plan {
  bytes: number;
  ways: readonly Way[];
  runs: readonly PlannedRun[];
  /** Signals that are fetched in pieces, and whole numbers among all: those whose range is checked. */
  inPieces: Uint16Array;
  whole: Uint16Array;
  /** Value = raw × multiply / divide + add. */
  scaled: Uint16Array;
  multiply: Float64Array;
  divide: Float64Array;
  add: Float64Array;
  /** Raw limits. */
  minimum: Float64Array;
  maximum: Float64Array;
  exceptions: readonly Exception[];
  /** Bits of the image that belong to a signal. */
  mask: Uint8Array;
  /** Pieces of signal i: firstPiece[i] to firstPiece[i + 1]. */
  firstPiece: Uint32Array;
  pieceByte: Uint32Array;
  pieceShift: Uint8Array;
  pieceMask: Uint8Array;
  pieceFactor: Float64Array;
  pieceBit: Uint32Array;
}

const bitLoops: Loops = { fetch: fetchBits, store: storeBits };

function wayOf(signal: Signal): { way: Way; loops?: Loops } {
  const reads = readsOf(signal);
  if (reads === 'text' || reads === 'bytes') return { way: 'none' };
  if (signal.bits === 1) return { way: 'bit', loops: bitLoops };
  const straight = signal.order === 'little' || signal.order === 'big' || signal.bits === 8;
  if (reads === 'bcd' || reads === 'boolean' || !straight || signal.at % 8 !== 0) return { way: 'pieces' };
  const loops = loopsFor(reads, signal.bits, signal.order === 'big');
  return loops ? { way: reads === 'float' ? 'float' : 'whole', loops } : { way: 'pieces' };
}

/** Signals with the same loops, together. */
function runsOf(signals: readonly Signal[]): PlannedRun[] {
  const groups = new Map<Loops['fetch'], { way: Way; loops: Loops; indexes: number[] }>();
  signals.forEach((signal, i) => {
    const { way, loops } = wayOf(signal);
    if (!loops) return;
    const group = groups.get(loops.fetch) ?? { way, loops, indexes: [] };
    group.indexes.push(i);
    groups.set(loops.fetch, group);
  });
  return [...groups.values()].map(({ way, loops, indexes }) => ({
    way,
    ...loops,
    signals: Uint16Array.from(indexes),
    bytes: Uint16Array.from(indexes, (i) => signals[i]!.at >> 3),
    shifts: Uint8Array.from(indexes, (i) => signals[i]!.at & 7),
  }));
}

function exceptionsOf(signals: readonly Signal[]): Exception[] {
  // An element of a repeated field takes the sign or the point from the same repetition of the other field.
  const partner = (signal: Signal, fieldId: string) => {
    const suffix = signal.id.slice(signal.of.length);
    const found = signals.findIndex((s) => s.id === fieldId + suffix);
    return found >= 0 ? found : signals.findIndex((s) => s.of === fieldId);
  };
  return signals.flatMap((signal, i) => {
    const { sign, decimals, specials } = signal;
    if (!sign && decimals?.way !== 'field' && specials.length === 0) return [];
    const exception: Exception = {
      signal: i,
      sign: undefined,
      bias: sign?.way === 'offset' ? 2 ** (signal.bits - 1) : 0,
      wraps: sign?.way === 'complement' ? 2 ** signal.bits : 0,
      places: undefined,
      specials: specials.map((s) => s.value),
    };
    if (decimals?.way === 'field') {
      const from = partner(signal, decimals.field);
      if (from >= 0) exception.places = from;
    }
    if (sign?.way === 'bit') {
      const other = signals[partner(signal, sign.field)];
      const place = other && placeOfValueBit(other, sign.bit);
      if (place !== undefined)
        exception.sign = {
          byte: place >> 3,
          mask: 1 << (place & 7),
          inverted: sign.inverted,
          inside: sign.field === signal.of ? 2 ** sign.bit : 0,
        };
    }
    return [exception];
  });
}

/** Plans the reading and writing of these signals. */
export function planOf(signals: readonly Signal[]): Plan {
  const count = signals.length;
  const bytes = Math.ceil(signals.reduce((end, s) => Math.max(end, signalEnd(s)), 0) / 8);
  const ways = signals.map((signal) => wayOf(signal).way);
  const indexesOf = (is: (way: Way, signal: Signal) => boolean) =>
    Uint16Array.from([...signals.keys()].filter((i) => is(ways[i]!, signals[i]!)));
  const numbers = (of: (signal: Signal) => number) => Float64Array.from(signals, of);
  const points = signals.map((s) => (s.decimals && s.decimals.way !== 'field' ? s.decimals.places : 0));
  const mask = new Uint8Array(bytes + 8);
  const pieces = signals.map((signal) =>
    readsOf(signal) === 'text' || readsOf(signal) === 'bytes' ? [] : piecesOf(signal),
  );
  signals.forEach((signal, i) => {
    const { first, count: touched } = bytesOf(signal);
    if (ways[i] === 'none') mask.fill(0xff, first, first + touched);
    for (const p of pieces[i]!) mask[p.byte]! |= ((1 << p.count) - 1) << p.bit;
  });
  const firstPiece = new Uint32Array(count + 1);
  pieces.forEach((own, i) => (firstPiece[i + 1] = firstPiece[i]! + own.length));
  const flat = pieces.flat();
  return {
    bytes,
    ways,
    runs: runsOf(signals),
    inPieces: indexesOf((way) => way === 'pieces'),
    whole: indexesOf((way, s) => way === 'whole' || (way === 'pieces' && readsOf(s) !== 'float')),
    scaled: Uint16Array.from(signals.keys()).filter((i) => signals[i]!.scale !== null || points[i]! > 0),
    multiply: numbers((s) => (s.scale ? Number(ratio(s.scale.factor).s * ratio(s.scale.factor).n) : 1)),
    divide: Float64Array.from(
      signals,
      (s, i) => (s.scale ? Number(ratio(s.scale.factor).d) : 1) * 10 ** points[i]!,
    ),
    add: numbers((s) => (s.scale ? ratio(s.scale.offset).valueOf() : 0)),
    minimum: numbers((s) => Number(limitsOf(s.type, Math.min(s.bits, 64)).minimum)),
    maximum: numbers((s) => Number(limitsOf(s.type, Math.min(s.bits, 64)).maximum)),
    exceptions: exceptionsOf(signals),
    mask,
    firstPiece,
    pieceByte: Uint32Array.from(flat, (p) => p.byte),
    pieceShift: Uint8Array.from(flat, (p) => p.bit),
    pieceMask: Uint8Array.from(flat, (p) => (1 << p.count) - 1),
    pieceFactor: Float64Array.from(flat, (p) => 2 ** p.valueBit),
    pieceBit: Uint32Array.from(flat, (p) => p.valueBit),
  };
}
