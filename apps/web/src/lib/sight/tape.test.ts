import { Field, signalsOf } from '@fadenkreuz/core';
import { describe, expect, test } from 'vitest';
import {
  bitAtPoint,
  placeOfBit,
  rowsInSight,
  segmentsByRow,
  segmentsOf,
  setBitMarks,
  shapeOf,
  stepBit,
} from './tape.js';

const field = (at: number, bits: number, order: 'little' | 'big' = 'little') =>
  signalsOf({ fields: [Field.parse({ id: 'f', name: 'f', type: 'BITS', at, bits })], groups: [], order })[0]!;

describe.each([
  [8, false],
  [16, false],
  [32, false],
  [64, false],
  [16, true],
  [32, true],
  [64, true],
])('%i bits a row, high byte first %j', (rowBits, highByteFirst) => {
  const shape = shapeOf(rowBits, 'roomy', highByteFirst);

  test('every bit is found again in its middle', () => {
    for (let bit = 0; bit < 256; bit += 1) {
      const { left, top } = placeOfBit(bit, shape);
      expect(bitAtPoint(left + shape.cell / 2, top + shape.rowHeight / 2, shape, 256)).toBe(bit);
    }
  });

  test('the pieces of a field cover its bits and no others', () => {
    for (const [at, bits] of [
      [0, 1],
      [5, 20],
      [16, 32],
      [60, 64],
    ] as const) {
      const covered = segmentsOf(field(at, bits), shape).flatMap(({ row, left, width }) =>
        Array.from({ length: Math.round(width / shape.cell) }, (_, i) =>
          bitAtPoint(left + (i + 0.5) * shape.cell, row * shape.rowHeight + 1, shape, 4096),
        ),
      );
      expect(covered.sort((a, b) => a - b)).toEqual(Array.from({ length: bits }, (_, i) => at + i));
    }
  });

  test('only the first piece begins and only the last one ends', () => {
    const pieces = segmentsOf(field(rowBits - 2, 4), shape);
    expect(pieces.map((p) => [p.begins, p.ends])).toEqual([
      [true, false],
      [false, true],
    ]);
  });
});

test('points outside belong to the nearest bit of the image', () => {
  const shape = shapeOf(16);
  expect(bitAtPoint(-50, -50, shape, 64)).toBe(15);
  expect(bitAtPoint(9999, -50, shape, 64)).toBe(0);
  expect(bitAtPoint(9999, 9999, shape, 64)).toBe(63);
});

test.each([
  [0, 'ArrowLeft', 1],
  [0, 'ArrowRight', 0],
  [15, 'ArrowLeft', 16],
  [16, 'ArrowRight', 15],
  [3, 'ArrowDown', 19],
  [19, 'ArrowUp', 3],
  [3, 'ArrowUp', 3],
  [95, 'ArrowLeft', 95],
  [90, 'ArrowDown', 90],
  [7, 'Tab', 7],
])('from bit %i, %s leads to %i', (bit, key, next) => expect(stepBit(bit, key, shapeOf(16), 96)).toBe(next));

/** In a register bit 8 of it, the lowest of its high byte, is the first bit of the first byte. */
test.each([
  [0, 'ArrowRight', 15],
  [7, 'ArrowLeft', 24],
  [15, 'ArrowLeft', 0],
  [8, 'ArrowRight', 8],
  [24, 'ArrowRight', 7],
  [3, 'ArrowDown', 19],
])('in rows of registers: from bit %i, %s leads to %i', (bit, key, next) =>
  expect(stepBit(bit, key, shapeOf(16, 'roomy', true), 96)).toBe(next),
);

test('a register is one piece of its whole row, its bit 8 in the column of that number', () => {
  const shape = shapeOf(16, 'roomy', true);
  expect(segmentsOf(field(16, 16, 'big'), shape)).toMatchObject([
    { row: 1, left: 0, width: 16 * shape.cell },
  ]);
  expect(placeOfBit(0, shape)).toEqual({ left: 7 * shape.cell, top: 0 });
});

test('a group in a big-endian word lies in two pieces, where its bits really are', () => {
  // Bits 6 to 9 of the word in bytes 0 and 1, high byte first: byte 0 bits 0 and 1, byte 1 bits 6 and 7.
  const shape = shapeOf(16);
  const pieces = segmentsOf(field(6, 4, 'big'), shape);
  const bits = pieces.flatMap(({ left, width }) =>
    Array.from({ length: width / shape.cell }, (_, i) =>
      bitAtPoint(left + (i + 0.5) * shape.cell, 1, shape, 16),
    ),
  );
  expect(bits.sort((a, b) => a - b)).toEqual([0, 1, 14, 15]);
});

test('of a long tape only the rows in sight are drawn, and a few beside them', () => {
  const shape = shapeOf(16);
  expect(rowsInSight(0, 440, 750, shape)).toEqual({ first: 0, last: 15 });
  expect(rowsInSight(100 * 44, 440, 750, shape)).toEqual({ first: 94, last: 115 });
  expect(rowsInSight(749 * 44, 440, 750, shape).last).toBe(749);
  expect(rowsInSight(0, 440, 0, shape).last).toBe(-1);
  const rows = segmentsByRow([field(0, 4), field(36, 4)], shape);
  expect([rows[0]?.length, rows[1]?.length, rows[2]?.length]).toEqual([1, undefined, 1]);
});

test('a mark for each set bit, in its cell', () => {
  const shape = shapeOf(16);
  expect(setBitMarks(Uint8Array.of(0, 0), shape, 0, 0)).toBe('');
  const marks = setBitMarks(Uint8Array.of(0b101, 0x80), shape, 0, 0);
  expect(marks.match(/M/g)).toHaveLength(3);
  expect(marks).toContain(`M${15 * shape.cell + 2} `);
  expect(marks).toContain('M2 ');
  expect(setBitMarks(Uint8Array.of(0xff, 0xff), shape, 1, 4)).toBe('');
});
