import { describe, expect, test } from 'vitest';
import { sceneOf } from '../cell/scene.js';
import { testCell, testDevice, testImage, testLink } from '../cell/testCell.js';
import { bothSides, everyAddress } from './address.js';
import { bitOfAddress } from './readAddress.js';
import { readRegister, registerReference } from './registerRuns.js';

/**
 * An image of two tables and of coils: input registers from 1000, holding registers from 3000, coils from 16; one byte
 * is none.
 */
const block = (part: object) => ({
  id: 'b',
  name: 'b',
  poll: 100_000,
  direction: 'feedback',
  fresh: null,
  age: null,
  ...part,
});
const blocks = [
  block({ table: 'input', start: 1000, count: 3, at: 0 }),
  block({ table: 'holding', start: 3000, count: 2, at: 8 }),
  block({ table: 'coils', start: 16, count: 12, at: 12 }),
] as never;
const image = testImage({ size: 16, order: 'big' });
const link = { ...testLink('modbus-tcp', { blocks }), feedback: image as never };
const cell = testCell([testDevice({ links: [link] })]);
const scene = sceneOf(cell, { device: cell.devices[0]!, link, image });

/**
 * Reference numbers: common practice, no source. Registers travel high byte first (Application Protocol V1.1b3, 4.2).
 */
test.each([
  [0, '301001 · bit 8'],
  [8, '301001 · bit 0'],
  [40, '301003 · bit 0'],
  [64, '403001 · bit 8'],
  [72, '403001 · bit 0'],
  [95, '403002 · bit 7'],
  [96, '000017'],
  [107, '000028'],
])('bit %i of the image is %s', (bit, text) => {
  expect(bothSides(scene, bit).device.text).toBe(text);
  expect(bitOfAddress(text, scene)).toBe(bit);
});

test('a bit in a byte that no block fills has no register on either side', () => {
  const { controller, device } = bothSides(scene, 48);
  expect([controller.text, device.text]).toEqual(['no register', 'no register']);
  expect(bitOfAddress(device.plain, scene)).toBe(48);
});

test('each notation has the registers of its own tables alone', () => {
  const texts = (bit: number) => everyAddress(scene, bit).map((a) => `${a.notation.id} ${a.text}`);
  expect(texts(0).filter((t) => /^(register|holding|input|reference)/.test(t))).toEqual([
    'register-0 register 1000 · bit 8',
    'register-1 register 1001 · bit 8',
    'register-hex register 16#03E8 · bit 8',
    'input-6 301001 · bit 8',
    'input-5 31001 · bit 8',
    'reference-6 301001 · bit 8',
    'reference-5 31001 · bit 8',
  ]);
  expect(texts(96).filter((t) => /^(register|holding|input|reference)/.test(t))).toEqual([
    'reference-6 000017',
    'reference-5 00017',
  ]);
});

test.each(['300001', '301004', '403003', '000029'])('%s is a register that the image does not have', (text) =>
  expect(() => bitOfAddress(text, scene)).toThrow(expect.objectContaining({ code: 'address.outside' })),
);

describe('what is typed for a register', () => {
  test.each<[string, Parameters<typeof readRegister>[1], ReturnType<typeof readRegister>]>([
    ['405001', 'holding', { table: 'holding', start: 5000 }],
    ['45001', 'input', { table: 'holding', start: 5000 }],
    ['5000', 'holding', { table: undefined, start: 5000 }],
    ['0x1388', 'holding', { table: undefined, start: 5000 }],
    ['16#1388', 'holding', { table: undefined, start: 5000 }],
    ['1388h', 'holding', { table: undefined, start: 5000 }],
    ['301001', 'holding', { table: 'input', start: 1000 }],
    ['000017', 'coils', { table: 'coils', start: 16 }],
    ['100017', 'holding', { table: 'discrete', start: 16 }],
    ['10017', 'discrete', { table: 'discrete', start: 16 }],
    ['10017', 'holding', { table: undefined, start: 10_017 }],
    ['65535', 'holding', { table: undefined, start: 65_535 }],
    ['465536', 'holding', { table: 'holding', start: 65_535 }],
    ['465537', 'holding', undefined],
    ['400000', 'holding', undefined],
    ['-1', 'holding', undefined],
    ['here', 'holding', undefined],
  ])('%s, where a block of %s is', (typed, meant, register) =>
    expect(readRegister(typed, meant)).toEqual(register),
  );

  test('and what it is understood as', () => {
    expect(registerReference('holding', 5000)).toBe('405001');
    expect(registerReference('coils', 16)).toBe('000017');
  });
});

const noNumbers = { notation: 'byte', before: 0, slot: 0, subslot: 0, signals: [], blocks: [] };

test('an image without registers has no register numbers, one of registers no bytes', () => {
  const ids = (of: typeof scene) => everyAddress(of, 16).map((a) => a.notation.id);
  const { runs: _, ...plain } = scene;
  expect(ids(plain).filter((id) => /^(register|holding|input|reference|slot)/.test(id))).toEqual([]);
  expect(ids(plain)).toEqual(expect.arrayContaining(['byte', 'word', 'point', 'element']));
  expect(ids(plain).length).toBeLessThan(12);
  expect(ids(scene)).not.toContain('byte');
  expect(ids(scene)).toContain('register-0');
  const chosen = { ...plain, image: { ...plain.image, numbering: { ...noNumbers, notation: 'register-1' } } };
  expect(ids(chosen)).toContain('register-1');
  const slotted = { ...plain, image: { ...plain.image, numbering: { ...noNumbers, slot: 2 } } };
  expect(ids(slotted)).toContain('slot');
});
