import { describe, expect, test } from 'vitest';
import { testCell, testImage } from '../cell/testCell.js';
import type { Image } from './image.js';
import { CommandImage } from './image.js';
import { bothSides, type AddressScene } from './address.js';
import { bitOfAddress } from './readAddress.js';

const feedback = testImage({ start: 512, size: 22 });
const command: Image = CommandImage.parse({
  id: 'c',
  instance: 1,
  start: 256,
  size: 8,
  direction: 'command',
  fields: [],
});

const scene = (image: Image, elementBits: 8 | 16 | 32 | 64 = 16): AddressScene => ({
  controller: { ...testCell().controller, elementBits },
  notations: [],
  device: { name: 'pump_m1' },
  image,
});

/**
 * Bit 12 of the eighth word, worked by hand: bit 7 × 16 + 12 = 124, in byte 124 / 8 = 15, bit 4. Direct addresses: IEC
 * 61131-3:2013, table 16 (%I, X, bytes counted through the area).
 */
const sameBit = [
  [8, 'fb[15].%X4', '%IX527.4', '%IB527'],
  [16, 'fb[7].%X12', '%IX527.4', '%IW526'],
  [32, 'fb[3].%X28', '%IX527.4', '%ID524'],
] as const;

describe('one bit, both sides', () => {
  test.each(sameBit)('%i-bit elements', (elementBits, text, direct, directElement) => {
    const sides = bothSides(scene(feedback, elementBits), 124);
    expect(sides.controller).toMatchObject({ side: 'input', text, direct, directElement });
    expect(sides.device).toMatchObject({
      side: 'output',
      byte: 15,
      bit: 4,
      text: 'byte 15 · bit 4',
      unitText: 'byte 15',
    });
    for (const typed of [text, direct, 'byte 15 bit 4', 'Byte 15 · Bit 4', '15.4', 'word 7 bit 12'])
      expect(bitOfAddress(typed, scene(feedback, elementBits)), typed).toBe(124);
  });

  test('the controller’s output is the device’s input', () => {
    const sides = bothSides(scene(command), 17);
    expect(sides.controller).toMatchObject({ side: 'output', text: 'cmd[1].%X1', direct: '%QX258.1' });
    expect(sides.device.side).toBe('input');
  });

  test.each([8, 16, 32] as const)(
    'every bit comes back from every address, %i-bit elements',
    (elementBits) => {
      for (let bit = 0; bit < feedback.size * 8; bit += 1) {
        const { controller, device } = bothSides(scene(feedback, elementBits), bit);
        for (const text of [controller.text, controller.direct, device.text])
          expect(bitOfAddress(text, scene(feedback, elementBits))).toBe(bit);
      }
    },
  );

  test.each([
    ['cmd[0].%X1', 'address.otherDirection'],
    ['%QX512.0', 'address.otherDirection'],
    ['fb[0].%X16', 'address.noSuchBit'],
    ['3.9', 'address.noSuchBit'],
    ['word 7.16', 'address.noSuchBit'],
    ['', 'address.unreadable'],
    ['hello', 'address.unreadable'],
    ['fb[11]', 'address.outside'],
    ['22.0', 'address.outside'],
    ['%IX511.7', 'address.outside'],
  ])('%s is refused with an example of what would be right', (text, code) => {
    expect(() => bitOfAddress(text, scene(feedback))).toThrow(expect.objectContaining({ code }) as Error);
  });
});
