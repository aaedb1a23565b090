import { byteOrders } from '../layout/field.js';
import type { RegisterTable } from '../layout/registerTables.js';
import { Parameter, ParameterPlace, retentions } from '../devices/parameter.js';
import { fieldTypes, limitsOf, readsOf, type FieldType } from '../layout/fieldTypes.js';
import { parseExpression } from '../layout/expression.js';
import { ratio } from '../layout/ratio.js';
import { Problem } from '../messages/problem.js';
import { roleEntry } from '../layout/role.js';
import { addressEntry, ratioEntry, typeEntry, wholeEntry } from './cells.js';
import { noteWith, readLabels } from './labels.js';
import { columnOfHeading, headedColumns, unusedHeadings } from './columns.js';
import { maxRows, tableUnits, unitIn, type TableUnit } from './guessReading.js';
import { parameterColumns, type ParameterColumn } from './parameterColumns.js';
import { readKey } from './parameterKey.js';
import { readPlace, valueAttributeOf } from './parameterPlace.js';

/** How a table of parameters is to be read; guessed first, then as the reader corrects it. */
export interface ParameterReading {
  /** Whether the first row holds headings. */
  headed: boolean;
  /** One entry a column; null: not used. */
  columns: (ParameterColumn | null)[];
  /** Which table of a Modbus device the register column names, and the number that its first register has there. */
  registers: RegisterTable;
  base: number;
  /** What rows without a class, or without an attribute, are objects of; null: not known, and they are asked about. */
  objectClass: number | null;
  attribute: number | null;
  /**
   * How a maker maps the numbers of a code, `menu` and `number` of 6.10, onto the instance and the attribute of the
   * class; empty: codes say no place.
   */
  instanceOf: string;
  attributeOf: string;
  lengthUnit: TableUnit;
  /** Where no factor is given: values are written with the point that the raw number lacks, so 15.0 is 150. */
  pointAsWritten: boolean;
}

export interface ReadParameters {
  parameters: Parameter[];
  /** Rows that could not be taken, counted from 1 as in the pasted text. */
  bad: { row: number; text: string; reason: string }[];
  /** Columns that hold something and were taken for nothing. */
  unused: string[];
}

const cellOf = (reading: ParameterReading, row: string[], column: ParameterColumn) =>
  (row[reading.columns.indexOf(column)] ?? '').trim();
const bodyOf = (rows: string[][], headed: boolean) => (headed ? rows.slice(1) : rows);

/**
 * Numbers by which manuals count registers: the tables of the Modbus data model in five and six digits; common
 * practice.
 */
const references: { base: number; last: number; table: RegisterTable }[] = [
  { base: 400_001, last: 465_536, table: 'holding' },
  { base: 300_001, last: 365_536, table: 'input' },
  { base: 40_001, last: 49_999, table: 'holding' },
  { base: 30_001, last: 39_999, table: 'input' },
];

/** The most likely reading of a table of parameters. Without headings only the texts tell what a column is. */
export function guessParameters(rows: string[][]): ParameterReading {
  const { headed, columns } = headedColumns(rows, parameterColumns, ['subindex']);
  const body = bodyOf(rows, headed);
  const chosen = headed ? columns : columns.map((_, i) => contentOf(body, i, columns.length));
  const unique = chosen.map((c, i) => (chosen.indexOf(c) === i ? c : null));
  const reading: ParameterReading = {
    headed,
    columns: unique,
    registers: 'holding',
    base: 0,
    objectClass: null,
    attribute: null,
    instanceOf: '',
    attributeOf: '',
    lengthUnit: unitIn(headed ? (rows[0]?.[unique.indexOf('length')] ?? '').toLowerCase() : '') ?? 'bit',
    pointAsWritten: !unique.includes('factor'),
  };
  const registers = body.flatMap((row) => addressEntry(cellOf(reading, row, 'register'))?.unit ?? []);
  const counted = references.find(
    ({ base, last }) => registers.length > 0 && registers.every((r) => r >= base && r <= last),
  );
  return counted ? { ...reading, base: counted.base, registers: counted.table } : reading;
}

