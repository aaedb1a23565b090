import { SafetyLogic } from '@fadenkreuz/core';
import fc from 'fast-check';
import { expect, test } from 'vitest';
import { endsOf, placesOf } from './networkPlaces.js';

/** Networks in which each block reads only blocks before it. */
const networks = fc
  .array(
    fc.tuple(
      fc.constantFrom('door', 'and', 'or', 'not', 'reset', 'output'),
      fc.array(fc.nat(), { maxLength: 4 }),
    ),
    {
      ...{ minLength: 1, maxLength: 40 },
    },
  )
  .map((parts) =>
    SafetyLogic.parse({
      blocks: parts.map(([is, reads], i) => ({
        ...{ id: `b${i}`, name: `n${i}`, is },
        ...(is === 'door' ? {} : { in: i === 0 ? [] : reads.map((r) => ({ from: `b${r % i}` })) }),
      })),
    }),
  );

test('no two blocks overlap, and each stands behind what it reads', () => {
  fc.assert(
    fc.property(networks, (logic) => {
      const { places, width, height } = placesOf(logic);
      expect(places.map(({ id }) => id)).toEqual(logic.blocks.map(({ id }) => id));
      const at = (id: string) => places.find((p) => p.id === id)!;
      for (const a of places) {
        expect(a.x >= 0 && a.y >= 0 && a.x + a.width <= width && a.y + a.height <= height).toBe(true);
        for (const b of places)
          if (a !== b)
            expect(
              a.x + a.width <= b.x || b.x + b.width <= a.x || a.y + a.height <= b.y || b.y + b.height <= a.y,
            ).toBe(true);
      }
      for (const block of logic.blocks)
        for (const { from } of 'in' in block ? block.in : [])
          expect(at(from).x + at(from).width).toBeLessThan(at(block.id).x);
    }),
    { numRuns: 60, seed: 230_050 },
  );
});

test('an empty network has no size, and a free end stands behind the last wire of an and', () => {
  expect(placesOf({ blocks: [] })).toEqual({ places: [], width: 0, height: 0 });
  const { blocks } = SafetyLogic.parse({
    blocks: [
      { id: 'd', name: 'door', is: 'door' },
      { id: 'a', name: 'all', is: 'and', in: [{ from: 'd' }] },
      { id: 'r', name: 'restart', is: 'reset', in: [] },
    ],
  });
  expect(blocks.map(endsOf)).toEqual([0, 2, 2]);
});
