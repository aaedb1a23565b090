import Papa from 'papaparse';
import { bitOfSignal } from '../layout/readAddress.js';
import type { Image } from '../layout/image.js';
import { fieldTypes } from '../layout/fieldTypes.js';
import { addressEntry, ratioEntry, typeEntry } from './cells.js';
import { columns, headedColumns, type Column } from './columns.js';

/** What the numbers of an address or a length column count; signals are numbered in the image's own ranges. */
export const tableUnits = { bit: 1, byte: 8, word: 16, dword: 32, signal: 1 } as const;
export type TableUnit = keyof typeof tableUnits;

/** What of an image a table is read by. */
type TableImage = Pick<Image, 'size' | 'order'> & Partial<Pick<Image, 'numbering'>>;

/** How a table is to be read; guessed first, then as the reader corrects it. */
export interface TableReading {
  /** Whether the first row holds headings. */
  headed: boolean;
  /** One entry a column; null: not used. */
  columns: (Column | null)[];
  addressUnit: TableUnit;
  /** The number of the image's first unit. */
  base: number;
  lengthUnit: TableUnit;
  /** Why this base. */
  reason: string;
}

/** Rows and cells of pasted text: tabs, semicolons or commas (RFC 4180). At most `maxRows` rows are taken. */
export const maxRows = 4000;
export function tableCells(text: string): string[][] {
  const trimmed = text.replace(/^\ufeff/, '').replace(/\s+$/, '');
  const delimiter = ['\t', ';', ','].find((d) => trimmed.split('\n', 1)[0]!.includes(d)) ?? '\t';
  const { data } = Papa.parse<string[]>(trimmed, { delimiter, preview: maxRows + 1 });
  return data.map((row) =>
    row.map((cell) =>
      unmarked(cell)
        .normalize('NFC')
        .replace(/[\s\u00a0]+/g, ' ')
        .trim(),
    ),
  );
}

