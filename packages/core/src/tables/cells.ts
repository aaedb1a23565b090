import type { Field } from '../layout/field.js';
import type { FieldType } from '../layout/fieldTypes.js';
import { roleEntry, roleText } from '../layout/role.js';

/** How the single entries of a table are written in manuals and spreadsheets, and read. */

/** Names that manuals give to the types of IEC 61131-3; common practice. */
const typeNames: [RegExp, FieldType][] = [
  [/^(bool|boolean|bit|flag)$/, 'BOOL'],
  [/^(usint|u(int)?_?8|uint8_t|unsigned ?8|uchar|unsigned char)$/, 'USINT'],
  [/^(sint|s(int)?_?8|int_?8|int8_t|i8|signed ?8)$/, 'SINT'],
  [/^(uint|u(int)?_?16|uint16_t|unsigned ?16|ushort|unsigned short)$/, 'UINT'],
  [/^(int|s(int)?_?16|int_?16|int16_t|i16|signed ?16|short)$/, 'INT'],
  [/^(udint|u(int)?_?32|uint32_t|unsigned ?32|ulong)$/, 'UDINT'],
  [/^(dint|s(int)?_?32|int_?32|int32_t|i32|signed ?32|long)$/, 'DINT'],
  [/^(ulint|u(int)?_?64|uint64_t|unsigned ?64)$/, 'ULINT'],
  [/^(lint|s(int)?_?64|int_?64|int64_t|i64|signed ?64)$/, 'LINT'],
  [/^(real|float|float_?32|f32|single)$/, 'REAL'],
  [/^(lreal|double|float_?64|f64)$/, 'LREAL'],
  [/^byte$/, 'BYTE'],
  [/^word$/, 'WORD'],
  [/^dword$/, 'DWORD'],
  [/^lword$/, 'LWORD'],
  [/^(bits|bitfield|bit ?string|bit group)$/, 'BITS'],
  [/^bcd$/, 'BCD'],
  [/^(string|char|text|ascii)$/, 'STRING'],
  [/^(bytes|raw|octets?|octet ?string)$/, 'BYTES'],
];

export interface TypeEntry {
  type: FieldType;
  /** Characters, digits or bits in brackets behind the type. */
  count?: number;
  /** Elements of an ARRAY. */
  elements?: number;
}

/** `INT`, `uint16`, `STRING[12]`, `BITS(3)`, `ARRAY [0..3] OF INT`; undefined for an unknown type. */
export function typeEntry(text: string): TypeEntry | undefined {
  const array = /^array *[[(] *(\d+) *\.\. *(\d+) *[\])] *of +(.+)$/i.exec(text.trim());
  if (array) {
    const inner = typeEntry(array[3]!);
    return inner && { ...inner, elements: Number(array[2]) - Number(array[1]) + 1 };
  }
  const match = /^(.*?)(?: *[[(] *(\d+) *[\])])?$/.exec(text.trim().toLowerCase())!;
  const base = match[1]!.trim();
  const counted = match[2] === undefined ? {} : { count: Number(match[2]) };
  const found = typeNames.find(([form]) => form.test(base));
  if (found) return { type: found[1], ...counted };
  const digits = /^(bcd|bits?)[ _]?(\d+)$/.exec(base);
  if (digits) return { type: digits[1] === 'bcd' ? 'BCD' : 'BITS', count: Number(digits[2]) };
  return undefined;
}

