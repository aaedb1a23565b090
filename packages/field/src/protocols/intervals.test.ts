import { expect, test } from 'vitest';
import { Intervals } from './intervals.js';

test('nothing is known before the first interval', () =>
  expect(new Intervals().percentiles()).toBeUndefined());

/** Nearest-rank percentiles of 0.1 … 100: the k-th of n is the value at ⌈p·n⌉. */
test('nearest-rank percentiles', () => {
  const intervals = new Intervals();
  for (let n = 1000; n >= 1; n -= 1) intervals.add(n / 10);
  expect(intervals.percentiles()).toEqual({ p50: 50, p99: 99, p999: 99.9 });
});

test('only the last minute counts, and at most 20,000 of them', () => {
  const intervals = new Intervals();
  for (let n = 0; n < 1000; n += 1) intervals.add(500);
  expect(intervals.percentiles()).toEqual({ p50: 500, p99: 500, p999: 500 });
  for (let n = 0; n < 3000; n += 1) intervals.add(10);
  // Half a minute of each: 3,000 short ones and 60 long ones.
  expect(intervals.percentiles()).toEqual({ p50: 10, p99: 500, p999: 500 });
  for (let n = 0; n < 3000; n += 1) intervals.add(10);
  expect(intervals.percentiles()).toEqual({ p50: 10, p99: 10, p999: 10 });
  for (let n = 0; n < 25_000; n += 1) intervals.add(1);
  expect(intervals.percentiles()).toEqual({ p50: 1, p99: 1, p999: 1 });
});

test('what was asked for after the first packet is not kept for the next fifty', () => {
  const intervals = new Intervals();
  intervals.add(0.1);
  expect(intervals.percentiles()?.p50).toBe(0.1);
  for (let n = 0; n < 6; n += 1) intervals.add(64);
  expect(intervals.percentiles()?.p50).toBe(64);
});
