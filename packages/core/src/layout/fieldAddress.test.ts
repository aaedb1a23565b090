import { expect, test } from 'vitest';
import { sceneOf } from '../cell/scene.js';
import { testCell, testDevice, testLink, testSignal } from '../cell/testCell.js';
import { fieldAddress } from './fieldAddress.js';

/**
 * Direct addresses and partial access: IEC 61131-3:2013, table 16 and 6.6.1.2 (from memory); images start at byte 526.
 */
const scene = (
  elementBits: 8 | 16 | 32,
  notation: string,
  protocol: 'ethernet-ip' | 'modbus-tcp' = 'ethernet-ip',
) => {
  const link = testLink(protocol);
  const feedback = {
    ...link.feedback,
    start: 526,
    numbering: { notation, before: 0, slot: 0, subslot: 0, signals: [], blocks: [] },
  };
  const plain = testCell([testDevice({ links: [{ ...link, feedback }] })]);
  const cell = { ...plain, controller: { ...plain.controller, elementBits } };
  const [device] = cell.devices;
  return sceneOf(cell, { device: device!, link: device!.links[0]!, image: feedback });
};

test.each<[string, 8 | 16 | 32, string, Parameters<typeof testSignal>[0], string, string, string]>([
  ['a bit', 16, 'byte', { type: 'BOOL', at: 12, bits: 1 }, 'fb[0].%X12', '%IX527.4', 'byte 1 · bit 4'],
  ['a word in a word', 16, 'byte', { type: 'UINT', at: 16, bits: 16 }, 'fb[1]', '%IW528', 'byte 2..byte 3'],
  [
    'a word over two',
    16,
    'word',
    { type: 'UINT', at: 8, bits: 16 },
    'fb[0]..fb[1]',
    '%IW527',
    'word 0 · bit 8..word 1 · bit 7',
  ],
  [
    'a double word',
    16,
    'word',
    { type: 'DINT', at: 32, bits: 32 },
    'fb[2]..fb[3]',
    '%ID530',
    'word 2..word 3',
  ],
  ['a byte of a word', 16, 'byte', { type: 'USINT', at: 24, bits: 8 }, 'fb[1].%B1', '%IB529', 'byte 3'],
  [
    'a word of a double word',
    32,
    'byte',
    { type: 'INT', at: 16, bits: 16 },
    'fb[0].%W1',
    '%IW528',
    'byte 2..byte 3',
  ],
  [
    'three bits',
    16,
    'byte',
    { type: 'BITS', at: 3, bits: 3 },
    'fb[0].%X3..%X5',
    '%IX526.3..%IX526.5',
    'byte 0 · bit 3..byte 0 · bit 5',
  ],
  [
    'three bytes',
    8,
    'byte',
    { type: 'BYTES', at: 8, bits: 24 },
    'fb[1]..fb[3]',
    '%IB527..%IB529',
    'byte 1..byte 3',
  ],
])('%s of %i-bit elements', (_says, elementBits, notation, signal, controller, direct, device) =>
  expect(fieldAddress(scene(elementBits, notation), testSignal(signal))).toEqual({
    controller,
    direct,
    device,
  }),
);

test('a register is a word on both sides', () =>
  expect(
    fieldAddress(scene(8, 'register-0', 'modbus-tcp'), testSignal({ type: 'UINT', at: 16, bits: 16 }, 'big')),
  ).toEqual({ controller: 'fb[1]', direct: '%IW528', device: 'register 1' }));