/** The first text column is the name, a later one a note; a number with a unit is what it is at first. */
function contentOf(body: string[][], column: number, width: number): ParameterColumn | null {
  const cells = body.map((row) => row[column] ?? '').filter(Boolean);
  const most = (test: (cell: string) => boolean) => cells.filter(test).length > 0.8 * cells.length;
  if (cells.length === 0) return null;
  if (most((c) => typeEntry(c) !== undefined)) return 'type';
  if (most((c) => accessEntry(c) !== undefined)) return 'access';
  if (most((c) => rangeEntry(c) !== undefined)) return 'range';
  if (most((c) => columnOfHeading(c, parameterColumns) === undefined && /^[a-z]{0,3}[\d.-]+$/i.test(c)))
    return column === 0 ? 'code' : column === width - 1 ? null : 'initial';
  if (most((c) => valueEntry(c) !== undefined)) return 'initial';
  return most((c) => /\p{L}{2}/u.test(c)) ? (column < 2 ? 'name' : 'note') : null;
}

interface ValueEntry {
  /** As a Ratio. */
  value: string;
  unit: string;
}

/** `15.0 s`, `-10`, `0,1`: a number, and the unit behind it if there is one; undefined for any other text. */
function valueEntry(text: string): ValueEntry | undefined {
  const match = /^([-−+]?[\d.,/]+)\s*(\S{0,16})$/.exec(text.trim());
  const value = match && ratioEntry(match[1]!.replace(/^\+/, ''));
  return value && !/^\d/.test(match[2]!) ? { value, unit: match[2]! } : undefined;
}

/** `0.0 to 650.0 s`, `0…100 %`, `-10..10`, `5 – 60`. */
function rangeEntry(text: string): { minimum: ValueEntry; maximum: ValueEntry } | undefined {
  const ends = text.trim().split(/\s*(?:\.{2,}|…|\bto\b|\bbis\b|~|–|(?<=\d\s?)-(?=\s?[\d-]))\s*/);
  const [minimum, maximum] = ends.map(valueEntry);
  return ends.length === 2 && minimum && maximum ? { minimum, maximum } : undefined;
}

function accessEntry(text: string): Parameter['access'] | undefined {
  const plain = text.toLowerCase().replace(/[\s/_-]+/g, '');
  if (/^(rw|readwrite|readandwrite|wr)$/.test(plain)) return 'read-write';
  if (/^(r|ro|read|readonly)$/.test(plain)) return 'read';
  return /^(w|wo|write|writeonly)$/.test(plain) ? 'write' : undefined;
}

/** The parameters of the rows, as the reading says; rows that make none are listed with the reason. */
export function readParameters(
  rows: string[][],
  reading: ParameterReading,
  newId: () => string,
): ReadParameters {
  const result: ReadParameters = { parameters: [], bad: [], unused: unusedHeadings(rows, reading) };
  const body = bodyOf(rows, reading.headed);
  let group = '';
  body.slice(0, maxRows).forEach((row, i) => {
    const filled = row.filter((cell) => cell.trim() !== '');
    if (filled.length === 0) return;
    // A row with one text between the others is a heading of the manual.
    if (filled.length === 1 && row.length > 2 && !reading.columns.includes('group')) {
      group = filled[0]!.trim().slice(0, 64).trim();
      return;
    }
    const parameter = parameterOf(reading, row, group, newId);
    if (typeof parameter !== 'string') result.parameters.push(parameter);
    else
      result.bad.push({
        row: i + (reading.headed ? 2 : 1),
        text: row.join(' | ').slice(0, 120),
        reason: parameter,
      });
  });
  if (body.length > maxRows)
    result.bad.push({ row: maxRows + 1, text: '', reason: `only the first ${maxRows} rows are read` });
  return result;
}

