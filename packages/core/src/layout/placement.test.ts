import { expect, test } from 'vitest';
import { Field } from '../cell/model.js';
import { fieldAtBit, freeRuns, overlapsIn, snap, typeForRun, typeResized } from './placement.js';

const field = (id: string, type: Field['type'], at: number, bits: number) =>
  Field.parse({ id, name: id, type, at, bits });

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
  expect(fieldAtBit(fields, 3)?.id).toBe('bit');
  expect(fieldAtBit(fields, 4)?.id).toBe('word');
  expect(fieldAtBit(fields, 16)).toBeUndefined();
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
  const image = { size: 4, fields: [field('a', 'BOOL', 0, 1), field('b', 'UINT', 16, 16)] };
  expect(freeRuns(image)).toEqual([{ at: 1, bits: 15 }]);
});
