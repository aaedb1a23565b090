import type { Cell, Controller, Device, Field, Image, Link } from '../cell/model.js';
import { fieldEnd, imagesOf } from '../cell/find.js';
import { bothSides } from '../layout/address.js';
import { limitsOf } from '../layout/fieldTypes.js';
import { identifierOf, uniqueIdentifiers } from './identifiers.js';

type ElementBits = Controller['elementBits'];
type Width = 8 | 16 | 32 | 64;

const bitString: Record<Width, string> = { 8: 'BYTE', 16: 'WORD', 32: 'DWORD', 64: 'LWORD' };
const partialAccess: Record<Width, string> = { 8: 'B', 16: 'W', 32: 'D', 64: 'L' };
const widthFor = (bits: number): Width => ([8, 16, 32, 64] as const).find((w) => w >= bits)!;

/** `WORD_TO_UINT(x)`; nothing when both types are the same (IEC 61131-3:2013, 6.6.2.5.2). */
const convert = (from: string, to: string, text: string) =>
  from === to ? text : `${from}_TO_${to}(${text})`;
const shifted = (text: string, places: number) =>
  places === 0 ? text : places > 0 ? `SHL(${text}, ${places})` : `SHR(${text}, ${-places})`;
const maskText = (bits: number) => `16#${((1n << BigInt(bits)) - 1n).toString(16).toUpperCase()}`;
/** Comments must not end early, whatever a note says. */
const comment = (text: string) => `(* ${text.replaceAll('*)', '* )').replaceAll('(*', '( *')} *)`;
const real = (value: number) =>
  Number.isInteger(value) ? `${value}.0` : String(value).replace('e+', 'E').replace('e', 'E');

/** A value that does not fit stops at the end of the range; it never wraps. 64-bit limits are no exact LREAL. */
function limited(field: Field, text: string): string {
  const { least, most } = limitsOf(field.type, field.bits);
  return field.bits > 32 || typeof least === 'bigint' || typeof most === 'bigint'
    ? text
    : `LIMIT(${real(least)}, ${text}, ${real(most)})`;
}

interface Member {
  name: string;
  field: Field;
  /** Type of the member in the STRUCT: REAL or LREAL when the field is scaled. */
  type: string;
  /** Type of the raw value. */
  rawType: string;
}

function membersOf(image: Image): Member[] {
  const inside = image.fields.filter((f) => fieldEnd(f) <= image.size * 8).sort((a, b) => a.at - b.at);
  const names = uniqueIdentifiers(inside.map((f) => f.name));
  return inside.map((field, i) => {
    const rawType = field.type === 'BITS' ? bitString[widthFor(field.bits)] : field.type;
    const scaledType = field.bits > 16 ? 'LREAL' : 'REAL';
    return { name: names[i]!, field, rawType, type: field.scale ? scaledType : rawType };
  });
}

/** An unsigned or signed number type of the width, to calculate with when a bit string is scaled. */
const numberType = (member: Member): string =>
  ({ BYTE: 'USINT', WORD: 'UINT', DWORD: 'UDINT', LWORD: 'ULINT' })[member.rawType] ?? member.rawType;

/** The bits of a field as an expression over `raw`, as a bit string of the field's width. */
function bitsOf(field: Field, elementBits: ElementBits): string {
  const width = widthFor(field.bits);
  const first = Math.floor(field.at / elementBits);
  const last = Math.floor((fieldEnd(field) - 1) / elementBits);
  const inFirst = field.at - first * elementBits;
  if (first === last && field.bits === width && inFirst % width === 0)
    return width === elementBits
      ? `raw[${first}]`
      : `raw[${first}].%${partialAccess[width]}${inFirst / width}`;
  const work = Math.max(width, elementBits) as Width;
  const terms: string[] = [];
  for (let e = first; e <= last; e += 1)
    terms.push(
      shifted(convert(bitString[elementBits], bitString[work], `raw[${e}]`), e * elementBits - field.at),
    );
  const joined = terms.length > 1 ? `(${terms.join(' OR ')})` : terms[0]!;
  const masked = field.bits < work ? `${joined} AND ${maskText(field.bits)}` : joined;
  return convert(bitString[work], bitString[width], masked);
}

function unpackLine(fn: string, member: Member, elementBits: ElementBits): string {
  const { field, name, rawType, type } = member;
  if (field.type === 'BOOL')
    return `${fn}.${name} := raw[${Math.floor(field.at / elementBits)}].%X${field.at % elementBits};`;
  const bits = bitsOf(field, elementBits);
  const stringType = bitString[widthFor(field.bits)];
  if (!field.scale) return `${fn}.${name} := ${convert(stringType, rawType, bits)};`;
  const number = numberType(member);
  const { numerator, denominator, offset } = field.scale;
  const raw = convert(number, type, convert(stringType, number, bits));
  const factor =
    (numerator === 1 ? '' : ` * ${real(numerator)}`) + (denominator === 1 ? '' : ` / ${real(denominator)}`);
  const plus = offset === 0 ? '' : offset < 0 ? ` - ${real(-offset)}` : ` + ${real(offset)}`;
  return `${fn}.${name} := ${raw}${factor}${plus};`;
}

