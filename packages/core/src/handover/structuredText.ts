import { identifierOf, uniqueIdentifiers } from '../entries/identifiers.js';
import { imagesOf, type ImagePlace } from '../cell/find.js';
import { sceneOf } from '../cell/scene.js';
import type { Image } from '../layout/image.js';
import type { Link } from '../cell/link.js';
import type { Cell } from '../cell/model.js';
import { bothSides, type AddressScene } from '../layout/address.js';
import { fieldAddress } from '../layout/fieldAddress.js';
import { protocolOf } from '../protocols/list.js';
import { limitsOf, readsOf } from '../layout/fieldTypes.js';
import { exactly, ratio, type Fraction } from '../layout/ratio.js';
import { signalsInside, type Signal } from '../layout/signals.js';
import { chunksOf } from '../layout/elementChunks.js';

type Width = 8 | 16 | 32 | 64;

const bitString: Record<Width, string> = { 8: 'BYTE', 16: 'WORD', 32: 'DWORD', 64: 'LWORD' };
const unsigned: Record<Width, string> = { 8: 'USINT', 16: 'UINT', 32: 'UDINT', 64: 'ULINT' };
const partialAccess: Record<Width, string> = { 8: 'B', 16: 'W', 32: 'D', 64: 'L' };
const widthFor = (bits: number): Width => ([8, 16, 32, 64] as const).find((w) => w >= bits)!;

/** `WORD_TO_UINT(x)`; nothing when both types are the same (IEC 61131-3:2013, 6.6.2.5.2). */
const convert = (from: string, to: string, text: string) =>
  from === to ? text : `${from}_TO_${to}(${text})`;
const shifted = (text: string, places: number) =>
  places === 0 ? text : places > 0 ? `SHL(${text}, ${places})` : `SHR(${text}, ${-places})`;
const maskText = (bits: number, shift = 0) =>
  `16#${(((1n << BigInt(bits)) - 1n) << BigInt(shift)).toString(16).toUpperCase()}`;
const complement = (signal: Signal) => signal.sign?.way === 'complement';
/** The highest bit of a signal alone. */
const halfText = ({ bits }: Signal) => maskText(1, bits - 1);
/** Comments must not end early, whatever a note says. */
const comment = (text: string) => `(* ${text.replaceAll('*)', '* )').replaceAll('(*', '( *')} *)`;
const real = (value: number | bigint) =>
  Number.isInteger(Number(value)) ? `${value}.0` : String(value).replace('e+', 'E').replace('e', 'E');
const realRatio = (value: Fraction) =>
  value.d === 1n ? real(value.s * value.n) : `${real(value.s * value.n)} / ${real(value.d)}`;

interface Member {
  name: string;
  signal: Signal;
  /** Type of the member in the STRUCT: REAL or LREAL when it is in engineering units. */
  type: string;
  /** Type of the raw value. */
  rawType: string;
  /** Whether sign, decimal point or scale stand between the raw number and the member. */
  engineered: boolean;
  /** Each byte of text or raw bytes is an element of its own. */
  bytes: number;
}

/** All that is asked for while an image is written out. */
interface Scene {
  /** Addresses of the image, and how the controller sees it as elements. */
  addresses: AddressScene;
  image: Image;
  members: Member[];
  fn: string;
}

function membersOf(image: Image): Member[] {
  const inside = signalsInside(image);
  const names = uniqueIdentifiers(inside.map((s) => s.name));
  return inside.map((signal, i) => {
    const reads = readsOf(signal);
    const whole = reads === 'text' || reads === 'bytes';
    const width = widthFor(Math.min(64, signal.bits));
    const plain = signal.type === 'BITS' ? bitString[width] : reads === 'bcd' ? unsigned[width] : signal.type;
    const rawType = whole ? `ARRAY[0..${signal.bits / 8 - 1}] OF BYTE` : plain;
    const engineered =
      !whole && reads !== 'boolean' && Boolean(signal.scale ?? signal.decimals ?? signal.sign);
    const engineeredType = signal.bits > 16 ? 'LREAL' : 'REAL';
    return {
      name: names[i]!,
      signal,
      rawType,
      type: engineered ? engineeredType : rawType,
      engineered,
      bytes: whole ? signal.bits / 8 : 0,
    };
  });
}

/** An unsigned or signed number type of the width, to calculate with when a bit string is scaled. */
const numberType = ({ rawType }: Member): string =>
  ({ BYTE: 'USINT', WORD: 'UINT', DWORD: 'UDINT', LWORD: 'ULINT' })[rawType] ?? rawType;

