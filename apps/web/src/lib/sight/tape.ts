import { runsOf, type Signal } from '@fadenkreuz/core';

/** Geometry of the tape: rows of `rowBits` bits, the highest bit of a row on the left. All lengths in px. */
export interface TapeShape {
  rowBits: number;
  cell: number;
  rowHeight: number;
}

/** Space for the cells of a row beside both margins at a window of 1280 px. */
const tapeWidth = 576;

/** Heights of a row, from roomy to dense. */
export const densities = { roomy: 44, close: 26, dense: 14 } as const;
export type Density = keyof typeof densities;

export const shapeOf = (rowBits: number, density: Density = 'roomy'): TapeShape => ({
  rowBits,
  cell: rowBits === 8 ? 44 : tapeWidth / rowBits,
  rowHeight: densities[density],
});

/** Width of each margin beside the tape. */
export const tapeMargin = 136;

/** A piece of a signal within one row. */
export interface Segment {
  signal: Signal;
  row: number;
  left: number;
  width: number;
  /** Whether the signal begins (its first bit) and ends in this piece. */
  begins: boolean;
  ends: boolean;
}

/** The pieces in which a signal lies on the tape, first row first. */
export function segmentsOf(signal: Signal, { rowBits, cell }: TapeShape): Segment[] {
  const segments: Segment[] = [];
  for (const { at, bits } of runsOf(signal)) {
    const end = at + bits;
    for (let row = Math.floor(at / rowBits); row * rowBits < end; row += 1) {
      const from = Math.max(at, row * rowBits);
      const to = Math.min(end, (row + 1) * rowBits);
      segments.push({
        signal,
        row,
        left: (rowBits - (to - row * rowBits)) * cell,
        width: (to - from) * cell,
        begins: segments.length === 0,
        ends: false,
      });
    }
  }
  if (segments.length) segments.at(-1)!.ends = true;
  return segments;
}

/** The pieces of all signals by row, so that only the rows in sight need be drawn. */
export function segmentsByRow(signals: readonly Signal[], shape: TapeShape): Segment[][] {
  const rows: Segment[][] = [];
  for (const signal of signals)
    for (const segment of segmentsOf(signal, shape)) (rows[segment.row] ??= []).push(segment);
  return rows;
}

/** Rows drawn beyond the ones in sight, so that scrolling meets no empty ones. */
const spareRows = 6;

/** First and last row to draw for what is in sight. */
export function rowsInSight(
  scrolled: number,
  height: number,
  rows: number,
  { rowHeight }: TapeShape,
): { first: number; last: number } {
  const first = Math.max(0, Math.floor(scrolled / rowHeight) - spareRows);
  const last = Math.min(rows, Math.ceil((scrolled + height) / rowHeight) + spareRows) - 1;
  return { first, last };
}

/** An outline of every set bit in these rows, for one SVG path: a mark at the foot of its cell. */
export function setBitMarks(
  bytes: Uint8Array,
  { rowBits, cell, rowHeight }: TapeShape,
  first: number,
  last: number,
): string {
  const marks: string[] = [];
  const mark = rowHeight > 20 ? 4 : 2;
  const end = Math.min(bytes.length * 8, (last + 1) * rowBits);
  for (let bit = first * rowBits; bit < end; bit += 1) {
    if (!((bytes[bit >> 3]! >> (bit & 7)) & 1)) continue;
    const x = (rowBits - 1 - (bit % rowBits)) * cell + 2;
    const y = (Math.floor(bit / rowBits) + 1) * rowHeight - mark - 1;
    marks.push(`M${x} ${y}h${cell - 3}v${mark}h${3 - cell}z`);
  }
  return marks.join('');
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
