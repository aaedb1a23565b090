import {
  fieldTypes,
  readLabels,
  roleEntry,
  roleText,
  type BitLabel,
  type ByteOrder,
  type Decimals,
  type Field,
  type Image,
  type Label,
  type Sign,
  type Special,
} from '@fadenkreuz/core';

/**
 * How the entries of a field are written in the lens, and read back. What cannot be read becomes NaN, which the model
 * refuses.
 */

/** `INT`, `12 bits`, `STRING 20 bytes`, with factor and unit where there are some. */
export function typeText(field: Pick<Field, 'type' | 'bits' | 'scale' | 'unit'>): string {
  const open = fieldTypes[field.type].bits === undefined;
  const length =
    field.type === 'BITS' || field.type === 'BCD' ? `${field.bits} bits` : `${field.bits / 8} bytes`;
  const type = field.type === 'BITS' ? length : open ? `${field.type} ${length}` : field.type;
  const scale = field.scale ? ` · ${field.scale.factor}` : '';
  return `${type}${scale}${field.unit ? ` ${field.unit}` : ''}`;
}

export const orderTexts: Record<ByteOrder, string> = {
  little: 'little: low byte first',
  big: 'big: high byte first',
  bigSwapped: 'big, words swapped',
  littleSwapped: 'little, words swapped',
};

/** What has no number is left for the model to refuse, with its reason. */
function parts(text: string): { value: number; text: string }[] {
  const { labels, unread } = readLabels(text);
  return unread ? [{ value: NaN, text: unread }, ...labels] : labels;
}

export const labelsText = (labels: readonly Label[]) =>
  labels.map((l) => `${l.value} = ${l.text}`).join(', ');
export const labelsOf = (text: string): Label[] => parts(text);

export const bitLabelsText = (labels: readonly BitLabel[]) =>
  labels.map((l) => `${l.bit} = ${l.text}`).join(', ');
export const bitLabelsOf = (text: string): BitLabel[] =>
  parts(text).map((part) => ({ bit: part.value, text: part.text }));

export const bitRolesText = (roles: Field['bitRoles']) =>
  roles.map(({ bit, role }) => `${bit} = ${roleText(role)}`).join(', ');
/** Undefined where a part of it is no role of a bit. */
export function bitRolesOf(text: string): Field['bitRoles'] | undefined {
  const parts = text
    .split(/[,;]/)
    .map((part) => /^\s*(\d{1,2})\s*=\s*(.+?)\s*$/.exec(part))
    .map((match) => (match ? { bit: Number(match[1]), role: roleEntry(match[2]!) } : undefined));
  if (text.trim() === '') return [];
  return parts.every((part) => part?.role) ? (parts as Field['bitRoles']) : undefined;
}

export const specialsText = (specials: readonly Special[]) =>
  specials.map((s) => `${s.value} = ${s.means}`).join(', ');
export const specialsOf = (text: string): Special[] =>
  parts(text).map((part) => ({ value: part.value, means: part.text as Special['means'] }));

const fieldNamed = (image: Image, name: string) =>
  image.fields.find((f) => f.name.toLowerCase() === name.trim().toLowerCase());
const nameOf = (image: Image, id: string) =>
  image.fields.find((f) => f.id === id)?.name ?? 'a field that is gone';

/** `offset`, `negative_1`, `status.3`, `not status.3`. */
export function signText(image: Image, sign: Sign | null): string {
  if (!sign) return '';
  if (sign.way === 'offset' || sign.way === 'complement') return sign.way;
  return `${sign.inverted ? 'not ' : ''}${nameOf(image, sign.field)}${sign.bit ? `.${sign.bit}` : ''}`;
}

/** Undefined when it names no field of the image. */
export function signOf(image: Image, text: string): Sign | null | undefined {
  if (text.trim() === '') return null;
  const way = (['offset', 'complement'] as const).find((w) => w === text.trim().toLowerCase());
  if (way) return { way };
  const match = /^(not\s+)?(.+?)(?:\.(\d+))?$/i.exec(text.trim())!;
  const field = fieldNamed(image, match[2]!);
  return (
    field && { way: 'bit', field: field.id, bit: Number(match[3] ?? 0), inverted: match[1] !== undefined }
  );
}

/** `2`, `decimals_1`, `2 by P12.04`. */
export function decimalsText(image: Image, decimals: Decimals | null): string {
  if (!decimals) return '';
  if (decimals.way === 'fixed') return String(decimals.places);
  if (decimals.way === 'field') return nameOf(image, decimals.field);
  return `${decimals.places} by ${decimals.parameter}`;
}

/** Undefined when it is neither a number nor a field of the image. */
export function decimalsOf(image: Image, text: string): Decimals | null | undefined {
  const plain = text.trim();
  if (plain === '') return null;
  if (/^\d+$/.test(plain)) return { way: 'fixed', places: Number(plain) };
  const parameter = /^(\d+) by (.+)$/.exec(plain);
  if (parameter) return { way: 'parameter', places: Number(parameter[1]), parameter: parameter[2]! };
  const field = fieldNamed(image, plain);
  return field && { way: 'field', field: field.id };
}