function parameterOf(
  reading: ParameterReading,
  row: string[],
  group: string,
  newId: () => string,
): Parameter | string {
  const cell = (column: ParameterColumn) => cellOf(reading, row, column);
  const whole = wholeName(cell('whole'));
  const name = whole.name || cell('name') || cell('code');
  if (!name) return 'it has no name';
  const place = placeOf(reading, cell);
  if (typeof place === 'string') return place;
  const values = valuesOf(cell);
  if (typeof values === 'string') return values;
  const { minimum, maximum, initial, unit } = values;
  const numbers = [minimum, maximum, initial].flatMap((v) => (v === null ? [] : v));
  const factorText = cell('factor');
  const factor = factorText ? ratioEntry(factorText) : '1';
  if (factor === undefined) return `"${factorText}" is no factor`;
  const offset = ratioEntry(cell('add') || '0');
  if (offset === undefined) return `"${cell('add')}" is no number to add`;

  const typeText = cell('type');
  const stated = typeText ? typeEntry(typeText) : undefined;
  if (typeText && !stated) return `"${typeText}" is no known type`;
  const float = stated !== undefined && readsOf(stated) === 'float';
  const places = Math.max(0, ...numbers.map((v) => /\.(\d+)$/.exec(v)?.[1]?.length ?? 0));
  const written = reading.pointAsWritten && !factorText && places > 0 && !float;
  const scale = written
    ? { factor: `1/1${'0'.repeat(places)}`, offset }
    : factor === '1' && offset === '0' && !cell('add')
      ? null
      : { factor, offset };
  const raw = numbers.map((v) =>
    ratio(v)
      .sub(ratio(offset))
      .div(ratio(scale?.factor ?? '1'))
      .valueOf(),
  );
  const lengthText = cell('length');
  const run = registersOf(cell('register'));
  const length = lengthText ? Number(lengthText) * tableUnits[reading.lengthUnit] : run && run * 16;
  if (length !== undefined && !(Number.isInteger(length) && length > 0))
    return `"${lengthText}" is no length`;
  const type = stated?.type ?? typeFor(raw, length);
  const fixed = fieldTypes[type].bits;
  if (fixed !== undefined && length !== undefined && length !== fixed)
    return `${typeText || type} has ${fixed} bits, but the length says ${length}`;
  const perCount = type === 'BCD' ? 4 : type === 'BITS' ? 1 : 8;
  const bits = fixed ?? (stated?.count === undefined ? length : stated.count * perCount);
  if (bits === undefined) return `${typeText} needs a length`;

  const accessText = cell('access');
  const access = accessText ? accessEntry(accessText) : 'read-write';
  if (!access) return `"${accessText}" is no access: read-write, read or write`;
  const orderText = cell('order');
  const order = orderText ? byteOrders.find((o) => o === orderText) : null;
  if (order === undefined) return `"${orderText}" is no byte order: ${byteOrders.join(', ')}`;
  const labels = readLabels(cell('labels'));
  const role = cell('role') ? roleEntry(cell('role')) : null;
  if (role === undefined) return `"${cell('role')}" is no role`;
  const key = cell('key') ? readKey(cell('key')) : null;
  if (key === undefined) return `"${cell('key')}" is no key such as: 2 = 1234`;
  const retainedText = cell('retained').toLowerCase();
  const retained = retainedText ? retentions.find((r) => r === retainedText) : null;
  if (retained === undefined) return `"${cell('retained')}" is none of: ${retentions.join(', ')}`;
  const parsed = Parameter.safeParse({
    id: newId(),
    code: whole.code || cell('code'),
    name,
    group: whole.group || cell('group') || group,
    place,
    type,
    bits,
    order,
    access,
    scale,
    unit,
    limits: minimum === null && maximum === null ? null : { minimum, maximum },
    initial,
    labels: labels.labels,
    note: noteWith(cell('note'), labels.unread),
    ...{ role, key, retained },
    planned: cell('planned') || null,
    decimals: cell('decimals') || null,
    stopFirst: saysYes(cell('stopFirst')),
    afterRestart: saysYes(cell('afterRestart')),
  });
  if (parsed.success) return parsed.data;
  const [issue] = parsed.error.issues;
  return `${issue?.path.join('.') || 'it'} ${issue?.message ?? 'cannot be read'}`;
}

const saysYes = (text: string): boolean => /^(yes|x|true|1|ja)$/i.test(text);

/** `Motor / 1-20 / power`: group, code and name in one cell; a name may have slashes of its own. */
function wholeName(text: string): { group: string; code: string; name: string } {
  const [group = '', code = '', ...name] = text.split(/\s*[/|]\s*/);
  if (name.length > 0) return { group: group.slice(0, 64), code: code.slice(0, 20), name: name.join('/') };
  return code ? { group: '', code: group.slice(0, 20), name: code } : { group: '', code: '', name: group };
}

/** Registers of a run such as 40112-40113; undefined for a single one. */
function registersOf(text: string): number | undefined {
  const { unit, lastUnit } = addressEntry(text) ?? {};
  return unit === undefined || lastUnit === undefined || lastUnit < unit ? undefined : lastUnit - unit + 1;
}

type Cells = (column: ParameterColumn) => string;

/**
 * Instance and attribute by the numbers of a code, as the maker maps them; undefined where that is not said, a text for
 * what is wrong.
 */
