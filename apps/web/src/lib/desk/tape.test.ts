import { Field } from '@fadenkreuz/core';
import { describe, expect, test } from 'vitest';
import { bitAtPoint, placeOfBit, segmentsOf, shapeOf, stepBit } from './tape.js';

const field = (at: number, bits: number) => Field.parse({ id: 'f', name: 'f', type: 'BITS', at, bits });

describe.each([8, 16, 32, 64])('%i bits a row', (rowBits) => {
  const shape = shapeOf(rowBits);

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
])('from bit %i, %s leads to %i', (bit, key, next) => expect(stepBit(bit, key, 16, 96)).toBe(next));
