import type { Parameter } from '@fadenkreuz/core';

/** A parameter of a device as a row. Entries with parts of their own are JSON. */
export interface ParameterRow extends Pick<
  Parameter,
  | 'id'
  | 'code'
  | 'name'
  | 'place'
  | 'type'
  | 'bits'
  | 'access'
  | 'unit'
  | 'limits'
  | 'initial'
  | 'labels'
  | 'note'
  | 'role'
  | 'key'
  | 'planned'
  | 'retained'
> {
  device_id: string;
  position: number;
  heading: string;
  byte_order: Parameter['order'];
  scale_factor: string | null;
  scale_add: string | null;
  decimals_by: Parameter['decimals'];
  stop_first: boolean;
  after_restart: boolean;
}

export function toParameterRow(parameter: Parameter, deviceId: string, position: number): ParameterRow {
  const { group, order, scale, decimals, stopFirst, afterRestart, ...same } = parameter;
  return {
    device_id: deviceId,
    position,
    heading: group,
    byte_order: order,
    scale_factor: scale?.factor ?? null,
    scale_add: scale?.offset ?? null,
    decimals_by: decimals,
    stop_first: stopFirst,
    after_restart: afterRestart,
    ...same,
  };
}

/** In the order of the schema: rows are compared as text. */
export const toParameter = (row: ParameterRow): Parameter => ({
  id: row.id,
  code: row.code,
  name: row.name,
  group: row.heading,
  place: row.place,
  type: row.type,
  bits: row.bits,
  order: row.byte_order,
  access: row.access,
  scale: row.scale_factor === null ? null : { factor: row.scale_factor, offset: row.scale_add! },
  unit: row.unit,
  limits: row.limits,
  initial: row.initial,
  planned: row.planned ?? null,
  decimals: row.decimals_by ?? null,
  retained: row.retained ?? null,
  stopFirst: row.stop_first ?? false,
  afterRestart: row.after_restart ?? false,
  labels: row.labels,
  note: row.note,
  role: row.role ?? null,
  key: row.key ?? null,
});