type Bits = Pick<Signal, 'at' | 'bits' | 'order'>;

/** The bits of a field as an expression over `raw`, as a bit string of the field's width. */
function bitsOf({ addresses: { controller }, image }: Scene, field: Bits): string {
  const { elementBits } = controller;
  const width = widthFor(field.bits);
  const chunks = chunksOf(field, image, controller);
  const [only] = chunks;
  if (chunks.length === 1 && field.bits === width && only!.elementBit % width === 0)
    return width === elementBits
      ? `raw[${only!.element}]`
      : `raw[${only!.element}].%${partialAccess[width]}${only!.elementBit / width}`;
  const work = Math.max(width, elementBits) as Width;
  const terms = chunks.map(({ element, elementBit, valueBit, count }) => {
    const whole = convert(bitString[elementBits], bitString[work], `raw[${element}]`);
    const moved = shifted(whole, valueBit - elementBit);
    return count === elementBits ? moved : `(${moved} AND ${maskText(count, valueBit)})`;
  });
  return convert(bitString[work], bitString[width], terms.length > 1 ? `(${terms.join(' OR ')})` : terms[0]!);
}

/** One bit of a field, as the controller accesses it. */
function bitAccess({ addresses, image }: Scene, field: Bits, bit: number, array: string): string {
  const chunk = chunksOf(field, image, addresses.controller).find(
    (c) => c.valueBit <= bit && bit < c.valueBit + c.count,
  )!;
  return `${array}[${chunk.element}].%X${chunk.elementBit + bit - chunk.valueBit}`;
}

/** The member that a sign or a decimal point is taken from. */
const partner = ({ members }: Scene, signal: Signal, fieldId: string): Member | undefined =>
  members.find((m) => m.signal.id === fieldId + signal.id.slice(signal.of.length)) ??
  members.find((m) => m.signal.of === fieldId);

/** Factor and decimal point in one, and the offset. */
function scaleOf({ scale, decimals }: Signal): { factor: Fraction; offset: Fraction } {
  const places = decimals && decimals.way !== 'field' ? decimals.places : 0;
  const point = exactly(10n ** BigInt(places))!;
  return { factor: ratio(scale?.factor ?? '1').div(point), offset: ratio(scale?.offset ?? '0') };
}

/** ` / EXPT(10.0, …)` for a decimal point that another field says. */
function pointText(scene: Scene, member: Member, places: (other: Member) => string): string {
  const { decimals } = member.signal;
  const other = decimals?.way === 'field' ? partner(scene, member.signal, decimals.field) : undefined;
  return other ? `EXPT(10.0, ${convert(numberType(other), member.type, places(other))})` : '';
}

const byteOf = (signal: Signal, byte: number): Bits => ({
  at: signal.at + byte * 8,
  bits: 8,
  order: 'little',
});

function unpackLines(scene: Scene, member: Member): string[] {
  const { signal, name, rawType, type, bytes } = member;
  const target = `${scene.fn}.${name}`;
  if (bytes)
    return Array.from({ length: bytes }, (_, i) => `${target}[${i}] := ${bitsOf(scene, byteOf(signal, i))};`);
  if (signal.type === 'BOOL') return [`${target} := ${bitAccess(scene, signal, 0, 'raw')};`];
  const stringType = bitString[widthFor(signal.bits)];
  const number = numberType(member);
  const inner = signal.sign?.way === 'bit' && signal.sign.field === signal.of;
  const plain = inner ? `(${bitsOf(scene, signal)} AND ${maskText(signal.bits - 1)})` : bitsOf(scene, signal);
  // Two's complement of any width is offset binary once its highest bit is turned.
  const bits = complement(signal) ? `(${plain} XOR ${halfText(signal)})` : plain;
  const asNumber = (text: string, to: string) =>
    readsOf(signal) === 'bcd' ? `${stringType}_BCD_TO_${to}(${text})` : convert(stringType, to, text);
  if (!member.engineered) return [`${target} := ${asNumber(bits, rawType)};`];
  let raw = convert(number, type, asNumber(bits, number));
  if (signal.sign?.way === 'offset' || complement(signal)) raw = `(${raw} - ${real(2 ** (signal.bits - 1))})`;
  if (signal.sign?.way === 'bit') {
    const other = partner(scene, signal, signal.sign.field);
    const bit = other && bitAccess(scene, other.signal, signal.sign.bit, 'raw');
    const minus = `(0.0 - ${raw})`;
    if (bit) raw = signal.sign.inverted ? `SEL(${bit}, ${minus}, ${raw})` : `SEL(${bit}, ${raw}, ${minus})`;
  }
  const { factor, offset } = scaleOf(signal);
  const times = factor.n === 1n && factor.s > 0n ? '' : ` * ${real(factor.s * factor.n)}`;
  const by = factor.d === 1n ? '' : ` / ${real(factor.d)}`;
  const point = pointText(scene, member, (other) =>
    convert(bitString[widthFor(other.signal.bits)], numberType(other), bitsOf(scene, other.signal)),
  );
  const plus =
    offset.n === 0n ? '' : offset.s < 0n ? ` - ${realRatio(offset.neg())}` : ` + ${realRatio(offset)}`;
  return [`${target} := ${raw}${times}${by}${point && ` / ${point}`}${plus};`];
}

