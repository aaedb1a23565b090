import type { Image } from './image.js';
import { isContiguous, runsOf, type Placed } from './byteOrder.js';
import { fieldTypes, goesAnywhere, type FieldType } from './fieldTypes.js';
import { signalEnd, signalsOf, type Signal } from './signals.js';

/** Two signals of one image that use the same bits. */
export interface Overlap {
  first: Signal;
  second: Signal;
  fromBit: number;
  toBit: number;
}

/** Every pair of signals that share bits, in order of their first shared bit. */
export function overlapsIn(signals: readonly Signal[]): Overlap[] {
  if (lieApart(signals)) return [];
  const runs = signals
    .flatMap((signal) => runsOf(signal).map((run) => ({ ...run, signal })))
    .sort((a, b) => a.at - b.at);
  const pairs = new Map<string, Overlap>();
  runs.forEach((run, i) => {
    for (let k = i + 1; k < runs.length && runs[k]!.at < run.at + run.bits; k += 1) {
      const other = runs[k]!;
      if (other.signal.id === run.signal.id) continue;
      const toBit = Math.min(run.at + run.bits, other.at + other.bits) - 1;
      const key = [run.signal.id, other.signal.id].sort().join(' ');
      const known = pairs.get(key);
      if (known) known.toBit = Math.max(known.toBit, toBit);
      else pairs.set(key, { first: run.signal, second: other.signal, fromBit: other.at, toBit });
    }
  });
  return [...pairs.values()];
}

/** Whether signals in order of place follow one another with no bit shared: nearly every image, seen at a runDue. */
function lieApart(signals: readonly Signal[]): boolean {
  let end = 0;
  for (const signal of signals) {
    if (signal.at < end || !isContiguous(signal)) return false;
    end = signal.at + signal.bits;
  }
  return true;
}

/** Whether a signal takes up a bit of the image. */
export const covers = (signal: Signal, bit: number): boolean =>
  signal.at - (signal.at & 7) <= bit &&
  bit < signalEnd(signal) &&
  (isContiguous(signal)
    ? signal.at <= bit && bit < signal.at + signal.bits
    : runsOf(signal).some((run) => run.at <= bit && bit < run.at + run.bits));

/** The signal that owns a bit; of overlapping ones the shortest, because the longer can still be reached beside it. */
export function signalAtBit(signals: readonly Signal[], bit: number): Signal | undefined {
  let found: Signal | undefined;
  for (const signal of signals)
    if (covers(signal, bit) && (!found || signal.bits < found.bits)) found = signal;
  return found;
}

/**
 * Where a field may start when it is put near `bit`: whole bytes for all types but bits and digits, inside the image.
 */
export function snap(type: FieldType, bits: number, bit: number, image: Pick<Image, 'size'>): number {
  const step = goesAnywhere(type) ? 1 : 8;
  const last = image.size * 8 - bits;
  return Math.max(0, Math.min(Math.floor(bit / step) * step, Math.floor(last / step) * step));
}

/** The type that a run of bits suggests when it is drawn over the tape. */
export function typeForRun(at: number, bits: number): FieldType {
  if (bits === 1) return 'BOOL';
  if (at % 8 === 0) {
    const type = ({ 8: 'USINT', 16: 'UINT', 32: 'UDINT', 64: 'ULINT' } as const)[bits];
    if (type) return type;
    if (bits > 64 && bits % 8 === 0) return 'BYTES';
  }
  return 'BITS';
}

/** The type of the same family with this length; a length that no whole type has becomes BITS. */
export function typeResized(type: FieldType, at: number, bits: number): FieldType {
  const { reads } = fieldTypes[type];
  if ((reads === 'text' || reads === 'bytes') && bits % 8 === 0) return type;
  if (reads === 'bcd' && bits % 4 === 0) return type;
  if (bits === 1) return 'BOOL';
  const family = (Object.keys(fieldTypes) as FieldType[]).find(
    (t) => fieldTypes[t].bits === bits && fieldTypes[t].reads === reads,
  );
  return at % 8 === 0 && family ? family : typeForRun(at, bits);
}

/** The free runs of bits of an image, first bit and length. */
export function freeRuns(
  image: Pick<Image, 'size' | 'fields' | 'groups' | 'order'>,
): { at: number; bits: number }[] {
  const taken = signalsOf(image)
    .flatMap((signal): Pick<Placed, 'at' | 'bits'>[] => runsOf(signal))
    .sort((a, b) => a.at - b.at);
  const runs: { at: number; bits: number }[] = [];
  let at = 0;
  for (const run of taken) {
    if (run.at > at) runs.push({ at, bits: run.at - at });
    at = Math.max(at, run.at + run.bits);
  }
  if (at < image.size * 8) runs.push({ at, bits: image.size * 8 - at });
  return runs;
}
