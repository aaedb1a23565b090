import {
  Field,
  fieldTypes,
  goesAnywhere,
  readsOf,
  snap,
  typeForRun,
  typeResized,
  type Edit,
  type Image,
  type RoleProposal,
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
  const wanted = Math.max(1, Math.min(end, image.size * 8) - field.at);
  const bytewise = ['text', 'bytes'].includes(readsOf(field));
  const bits = bytewise ? Math.max(8, wanted - (wanted % 8)) : Math.min(64, wanted);
  if (bits === field.bits) return undefined;
  return set(image, field, { bits, type: typeResized(field.type, field.at, bits) });
}

/** One bit or, for whole types, one step of the usual lengths longer or shorter. */
export function growField(image: Image, field: Field, direction: 1 | -1): Edit | undefined {
  const end = field.at + field.bits;
  if (field.type === 'BCD') return resizeField(image, field, end + 4 * direction);
  if (goesAnywhere(field.type)) return resizeField(image, field, end + direction);
  if (['text', 'bytes'].includes(readsOf(field))) return resizeField(image, field, end + 8 * direction);
  const bits = direction > 0 ? field.bits * 2 : field.bits / 2;
  return bits < 8 || bits > 64 ? undefined : resizeField(image, field, field.at + bits);
}

/** A new field over these bits, named after its place. */
export function newField(image: Image, from: number, to: number, id: string): Edit {
  const at = Math.min(from, to);
  const drawn = Math.abs(to - from) + 1;
  // More than a number can have: whole bytes as they are, or the first 64 bits.
  const bits = drawn > 64 && (drawn % 8 !== 0 || at % 8 !== 0) ? 64 : drawn;
  const byte = at >> 3;
  const names = new Set(image.fields.map((f) => f.name));
  const stem = bits === 1 ? `bit_${byte}_${at & 7}` : `word_${byte}`;
  let name = stem;
  for (let n = 2; names.has(name); n += 1) name = `${stem}_${n}`;
  const field = Field.parse({ id, name, type: typeForRun(at, bits), at, bits });
  return { edit: 'field.add', image: image.id, field };
}

/** Another type for a field: its length follows, and whole types go to the byte that they lie in. */
export function retypeField(image: Image, field: Field, type: Field['type']): Edit {
  const bytes = Math.ceil(field.bits / 8) * 8;
  const own: Partial<Record<Field['type'], number>> = {
    BITS: Math.min(64, field.bits),
    BCD: Math.min(64, Math.ceil(field.bits / 4) * 4),
    STRING: Math.max(bytes, 16),
    BYTES: bytes,
  };
  const bits = fieldTypes[type].bits ?? own[type]!;
  const text = type === 'STRING' ? (field.text ?? ({ prefix: 0, encoding: 'ascii', pad: 0 } as const)) : null;
  return set(image, field, { type, bits, at: snap(type, bits, field.at, image), text });
}

/** Takes proposed roles: one edit, and so one step of undo, however many there are. */
export function takeRoles(
  image: Pick<Image, 'id' | 'fields'>,
  proposals: readonly RoleProposal[],
  /** With the fields that get none. */
  all = false,
): Edit & { edit: 'image.arrange' } {
  const fields = image.fields.flatMap((field) => {
    const own = proposals.filter((p) => p.field === field.id);
    if (own.length === 0) return all ? [field] : [];
    const whole = own.find((p) => p.bit === null);
    const bits = own.flatMap(({ bit, role }) => (bit === null ? [] : [{ bit, role }]));
    const bitRoles = [...field.bitRoles, ...bits].sort((a, b) => a.bit - b.bit);
    return [{ ...field, ...(whole ? { role: whole.role } : {}), bitRoles }];
  });
  const title = proposals.length === 1 ? 'take a role' : `take ${proposals.length} roles`;
  return { edit: 'image.arrange', image: image.id, title, fields };
}
