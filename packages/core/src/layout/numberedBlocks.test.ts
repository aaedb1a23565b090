import { expect, test } from 'vitest';
import { testCell, testImage } from '../cell/testCell.js';
import { check } from '../checks/check.js';
import { blockBaseDoubtful } from '../checks/numberingRules.js';
import { withFields } from '../cell/testCell.js';
import { bothSides, type AddressScene } from './address.js';
import { Field } from './field.js';
import { bitOfAddress } from './readAddress.js';

/**
 * Worked by hand: a manual counts words of 16 bits, and the words of a block from 0 that begins at word 82. `Offset 1,
 * bit 3` of that block is word 83, bit 3: bit 83 × 16 + 3 = 1331. Blocks with bases of their own are common practice,
 * no source.
 */
const numbering = {
  ...{ notation: 'word', before: 0, slot: 0, subslot: 0, signals: [] },
  blocks: [
    { name: 'status', at: 164, first: 0 },
    { name: 'axis 2', at: 180, first: 1 },
  ],
};
const scene: AddressScene = {
  controller: { ...testCell().controller, elementBits: 16 },
  notations: [],
  device: { name: 'press_m1' },
  image: testImage({ size: 200, order: 'little', numbering }),
};

test.each([
  [1331, 'status: word 1 · bit 3'],
  [180 * 8, 'axis 2: word 1 · bit 0'],
  [15, 'word 0 · bit 15'],
])('bit %i is %s, both ways', (bit, text) => {
  expect(bothSides(scene, bit).device.text).toBe(text);
  expect(bitOfAddress(text, scene)).toBe(bit);
  expect(bitOfAddress(text.toUpperCase().replace(' · bit ', '.'), scene)).toBe(bit);
});

test('a number that the block has not is outside, as is the plain number of what a block counts', () => {
  expect(() => bitOfAddress('status: word 8', scene)).toThrow(/outside/);
  expect(() => bitOfAddress('word 83', scene)).toThrow(/outside/);
});

test('every bit comes back from its address', () => {
  for (let bit = 0; bit < 200 * 8; bit += 1)
    expect(bitOfAddress(bothSides(scene, bit).device.text, scene)).toBe(bit);
});

test('a block whose base does not fit is found', () => {
  const speed = Field.parse({ id: 's', name: 'speed', type: 'DINT', at: 32, bits: 32 });
  const cell = (at: number) =>
    withFields([speed], { size: 12, numbering: { ...numbering, blocks: [{ name: 'b', at, first: 0 }] } });
  const codes = (at: number) => check(cell(at), [blockBaseDoubtful]).map((f) => [f.code, f.facts]);
  expect(codes(4)).toEqual([]);
  expect(codes(6)).toMatchObject([
    ['image.blockCutsField', { field: 'speed', before: 'byte 4', behind: 'byte 8' }],
  ]);
  expect(codes(5)).toMatchObject([['image.blockOffUnit', { at: 5, unitBytes: 2 }]]);
  expect(codes(12)).toMatchObject([['image.blockOutside', { at: 12, size: 12 }]]);
});
