import { expect, test } from 'vitest';
import { Field } from './field.js';
import { testImage } from '../cell/testCell.js';
import { compareImages } from './compare.js';

const field = (name: string, at: number, part: Partial<Field> = {}) =>
  Field.parse({ id: `${name}-${(ids += 1)}`, name, type: 'UINT', at, bits: 16, ...part });
let ids = 0;

test('what moved, changed type, changed otherwise, is missing, is new', () => {
  const left = testImage({
    size: 40,
    fields: [
      field('same', 0),
      field('moved', 16),
      field('typed', 32),
      field('unit', 64, { unit: 'Hz' }),
      field('gone', 80),
    ],
  });
  const right = testImage({
    size: 40,
    fields: [
      field('SAME', 0),
      field('moved', 24),
      field('typed', 40, { type: 'DINT', bits: 32 }),
      field('unit', 64, { unit: 'rpm', scale: { factor: '1/10', offset: '0' } }),
      field('added', 80),
    ],
  });
  expect(compareImages(left, right).map((d) => [d.kind, d.name, d.details])).toEqual([
    ['same', 'same', []],
    ['moved', 'moved', ['2.0 → 3.0']],
    ['retyped', 'typed', ['UINT → DINT', '4.0 → 5.0']],
    ['changed', 'unit', ['scale none → factor 1/10, offset 0', 'unit Hz → rpm']],
    ['missing', 'gone', []],
    ['new', 'added', []],
  ]);
});

test('a copy has other ids, and is the same: references are compared by name', () => {
  const make = () => {
    const sign = field('minus', 16, { type: 'BOOL', bits: 1 });
    return testImage({
      size: 8,
      fields: [sign, field('w', 0, { sign: { way: 'bit', field: sign.id, bit: 0, inverted: false } })],
    });
  };
  expect(compareImages(make(), make()).every((d) => d.kind === 'same')).toBe(true);
});