/** Takes back the mark that tableCsv sets before what looks like a formula. */
const unmarked = (cell: string) => cell.replace(/^'(?=[=+@-])/, '');

const cellsOf = (rows: string[][], column: number) => rows.map((row) => row[column] ?? '').filter(Boolean);
const share = (cells: string[], test: (cell: string) => boolean) =>
  cells.length ? cells.filter(test).length / cells.length : 0;

/** The most likely reading of a table for this image: by its headings, then by what its columns look like. */
export function guessReading(rows: string[][], image: TableImage): TableReading {
  const first = rows[0] ?? [];
  // `bit labels` is no bit.
  const { headed, columns: named } = headedColumns(rows, columns, ['bitLabels', 'bit']);
  const body = headed ? rows.slice(1) : rows;
  const chosen = headed ? numbersAsAddresses(first, body, named) : guessByContent(body, named.length);
  const columnsOnly: TableReading = {
    ...{ headed, columns: chosen, addressUnit: 'byte', base: 0, lengthUnit: 'byte', reason: '' },
  };
  return withCounts(rows, columnsOnly, image, ['address', 'length']);
}

/**
 * The reading with other columns: what the addresses and lengths count is guessed anew for those whose column is
 * another one, and stays as it was corrected for the rest.
 */
export function withColumns(
  rows: string[][],
  reading: TableReading,
  chosen: readonly (Column | null)[],
  image: TableImage,
): TableReading {
  const moved = (['address', 'length'] as const).filter(
    (column) => chosen.indexOf(column) !== reading.columns.indexOf(column),
  );
  return withCounts(rows, { ...reading, columns: [...chosen] }, image, moved);
}

/** Guesses what the numbers of these columns count. */
function withCounts(
  rows: string[][],
  reading: TableReading,
  image: TableImage,
  of: readonly ('address' | 'length')[],
): TableReading {
  const { headed, columns: chosen } = reading;
  const heading = (column: Column) => (headed ? (rows[0]?.[chosen.indexOf(column)] ?? '').toLowerCase() : '');
  const body = headed ? rows.slice(1) : rows;
  const counted = {
    ...reading,
    ...(of.includes('length') ? { lengthUnit: unitIn(heading('length')) ?? lengthUnitOf(body, chosen) } : {}),
    ...(of.includes('address') ? { addressUnit: unitIn(heading('address')) ?? ('byte' as const) } : {}),
  };
  return of.includes('address')
    ? { ...counted, ...guessBase(rows, counted, image, heading('address')) }
    : counted;
}

/** A column `signal` of numbers holds no names but addresses; the names stand in the next one that says so. */
function numbersAsAddresses(
  headings: string[],
  body: string[][],
  chosen: (Column | null)[],
): (Column | null)[] {
  const place = chosen.indexOf('name');
  const numbers = place >= 0 && share(cellsOf(body, place), (cell) => /^\d+$/.test(cell)) > 0.8;
  if (!numbers || chosen.includes('address')) return chosen;
  const name = headings.findIndex((h, i) => i !== place && columns.name.heads.test(h.trim().toLowerCase()));
  return chosen.map((column, i) => (i === place ? 'address' : i === name ? 'name' : column));
}

/** What the heading of a column of numbers says that they count. */
export const unitIn = (heading: string): TableUnit | undefined =>
  /point|signal|\bbits?\b(?!.*from)/.test(heading) && !/byte|word/.test(heading)
    ? 'bit'
    : /dword|double/.test(heading)
      ? 'dword'
      : /word|register|element|\bint(eger)?\b/.test(heading)
        ? 'word'
        : /byte|octet/.test(heading)
          ? 'byte'
          : undefined;

function guessByContent(body: string[][], width: number): (Column | null)[] {
  const taken = new Set<Column>();
  const tests: [Column, (cell: string) => boolean][] = [
    ['type', (c) => typeEntry(c) !== undefined],
    ['address', (c) => addressEntry(c) !== undefined],
    ['length', (c) => /^\d{1,4}$/.test(c)],
    ['factor', (c) => ratioEntry(c) !== undefined],
    ['name', (c) => /[a-z]{2}/i.test(c)],
    ['unit', (c) => /^[°%µa-zA-Z/²³·]{1,8}$/.test(c)],
    ['note', (c) => c.length > 0],
  ];
  return Array.from({ length: width }, (_, i) => {
    const cells = cellsOf(body, i);
    const found = tests.find(([column, test]) => !taken.has(column) && share(cells, test) > 0.8);
    if (found) taken.add(found[0]);
    return found?.[0] ?? null;
  });
}

/** Lengths that fit the types of their rows say what they count. */
function lengthUnitOf(body: string[][], chosen: (Column | null)[]): TableUnit {
  const [length, type] = [chosen.indexOf('length'), chosen.indexOf('type')];
  const fits = (unit: TableUnit) =>
    body.filter((row) => {
      const entry = typeEntry(row[type] ?? '');
      const bits = entry && fieldTypes[entry.type].bits;
      return bits !== undefined && Number(row[length]) * tableUnits[unit] === bits;
    }).length;
  const units = ['byte', 'bit', 'word'] as const;
  return units.reduce((best, unit) => (fits(unit) > fits(best) ? unit : best));
}

/** The base that leaves every row inside the image: 0 if it does, then 1, then the least address of the table. */
function guessBase(
  rows: string[][],
  reading: TableReading,
  image: TableImage,
  heading: string,
): Pick<TableReading, 'base' | 'reason'> & Partial<Pick<TableReading, 'addressUnit'>> {
  if (/from 0/.test(heading)) return { base: 0, reason: 'The heading says so.' };
  if (/from 1/.test(heading)) return { base: 1, reason: 'The heading says so.' };
  const place = reading.columns.indexOf('address');
  const body = reading.headed ? rows.slice(1) : rows;
  const units = cellsOf(body, place).map((c) => addressEntry(c)?.unit ?? NaN);
  const minimum = Math.min(...units.filter(Number.isFinite));
  if (place < 0 || !Number.isFinite(minimum)) return { base: 0, reason: 'There is no address column.' };
  const numbers = units.filter(Number.isFinite);
  if (numbers.filter((n) => bitOfSignal(image.numbering, n) !== undefined).length > 0.8 * numbers.length)
    return { base: 0, addressUnit: 'signal', reason: 'They lie in the signal ranges of the image.' };
  const width = tableUnits[reading.addressUnit];
  const maximum = Math.max(...units.filter(Number.isFinite));
  const fits = (base: number) => minimum >= base && (maximum - base) * width < image.size * 8;
  if (minimum === 0) return { base: 0, reason: 'The lowest address is 0.' };
  if (minimum === 1 && fits(1)) return { base: 1, reason: 'The lowest address is 1.' };
  if (fits(0)) return { base: 0, reason: `All addresses up to ${maximum} fit when counted from 0.` };
  return {
    base: minimum,
    reason: `The lowest address is ${minimum}; counted from 0 the table would not fit.`,
  };
}