/** A value that does not fit stops at the end of the range; it never wraps. 64-bit limits are no exact LREAL. */
function limited(signal: Signal, text: string): string {
  const { minimum, maximum } = limitsOf(signal.type, signal.bits);
  return signal.bits > 32 ? text : `LIMIT(${real(minimum)}, ${text}, ${real(maximum)})`;
}

/** The raw number of an engineered member, as a bit string. */
function packedBits(scene: Scene, member: Member): string {
  const { signal, name, type } = member;
  const stringType = bitString[widthFor(signal.bits)];
  const number = numberType(member);
  const { factor, offset } = scaleOf(signal);
  const less = offset.n === 0n ? `value.${name}` : `(value.${name} - (${realRatio(offset)}))`;
  const point = pointText(scene, member, (other) => `value.${other.name}`);
  let raw =
    less +
    (factor.d === 1n ? '' : ` * ${real(factor.d)}`) +
    (factor.n === 1n && factor.s > 0n ? '' : ` / ${real(factor.s * factor.n)}`) +
    (point && ` * ${point}`);
  if (signal.sign?.way === 'offset' || complement(signal)) raw = `${raw} + ${real(2 ** (signal.bits - 1))}`;
  if (signal.sign?.way === 'bit') raw = `ABS(${raw})`;
  const whole = convert(type, number, limited(signal, raw));
  return readsOf(signal) === 'bcd'
    ? `${number}_TO_BCD_${stringType}(${whole})`
    : complement(signal)
      ? `(${convert(number, stringType, whole)} XOR ${halfText(signal)})`
      : convert(number, stringType, whole);
}

function packBits(scene: Scene, field: Bits, bits: string): string[] {
  const { addresses, image, fn } = scene;
  const { elementBits } = addresses.controller;
  const width = widthFor(field.bits);
  const stringType = bitString[width];
  const chunks = chunksOf(field, image, addresses.controller);
  const [only] = chunks;
  if (chunks.length === 1 && field.bits === width && only!.elementBit % width === 0) {
    const whole = `${fn}[${only!.element}]`;
    const target =
      width === elementBits ? whole : `${whole}.%${partialAccess[width]}${only!.elementBit / width}`;
    return [`${target} := ${bits};`];
  }
  const work = Math.max(width, elementBits) as Width;
  return chunks.map(({ element, elementBit, valueBit, count }) => {
    const own = convert(stringType, bitString[work], bits);
    const masked = count === width ? own : `(${own} AND ${maskText(count, valueBit)})`;
    const part = shifted(masked, elementBit - valueBit);
    return `${fn}[${element}] := ${fn}[${element}] OR ${convert(bitString[work], bitString[elementBits], part)};`;
  });
}

function packLines(scene: Scene, member: Member): string[] {
  const { signal, name, rawType, bytes, engineered } = member;
  if (bytes)
    return Array.from({ length: bytes }, (_, i) =>
      packBits(scene, byteOf(signal, i), `value.${name}[${i}]`),
    ).flat();
  if (signal.type === 'BOOL') return [`${bitAccess(scene, signal, 0, scene.fn)} := value.${name};`];
  const stringType = bitString[widthFor(signal.bits)];
  if (engineered) return packBits(scene, signal, packedBits(scene, member));
  const bits =
    readsOf(signal) === 'bcd'
      ? `${rawType}_TO_BCD_${stringType}(value.${name})`
      : convert(rawType, stringType, `value.${name}`);
  return packBits(scene, signal, bits);
}

