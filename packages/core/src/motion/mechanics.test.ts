import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { ratio } from '../layout/ratio.js';
import { Ratio } from '../entries/entries.js';
import {
  feedOf,
  moduloIncrements,
  ratioText,
  rpmAt,
  scaleThrough,
  unitScaling,
  type Mechanics,
} from './mechanics.js';
import type { Output } from './driveTrain.js';

const train = (output: Output, part: Partial<Mechanics> = {}): Mechanics => ({
  ...{ increments: '10000', gear: { motor: '1', shaft: '1' }, output, reversed: false },
  ...part,
});

/** Textbook examples of drive engineering: v = n · feed; from memory, the arithmetic is done by hand beside each. */
describe('worked examples', () => {
  test('ball screw, lead 10 mm, 10,000 increments: 1 µm; at 3000 rpm 500 mm/s', () => {
    const { perIncrement, perRpm, unit } = unitScaling(train({ is: 'screw', lead: '10' }));
    expect([ratioText(perIncrement), unit]).toEqual(['1/1000', 'mm']);
    expect(perRpm.mul(3000).valueOf()).toBe(500);
  });
  test('toothed belt, 20 teeth of 5 mm, gear 5 : 1: 20 mm a revolution', () => {
    const gear = { motor: '5', shaft: '1' };
    expect(
      unitScaling(train({ is: 'belt', teeth: '20', pitch: '5' }, { gear })).perRevolution.valueOf(),
    ).toBe(20);
  });
  test('rack, module 2, 25 teeth: π · 50 = 157.079633 mm', () => {
    expect(feedOf({ is: 'rack', teeth: '25', module: '2' }).feed.valueOf()).toBeCloseTo(157.079633, 6);
  });
  test('rotary table behind 100 : 1, reversed: −3.6° a revolution; 360° are a whole number of increments', () => {
    const scaling = unitScaling(
      train({ is: 'table' }, { gear: { motor: '100', shaft: '1' }, reversed: true }),
    );
    expect(scaling.perRevolution.valueOf()).toBe(-3.6);
    expect(moduloIncrements('360', scaling).valueOf()).toBe(1_000_000);
    // Behind 7 : 3 it is none: the axis would drift with each turn.
    const odd = unitScaling(train({ is: 'table' }, { gear: { motor: '7', shaft: '3' } }));
    expect(moduloIncrements('360', odd).d).not.toBe(1n);
  });
  test('drum of 300 mm: 942.478 mm; four poles at 50 Hz: 1500 rpm, with 3 % slip 1455', () => {
    expect(feedOf({ is: 'drum', diameter: '300' }).feed.valueOf()).toBeCloseTo(942.478, 3);
    expect(rpmAt(ratio('50'), 4).valueOf()).toBe(1500);
    expect(rpmAt(ratio('50'), 4, ratio('3/100')).valueOf()).toBe(1455);
  });
  test('32 bits with a sign at 1 µm reach ± 2147.48 m', () => {
    const { range } = unitScaling(train({ is: 'screw', lead: '10' }));
    expect(range.greatest.div(1000).valueOf()).toBeCloseTo(2147.483647, 6);
    expect(range.least.div(1000).valueOf()).toBeCloseTo(-2147.483648, 6);
  });
});

test('no drift: a thousand million increments one by one are what one step of them is', () => {
  fc.assert(
    fc.property(
      fc.integer({ min: 1, max: 1_000_000 }),
      fc.integer({ min: 1, max: 997 }),
      fc.integer({ min: 1, max: 997 }),
      fc.integer({ min: 1, max: 100_000 }),
      (increments, motor, shaft, lead) => {
        const { perIncrement, perRevolution } = unitScaling(
          train(
            { is: 'screw', lead: `${lead}/1000` },
            { increments: String(increments), gear: { motor: String(motor), shaft: String(shaft) } },
          ),
        );
        const parts = Array.from({ length: 1000 }, () => perIncrement.mul(1_000_000));
        const sum = parts.reduce((a, b) => a.add(b));
        expect(sum.equals(perIncrement.mul(1_000_000_000))).toBe(true);
        expect(perIncrement.mul(increments).equals(perRevolution)).toBe(true);
        expect(Ratio.safeParse(ratioText(perIncrement)).success).toBe(true);
      },
    ),
    { numRuns: 100, seed: 230_001 },
  );
});

test('a scale through two points gives both values back exactly, and none through one', () => {
  fc.assert(
    fc.property(fc.integer(), fc.integer(), fc.integer(), fc.integer(), (a, b, x, y) => {
      const scale = scaleThrough({ raw: a, value: `${x}/8` }, { raw: b, value: `${y}/8` });
      if (a === b) return expect(scale).toBeUndefined();
      expect(
        scale!.factor
          .mul(a)
          .add(scale!.offset)
          .equals(ratio(`${x}/8`)),
      ).toBe(true);
      expect(
        scale!.factor
          .mul(b)
          .add(scale!.offset)
          .equals(ratio(`${y}/8`)),
      ).toBe(true);
    }),
    { numRuns: 200, seed: 230_002 },
  );
});