function packLines(fn: string, member: Member, elementBits: ElementBits): string[] {
  const { field, name, rawType, type } = member;
  if (field.type === 'BOOL')
    return [`${fn}[${Math.floor(field.at / elementBits)}].%X${field.at % elementBits} := value.${name};`];
  const width = widthFor(field.bits);
  const stringType = bitString[width];
  let bits = convert(rawType, stringType, `value.${name}`);
  if (field.scale) {
    const number = numberType(member);
    const { numerator, denominator, offset } = field.scale;
    const less =
      offset === 0 ? `value.${name}` : `(value.${name} - ${offset < 0 ? `(${real(offset)})` : real(offset)})`;
    const raw =
      less +
      (denominator === 1 ? '' : ` * ${real(denominator)}`) +
      (numerator === 1 ? '' : ` / ${real(numerator)}`);
    bits = convert(number, stringType, convert(type, number, limited(field, raw)));
  }
  if (field.bits < width) bits = `(${bits} AND ${maskText(field.bits)})`;
  const first = Math.floor(field.at / elementBits);
  const last = Math.floor((fieldEnd(field) - 1) / elementBits);
  const inFirst = field.at - first * elementBits;
  if (first === last && field.bits === width && inFirst % width === 0) {
    const target =
      width === elementBits
        ? `${fn}[${first}]`
        : `${fn}[${first}].%${partialAccess[width]}${inFirst / width}`;
    return [`${target} := ${bits};`];
  }
  const work = Math.max(width, elementBits) as Width;
  const lines: string[] = [];
  for (let e = first; e <= last; e += 1) {
    const part = shifted(convert(stringType, bitString[work], bits), field.at - e * elementBits);
    lines.push(`${fn}[${e}] := ${fn}[${e}] OR ${convert(bitString[work], bitString[elementBits], part)};`);
  }
  return lines;
}

function structText(typeName: string, members: Member[], image: Image, elementBits: ElementBits): string[] {
  const lines = members.map((m) => {
    const { controller, device } = bothSides(image, m.field.at, elementBits);
    const labels = m.field.labels.map((l) => `${l.value} = ${l.text}`).join(', ');
    const facts = [m.field.unit, labels, m.field.note, `${controller.text}, device ${device.text}`].filter(
      Boolean,
    );
    return `    ${m.name} : ${m.type}; ${comment(facts.join('; '))}`;
  });
  if (lines.length === 0) lines.push('    no_field_yet : BOOL;');
  return ['TYPE', `  ${typeName} : STRUCT`, ...lines, '  END_STRUCT;', 'END_TYPE'];
}

/** Structured text of one image: the STRUCT, and the function that unpacks (feedback) or packs (command) it. */
function imageText(device: Device, stem: string, image: Image, elementBits: ElementBits): string[] {
  const members = membersOf(image);
  const structName = `${stem}_${image.direction}_t`;
  const rawName = `${stem}_${image.direction}_raw_t`;
  const elements = Math.max(1, Math.ceil((image.size * 8) / elementBits));
  const { controller } = bothSides(image, 0, elementBits);
  const head = [
    comment(
      `${device.name}: ${image.direction} image, assembly instance ${image.instance}, ${image.size} bytes; ` +
        `controller ${controller.side} from ${controller.directElement}`,
    ),
    ...structText(structName, members, image, elementBits),
    '',
    'TYPE',
    `  ${rawName} : ARRAY[0..${elements - 1}] OF ${bitString[elementBits]};`,
    'END_TYPE',
    '',
  ];
  if (image.direction === 'feedback') {
    const fn = `${stem}_unpack`;
    return [
      ...head,
      `FUNCTION ${fn} : ${structName}`,
      `VAR_INPUT raw : ${rawName}; END_VAR`,
      ...members.map((m) => `  ${unpackLine(fn, m, elementBits)}`),
      'END_FUNCTION',
    ];
  }
  const fn = `${stem}_pack`;
  return [
    ...head,
    `FUNCTION ${fn} : ${rawName}`,
    `VAR_INPUT value : ${structName}; END_VAR`,
    `VAR i : INT; END_VAR`,
    `  FOR i := 0 TO ${elements - 1} DO ${fn}[i] := 0; END_FOR;`,
    ...members.flatMap((m) => packLines(fn, m, elementBits)).map((line) => `  ${line}`),
    'END_FUNCTION',
  ];
}

const stemsOf = (cell: Cell): Map<Link, string> => {
  const links = cell.devices.flatMap((device) => device.links.map((link, i) => ({ device, link, i })));
  const names = uniqueIdentifiers(
    links.map(({ device, i }) => (i ? `${device.name}_${i + 1}` : device.name)),
  );
  return new Map(links.map(({ link }, i) => [link, names[i]!]));
};

/**
 * The structured text of a cell (IEC 61131-3:2013): per image one STRUCT and one function. A scaled field becomes a REAL (LREAL
 * above 16 bits) in engineering units; bits without a field are sent as 0. Fields past the end of an image are left out.
 */
export function structuredText(cell: Cell): string {
  const stems = stemsOf(cell);
  const { elementBits } = cell.controller;
  const parts = cell.devices.flatMap((device) =>
    device.links.flatMap((link) =>
      imagesOf(link).map((image) => imageText(device, stems.get(link)!, image, elementBits).join('\n')),
    ),
  );
  const head = comment(
    `${cell.name}: layouts for ${cell.controller.name}, ${elementBits}-bit elements. Structured text, IEC 61131-3:2013.`,
  );
  return [head, ...parts].join('\n\n') + '\n';
}

/** The file name that the structured text of a cell has. */
export const structuredTextFile = (cell: Cell): string => `${identifierOf(cell.name)}.st`;
