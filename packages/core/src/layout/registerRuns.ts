import { byteOffset } from './byteOrder.js';
import type { Notation } from './notation.js';
import { holdsBits, registerTables, type RegisterTable } from './registerTables.js';

/** Registers or bits of one table that stand side by side in an image. */
export interface RegisterRun {
  table: RegisterTable;
  /** Address of the first on the wire, from 0. */
  start: number;
  /** Registers, or bits. */
  count: number;
  /** First byte in the image. */
  at: number;
}

/**
 * What of a feedback image no register holds, but whoever asks for a run works out from the age of its last good
 * answer.
 */
export interface RunAge {
  /** Name of the run, and the bytes of the image that it fills. */
  run: string;
  from: number;
  to: number;
  /** Age up to which it is fresh, ms. */
  limitMs: number;
  /** The bit that says that it is fresh. */
  fresh: number | null;
  /** First of the two bytes that show its age, ms, high byte first. */
  age: number | null;
}

/** Whether a run holds this bit of the image. */
export const inRuns = (runs: readonly RegisterRun[], bit: number): boolean =>
  runs.some(({ table, count, at }) => {
    const inside = bit - at * 8;
    return inside >= 0 && inside < (holdsBits(table) ? Math.ceil(count / 8) * 8 : count * 16);
  });

/** The runs whose freshness or age a bit of the image shows. */
export const agesAt = (ages: readonly RunAge[], bit: number): RunAge[] =>
  ages.filter(
    ({ fresh, age }) => bit === fresh || (age !== null && (bit >> 3 === age || bit >> 3 === age + 1)),
  );

/** The runs that are not fresh, as the image itself says; none for runs whose freshness it does not show. */
export const staleRuns = (ages: readonly RunAge[], image: Uint8Array): RunAge[] =>
  ages.filter(({ fresh }) => fresh !== null && !((image[fresh >> 3] ?? 0xff) & (1 << (fresh & 7))));

/** First reference number of each table, of six and of five digits; common practice, no source. */
const firsts = {
  6: { coils: 1, discrete: 100_001, holding: 400_001, input: 300_001 },
  5: { coils: 1, discrete: 10_001, holding: 40_001, input: 30_001 },
} as const;

const words: readonly RegisterTable[] = ['holding', 'input'];

/** Notations whose units are registers: of which tables, and the number of the first of each. */
const counted: Readonly<Record<string, (table: RegisterTable) => number | undefined>> = {
  'register-0': (table) => (words.includes(table) ? 0 : undefined),
  'register-1': (table) => (words.includes(table) ? 1 : undefined),
  'register-hex': (table) => (words.includes(table) ? 0 : undefined),
  'holding-6': (table) => (table === 'holding' ? firsts[6].holding : undefined),
  'holding-5': (table) => (table === 'holding' ? firsts[5].holding : undefined),
  'input-6': (table) => (table === 'input' ? firsts[6].input : undefined),
  'input-5': (table) => (table === 'input' ? firsts[5].input : undefined),
  'reference-6': (table) => firsts[6][table],
  'reference-5': (table) => firsts[5][table],
};

/** Whether a notation counts registers: then an image that is made of runs of them takes its numbers from those. */
export const countsRegisters = ({ id }: Notation): boolean => Object.hasOwn(counted, id);

/** The register of a bit of an image, and which of its bits it is; undefined where the bit is in none of these. */
export function registerAt(
  notation: Notation,
  runs: readonly RegisterRun[],
  bit: number,
): { unit: number; bit: number; single: boolean } | undefined {
  for (const { table, start, count, at } of runs) {
    const first = counted[notation.id]!(table);
    const inside = bit - at * 8;
    const single = holdsBits(table);
    if (first === undefined || inside < 0 || inside >= count * (single ? 1 : 16)) continue;
    const unit = first + start + (single ? inside : inside >> 4);
    if (notation.last !== null && unit > notation.last) return undefined;
    return { unit, single, bit: single ? 0 : byteOffset('big', (inside >> 3) & 1, 2) * 8 + (inside & 7) };
  }
  return undefined;
}

/** The bit of an image that a register, or one of its bits, is; -1 where it has none of that number. */
export function bitOfRegister(
  notation: Notation,
  runs: readonly RegisterRun[],
  unit: number,
  bit: number | undefined,
): number {
  for (const { table, start, count, at } of runs) {
    const first = counted[notation.id]!(table);
    const place = first === undefined ? -1 : unit - first - start;
    if (place < 0 || place >= count) continue;
    if (holdsBits(table)) return at * 8 + place;
    const byte = at + 2 * place + (bit === undefined ? 0 : byteOffset('big', bit >> 3, 2));
    return byte * 8 + ((bit ?? 0) & 7);
  }
  return -1;
}

/** What a typed address of a register means: its table where the number says it, and its address on the wire. */
export interface TypedRegister {
  table: RegisterTable | undefined;
  start: number;
}

/**
 * `405001`, `45001`, `5000`, `0x1388`, `16#1388`: a reference of six or five digits counts from 1 and says its table;
 * anything else is an address on the wire, from 0. Five digits are a reference of a register table (3, 4), or of the
 * table that is `meant`; other numbers of five digits are addresses. Undefined for any other text.
 */
export function readRegister(typed: string, meant?: RegisterTable): TypedRegister | undefined {
  const text = typed.trim().replace(/[\s_]/g, '');
  const hex = /^(?:0x|16#)([0-9a-f]{1,4})$|^([0-9a-f]{1,4})h$/i.exec(text);
  if (hex) return { table: undefined, start: parseInt(hex[1] ?? hex[2]!, 16) };
  if (!/^\d{1,6}$/.test(text)) return undefined;
  const number = Number(text);
  const digits = text.length === 6 ? 6 : text.length === 5 ? 5 : undefined;
  if (digits)
    for (const table of registerTables) {
      const start = number - firsts[digits][table];
      const fits = start >= 0 && start <= (digits === 6 ? 0xffff : 9998);
      const said =
        table === 'coils' ? text.startsWith('0') : digits === 6 || words.includes(table) || table === meant;
      if (fits && said) return { table, start };
    }
  return number <= 0xffff ? { table: undefined, start: number } : undefined;
}

/** The reference of a register, six digits: 405001 is the holding register at address 5000. */
export const registerReference = (table: RegisterTable, start: number): string =>
  String(firsts[6][table] + start).padStart(6, '0');
