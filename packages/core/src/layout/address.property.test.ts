import fc from 'fast-check';
import { expect, test } from 'vitest';
import { byteOrders, Field } from './field.js';
import { testCell, testImage } from '../cell/testCell.js';
import { notationsOf, writeAddress, type AddressScene } from './address.js';
import { bitOfAddress } from './readAddress.js';

/** Bit → address → bit, for every notation, numbering, element and order. */
test.each(notationsOf(testCell()).map((n) => [n.id, n] as const))('%s', (_id, notation) => {
  const scenes = fc.record({
    size: fc.integer({ min: 1, max: 60 }),
    order: fc.constantFrom(null, ...byteOrders),
    swapped: fc.boolean(),
    start: fc.integer({ min: 0, max: 50 }).map((n) => n * 8),
    before: fc.integer({ min: 0, max: 300 }),
    point: fc.integer({ min: 1, max: 30 }),
    elementBits: fc.constantFrom(8 as const, 16 as const, 32 as const, 64 as const),
    elementOrder: fc.constantFrom('little' as const, 'big' as const),
    share: fc.double({ min: 0, max: 0.999, noNaN: true }),
  });
  fc.assert(
    fc.property(
      scenes,
      ({ size, order, swapped, start, before, point, elementBits, elementOrder, share }) => {
        const controller = { ...testCell().controller, elementBits, elementOrder };
        const scene: AddressScene = {
          controller: notation.side === 'controller' ? { ...controller, notation: notation.id } : controller,
          notations: [],
          device: { name: 'pump_m1' },
          image: testImage({
            size,
            order,
            swapped,
            start,
            numbering: {
              notation: notation.side === 'device' ? notation.id : 'byte',
              before,
              slot: 3,
              subslot: 1,
              signals: [{ first: 217, count: size * 8, point }],
              blocks: [],
            },
            fields: [
              Field.parse({ id: 'w', name: 'whole', type: 'BYTES', at: 0, bits: size * 8 }),
              Field.parse({ id: 'n', name: 'narrow', type: 'BOOL', at: 3, bits: 1 }),
            ].filter((f) => f.at + f.bits <= size * 8),
          }),
        };
        const bit = Math.floor(share * size * 8);
        const text = writeAddress(notation, scene, bit);
        if (text === undefined) return;
        expect(bitOfAddress(text, scene), text).toBe(bit);
        expect(bitOfAddress(text.toUpperCase().replaceAll(' ', ''), scene), text).toBe(bit);
      },
    ),
    { numRuns: 150 },
  );
});
