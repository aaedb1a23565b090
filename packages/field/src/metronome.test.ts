import { setTimeout as sleep } from 'node:timers/promises';
import { expect, test } from 'vitest';
import { Metronome } from './metronome.js';

const period = 5;

test('it calls at multiples of its period, never before one, and not twice for the same', async () => {
  const times: number[] = [];
  const metronome = new Metronome(period, () => times.push(performance.now()));
  for (let n = 0; n < 200 && times.length < 150; n += 1) await sleep(50);
  metronome.stop();
  expect(times.length).toBeGreaterThanOrEqual(150);
  // A hundredth of a millisecond for two clocks that are not read at the same instant.
  const strokes = times.map((time) => Math.floor((time + 0.01) / period));
  expect(new Set(strokes).size).toBe(strokes.length);
  const late = times.map((time, i) => time - strokes[i]! * period).sort((a, b) => a - b);
  // On any machine that runs at all, half of them come in the first millisecond.
  expect(late[Math.floor(late.length / 2)]!).toBeLessThan(1);
});

test('while the process is busy strokes are left out, and none comes after the stop', async () => {
  let strokes = 0;
  const metronome = new Metronome(period, () => (strokes += 1));
  for (let n = 0; n < 100 && strokes === 0; n += 1) await sleep(20);
  const before = strokes;
  const until = performance.now() + 20 * period;
  while (performance.now() < until);
  await sleep(0);
  expect(strokes - before).toBeLessThanOrEqual(2);
  metronome.stop();
  const last = strokes;
  await sleep(10 * period);
  expect(strokes).toBe(last);
});
