import type { Field } from '@fadenkreuz/core';

/** A field as a row. Entries with parts of their own are JSON. */
export interface FieldRow extends Pick<
  Field,
  | 'id'
  | 'name'
  | 'type'
  | 'at'
  | 'bits'
  | 'array'
  | 'text'
  | 'sign'
  | 'decimals'
  | 'unit'
  | 'limits'
  | 'specials'
  | 'labels'
  | 'safety'
  | 'radix'
  | 'note'
> {
  image_id: string;
  position: number;
  byte_order: Field['order'];
  group_id: string | null;
  scale_factor: string | null;
  scale_add: string | null;
  bit_labels: Field['bitLabels'];
  normally_closed: boolean;
  source_name: string;
  role: Field['role'];
  bit_roles: Field['bitRoles'];
}

export function toFieldRow(field: Field, imageId: string, position: number): FieldRow {
  const { order, group, scale, bitLabels, normallyClosed, sourceName, bitRoles, ...same } = field;
  return {
    image_id: imageId,
    position,
    byte_order: order,
    group_id: group,
    scale_factor: scale?.factor ?? null,
    scale_add: scale?.offset ?? null,
    bit_labels: bitLabels,
    normally_closed: normallyClosed,
    source_name: sourceName,
    bit_roles: bitRoles,
    ...same,
  };
}

/** In the order of the schema: rows are compared as text. */
export const toField = (row: FieldRow): Field => ({
  id: row.id,
  name: row.name,
  type: row.type,
  at: row.at,
  bits: row.bits,
  order: row.byte_order,
  group: row.group_id,
  array: row.array,
  text: row.text,
  sign: row.sign,
  scale: row.scale_factor === null ? null : { factor: row.scale_factor, offset: row.scale_add! },
  decimals: row.decimals,
  unit: row.unit,
  limits: row.limits,
  specials: row.specials,
  labels: row.labels,
  bitLabels: row.bit_labels,
  normallyClosed: row.normally_closed,
  safety: row.safety,
  radix: row.radix,
  note: row.note,
  sourceName: row.source_name,
  role: row.role,
  bitRoles: row.bit_roles,
});
