import type { Field } from './field.js';
import type { Image } from './image.js';
import { signalsOf, type Signal } from './signals.js';

/** What became of one signal from one image to another. */
export interface Difference {
  kind: 'same' | 'moved' | 'retyped' | 'changed' | 'missing' | 'new';
  name: string;
  left: Signal | undefined;
  right: Signal | undefined;
  /** What differs, in words: `byte 4.0 → 6.0`, `INT → DINT`, `unit Hz → rpm`. */
  details: string[];
}

/** How the entries are called in the details. */
const compared: Partial<Record<keyof Field, string>> = {
  order: 'byte order',
  text: 'text form',
  sign: 'sign',
  scale: 'scale',
  decimals: 'decimals',
  unit: 'unit',
  limits: 'limits',
  specials: 'special numbers',
  labels: 'labels',
  bitLabels: 'bit labels',
  normallyClosed: 'normally closed',
  safety: 'safety',
  note: 'note',
  role: 'role',
  bitRoles: 'bit roles',
};

const placeText = (at: number) => `${at >> 3}.${at & 7}`;
const typeText = ({ type, bits }: Signal) =>
  /^(BITS|BCD|STRING|BYTES)$/.test(type) ? `${type} ${bits}` : type;
/** An entry in words: lists as `0 = off, 1 = on`, parts as `factor 1/100, offset 0`. */
function entryText(value: unknown): string {
  if (value === null || value === '' || (Array.isArray(value) && value.length === 0)) return 'none';
  if (Array.isArray(value))
    return value
      .map((part) =>
        Object.values(part as object)
          .map(String)
          .join(' = '),
      )
      .join(', ');
  if (typeof value === 'object')
    return Object.entries(value)
      .map(([key, part]) => `${key} ${String(part)}`)
      .join(', ');
  return typeof value === 'boolean' ? (value ? 'yes' : 'no') : String(value);
}

/** Ids are an image's own affair: a sign or a decimal point is compared by the name of the field that it comes from. */
function comparable(signal: Signal, key: keyof Field, names: Map<string, string>): unknown {
  const value = signal[key];
  if (value && typeof value === 'object' && 'field' in value)
    return { ...value, field: names.get(value.field) };
  return value;
}

function differencesOf(
  left: Signal,
  right: Signal,
  leftNames: Map<string, string>,
  rightNames: Map<string, string>,
) {
  const moved = left.at !== right.at ? [`${placeText(left.at)} → ${placeText(right.at)}`] : [];
  const retyped = typeText(left) !== typeText(right) ? [`${typeText(left)} → ${typeText(right)}`] : [];
  const changed = Object.entries(compared).flatMap(([entry, title]) => {
    const key = entry as keyof Field;
    const [a, b] = [comparable(left, key, leftNames), comparable(right, key, rightNames)];
    return JSON.stringify(a) === JSON.stringify(b) ? [] : [`${title} ${entryText(a)} → ${entryText(b)}`];
  });
  return { moved, retyped, changed };
}

/**
 * Two images, or two revisions of one, signal by signal: those of the left in order of place, then what only the right
 * has. Signals belong together by name, whatever its capitals; `retyped` goes before `moved`, `moved` before `changed`.
 */
export function compareImages(left: Image, right: Image): Difference[] {
  const [leftSignals, rightSignals] = [signalsOf(left), signalsOf(right)];
  const rest = new Map(rightSignals.map((s) => [s.name.toLowerCase(), s]));
  const [leftNames, rightNames] = [left, right].map((i) => new Map(i.fields.map((f) => [f.id, f.name]))) as [
    Map<string, string>,
    Map<string, string>,
  ];
  const differences = leftSignals.map((signal): Difference => {
    const key = signal.name.toLowerCase();
    const other = rest.get(key);
    if (!other) return { kind: 'missing', name: signal.name, left: signal, right: undefined, details: [] };
    rest.delete(key);
    const { moved, retyped, changed } = differencesOf(signal, other, leftNames, rightNames);
    const kind = retyped.length ? 'retyped' : moved.length ? 'moved' : changed.length ? 'changed' : 'same';
    return {
      kind,
      name: signal.name,
      left: signal,
      right: other,
      details: [...retyped, ...moved, ...changed],
    };
  });
  const added = [...rest.values()].map((signal): Difference => ({
    kind: 'new',
    name: signal.name,
    left: undefined,
    right: signal,
    details: [],
  }));
  return [...differences, ...added];
}
