import { fieldEnd } from '../cell/find.js';
import type { Field, Image } from '../cell/model.js';
import { fieldTypes, type FieldType } from './fieldTypes.js';

/** Two fields of one image that use the same bits. */
export interface Overlap {
  first: Field;
  second: Field;
  fromBit: number;
  toBit: number;
}

/** Every pair of fields that share bits, in order of their first shared bit. */
export function overlapsIn(fields: readonly Field[]): Overlap[] {
  const sorted = [...fields].sort((a, b) => a.at - b.at);
  const overlaps: Overlap[] = [];
  sorted.forEach((first, i) => {
    for (let k = i + 1; k < sorted.length && sorted[k]!.at < fieldEnd(first); k += 1) {
      const second = sorted[k]!;
      overlaps.push({
        first,
        second,
        fromBit: second.at,
        toBit: Math.min(fieldEnd(first), fieldEnd(second)) - 1,
      });
    }
  });
  return overlaps;
}

/** The field that owns a bit; of overlapping ones the shortest, because the longer can still be reached beside it. */
export function fieldAtBit(fields: readonly Field[], bit: number): Field | undefined {
  let found: Field | undefined;
  for (const field of fields)
    if (field.at <= bit && bit < fieldEnd(field) && (!found || field.bits < found.bits)) found = field;
  return found;
}

/** Where a field may start when it is put near `bit`: whole bytes for all types but BOOL and BITS, inside the image. */
export function snap(type: FieldType, bits: number, bit: number, image: Pick<Image, 'size'>): number {
  const step = type === 'BOOL' || type === 'BITS' ? 1 : 8;
  const last = image.size * 8 - bits;
  return Math.max(0, Math.min(Math.floor(bit / step) * step, Math.floor(last / step) * step));
}

/** The type that a run of bits suggests when it is drawn over the tape. */
export function typeForRun(at: number, bits: number): FieldType {
  if (bits === 1) return 'BOOL';
  if (at % 8 === 0) {
    const type = ({ 8: 'USINT', 16: 'UINT', 32: 'UDINT', 64: 'ULINT' } as const)[bits];
    if (type) return type;
  }
  return 'BITS';
}

/** The type of the same family with this length; a length that no whole type has becomes BITS. */
export function typeResized(type: FieldType, at: number, bits: number): FieldType {
  const { reads } = fieldTypes[type];
  if (bits === 1) return 'BOOL';
  const family = (Object.keys(fieldTypes) as FieldType[]).find(
    (t) => t !== 'BITS' && fieldTypes[t].bits === bits && fieldTypes[t].reads === reads,
  );
  return at % 8 === 0 && family ? family : typeForRun(at, bits);
}

/** The free runs of bits of an image, first bit and length. */
export function freeRuns(image: Pick<Image, 'size' | 'fields'>): { at: number; bits: number }[] {
  const runs: { at: number; bits: number }[] = [];
  let at = 0;
  for (const field of [...image.fields].sort((a, b) => a.at - b.at)) {
    if (field.at > at) runs.push({ at, bits: field.at - at });
    at = Math.max(at, fieldEnd(field));
  }
  if (at < image.size * 8) runs.push({ at, bits: image.size * 8 - at });
  return runs;
}
