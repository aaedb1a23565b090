import Papa from 'papaparse';
import { byteOrders, Field, radixes, type ByteOrder } from '../cell/field.js';
import { Group, type Image } from '../cell/image.js';
import { fieldTypes } from '../layout/fieldTypes.js';
import { typeForRun } from '../layout/placement.js';
import { addressEntry, bitEntry, labelEntries, ratioEntry, typeEntry } from './cells.js';
import { columnOfHeading, type Column } from './columns.js';

/** What the numbers of an address or a length column count. */
export const tableUnits = { bit: 1, byte: 8, word: 16, dword: 32 } as const;
export type TableUnit = keyof typeof tableUnits;

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

export interface ReadTable {
  fields: Field[];
  groups: Group[];
  /** Rows that could not be taken, counted from 1 as in the pasted text. */
  bad: { row: number; text: string; reason: string }[];
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
export function guessReading(rows: string[][], image: Pick<Image, 'size' | 'order'>): TableReading {
  const first = rows[0] ?? [];
  const named = first.map((heading) => columnOfHeading(heading) ?? null);
  const headed =
    named.filter(Boolean).length >= 2 || (named.some(Boolean) && !first.some((c) => /^\d/.test(c)));
  const body = headed ? rows.slice(1) : rows;
  const width = Math.max(0, ...rows.map((r) => r.length));
  const guessed: (Column | null)[] = headed
    ? Array.from({ length: width }, (_, i) => named[i] ?? null)
    : guessByContent(body, width);
  const chosen = guessed.map((column, i) => (guessed.indexOf(column) === i ? column : null));
  const heading = (column: Column) => (headed ? (first[chosen.indexOf(column)] ?? '').toLowerCase() : '');
  const addressUnit = unitIn(heading('address')) ?? 'byte';
  const reading: TableReading = {
    headed,
    columns: chosen,
    addressUnit,
    base: 0,
    lengthUnit: unitIn(heading('length')) ?? lengthUnitOf(body, chosen),
    reason: '',
  };
  return { ...reading, ...guessBase(rows, reading, image, heading('address')) };
}

const unitIn = (heading: string): TableUnit | undefined =>
  /point|signal|\bbits?\b(?!.*from)/.test(heading) && !/byte|word/.test(heading)
    ? 'bit'
    : /dword|double/.test(heading)
      ? 'dword'
      : /word|register/.test(heading)
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
  image: Pick<Image, 'size' | 'order'>,
  heading: string,
): Pick<TableReading, 'base' | 'reason'> {
  if (/from 0/.test(heading)) return { base: 0, reason: 'The heading says so.' };
  if (/from 1/.test(heading)) return { base: 1, reason: 'The heading says so.' };
  const place = reading.columns.indexOf('address');
  const body = reading.headed ? rows.slice(1) : rows;
  const units = cellsOf(body, place).map((c) => addressEntry(c)?.unit ?? NaN);
  const least = Math.min(...units.filter(Number.isFinite));
  if (place < 0 || !Number.isFinite(least)) return { base: 0, reason: 'There is no address column.' };
  const width = tableUnits[reading.addressUnit];
  const most = Math.max(...units.filter(Number.isFinite));
  const fits = (base: number) => least >= base && (most - base) * width < image.size * 8;
  if (least === 0) return { base: 0, reason: 'The least address is 0.' };
  if (least === 1 && fits(1)) return { base: 1, reason: 'The least address is 1.' };
  if (fits(0)) return { base: 0, reason: `All addresses up to ${most} fit when counted from 0.` };
  return { base: least, reason: `The least address is ${least}; counted from 0 the table would not fit.` };
}

interface Scene {
  reading: TableReading;
  order: ByteOrder;
  row: string[];
  rowNumber: number;
}

const cell = ({ reading, row }: Scene, column: Column) => (row[reading.columns.indexOf(column)] ?? '').trim();

/** First bit and, where the address says it, length of a run of bits `from` to `to` in a unit. */
function bitsInUnit(scene: Scene, unit: number, from: number, to: number): number {
  const bytes = tableUnits[scene.reading.addressUnit] / 8;
  const start = (unit - scene.reading.base) * bytes;
  // In a unit whose high byte comes first, the low bits lie in its last byte.
  const byte =
    scene.order.startsWith('big') && bytes > 1 ? start + bytes - 1 - (to >> 3) : start + (from >> 3);
  return byte * 8 + (from & 7);
}

