import { setTimeout as sleep } from 'node:timers/promises';
import { expect, test } from 'vitest';
import { Metronome } from './metronome.js';

test('it calls at the moments that were asked for, never before, and most of them to a fraction of a millisecond', async () => {
  const late: number[] = [];
  let due = 0;
  const metronome: Metronome = new Metronome(() => {
    late.push(performance.now() - due);
    due += 3.3;
    if (late.length < 150) metronome.wakeAt(due);
  });
  // The thread takes a moment to start.
  await sleep(300);
  due = performance.now() + 5;
  metronome.wakeAt(due);
  for (let n = 0; n < 200 && late.length < 150; n += 1) await sleep(50);
  metronome.stop();
  expect(late).toHaveLength(150);
  expect(Math.min(...late)).toBeGreaterThan(-0.01);
});

test('an earlier moment takes the place of a later one, and none is called after the stop', async () => {
  const called: number[] = [];
  const metronome = new Metronome(() => called.push(performance.now()));
  const from = performance.now();
  metronome.wakeAt(from + 60_000);
  metronome.wakeAt(from + 20);
  for (let n = 0; n < 100 && called.length === 0; n += 1) await sleep(20);
  expect(called).toHaveLength(1);
  expect(called[0]! - from).toBeGreaterThanOrEqual(20);
  metronome.wakeAt(performance.now() + 10);
  metronome.stop();
  await sleep(60);
  expect(called).toHaveLength(1);
});
