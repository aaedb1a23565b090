import type { Parameter } from '../devices/parameter.js';
import { roleText } from '../layout/role.js';
import { written } from './cells.js';
import { keyText } from './parameterKey.js';
import { parameterColumns, type ParameterColumn } from './parameterColumns.js';
import { placeText } from './parameterPlace.js';

const entry = {
  code: (p) => p.code,
  name: (p) => p.name,
  group: (p) => p.group,
  place: (p) => placeText(p.place),
  type: (p) => p.type,
  length: (p) => String(p.bits),
  order: (p) => p.order ?? '',
  access: (p) => p.access,
  factor: (p) => p.scale?.factor ?? '',
  add: (p) => p.scale?.offset ?? '',
  unit: (p) => p.unit,
  minimum: (p) => p.limits?.minimum ?? '',
  maximum: (p) => p.limits?.maximum ?? '',
  initial: (p) => p.initial ?? '',
  planned: (p) => p.planned ?? '',
  decimals: (p) => p.decimals ?? '',
  retained: (p) => p.retained ?? '',
  stopFirst: (p) => (p.stopFirst ? 'yes' : ''),
  afterRestart: (p) => (p.afterRestart ? 'yes' : ''),
  labels: (p) => written.labels(p),
  role: (p) => (p.role ? roleText(p.role) : ''),
  key: (p) => keyText(p.key),
  note: (p) => p.note,
} as const satisfies Partial<Record<ParameterColumn, (p: Parameter) => string>>;

const tableColumns = Object.keys(entry) as (keyof typeof entry)[];

/** Parameters as a table, titles first, a row a parameter; readParameters takes it back as it was. */
export const parameterTable = (parameters: readonly Parameter[]): string[][] => [
  tableColumns.map((c) => parameterColumns[c].title),
  ...parameters.map((p) => tableColumns.map((c) => entry[c](p))),
];