function placeOf(scene: Scene, next: number): { at: number; bits: number | undefined } | string {
  const { reading } = scene;
  const text = cell(scene, 'address');
  if (reading.columns.indexOf('address') < 0) return { at: next, bits: undefined };
  const address = addressEntry(text);
  if (!address) return text ? `"${text}" is no address` : 'it has no address';
  if (reading.addressUnit === 'bit') return { at: address.unit - reading.base, bits: undefined };
  const width = tableUnits[reading.addressUnit];
  const column = bitEntry(cell(scene, 'bit'));
  if (cell(scene, 'bit') && !column) return `"${cell(scene, 'bit')}" is no bit number`;
  const first = column?.first ?? address.bit;
  if (first === undefined) {
    const units = address.lastUnit === undefined ? undefined : address.lastUnit - address.unit + 1;
    if (units !== undefined && units < 1) return `"${text}" ends before it begins`;
    return { at: (address.unit - reading.base) * width, bits: units && units * width };
  }
  const last = column?.last ?? address.lastBit;
  if (Math.max(first, last ?? 0) >= width)
    return `a ${reading.addressUnit} has no bit ${Math.max(first, last ?? 0)}`;
  const alone = column ? column.last === column.first : last === undefined;
  const at = bitsInUnit(scene, address.unit, first, last ?? first);
  return { at, bits: alone ? undefined : last! - first + 1 };
}

/** Fields of the rows, as the reading says; rows that make none are listed with the reason. */
export function readTable(
  rows: string[][],
  reading: TableReading,
  image: Pick<Image, 'size' | 'order' | 'groups'>,
  newId: () => string,
): ReadTable {
  const result: ReadTable = { fields: [], groups: [...image.groups], bad: [] };
  const wanted: { field: Field; scene: Scene }[] = [];
  let next = 0;
  const body = reading.headed ? rows.slice(1) : rows;
  body.slice(0, maxRows).forEach((row, i) => {
    const rowNumber = i + (reading.headed ? 2 : 1);
    if (row.every((c) => c === '')) return;
    const scene: Scene = { reading, order: image.order ?? 'little', row, rowNumber };
    const field = fieldOf(scene, next, result.groups, newId);
    if (typeof field === 'string') {
      result.bad.push({ row: rowNumber, text: row.join(' | ').slice(0, 120), reason: field });
      return;
    }
    next = field.at + field.bits;
    wanted.push({ field, scene });
  });
  if (body.length > maxRows)
    result.bad.push({ row: maxRows + 1, text: '', reason: `only the first ${maxRows} rows are read` });
  // Signs and decimal points name fields that may stand further down.
  const ids = new Map(wanted.map(({ field }) => [field.name.toLowerCase(), field.id]));
  for (const { field, scene } of wanted) {
    const linked = linkedFields(field, scene, ids);
    if (typeof linked !== 'string') result.fields.push(linked);
    else result.bad.push({ row: scene.rowNumber, text: scene.row.join(' | ').slice(0, 120), reason: linked });
  }
  return result;
}

function fieldOf(scene: Scene, next: number, groups: Group[], newId: () => string): Field | string {
  const name = cell(scene, 'name');
  if (!name) return 'it has no name';
  const place = placeOf(scene, next);
  if (typeof place === 'string') return place;
  if (place.at < 0) return `its address lies before the first one, ${scene.reading.base}`;
  const typeText = cell(scene, 'type');
  const type = typeText ? typeEntry(typeText) : undefined;
  if (typeText && !type) return `"${typeText}" is no known type`;
  const lengthText = cell(scene, 'length');
  const length = lengthText ? Number(lengthText) * tableUnits[scene.reading.lengthUnit] : undefined;
  if (length !== undefined && !(Number.isInteger(length) && length > 0))
    return `"${lengthText}" is no length`;
  const fixed = type && fieldTypes[type.type].bits;
  const counted = type?.count === undefined ? undefined : type.count * bitsPerCount(type.type);
  const bits = fixed ?? counted ?? length ?? place.bits ?? (typeText ? undefined : defaultBits(scene));
  if (bits === undefined) return `${typeText} needs a length`;
  const elements =
    type?.elements ?? (fixed && length && length > fixed && length % fixed === 0 ? length / fixed : 1);
  if (fixed && length && length !== fixed * elements)
    return `${typeText} has ${fixed} bits, but the length says ${length}`;
  const aligned = type?.type === undefined ? typeForRun(place.at, bits) : type.type;
  const scaled = scaleEntry(scene);
  if (typeof scaled === 'string') return scaled;
  const parsed = Field.safeParse({
    id: newId(),
    name,
    type: aligned,
    at: place.at,
    bits,
    order: oneOf(byteOrders, cell(scene, 'order')) ?? null,
    array: arrayEntry(cell(scene, 'array')) ?? (elements > 1 ? { count: elements, stride: bits } : null),
    group: groupEntry(cell(scene, 'group'), groups, newId),
    text: textEntry(cell(scene, 'text')),
    scale: scaled,
    decimals: plainDecimals(cell(scene, 'decimals')),
    unit: cell(scene, 'unit'),
    limits: limitsEntry(scene),
    labels: labelEntries(cell(scene, 'labels')),
    bitLabels: labelEntries(cell(scene, 'bitLabels')).map((l) => ({ bit: l.value, text: l.text })),
    specials: labelEntries(cell(scene, 'specials')).map((l) => ({ value: l.value, means: l.text })),
    normallyClosed: /^(yes|1|x|true)$/i.test(cell(scene, 'normallyClosed')),
    safety: /^(yes|1|x|true)$/i.test(cell(scene, 'safety')),
    radix: oneOf(radixes, cell(scene, 'radix')) ?? 'decimal',
    note: cell(scene, 'note').slice(0, 200).trim(),
    sign: /^offset binary$/i.test(cell(scene, 'sign')) ? { way: 'offset' } : null,
  });
  if (parsed.success) return parsed.data;
  const [issue] = parsed.error.issues;
  return `${issue?.path.join('.') || 'it'} ${issue?.message ?? 'cannot be read'}`;
}

