import { runsOf, type Signal } from '@fadenkreuz/core';

/**
 * Geometry of the tape: rows of `rowBits` bits, the highest bit of a row on the left. Where the first byte of a row is
 * the high one, as in registers, the bytes of each row stand the other way round. All lengths in px.
 */
export interface TapeShape {
  rowBits: number;
  highByteFirst: boolean;
  cell: number;
  rowHeight: number;
}

/** Space for the cells of a row beside both margins at a window of 1280 px. */
const tapeWidth = 576;

/** Heights of a row, from roomy to dense. */
export const densities = { roomy: 44, narrow: 26, dense: 16 } as const;
export type Density = keyof typeof densities;

export const shapeOf = (rowBits: number, density: Density = 'roomy', highByteFirst = false): TapeShape => ({
  rowBits,
  highByteFirst,
  cell: rowBits === 8 ? 44 : tapeWidth / rowBits,
  rowHeight: densities[density],
});

/** Width of each margin beside the tape. */
export const tapeMargin = 136;

/** The place of a bit along the tape, rows behind each other, from the right; and the bit at a place. */
export function alongTape(
  bit: number,
  { rowBits, highByteFirst }: Pick<TapeShape, 'rowBits' | 'highByteFirst'>,
) {
  if (!highByteFirst) return bit;
  const inRow = bit % rowBits;
  return bit - inRow + (rowBits - 8 - (inRow - (inRow % 8))) + (inRow % 8);
}

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

/** Stretches of places that lie side by side along the tape in one row, for bits that follow each other. */
function stretches(at: number, end: number, shape: TapeShape): { from: number; to: number }[] {
  const step = shape.highByteFirst ? 8 : shape.rowBits;
  const found: { from: number; to: number }[] = [];
  for (let bit = at; bit < end;) {
    const next = Math.min(end, bit - (bit % step) + step);
    const from = alongTape(bit, shape);
    const to = from + next - bit;
    const last = found.at(-1);
    const sameRow = last && Math.floor(last.from / shape.rowBits) === Math.floor(from / shape.rowBits);
    // The byte after stands to the right of the one before.
    if (sameRow && to === last.from) last.from = from;
    else found.push({ from, to });
    bit = next;
  }
  return found;
}

/** The pieces in which a signal lies on the tape, first row first. */
export function segmentsOf(signal: Signal, shape: TapeShape): Segment[] {
  const { rowBits, cell } = shape;
  const segments: Segment[] = [];
  for (const { at, bits } of runsOf(signal))
    for (const { from, to } of stretches(at, at + bits, shape)) {
      const row = Math.floor(from / rowBits);
      segments.push({
        signal,
        row,
        left: (rowBits - (to - row * rowBits)) * cell,
        width: (to - from) * cell,
        begins: segments.length === 0,
        ends: false,
      });
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
export function setBitMarks(bytes: Uint8Array, shape: TapeShape, first: number, last: number): string {
  const { rowBits, cell, rowHeight } = shape;
  const marks: string[] = [];
  const mark = rowHeight > 20 ? 4 : 2;
  const end = Math.min(bytes.length * 8, (last + 1) * rowBits);
  for (let bit = first * rowBits; bit < end; bit += 1) {
    if (!((bytes[bit >> 3]! >> (bit & 7)) & 1)) continue;
    const x = (rowBits - 1 - (alongTape(bit, shape) % rowBits)) * cell + 2;
    const y = (Math.floor(bit / rowBits) + 1) * rowHeight - mark - 1;
    marks.push(`M${x} ${y}h${cell - 3}v${mark}h${3 - cell}z`);
  }
  return marks.join('');
}

/** Since when a bit has not changed, ms, for each shade of the tape; the first fits. */
export const shadeAges = [2000, 10_000, 60_000] as const;

/** Outlines of the bits that changed not long ago, one SVG path for each shade. */
export function changeShades(
  changedAt: Float64Array,
  now: number,
  shape: TapeShape,
  first: number,
  last: number,
): string[] {
  const { rowBits, cell, rowHeight } = shape;
  const paths: string[][] = shadeAges.map(() => []);
  const end = Math.min(changedAt.length, (last + 1) * rowBits);
  for (let bit = first * rowBits; bit < end; bit += 1) {
    const at = changedAt[bit]!;
    const shade = at === 0 ? -1 : shadeAges.findIndex((age) => now - at < age);
    if (shade < 0) continue;
    const { left, top } = placeOfBit(bit, shape);
    paths[shade]!.push(`M${left + 1} ${top + 1}h${cell - 1}v${rowHeight - 2}h${1 - cell}z`);
  }
  return paths.map((path) => path.join(''));
}

/** A letter of the tape's text is not wider, px. */
const letterPx = 7.3;

/** A text as it fits into so many px: whole, or so much of it with three dots; nothing where not even that fits. */
export function fitText(text: string, px: number): string {
  const letters = Math.floor(px / letterPx);
  if (text.length <= letters) return text;
  return letters < 3 ? '' : `${text.slice(0, letters - 1)}…`;
}

/** Whether the name of a signal has no room on the tape. */
export function isNameCut(signal: Signal, shape: TapeShape): boolean {
  const [first] = segmentsOf(signal, shape);
  return signal.bits === 1 || (first !== undefined && fitText(signal.name, first.width - 18) !== signal.name);
}

/** Left edge and top of a bit. */
export const placeOfBit = (bit: number, shape: TapeShape) => ({
  left: (shape.rowBits - 1 - (alongTape(bit, shape) % shape.rowBits)) * shape.cell,
  top: Math.floor(bit / shape.rowBits) * shape.rowHeight,
});

/** The bit at a point of the tape, kept inside an image of `bits` bits. */
export function bitAtPoint(x: number, y: number, shape: TapeShape, bits: number): number {
  const { rowBits, cell, rowHeight } = shape;
  const column = Math.max(0, Math.min(rowBits - 1, Math.floor(x / cell)));
  const row = Math.max(0, Math.floor(y / rowHeight));
  const place = row * rowBits + (rowBits - 1 - column);
  if (row * rowBits >= bits) return Math.max(0, bits - 1);
  // The last row may have no byte there.
  return Math.max(0, Math.min(bits - 1, alongTape(place, shape)));
}

/** The bit that an arrow key leads to: left is the higher bit, as on the tape. */
export function stepBit(
  bit: number,
  key: string,
  shape: Pick<TapeShape, 'rowBits' | 'highByteFirst'>,
  bits: number,
): number {
  const { rowBits } = shape;
  const step = { ArrowLeft: 1, ArrowRight: -1, ArrowDown: rowBits, ArrowUp: -rowBits }[key] ?? 0;
  const place = alongTape(bit, shape) + step;
  const next = place < 0 ? -1 : alongTape(place, shape);
  return next >= 0 && next < bits ? next : bit;
}
