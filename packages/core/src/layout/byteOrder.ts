import type { ByteOrder } from './field.js';

/** A field's own bits, as far as its place in the bytes is concerned. */
export interface Placed {
  at: number;
  bits: number;
  order: ByteOrder | null;
}

/** Neighbouring bits of one byte that hold neighbouring bits of a value. */
export interface Piece {
  byte: number;
  /** Lowest bit within the byte, and how many. */
  bit: number;
  count: number;
  /** Which bit of the value lies there. */
  valueBit: number;
}

const wordwise = (order: ByteOrder) => order === 'bigSwapped' || order === 'littleSwapped';

/**
 * Bytes that a field touches. With words swapped, more than one byte is always whole words: half a word has no place to
 * be swapped with.
 */
export function bytesOf({ at, bits, order }: Placed): { first: number; count: number } {
  const bytes = ((at & 7) + bits + 7) >> 3;
  return { first: at >> 3, count: order && wordwise(order) && bytes > 1 ? bytes + (bytes & 1) : bytes };
}

/**
 * Where, among `count` bytes, the byte lies that holds bits 8 × `significance` and up of the value. Examples of all
 * four orders stand at ByteOrder.
 */
export function byteOffset(order: ByteOrder, significance: number, count: number): number {
  const word = significance >> 1;
  switch (order) {
    case 'little':
      return significance;
    case 'big':
      return count - 1 - significance;
    case 'bigSwapped':
      return count === 1 ? 0 : word * 2 + (1 - (significance & 1));
    case 'littleSwapped':
      return count === 1 ? 0 : count - 2 - word * 2 + (significance & 1);
  }
}

/** A field's bits byte by byte, lowest bits of the value first. */
export function piecesOf(field: Placed): Piece[] {
  const { first, count } = bytesOf(field);
  const shift = field.at & 7;
  const pieces: Piece[] = [];
  for (let significance = 0; significance < count; significance += 1) {
    const from = Math.max(shift, significance * 8);
    const to = Math.min(shift + field.bits, significance * 8 + 8);
    if (from < to)
      pieces.push({
        byte: first + byteOffset(field.order ?? 'little', significance, count),
        bit: from & 7,
        count: to - from,
        valueBit: from - shift,
      });
  }
  return pieces;
}

/** Which bit of a field's value lies at a bit of the image; undefined where the field has none. */
export function valueBitAt(field: Placed, bit: number): number | undefined {
  const [byte, place] = [bit >> 3, bit & 7];
  const piece = piecesOf(field).find((p) => p.byte === byte && p.bit <= place && place < p.bit + p.count);
  return piece && piece.valueBit + place - piece.bit;
}

/** Where in the image a bit of a field's value lies; undefined for a bit that it does not have. */
export function placeOfValueBit(field: Placed, valueBit: number): number | undefined {
  const piece = piecesOf(field).find((p) => p.valueBit <= valueBit && valueBit < p.valueBit + p.count);
  return piece && piece.byte * 8 + piece.bit + valueBit - piece.valueBit;
}

/** Whether the bits of a field lie side by side: little-endian, in one byte, or over whole bytes. */
export const isContiguous = (field: Placed): boolean =>
  field.order === 'little' ||
  field.order === null ||
  (field.at & 7) + field.bits <= 8 ||
  ((field.at & 7) === 0 && field.bits === bytesOf(field).count * 8);

/** The runs of bits that a field takes up in the image, in order of place: first bit and length. */
export function runsOf(field: Placed): { at: number; bits: number }[] {
  if (isContiguous(field)) return [{ at: field.at, bits: field.bits }];
  const runs: { at: number; bits: number }[] = [];
  const pieces = piecesOf(field)
    .map((p) => ({ at: p.byte * 8 + p.bit, bits: p.count }))
    .sort((a, b) => a.at - b.at);
  for (const piece of pieces) {
    const last = runs.at(-1);
    if (last && last.at + last.bits === piece.at) last.bits += piece.bits;
    else runs.push(piece);
  }
  return runs;
}

/** Where the 16-bit byte swap of a gateway takes a byte of an image; an odd last byte has no partner and stays. */
export const swappedByte = (byte: number, size: number): number =>
  byte === size - 1 && size % 2 === 1 ? byte : byte ^ 1;