function byCode(
  { instanceOf, attributeOf, columns }: ParameterReading,
  code: string,
): { instance: number; attribute: number | undefined } | undefined | string {
  if (instanceOf.trim() === '' || columns.includes('instance')) return undefined;
  const numbers = code.match(/\d+/g)?.map(Number) ?? [];
  const known: Record<string, number | undefined> = { menu: numbers.at(-2), number: numbers.at(-1) };
  const valueOf = (formula: string): number => parseExpression(formula).evaluate((name) => known[name]);
  try {
    const instance = valueOf(instanceOf);
    const attribute = attributeOf.trim() === '' ? undefined : valueOf(attributeOf);
    const right = [instance, attribute ?? 0].every((n) => Number.isInteger(n) && n >= 0 && n <= 0xffff);
    return right ? { instance, attribute } : `code "${code}" has no instance and attribute by the formula`;
  } catch (error) {
    if (!(error instanceof Problem)) throw error;
    return error.message;
  }
}

/** Where the columns say that it is; null where they do not. */
function placeOf(reading: ParameterReading, cell: Cells): ParameterPlace | null | string {
  const whole = cell('place');
  if (whole) return readPlace(whole) ?? `"${whole}" is no place such as: class 16#0F instance 3 attribute 1`;
  const number = (column: ParameterColumn, usual?: number) =>
    cell(column) === '' ? usual : wholeEntry(cell(column));
  const register = addressEntry(cell('register'))?.unit;
  const [index, port, pnu] = (['index', 'port', 'pnu'] as const).map((c) => number(c));
  const mapped = byCode(reading, cell('code'));
  if (typeof mapped === 'string') return mapped;
  const instance = number('instance', mapped?.instance);
  for (const column of ['class', 'instance', 'attribute', 'port', 'pnu', 'index', 'subindex'] as const)
    if (cell(column) !== '' && number(column) === undefined) return `"${cell(column)}" is no ${column}`;
  if (cell('register') !== '' && register === undefined) return `"${cell('register')}" is no register`;
  const objectClass = number('class', reading.objectClass ?? undefined);
  const attribute = number(
    'attribute',
    mapped?.attribute ?? reading.attribute ?? valueAttributeOf(objectClass),
  );
  if (instance !== undefined && objectClass === undefined)
    return `the class of instance ${instance} is not said; choose it above`;
  if (instance !== undefined && attribute === undefined)
    return `the attribute of instance ${instance} of class ${objectClass} is not said; choose it above`;
  const place =
    instance !== undefined
      ? { way: 'attribute', class: objectClass, instance, attribute }
      : register !== undefined
        ? { way: 'register', table: reading.registers, start: register - reading.base }
        : index !== undefined
          ? { ...(port ? { way: 'port', port } : { way: 'index' }), index, subindex: number('subindex', 0) }
          : pnu !== undefined
            ? { way: 'pnu', number: pnu, subindex: number('subindex', 0), object: 1 }
            : null;
  if (place === null) return null;
  const parsed = ParameterPlace.safeParse(place);
  if (parsed.success) return parsed.data;
  if (register !== undefined && register < reading.base)
    return `register ${register} lies before the first one, ${reading.base}`;
  return `its ${place.way} is outside of what there is`;
}

function valuesOf(
  cell: Cells,
): { minimum: string | null; maximum: string | null; initial: string | null; unit: string } | string {
  const range = cell('range') ? rangeEntry(cell('range')) : undefined;
  const of = (column: 'minimum' | 'maximum' | 'initial') => {
    const text = cell(column);
    return { text, entry: text ? valueEntry(text) : undefined };
  };
  const [minimum, maximum, initial] = [of('minimum'), of('maximum'), of('initial')];
  for (const { text, entry } of [minimum, maximum]) if (text && !entry) return `"${text}" is no limit`;
  // Manuals also write `depends on the motor`: that is no value, and no reason to leave the parameter out.
  const entries = [range?.minimum ?? minimum.entry, range?.maximum ?? maximum.entry, initial.entry];
  const unit = cell('unit') || entries.map((e) => e?.unit ?? '').find(Boolean) || '';
  return {
    minimum: entries[0]?.value ?? null,
    maximum: entries[1]?.value ?? null,
    initial: entries[2]?.value ?? null,
    unit,
  };
}

/** The smallest integer of 16 bits or more, or of the length that is given, that holds these numbers. */
function typeFor(raw: readonly number[], length: number | undefined): FieldType {
  const types = (['UINT', 'INT', 'UDINT', 'DINT', 'USINT', 'SINT', 'ULINT', 'LINT'] as const).filter(
    (type) => length === undefined || fieldTypes[type].bits === length,
  );
  const holds = (type: FieldType) => {
    const { minimum, maximum } = limitsOf(type, fieldTypes[type].bits!);
    return raw.every((n) => Number.isInteger(n) && n >= Number(minimum) && n <= Number(maximum));
  };
  return types.find(holds) ?? (length !== undefined ? 'BYTES' : 'REAL');
}
