import { patterned } from '../entries/countUp.js';
import type { Edit } from './edits/edit.js';
import type { Field } from '../layout/field.js';
import type { Image } from '../layout/image.js';
import { goesAnywhere } from '../layout/fieldTypes.js';
import { typeResized } from '../layout/placement.js';
import { reachOf } from '../layout/signals.js';

/**
 * Edits of a whole layout. Each is a pure function from an image to one edit, so that each is one step of undo; the
 * edit says which fields it changes. Fields of groups move with their first repetition.
 */
type Arrange = Edit & { edit: 'image.arrange' };

function arrange(image: Image, title: string, fields: readonly Field[]): Arrange {
  const before = new Map(image.fields.map((f) => [f.id, f]));
  const changed = fields.filter((f) => before.get(f.id) !== f);
  return { edit: 'image.arrange', image: image.id, title, fields: changed };
}

const byPlace = (a: Field, b: Field) => a.at - b.at;
const upTo = (bit: number, step: number) => Math.ceil(bit / step) * step;
const unitOf = (field: Field) => (goesAnywhere(field.type) ? 1 : 8);

/** Moves every field that begins at bit `from` or behind it; whole types stay on bytes. */
function pushed(fields: readonly Field[], from: number, by: number): Field[] {
  const whole = fields.some((f) => f.at >= from && unitOf(f) === 8);
  const bits = whole ? (by < 0 ? -upTo(-by, 8) : upTo(by, 8)) : by;
  return fields.map((f) => (f.at >= from ? { ...f, at: f.at + bits } : f));
}

/** Puts a field in; with `push` all that begins at its place or behind makes room for it. */
export function insertField(image: Image, field: Field, push: boolean): Arrange {
  const others = push ? pushed(image.fields, field.at, reachOf(image, field) - field.at) : image.fields;
  return arrange(image, `insert ${field.name} into an image`, [...others, field]);
}

/** Moves fields by `by` bits; with `push` all that begins behind the first of them moves with them. */
export function moveFields(image: Image, ids: readonly string[], by: number, push: boolean): Arrange {
  const chosen = image.fields.filter((f) => ids.includes(f.id));
  const from = Math.min(...chosen.map((f) => f.at));
  const moves = (f: Field) => ids.includes(f.id) || (push && f.at > from);
  const bits = chosen.some((f) => unitOf(f) === 8) ? Math.trunc(by / 8) * 8 : by;
  return arrange(
    image,
    `move ${chosen.length === 1 ? chosen[0]!.name : `${chosen.length} fields`}`,
    image.fields.map((f) => (moves(f) ? { ...f, at: f.at + bits } : f)),
  );
}

/** Another length for a field, its type following; with `push` all behind it moves by the difference. */
export function resizeField(image: Image, field: Field, bits: number, push: boolean): Arrange {
  const next = { ...field, bits, type: typeResized(field.type, field.at, bits) };
  const others = image.fields.filter((f) => f.id !== field.id);
  const end = field.at + field.bits;
  const rest = push ? pushed(others, end, bits - field.bits) : others;
  return arrange(image, `resize ${field.name}`, [...rest, next]);
}

/** Copies fields `count` times, one block behind the other, names counted up after a pattern with # for the number. */
export function duplicateFields(
  image: Image,
  ids: readonly string[],
  count: number,
  pattern: string,
  newId: () => string,
): Arrange {
  const chosen = image.fields.filter((f) => ids.includes(f.id)).sort(byPlace);
  const from = Math.min(...chosen.map((f) => f.at));
  const length = Math.max(...chosen.map((f) => reachOf(image, f))) - from;
  const stride = chosen.some((f) => unitOf(f) === 8) ? upTo(length, 8) : length;
  const taken = new Set(image.fields.map((f) => f.name.toLowerCase()));
  const copies = Array.from({ length: count }, (_, i) =>
    chosen.map((f): Field => {
      const own = chosen.length === 1 ? pattern : pattern.includes('#') ? `${f.name}_${pattern}` : '';
      let name = patterned(f.name, own, i + 1, 2);
      for (let n = i + 2; taken.has(name.toLowerCase()); n += 1) name = patterned(f.name, own, n, 2);
      taken.add(name.toLowerCase());
      return { ...f, id: newId(), name, at: f.at + (i + 1) * stride };
    }),
  ).flat();
  return arrange(image, `duplicate ${chosen.map((f) => f.name).join(', ')}`.slice(0, 60), [
    ...image.fields,
    ...copies,
  ]);
}

/**
 * Closes the gaps: each field begins where the one before ends, whole types at the next byte. Overlaps are kept apart.
 */
export function packFields(image: Image): Arrange {
  return laidOut(image, 'pack the fields', (field, end) => upTo(end, unitOf(field)));
}

/** Moves each field on to the next multiple of `bits`, followers making room. */
export function alignFields(image: Image, bits: number): Arrange {
  return laidOut(image, `align fields to ${bits} bits`, (field, end) =>
    field.type === 'BOOL'
      ? Math.max(field.at, end)
      : upTo(Math.max(field.at, end), Math.min(bits, wholeBits(field))),
  );
}

const wholeBits = (field: Field) => Math.max(8, 2 ** Math.ceil(Math.log2(field.bits)));

function laidOut(image: Image, title: string, placeOf: (field: Field, end: number) => number): Arrange {
  let end = 0;
  const fields = [...image.fields].sort(byPlace).map((field) => {
    const at = placeOf(field, end);
    const next = at === field.at ? field : { ...field, at };
    end = reachOf(image, next);
    return next;
  });
  return arrange(image, title, fields);
}

/** Keeps `bits` bits free from bit `at` on: all that begins there or behind moves. */
export function reserveGap(image: Image, at: number, bits: number): Arrange {
  return arrange(image, `reserve ${bits} bits`, pushed(image.fields, at, bits));
}
