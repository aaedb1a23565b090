import { byteOrders, Field, radixes, type ByteOrder } from '../layout/field.js';
import { Group, type Image } from '../layout/image.js';
import { fieldTypes } from '../layout/fieldTypes.js';
import { bitOfSignal } from '../layout/readAddress.js';
import { typeForRun } from '../layout/placement.js';
import { roleEntry } from '../layout/role.js';
import { addressEntry, bitEntry, bitRolesEntry, lengthEntry, ratioEntry, typeEntry } from './cells.js';
import { noteWith, readLabels } from './labels.js';
import { columns, unusedHeadings, type Column } from './columns.js';
import { maxRows, tableUnits, type TableReading } from './guessReading.js';

export interface ReadTable {
  fields: Field[];
  groups: Group[];
  /** Rows that could not be taken, counted from 1 as in the pasted text. */
  bad: { row: number; text: string; reason: string }[];
  /** Cells that were not understood in rows that were taken. */
  unread: { row: number; text: string; reason: string }[];
  /** Columns that hold something and were taken for nothing. */
  unused: string[];
}

/** A row of a table, and how it is read for an image. */
export interface Scene {
  reading: TableReading;
  order: ByteOrder;
  image: Pick<Image, 'numbering'>;
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

/**
 * Where in an image a row says that it lies, and over how many bits if it says that; `next` without a column of
 * addresses. A text: why not.
 */
export function placeInImage(scene: Scene, next = 0): { at: number; bits: number | undefined } | string {
  const { reading } = scene;
  const text = cell(scene, 'address');
  if (reading.columns.indexOf('address') < 0) return { at: next, bits: undefined };
  const address = addressEntry(text);
  if (!address) return text ? `"${text}" is no address` : 'it has no address';
  if (reading.addressUnit === 'signal') {
    const at = bitOfSignal(scene.image.numbering, address.unit);
    return at === undefined ? `no signal range of the image has ${address.unit}` : { at, bits: 1 };
  }
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
  image: Pick<Image, 'size' | 'order' | 'groups'> & Partial<Pick<Image, 'numbering'>>,
  newId: () => string,
): ReadTable {
  const result: ReadTable = {
    fields: [],
    groups: [...image.groups],
    bad: [],
    unread: [],
    unused: unusedHeadings(rows, reading),
  };
  const wanted: { field: Field; scene: Scene }[] = [];
  let next = 0;
  const body = reading.headed ? rows.slice(1) : rows;
  body.slice(0, maxRows).forEach((row, i) => {
    const rowNumber = i + (reading.headed ? 2 : 1);
    if (row.every((c) => c === '')) return;
    const scene: Scene = {
      reading,
      order: image.order ?? 'little',
      image: { numbering: image.numbering ?? null },
      row,
      rowNumber,
    };
    const field = fieldOf(scene, next, result.groups, newId);
    if (typeof field === 'string') {
      result.bad.push({ row: rowNumber, text: row.join(' | ').slice(0, 120), reason: field });
      return;
    }
    for (const reason of unreadCells(scene, field))
      result.unread.push({ row: rowNumber, text: field.name, reason });
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
  const place = placeInImage(scene, next);
  if (typeof place === 'string') return place;
  if (place.at < 0) return `its address lies before the first one, ${scene.reading.base}`;
  const typeText = cell(scene, 'type');
  const type = typeText ? typeEntry(typeText) : undefined;
  if (typeText && !type) return `"${typeText}" is no known type`;
  const lengthText = cell(scene, 'length');
  const stated = lengthText ? lengthEntry(lengthText) : undefined;
  if (lengthText && !stated) return `"${lengthText}" is no length`;
  // `3x16` counts bits, whatever the column counts: the second number is the size of an element.
  const unit = stated && stated.count > 1 && stated.each >= 8 ? 1 : tableUnits[scene.reading.lengthUnit];
  const length = stated && stated.each * unit * stated.count;
  const fixed = type && fieldTypes[type.type].bits;
  const counted = type?.count === undefined ? undefined : type.count * bitsPerCount(type.type);
  const bits =
    fixed ??
    counted ??
    (stated && stated.each * unit) ??
    place.bits ??
    (typeText ? undefined : defaultBits(scene));
  if (bits === undefined) return `${typeText} needs a length`;
  const elements =
    type?.elements ??
    (stated && stated.count > 1
      ? stated.count
      : fixed && length && length > fixed && length % fixed === 0
        ? length / fixed
        : 1);
  if (fixed && length && length !== fixed * elements)
    return `${typeText} has ${fixed} bits, but the length says ${length}`;
  const aligned = type?.type === undefined ? typeForRun(place.at, bits) : type.type;
  const scaled = scaleEntry(scene);
  if (typeof scaled === 'string') return scaled;
  const labels = readLabels(cell(scene, 'labels'));
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
    labels: labels.labels,
    bitLabels: readLabels(cell(scene, 'bitLabels')).labels.map((l) => ({ bit: l.value, text: l.text })),
    specials: readLabels(cell(scene, 'specials')).labels.map((l) => ({ value: l.value, means: l.text })),
    normallyClosed: /^(yes|1|x|true)$/i.test(cell(scene, 'normallyClosed')),
    safety: /^(yes|1|x|true)$/i.test(cell(scene, 'safety')),
    radix: oneOf(radixes, cell(scene, 'radix')) ?? 'decimal',
    note: noteWith(cell(scene, 'note'), labels.unread),
    sourceName: cell(scene, 'sourceName'),
    role: roleEntry(cell(scene, 'role')) ?? null,
    bitRoles: bitRolesEntry(cell(scene, 'bitRoles')),
    sign: /^offset binary$/i.test(cell(scene, 'sign'))
      ? { way: 'offset' }
      : /^two['’]s complement$/i.test(cell(scene, 'sign'))
        ? { way: 'complement' }
        : null,
  });
  if (parsed.success) return parsed.data;
  const [issue] = parsed.error.issues;
  return `${issue?.path.join('.') || 'it'} ${issue?.message ?? 'cannot be read'}`;
}

/** What the cells of a row say beside name, place and type, and the field has nothing of. */
function unreadCells(scene: Scene, field: Field): string[] {
  const empty: Partial<Record<Column, boolean>> = {
    order: field.order === null,
    array: field.array === null,
    group: field.group === null,
    text: field.text === null,
    minimum: field.limits?.minimum == null,
    maximum: field.limits?.maximum == null,
    bitLabels: field.bitLabels.length === 0,
    specials: field.specials.length === 0,
    normallyClosed: !field.normallyClosed && !/^(no|0|false|-)?$/i.test(cell(scene, 'normallyClosed')),
    safety: !field.safety && !/^(no|0|false|-)?$/i.test(cell(scene, 'safety')),
    radix: field.radix === 'decimal' && !/^(decimal)?$/i.test(cell(scene, 'radix')),
  };
  return (Object.keys(empty) as Column[])
    .filter((column) => empty[column] && cell(scene, column) && cell(scene, column) !== '-')
    .map((column) => `"${cell(scene, column)}" was not understood as ${columns[column].title}`);
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
  const minimum = ratioEntry(cell(scene, 'minimum')) ?? null;
  const maximum = ratioEntry(cell(scene, 'maximum')) ?? null;
  return minimum === null && maximum === null ? null : { minimum, maximum };
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