const bitsPerCount = (type: Field['type']) => (type === 'BCD' ? 4 : type === 'BITS' ? 1 : 8);
/** A bare address of a bit is one bit; a bare unit is one unit. */
const defaultBits = (scene: Scene) =>
  cell(scene, 'bit') || addressEntry(cell(scene, 'address'))?.bit !== undefined
    ? 1
    : tableUnits[scene.reading.addressUnit];

const oneOf = <T extends string>(list: readonly T[], text: string): T | undefined =>
  list.find((t) => t === text);

function scaleEntry(scene: Scene): Field['scale'] | string {
  const [factorText, addText] = [cell(scene, 'factor'), cell(scene, 'add')];
  if (!factorText && !addText) return null;
  const factor = ratioEntry(factorText || '1');
  const offset = ratioEntry(addText || '0');
  if (factor === undefined) return `"${factorText}" is no factor`;
  if (offset === undefined) return `"${addText}" is no number to add`;
  const plain = factor === '1' && offset === '0' && !addText;
  return plain ? null : { factor, offset };
}

function limitsEntry(scene: Scene): Field['limits'] {
  const least = ratioEntry(cell(scene, 'least')) ?? null;
  const most = ratioEntry(cell(scene, 'most')) ?? null;
  return least === null && most === null ? null : { least, most };
}

function arrayEntry(text: string): Field['array'] | undefined {
  const match = /^(\d+) every (\d+)$/.exec(text);
  return match ? { count: Number(match[1]), stride: Number(match[2]) } : undefined;
}

function textEntry(text: string): unknown {
  const match = /^(\d+) (ascii|utf-8) (\d+)$/.exec(text);
  return match ? { prefix: Number(match[1]), encoding: match[2], pad: Number(match[3]) } : null;
}

/** The group that a text such as `channel 1 × 4 every 64` names; one that is not there yet is added. */
function groupEntry(text: string, groups: Group[], newId: () => string): string | null {
  let parent: string | null = null;
  for (const part of text.split(' / ').filter(Boolean)) {
    const match = /^(.+) (\d+) × (\d+) every (\d+)$/.exec(part);
    if (!match) return parent;
    const [, name, first, count, stride] = match;
    const wanted: Group = {
      id: '',
      name: name!,
      count: Number(count),
      stride: Number(stride),
      parent,
      first: Number(first),
    };
    const same = (g: Group) => JSON.stringify({ ...g, id: '' }) === JSON.stringify(wanted);
    const known: Group = groups.find(same) ?? Group.parse({ ...wanted, id: newId() });
    if (!groups.includes(known)) groups.push(known);
    parent = known.id;
  }
  return parent;
}

function plainDecimals(text: string): Field['decimals'] {
  if (/^\d+$/.test(text)) return { way: 'fixed', places: Number(text) };
  const match = /^(\d+) by (.+)$/.exec(text);
  return match ? { way: 'parameter', places: Number(match[1]), parameter: match[2]! } : null;
}

function linkedFields(field: Field, scene: Scene, ids: Map<string, string>): Field | string {
  const signText = cell(scene, 'sign');
  const decimalsText = cell(scene, 'decimals');
  let linked = field;
  if (signText && !field.sign) {
    const match = /^(not )?(.+?)(?:\.(\d+))?$/.exec(signText)!;
    const source = ids.get(match[2]!.toLowerCase());
    if (!source) return `its sign should come from ${match[2]}, which is no field of the table`;
    linked = {
      ...linked,
      sign: { way: 'bit', field: source, bit: Number(match[3] ?? 0), inverted: match[1] !== undefined },
    };
  }
  if (decimalsText && !field.decimals) {
    const match = /^(?:from )?(.+)$/.exec(decimalsText)!;
    const source = ids.get(match[1]!.toLowerCase());
    if (!source) return `its decimals should come from ${match[1]}, which is no field of the table`;
    linked = { ...linked, decimals: { way: 'field', field: source } };
  }
  return linked;
}
