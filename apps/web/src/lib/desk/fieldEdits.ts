import {
  fieldEnd,
  fieldTypes,
  snap,
  typeForRun,
  typeResized,
  type Edit,
  type Field,
  type Image,
} from '@fadenkreuz/core';

/** Edits of fields as the Sight makes them. They return no edit when nothing would change. */

type FieldSet = Edit & { edit: 'field.set' };

const set = (image: Image, field: Field, values: Partial<Field>): FieldSet => ({
  edit: 'field.set',
  image: image.id,
  field: field.id,
  set: values,
});

/** Moves a field so that it starts near `bit`; whole types stay on bytes. */
export function moveField(image: Image, field: Field, bit: number): Edit | undefined {
  const at = snap(field.type, field.bits, bit, image);
  return at === field.at ? undefined : set(image, field, { at });
}

/** Ends a field before bit `end`. Its type follows its length: an UINT drawn to 32 bits is an UDINT. */
export function resizeField(image: Image, field: Field, end: number): Edit | undefined {
  const bits = Math.max(1, Math.min(64, Math.min(end, image.size * 8) - field.at));
  if (bits === field.bits) return undefined;
  return set(image, field, { bits, type: typeResized(field.type, field.at, bits) });
}

/** One bit or, for whole types, one step of the usual lengths longer or shorter. */
export function growField(image: Image, field: Field, direction: 1 | -1): Edit | undefined {
  if (field.type === 'BOOL' || field.type === 'BITS')
    return resizeField(image, field, fieldEnd(field) + direction);
  const bits = direction > 0 ? field.bits * 2 : field.bits / 2;
  return bits < 8 || bits > 64 ? undefined : resizeField(image, field, field.at + bits);
}

/** A new field over these bits, named after its place. */
export function newField(image: Image, from: number, to: number, id: string): Edit {
  const at = Math.min(from, to);
  const bits = Math.min(64, Math.abs(to - from) + 1);
  const byte = at >> 3;
  const names = new Set(image.fields.map((f) => f.name));
  const stem = bits === 1 ? `bit_${byte}_${at & 7}` : `word_${byte}`;
  let name = stem;
  for (let n = 2; names.has(name); n += 1) name = `${stem}_${n}`;
  const field: Field = {
    id,
    name,
    type: typeForRun(at, bits),
    at,
    bits,
    scale: null,
    unit: '',
    labels: [],
    note: '',
  };
  return { edit: 'field.add', image: image.id, field };
}

/** Another type for a field: its length follows, and whole types go to the byte that they lie in. */
export function retypeField(image: Image, field: Field, type: Field['type']): Edit {
  const bits = fieldTypes[type].bits ?? field.bits;
  return set(image, field, { type, bits, at: snap(type, bits, field.at, image) });
}
