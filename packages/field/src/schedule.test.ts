import { expect, test } from 'vitest';
import { Schedule } from './schedule.js';

const pause = (ms: number) => new Promise((resolve) => setTimeout(resolve, ms));

test('beats keep their places in time: late wake-ups do not add up', async () => {
  const schedule = new Schedule();
  const begun = performance.now();
  const times: number[] = [];
  schedule.every(20, (now) => times.push(now - begun));
  await pause(1015);
  schedule.stop();
  // On a loaded machine single beats may be missed as a whole; those that came lie at multiples of the period.
  expect(times.length).toBeGreaterThan(40);
  expect(times.length).toBeLessThanOrEqual(50);
  expect(Math.abs((times.at(-1)! % 20) - 0)).toBeLessThan(19.9);
  const late = times.map((t) => (t + 0.6) % 20).sort((a, b) => a - b);
  expect(late[Math.floor(late.length / 2)]).toBeLessThan(6);
});

test('a blocked loop is not made up for in a burst', async () => {
  const schedule = new Schedule();
  let beats = 0;
  schedule.every(5, () => (beats += 1));
  const until = performance.now() + 100;
  while (performance.now() < until);
  await pause(1);
  await pause(1);
  expect(beats).toBeLessThanOrEqual(2);
  schedule.stop();
});

test('what is stopped stays silent', async () => {
  const schedule = new Schedule();
  let beats = 0;
  const stop = schedule.every(5, () => (beats += 1));
  stop();
  schedule.every(5, () => undefined);
  await pause(30);
  expect(beats).toBe(0);
  schedule.stop();
});