/** A number in an address: decimal, or hex as 0x28, 16#28 or 28h. */
const number = (text: string) => {
  const hex = /^(?:0x|16#)([0-9a-f]+)$|^([0-9a-f]+)h$/i.exec(text);
  return hex ? parseInt(hex[1] ?? hex[2]!, 16) : Number(text);
};

/** A whole number as wholly written: `40`, `0x28`, `16#28`, `28h`; undefined for any other text. */
export const wholeEntry = (text: string): number | undefined =>
  /^(\d+|(0x|16#)[0-9a-f]+|[0-9a-f]+h)$/i.test(text.trim()) ? number(text.trim()) : undefined;

export interface AddressEntry {
  unit: number;
  bit: number | undefined;
  /** The last unit and bit, where a run is given: 40-43, 5.0..5.3. */
  lastUnit?: number;
  lastBit?: number;
}

/** `40`, `40.3`, `W40`, `byte 40 bit 3`, `40-43`, `5.0..5.3`, `0x28`; undefined for any other text. */
export function addressEntry(text: string): AddressEntry | undefined {
  const one = String.raw`(?:[a-z%]*\s*)?((?:0x|16#)?[0-9a-f]+h?|\d+)(?:\s*(?:[.:/]|\.?bit\s*)\s*(\d+))?`;
  const match = new RegExp(`^${one}(?:\\s*(?:-|–|…|\\.\\.+|to)\\s*${one})?$`, 'i').exec(text.trim());
  if (!match) return undefined;
  const [, unit, bit, lastUnit, lastBit] = match;
  const first = { unit: number(unit!), bit: bit === undefined ? undefined : Number(bit) };
  if (!Number.isInteger(first.unit)) return undefined;
  if (lastUnit === undefined) return first;
  return lastBit === undefined && bit !== undefined
    ? { ...first, lastUnit: first.unit, lastBit: number(lastUnit) }
    : {
        ...first,
        lastUnit: number(lastUnit),
        ...(lastBit === undefined ? {} : { lastBit: Number(lastBit) }),
      };
}

/** `3`, `0-7`, `0..3`, `bit 3`: first and last bit. */
export function bitEntry(text: string): { first: number; last: number } | undefined {
  const match = /^(?:bits?\s*)?(\d+)(?:\s*(?:-|–|…|\.\.+|to|:)\s*(\d+))?$/i.exec(text.trim());
  if (!match) return undefined;
  const ends = [Number(match[1]), Number(match[2] ?? match[1])].sort((a, b) => a - b);
  return { first: ends[0]!, last: ends[1]! };
}

/** `0.01`, `0,01`, `1/100`, `×0.1`, `10^-2`, `1e-3`: as a Ratio; undefined for any other text. */
export function ratioEntry(text: string): string | undefined {
  const plain = text
    .trim()
    .replace(/^[×x*]\s*/i, '')
    .replace(',', '.')
    .replace('−', '-');
  const power = /^(?:1e|10\^)(-?\d{1,2})$/i.exec(plain);
  if (power) {
    const places = Math.abs(Number(power[1]));
    return Number(power[1]) < 0 ? `1/1${'0'.repeat(places)}` : `1${'0'.repeat(places)}`;
  }
  return /^-?\d{1,15}(\.\d{1,15})?(\/[1-9]\d{0,14})?$/.test(plain) ? plain : undefined;
}

/** `48`, `3x16`, `3 × 16`: a length, or so many of a length; undefined for any other text. */
export function lengthEntry(text: string): { each: number; count: number } | undefined {
  const match = /^(?:(\d{1,5})\s*[x×*]\s*)?(\d{1,6})$/i.exec(text.trim());
  const [count, each] = [Number(match?.[1] ?? 1), Number(match?.[2] ?? 0)];
  return match && count > 0 && each > 0 ? { each, count } : undefined;
}

/** The entries of one field that have a text form of their own, written. */
export const written = {
  labels: (f: Pick<Field, 'labels'>) => f.labels.map((l) => `${l.value} = ${l.text}`).join('; '),
  bitLabels: (f: Field) => f.bitLabels.map((l) => `${l.bit} = ${l.text}`).join('; '),
  specials: (f: Field) => f.specials.map((s) => `${s.value} = ${s.means}`).join('; '),
  role: (f: Field) => (f.role ? roleText(f.role) : ''),
  bitRoles: (f: Field) => f.bitRoles.map(({ bit, role }) => `${bit} = ${roleText(role)}`).join('; '),
  text: (f: Field) => (f.text ? `${f.text.prefix} ${f.text.encoding} ${f.text.pad}` : ''),
  array: (f: Field) => (f.array ? `${f.array.count} every ${f.array.stride}` : ''),
  yes: (value: boolean) => (value ? 'yes' : ''),
};

/** `0 = start; 3 = fault reset` as roles of bits; what is no role of ours is left out. */
export const bitRolesEntry = (text: string): Field['bitRoles'] =>
  text.split(/[;,\n]/).flatMap((part) => {
    const [, bit, name] = /^\s*(\d{1,2})\s*=\s*(.+?)\s*$/.exec(part) ?? [];
    const role = name === undefined ? undefined : roleEntry(name);
    return role ? [{ bit: Number(bit), role }] : [];
  });
