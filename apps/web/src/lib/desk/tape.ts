import { fieldEnd, type Field } from '@fadenkreuz/core';

/** Geometry of the tape: rows of `rowBits` bits, the highest bit of a row on the left. All lengths in px. */
export interface TapeShape {
  rowBits: number;
  cell: number;
  rowHeight: number;
}

/** Space for the cells of a row beside both margins at a window of 1280 px. */
const tapeWidth = 576;

export const shapeOf = (rowBits: number): TapeShape => ({
  rowBits,
  cell: rowBits === 8 ? 44 : tapeWidth / rowBits,
  rowHeight: 44,
});

/** Width of each margin beside the tape. */
export const tapeMargin = 136;

/** A piece of a field within one row. */
export interface Segment {
  field: Field;
  row: number;
  left: number;
  width: number;
  /** Whether the field begins (its lowest bit) and ends in this piece. */
  begins: boolean;
  ends: boolean;
}

/** The pieces in which a field lies on the tape, first row first. */
export function segmentsOf(field: Field, { rowBits, cell }: TapeShape): Segment[] {
  const segments: Segment[] = [];
  const end = fieldEnd(field);
  for (let row = Math.floor(field.at / rowBits); row * rowBits < end; row += 1) {
    const from = Math.max(field.at, row * rowBits);
    const to = Math.min(end, (row + 1) * rowBits);
    segments.push({
      field,
      row,
      left: (rowBits - (to - row * rowBits)) * cell,
      width: (to - from) * cell,
      begins: from === field.at,
      ends: to === end,
    });
  }
  return segments;
}

/** Left edge and top of a bit. */
export const placeOfBit = (bit: number, { rowBits, cell, rowHeight }: TapeShape) => ({
  left: (rowBits - 1 - (bit % rowBits)) * cell,
  top: Math.floor(bit / rowBits) * rowHeight,
});

/** The bit at a point of the tape, kept inside an image of `bits` bits. */
export function bitAtPoint(
  x: number,
  y: number,
  { rowBits, cell, rowHeight }: TapeShape,
  bits: number,
): number {
  const column = Math.max(0, Math.min(rowBits - 1, Math.floor(x / cell)));
  const row = Math.max(0, Math.floor(y / rowHeight));
  return Math.max(0, Math.min(bits - 1, row * rowBits + (rowBits - 1 - column)));
}

/** The bit that an arrow key leads to: left is the higher bit, as on the tape. */
export function stepBit(bit: number, key: string, rowBits: number, bits: number): number {
  const step = { ArrowLeft: 1, ArrowRight: -1, ArrowDown: rowBits, ArrowUp: -rowBits }[key] ?? 0;
  const next = bit + step;
  return next >= 0 && next < bits ? next : bit;
}
