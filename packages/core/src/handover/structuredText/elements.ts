import type { AddressScene } from '../../layout/address.js';
import { piecesOf, placeOfValueBit } from '../../layout/byteOrder.js';
import { chunksOf } from '../../layout/elementChunks.js';
import { agesAt, inRuns, type RunAge } from '../../layout/registerRuns.js';
import type { Signal } from '../../layout/signals.js';
import { bitString, convert, maskText, partialAccess, shifted, widthFor, type Width } from './text.js';

/** The part of a signal that says where its bits lie. */
export type Bits = Pick<Signal, 'at' | 'bits' | 'order'>;

/** The age of a run, as the function that unpacks gets it. */
export interface AgeInput extends RunAge {
  /** Name of the input, UDINT, ms. */
  input: string;
}

/** Where the bits of an image stand in the arrays of a function. */
export interface Elements {
  addresses: AddressScene;
  ages: readonly AgeInput[];
}

/** Bytes that the controller's array has: none beyond the last register that is asked for. */
export const bytesHeld = ({ image, runs }: AddressScene): number =>
  runs
    ? Math.max(0, ...Array.from({ length: image.size }, (_, b) => (inRuns(runs, b * 8) ? b + 1 : 0)))
    : image.size;

/** Whether the controller's array holds all bits of a field. */
export const isHeld = ({ runs }: AddressScene, field: Bits): boolean =>
  !runs || piecesOf(field).every(({ byte }) => inRuns(runs, byte * 8));

/** Where a field comes from that no register brings; undefined where one does. */
export function sourceOf({ addresses, ages }: Elements, field: Bits): string | undefined {
  if (isHeld(addresses, field)) return undefined;
  const bits = piecesOf(field).flatMap(({ byte, bit, count }) =>
    Array.from({ length: count }, (_, i) => byte * 8 + bit + i),
  );
  const runs = new Set(bits.flatMap((bit) => agesAt(ages, bit)).map((age) => age.run));
  return runs.size
    ? `computed from the age of the last answer of ${[...runs].join(' and ')}`
    : 'no register brings it';
}

const inPiece = (place: number, bit: number, count: number) =>
  bit <= (place & 7) && (place & 7) < bit + count;

/** Whether a run is fresh. */
const freshText = ({ input, limitMs }: AgeInput) => `${input} <= ${limitMs}`;
/** Its age, ms, as a 16-bit number that stops at its end. */
const ageText = ({ input }: AgeInput) => `UDINT_TO_WORD(MIN(${input}, 65535))`;

/** The bits of a field that are worked out from ages of runs, as a bit string of its width; all others are 0. */
function computedBits({ ages }: Elements, field: Bits): string {
  const width = widthFor(field.bits);
  const own = bitString[width];
  const whole = ages.find(({ age }) => age !== null && field.at === age * 8);
  if (whole && field.bits === 16 && field.order.startsWith('big')) return ageText(whole);
  const terms = piecesOf(field).flatMap((piece) =>
    ages.flatMap((age) => {
      const { byte, bit, count, valueBit } = piece;
      const parts: string[] = [];
      if (age.fresh !== null && age.fresh >> 3 === byte && inPiece(age.fresh, bit, count))
        parts.push(shifted(`BOOL_TO_${own}(${freshText(age)})`, valueBit + (age.fresh & 7) - bit));
      const byteOfAge = age.age === null ? -1 : byte - age.age;
      if (byteOfAge === 0 || byteOfAge === 1) {
        const taken = shifted(ageText(age), byteOfAge === 0 ? -8 - bit : -bit);
        parts.push(shifted(convert('WORD', own, `(${taken} AND ${maskText(count)})`), valueBit));
      }
      return parts;
    }),
  );
  if (terms.length === 0) return '16#0';
  return terms.length > 1 ? `(${terms.join(' OR ')})` : terms[0]!;
}

/** The bits of a field as an expression over `raw`, as a bit string of the field's width. */
export function bitsOf(elements: Elements, field: Bits): string {
  const { controller, image } = elements.addresses;
  if (!isHeld(elements.addresses, field)) return computedBits(elements, field);
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

/** One bit of a field, as the controller accesses it in one of its arrays. */
function bitAccess({ image, controller }: AddressScene, field: Bits, bit: number, array: string): string {
  const chunk = chunksOf(field, image, controller).find(
    (c) => c.valueBit <= bit && bit < c.valueBit + c.count,
  )!;
  return `${array}[${chunk.element}].%X${chunk.elementBit + bit - chunk.valueBit}`;
}

/** One bit of a field as a BOOL over `raw`. */
export function bitOf(elements: Elements, field: Bits, bit: number): string {
  if (isHeld(elements.addresses, field)) return bitAccess(elements.addresses, field, bit, 'raw');
  const place = placeOfValueBit(field, bit);
  const age = elements.ages.find((a) => a.fresh !== null && a.fresh === place);
  return age ? freshText(age) : 'FALSE';
}

/** Statements that put a BOOL into one bit of a field; none where no register takes it. */
export const packBit = (
  { addresses }: Elements,
  array: string,
  field: Bits,
  bit: number,
  text: string,
): string[] => (isHeld(addresses, field) ? [`${bitAccess(addresses, field, bit, array)} := ${text};`] : []);

/** Statements that put a bit string of the field's width into the elements of an array; none where no register is. */
export function packBits({ addresses }: Elements, array: string, field: Bits, bits: string): string[] {
  if (!isHeld(addresses, field)) return [];
  const { image, controller } = addresses;
  const { elementBits } = controller;
  const width = widthFor(field.bits);
  const stringType = bitString[width];
  const chunks = chunksOf(field, image, controller);
  const [only] = chunks;
  if (chunks.length === 1 && field.bits === width && only!.elementBit % width === 0) {
    const whole = `${array}[${only!.element}]`;
    const target =
      width === elementBits ? whole : `${whole}.%${partialAccess[width]}${only!.elementBit / width}`;
    return [`${target} := ${bits};`];
  }
  const work = Math.max(width, elementBits) as Width;
  return chunks.map(({ element, elementBit, valueBit, count }) => {
    const own = convert(stringType, bitString[work], bits);
    const masked = count === width ? own : `(${own} AND ${maskText(count, valueBit)})`;
    const part = shifted(masked, elementBit - valueBit);
    const moved = convert(bitString[work], bitString[elementBits], part);
    return `${array}[${element}] := ${array}[${element}] OR ${moved};`;
  });
}
