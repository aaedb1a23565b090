import { setTimeout as sleep } from 'node:timers/promises';
import { expect, test } from 'vitest';
import { until } from '../testBench.js';
import { aheadOf, Metronome, nextOnClock } from './metronome.js';

/** Waits until a metronome has called for a moment so far away. */
async function aMoment(ms: number): Promise<void> {
  await new Promise<void>((called) => {
    const other = new Metronome(5, () => {
      other.stop();
      called();
    });
    other.wakeAt(performance.now() + ms);
  });
}

test('it calls at the moments that were asked for, never before, and no later than Node’s own timers', async () => {
  const late: number[] = [];
  const timersLate: number[] = [];
  let due = 0;
  let timed = false;
  const metronome: Metronome = new Metronome(5, () => {
    late.push(performance.now() - due);
    // Closer together than usual, at the usual distance, and further apart; of what a halt makes late only the first
    // counts.
    due = Math.max(due, performance.now()) + [3.3, 5, 12][late.length % 3]!;
    if (timed && late.length < 150) metronome.wakeAt(due);
  });
  // The thread takes a moment to start.
  metronome.wakeAt(performance.now());
  await until(() => late.length > 0);
  late.length = 0;
  timed = true;
  due = performance.now() + 5;
  metronome.wakeAt(due);
  for (let n = 0; n < 2000 && late.length < 150; n += 1) {
    const wanted = performance.now() + 5;
    await sleep(5);
    timersLate.push(Math.max(0, performance.now() - wanted));
  }
  metronome.stop();
  expect(late).toHaveLength(150);
  expect(Math.min(...late)).toBeGreaterThan(-0.01);
  const median = (values: number[]) => values.sort((a, b) => a - b)[values.length >> 1]!;
  // Timers count whole milliseconds, at times in our favour. A tenth of that on a quiet machine; on a busy one both
  // wait.
  const timersUnit = 1;
  expect(median(late) / (timersUnit + median(timersLate))).toBeLessThan(3);
});

test('an earlier moment takes the place of a later one, and none is called after the stop', async () => {
  const called: number[] = [];
  const metronome = new Metronome(5, () => called.push(performance.now()));
  const from = performance.now();
  metronome.wakeAt(from + 60_000);
  metronome.wakeAt(from + 20);
  await until(() => called.length === 1);
  expect(called[0]! - from).toBeGreaterThanOrEqual(20);
  metronome.wakeAt(performance.now() + 10);
  metronome.stop();
  // Another one that is asked for a later moment has been called by then.
  await aMoment(60);
  expect(called).toHaveLength(1);
});

test('a moment that has passed is called for at once, and each only once', async () => {
  let calls = 0;
  const metronome = new Metronome(5, () => (calls += 1));
  metronome.wakeAt(performance.now() - 100);
  await until(() => calls > 0);
  await aMoment(50);
  metronome.stop();
  expect(calls).toBe(1);
});

test('multiples are those of the computer’s own clock, so that all its processes share them', () => {
  const own = () => Number(process.hrtime.bigint()) / 1e6;
  // Both clocks are read within a tenth of a millisecond, unless the process is halted between them: then they are read
  // again.
  let before = own();
  let now = performance.now();
  while (own() - before > 0.1) [before, now] = [own(), performance.now()];
  const next = nextOnClock(now, 5);
  expect(next - now).toBeGreaterThanOrEqual(0);
  expect(next - now).toBeLessThan(5);
  const onClock = (before + (next - now)) % 5;
  expect(Math.min(onClock, 5 - onClock)).toBeLessThan(0.3);
});

test('a halt between the two clocks does not put them apart', () => {
  let time = 0;
  let readings = 0;
  // The first reading of the second clock takes 7 ms, each other one 0.001.
  const second = () => (time += readings++ === 0 ? 7 : 0.001) - 5000;
  expect(aheadOf(() => time, second)).toBeCloseTo(5000, 2);
});
