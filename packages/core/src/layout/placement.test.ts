import { expect, test } from 'vitest';
import type { Field } from './field.js';
import { testImage, testSignal } from '../cell/testCell.js';
import { covers, freeRuns, overlapsIn, signalAtBit, snap, typeForRun, typeResized } from './placement.js';

const field = (id: string, type: Field['type'], at: number, bits: number) =>
  testSignal({ id, name: id, type, at, bits });
const plain = ({ of: _of, index: _index, ...field }: ReturnType<typeof testSignal>): Field => field;

test('overlaps name the shared bits', () => {
  const pairs = overlapsIn([
    field('a', 'UINT', 0, 16),
    field('b', 'BOOL', 15, 1),
    field('c', 'UINT', 16, 16),
  ]);
  expect(pairs.map((p) => [p.first.id, p.second.id, p.fromBit, p.toBit])).toEqual([['a', 'b', 15, 15]]);
});

test('of overlapping fields the shorter one is under the crosshair', () => {
  const fields = [field('word', 'WORD', 0, 16), field('bit', 'BOOL', 3, 1)];
  expect(signalAtBit(fields, 3)?.id).toBe('bit');
  expect(signalAtBit(fields, 4)?.id).toBe('word');
  expect(signalAtBit(fields, 16)).toBeUndefined();
});

test('whole types stay on bytes and inside the image; bits go anywhere', () => {
  const image = { size: 4 };
  expect(snap('UINT', 16, 13, image)).toBe(8);
  expect(snap('UINT', 16, 31, image)).toBe(16);
  expect(snap('BOOL', 1, 13, image)).toBe(13);
  expect(snap('BOOL', 1, 99, image)).toBe(31);
  expect(snap('UINT', 16, -5, image)).toBe(0);
});

test('the type follows the length', () => {
  expect([typeForRun(0, 1), typeForRun(8, 16), typeForRun(3, 16), typeForRun(0, 12)]).toEqual([
    'BOOL',
    'UINT',
    'BITS',
    'BITS',
  ]);
  expect([typeResized('INT', 0, 32), typeResized('REAL', 0, 64), typeResized('INT', 0, 12)]).toEqual([
    'DINT',
    'LREAL',
    'BITS',
  ]);
});

test('free runs are what no field covers', () => {
  const image = testImage({
    size: 4,
    fields: [field('a', 'BOOL', 0, 1), field('b', 'UINT', 16, 16)].map(plain),
  });
  expect(freeRuns(image)).toEqual([{ at: 1, bits: 15 }]);
});

test('a group of bits in a big-endian word takes the bits that it really has', () => {
  // Bits 6 to 9 of the word in bytes 4 and 5, high byte first: byte 5 bits 6 and 7, byte 4 bits 0 and 1.
  const group = testSignal({ type: 'BITS', at: 38, bits: 4 }, 'big');
  const taken = Array.from({ length: 64 }, (_, bit) => bit).filter((bit) => covers(group, bit));
  expect(taken).toEqual([32, 33, 46, 47]);
  const beside = testSignal({ name: 'b', type: 'BOOL', at: 40, bits: 1 });
  expect(overlapsIn([group, beside])).toEqual([]);
  expect(overlapsIn([group, testSignal({ name: 'c', type: 'BOOL', at: 46, bits: 1 })])).toHaveLength(1);
});
