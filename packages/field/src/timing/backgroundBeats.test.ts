import { afterEach, beforeEach, expect, test, vi } from 'vitest';
import type { Beat } from './beat.js';
import { BackgroundBeats } from './backgroundBeats.js';

let now = 0;
beforeEach(() => {
  now = 0;
  vi.spyOn(performance, 'now').mockImplementation(() => now);
});
afterEach(() => vi.restoreAllMocks());

const beats = new BackgroundBeats();
afterEach(() => beats.clear());

/** A beat whose turn notes its name and takes so long, ms. */
function beatOf(name: string, due: number, period: number, took: string[], takes = 0): Beat {
  const run = () => {
    took.push(name);
    now += takes;
  };
  const beat = { period, due, run };
  beats.add(beat);
  return beat;
}

test('runs what is due in the order in which it fell due, each on its own grid', () => {
  const took: string[] = [];
  const late = beatOf('late', 12, 20, took);
  beatOf('early', 5, 20, took);
  beatOf('later', 40, 20, took);
  expect(beats.due).toBe(5);
  now = 13;
  expect(beats.run(now)).toBe(false);
  expect(took).toEqual(['early', 'late']);
  expect(late.due).toBe(32);
  expect(beats.due).toBe(25);
});

test('stops after a moment; what is left comes before what has run, even if that is due again', () => {
  const took: string[] = [];
  ['a', 'b', 'c'].forEach((name, i) => beatOf(name, 1 + i / 10, 2, took, 3));
  now = 1.2;
  for (let i = 0; i < 6; i += 1) expect(beats.run(now)).toBe(true);
  expect(took).toEqual(['a', 'b', 'c', 'a', 'b', 'c']);
});

test('what was taken away runs no more, nor does what is taken away by another', () => {
  const took: string[] = [];
  const second = beatOf('second', 2, 10, took);
  const first: Beat = { period: 10, due: 1, run: () => beats.delete(second) };
  beats.add(first);
  now = 5;
  beats.run(now);
  beats.delete(first);
  now = 100;
  beats.run(now);
  expect(took).toEqual([]);
  expect(beats.due).toBe(Infinity);
});