/** Signs that lie in a bit of their own; written last, so that they win over the field that the bit belongs to. */
function signLines(scene: Scene, { signal, name }: Member): string[] {
  if (signal.sign?.way !== 'bit') return [];
  const other = partner(scene, signal, signal.sign.field);
  if (!other) return [];
  const target = bitAccess(scene, other.signal, signal.sign.bit, scene.fn);
  return [`${target} := value.${name} ${signal.sign.inverted ? '>=' : '<'} 0.0;`];
}

function structText(typeName: string, { addresses, members }: Scene): string[] {
  const lines = members.map(({ name, type, signal }) => {
    const at = fieldAddress(addresses, signal);
    const labels = signal.labels.map((l) => `${l.value} = ${l.text}`).join(', ');
    const rest = signal.normallyClosed ? '0 acts' : '';
    const facts = [signal.unit, labels, rest, signal.note, `${at.controller}, device ${at.device}`];
    return `    ${name} : ${type}; ${comment(facts.filter(Boolean).join('; '))}`;
  });
  if (lines.length === 0) lines.push('    no_field_yet : BOOL;');
  return ['TYPE', `  ${typeName} : STRUCT`, ...lines, '  END_STRUCT;', 'END_TYPE'];
}

/** Structured text of one image: the STRUCT, and the function that unpacks (feedback) or packs (command) it. */
function imageText(cell: Cell, place: ImagePlace, stem: string): string[] {
  const { device, link, image } = place;
  const addresses = sceneOf(cell, place);
  const { elementBits } = addresses.controller;
  const structName = `${stem}_${image.direction}_t`;
  const rawName = `${stem}_${image.direction}_raw_t`;
  const fn = image.direction === 'feedback' ? `${stem}_unpack` : `${stem}_pack`;
  const scene: Scene = { addresses, image, members: membersOf(image), fn };
  const elements = Math.max(1, Math.ceil((image.size * 8) / elementBits));
  const { controller } = bothSides(addresses, 0);
  const head = [
    comment(
      `${[`${device.name}: ${image.direction} image`, protocolOf(link).placeOf(link, image.direction)].filter(Boolean).join(', ')}, ${image.size} bytes; ` +
        `controller ${controller.side} from ${controller.directElement}`,
    ),
    ...structText(structName, scene),
    '',
    'TYPE',
    `  ${rawName} : ARRAY[0..${elements - 1}] OF ${bitString[elementBits]};`,
    'END_TYPE',
    '',
  ];
  if (image.direction === 'feedback')
    return [
      ...head,
      `FUNCTION ${fn} : ${structName}`,
      `VAR_INPUT raw : ${rawName}; END_VAR`,
      ...scene.members.flatMap((m) => unpackLines(scene, m)).map((line) => `  ${line}`),
      'END_FUNCTION',
    ];
  return [
    ...head,
    `FUNCTION ${fn} : ${rawName}`,
    `VAR_INPUT value : ${structName}; END_VAR`,
    `VAR i : INT; END_VAR`,
    `  FOR i := 0 TO ${elements - 1} DO ${fn}[i] := 0; END_FOR;`,
    ...[
      ...scene.members.flatMap((m) => packLines(scene, m)),
      ...scene.members.flatMap((m) => signLines(scene, m)),
    ].map((line) => `  ${line}`),
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
 * The structured text of a cell (IEC 61131-3:2013): per image one STRUCT and one function. A field with a sign source,
 * a decimal point or a scale becomes a REAL (LREAL above 16 bits) in engineering units; text and raw bytes an ARRAY OF
 * BYTE; bits without a field are sent as 0. Fields past the end of an image are left out.
 */
export function structuredText(cell: Cell): string {
  const stems = stemsOf(cell);
  const { elementBits } = cell.controller;
  const parts = cell.devices.flatMap((device) =>
    device.links.flatMap((link) =>
      imagesOf(link).map((image) => imageText(cell, { device, link, image }, stems.get(link)!).join('\n')),
    ),
  );
  const head = comment(
    `${cell.name}: layouts for ${cell.controller.name}, ${elementBits}-bit elements. Structured text, IEC 61131-3:2013.`,
  );
  return [head, ...parts].join('\n\n') + '\n';
}

/** The file name that the structured text of a cell has. */
export const structuredTextFile = (cell: Cell): string => `${identifierOf(cell.name)}.st`;
