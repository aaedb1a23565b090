import { setTimeout as sleep } from 'node:timers/promises';
import { expect, test } from 'vitest';
import { attended } from './attendedTime.js';

const halt = (ms: number) => Atomics.wait(new Int32Array(new SharedArrayBuffer(4)), 0, 0, ms);

test('time goes on while the process waits for its sockets', async () => {
  const [clock, own] = [performance.now(), attended()];
  for (let n = 0; n < 30; n += 1) await sleep(10);
  // A busy machine may halt this process itself, but never longer than it took.
  expect(attended() - own).toBeGreaterThan(100);
  expect(attended() - own).toBeLessThanOrEqual(performance.now() - clock + 0.001);
});

test('a halt of the whole process hardly counts, before and after the clock has seen it', async () => {
  await sleep(30);
  const [clock, own] = [performance.now(), attended()];
  halt(400);
  expect(performance.now() - clock).toBeGreaterThan(390);
  expect(attended() - own).toBeLessThan(60);
  await sleep(30);
  expect(performance.now() - clock - (attended() - own)).toBeGreaterThan(300);
});

test('it never goes back', async () => {
  let last = attended();
  for (let n = 0; n < 20; n += 1) {
    if (n % 5 === 0) halt(80);
    else await sleep(5);
    const now = attended();
    expect(now).toBeGreaterThanOrEqual(last);
    last = now;
  }
});
