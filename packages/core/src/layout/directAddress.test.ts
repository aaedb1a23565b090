import { describe, expect, test } from 'vitest';
import { testCell, testImage } from '../cell/testCell.js';
import { bothSides, type AddressScene } from './address.js';
import { Field } from './field.js';
import { fieldAddress } from './fieldAddress.js';
import type { DirectCounting } from './notation.js';
import { bitOfAddress } from './readAddress.js';
import { signalsOf } from './signals.js';

/**
 * Direct addresses: IEC 61131-3:2013, 6.5.5.2 and table 16, gives the letters and leaves the counting to the
 * implementer. Three ways of counting are common practice, no source; the numbers here are worked by hand for an image
 * that begins 20 bytes into the area, 100 bytes of which lie before.
 */
const fields = [
  Field.parse({ id: 'b', name: 'ready', type: 'BOOL', at: 12, bits: 1 }),
  Field.parse({ id: 'y', name: 'mode', type: 'USINT', at: 16, bits: 8 }),
  Field.parse({ id: 'w', name: 'state', type: 'WORD', at: 32, bits: 16 }),
  Field.parse({ id: 'd', name: 'speed', type: 'DINT', at: 64, bits: 32 }),
  Field.parse({ id: 'o', name: 'odd', type: 'DINT', at: 112, bits: 32 }),
];
const scene = (direct: DirectCounting | null): AddressScene => ({
  controller: { ...testCell().controller, elementBits: 16, direct },
  notations: [],
  device: { name: 'press_m1' },
  image: testImage({ start: 20, size: 18, fields }),
});
const counting = (counts: DirectCounting['counts']) => scene({ counts, inputFrom: 100, outputFrom: 0 });

describe('each way to count', () => {
  test.each([
    ['bytes', ['%IX121.4', '%IB122', '%IW124', '%ID128', '%ID134']],
    // 134 is no multiple of 4: no double word begins there.
    ['units', ['%IX121.4', '%IB122', '%IW62', '%ID32', '%IB134..%IB137']],
    ['words', ['%IX60.12', '%IX61.0..%IX61.7', '%IW62', '%ID64', '%ID67']],
  ] as const)('%s', (counts, texts) => {
    const own = counting(counts);
    expect(signalsOf(own.image).map((s) => fieldAddress(own, s).direct)).toEqual(texts);
    for (const [i, text] of texts.entries())
      if (!text.includes('..')) expect(bitOfAddress(text, own), text).toBe(fields[i]!.at);
  });

  test.each(['bytes', 'units', 'words'] as const)('every bit comes back, counted in %s', (counts) => {
    const own = counting(counts);
    for (let bit = 0; bit < 18 * 8; bit += 1)
      expect(bitOfAddress(bothSides(own, bit).controller.direct, own)).toBe(bit);
  });
});

test('neither is assumed: no direct address is shown, and a typed one says what to choose', () => {
  const own = scene(null);
  expect(bothSides(own, 12).controller).toMatchObject({ direct: '', directElement: '' });
  expect(fieldAddress(own, signalsOf(own.image)[2]!).direct).toBe('');
  expect(() => bitOfAddress('%IW62', own)).toThrow(/not chosen/);
});
