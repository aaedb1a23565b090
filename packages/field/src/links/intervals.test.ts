import { expect, test } from 'vitest';
import { Intervals } from './intervals.js';

test('nothing is known before the first interval', () =>
  expect(new Intervals().percentiles()).toBeUndefined());

/** Nearest-rank percentiles of 1 … 1000: the k-th of n is the value at ⌈p·n⌉. */
test('nearest-rank percentiles', () => {
  const intervals = new Intervals();
  for (let ms = 1000; ms >= 1; ms -= 1) intervals.add(ms);
  expect(intervals.percentiles()).toEqual({ p50: 500, p99: 990, p999: 999 });
});

test('only the last 20,000 count', () => {
  const intervals = new Intervals();
  for (let n = 0; n < 20_000; n += 1) intervals.add(500);
  for (let n = 0; n < 20_000; n += 1) intervals.add(10);
  expect(intervals.percentiles()).toEqual({ p50: 10, p99: 10, p999: 10 });
});
