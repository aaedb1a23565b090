import type { Field } from '../layout/field.js';
import type { Group, Image } from '../layout/image.js';
import { groupsAround } from '../layout/signals.js';
import { columnNames, columns, type Column } from './columns.js';
import { written } from './cells.js';

const nameOf = (image: Image, fieldId: string) => image.fields.find((f) => f.id === fieldId)?.name ?? '';

function signText(image: Image, { sign }: Field): string {
  if (!sign) return '';
  if (sign.way === 'offset') return 'offset binary';
  if (sign.way === 'complement') return 'two’s complement';
  return `${sign.inverted ? 'not ' : ''}${nameOf(image, sign.field)}.${sign.bit}`;
}

function decimalsText(image: Image, { decimals }: Field): string {
  if (!decimals) return '';
  if (decimals.way === 'fixed') return String(decimals.places);
  if (decimals.way === 'field') return `from ${nameOf(image, decimals.field)}`;
  return `${decimals.places} by ${decimals.parameter}`;
}

const groupText = ({ name, count, stride, first }: Group) => `${name} ${first} × ${count} every ${stride}`;

const entry: Record<Exclude<Column, 'bit'>, (image: Image, field: Field) => string> = {
  name: (_, f) => f.name,
  address: (_, f) => `${f.at >> 3}.${f.at & 7}`,
  length: (_, f) => String(f.bits),
  type: (_, f) => f.type,
  order: (_, f) => f.order ?? '',
  factor: (_, f) => f.scale?.factor ?? '',
  add: (_, f) => f.scale?.offset ?? '',
  decimals: decimalsText,
  unit: (_, f) => f.unit,
  minimum: (_, f) => f.limits?.minimum ?? '',
  maximum: (_, f) => f.limits?.maximum ?? '',
  labels: (_, f) => written.labels(f),
  bitLabels: (_, f) => written.bitLabels(f),
  specials: (_, f) => written.specials(f),
  sign: signText,
  normallyClosed: (_, f) => written.yes(f.normallyClosed),
  safety: (_, f) => written.yes(f.safety),
  array: (_, f) => written.array(f),
  group: (image, f) => groupsAround(image, f.group).map(groupText).join(' / '),
  text: (_, f) => written.text(f),
  radix: (_, f) => (f.radix === 'decimal' ? '' : f.radix),
  note: (_, f) => f.note,
  role: (_, f) => written.role(f),
  bitRoles: (_, f) => written.bitRoles(f),
  sourceName: (_, f) => f.sourceName,
};

const tableColumns = columnNames.filter((c) => c !== 'bit') as (keyof typeof entry)[];

/**
 * The fields of an image as a table, titles first, a row a field in order of place; readTable takes it back as it was.
 */
export function fieldTable(image: Image): string[][] {
  const rows = [...image.fields].sort((a, b) => a.at - b.at);
  return [
    tableColumns.map((c) => columns[c].title),
    ...rows.map((field) => tableColumns.map((c) => entry[c](image, field))),
  ];
}
