import { expect, test } from 'vitest';
import { movingValue, SideValue, type MovingValue } from './sideValue.js';

const span = { low: 10, high: 20, periodMs: 1000 };

// Worked out by hand from what each way says of itself.
test.each<[MovingValue, [ms: number, value: number][]]>([
  [
    { way: 'pulse', ms: 300 },
    [
      [0, 1],
      [299, 1],
      [300, 0],
      [5000, 0],
    ],
  ],
  [
    { way: 'toggle', periodMs: 1000 },
    [
      [0, 1],
      [499, 1],
      [500, 0],
      [1000, 1],
    ],
  ],
  [
    { way: 'ramp', ...span },
    [
      [0, 10],
      [500, 15],
      [1250, 12.5],
    ],
  ],
  [
    { way: 'sine', ...span },
    [
      [0, 15],
      [250, 20],
      [750, 10],
    ],
  ],
  [
    { way: 'counter', ...span, high: 12 },
    [
      [0, 10],
      [1000, 11],
      [2999, 12],
      [3000, 10],
    ],
  ],
])('%o', (moving, points) => {
  for (const [ms, value] of points) expect(movingValue(moving, ms, 0.5)).toBeCloseTo(value, 9);
});

test('noise lies between its ends', () => {
  const noise = { way: 'noise', ...span } as const;
  expect([0, 0.25, 1].map((random) => movingValue(noise, 77, random))).toEqual([10, 12.5, 20]);
});

test('what could load the bench is refused', () => {
  expect(SideValue.safeParse({ way: 'toggle', periodMs: 1 }).success).toBe(false);
  expect(SideValue.safeParse({ way: 'ramp', low: 0, high: Infinity, periodMs: 100 }).success).toBe(false);
});
