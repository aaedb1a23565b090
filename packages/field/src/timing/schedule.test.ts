import { afterEach, beforeEach, expect, test, vi } from 'vitest';
import { Schedule } from './schedule.js';

/** How much later than the timers the clock is: a loop that was blocked wakes late. */
let late = 0;
let schedule: Schedule;
beforeEach(() => {
  late = 0;
  vi.useFakeTimers({ now: 0, toFake: ['setTimeout', 'clearTimeout', 'Date'] });
  vi.spyOn(performance, 'now').mockImplementation(() => Date.now() + late);
  schedule = new Schedule();
});
afterEach(() => {
  schedule.stop();
  vi.restoreAllMocks();
  vi.useRealTimers();
});

test('late wake-ups do not add up: after a thousand beats, each 3 ms late, the last is 3 ms late', () => {
  const times: number[] = [];
  schedule.every(20, (now) => times.push(now));
  late = 3;
  vi.advanceTimersByTime(20_000);
  expect(times).toHaveLength(1000);
  expect(times[0]).toBe(23);
  expect(times.at(-1)! - 1000 * 20).toBeLessThanOrEqual(3);
});

test('what was missed while the loop was blocked is left out, not made up for in a burst', () => {
  const times: number[] = [];
  schedule.every(20, (now) => times.push(now));
  vi.advanceTimersByTime(20);
  late = 105;
  vi.advanceTimersByTime(20);
  expect(times).toEqual([20, 145]);
  vi.advanceTimersByTime(20);
  // The next one is on the grid again: 160, which is 55 on the timers.
  expect(times).toEqual([20, 145, 160]);
});

test('beats of different periods keep to their own grids', () => {
  const beats: Record<string, number[]> = { fast: [], slow: [] };
  schedule.every(5, (now) => beats['fast']!.push(now));
  schedule.every(12, (now) => beats['slow']!.push(now));
  vi.advanceTimersByTime(60);
  expect(beats['fast']).toEqual([5, 10, 15, 20, 25, 30, 35, 40, 45, 50, 55, 60]);
  expect(beats['slow']).toEqual([12, 24, 36, 48, 60]);
});

test('a beat may stop itself and others; what is stopped stays silent', () => {
  let beats = 0;
  const stopOther = schedule.every(5, () => (beats += 1));
  const stop = schedule.every(5, () => {
    stopOther();
    stop();
  });
  vi.advanceTimersByTime(100);
  expect(beats).toBe(1);
});

test('a patient beat that falls due while others run is not forgotten', () => {
  let beats = 0;
  // The first takes a millisecond, in which the second falls due.
  schedule.every(10, () => (late += 1));
  vi.advanceTimersByTime(0.7);
  late += 0.7;
  schedule.every(10, () => (beats += 1), { patient: true });
  vi.advanceTimersByTime(2000);
  expect(beats).toBeGreaterThan(150);
});

test('patient beats that take longer than their period go on, each in its turn', async () => {
  const beats = [0, 0];
  for (const n of [0, 1])
    schedule.every(
      20,
      () => {
        beats[n]! += 1;
        // The computer is busy with something else meanwhile: when the first is done, both are overdue.
        late += 25;
      },
      { patient: true },
    );
  for (let i = 0; i < 50; i += 1) {
    vi.advanceTimersByTime(20);
    await new Promise((resolve) => setImmediate(resolve));
    await new Promise((resolve) => setImmediate(resolve));
  }
  expect(beats[0]).toBeGreaterThan(20);
  expect(beats[1]).toBeGreaterThan(20);
});

test('packets to one receiver leave together, others spread over their interval', () => {
  const times = new Map<string, number[]>();
  const note = (name: string) => (now: number) => times.set(name, [...(times.get(name) ?? []), now]);
  for (const name of ['a1', 'b1', 'a2', 'c1', 'a3']) schedule.packets(40, { send: note(name) }, name[0]!);
  // Another interval is another beat.
  schedule.packets(80, { send: note('slow') }, 'a');
  vi.advanceTimersByTime(400);
  // Where the first one lies depends on the clock of the computer.
  expect([9, 10]).toContain(times.get('a1')!.length);
  expect(times.get('a2')).toEqual(times.get('a1'));
  expect(times.get('a3')).toEqual(times.get('a1'));
  const first = ['a1', 'b1', 'c1'].map((name) => times.get(name)![0]! % 40);
  expect(new Set(first).size).toBe(3);
  expect(times.get('slow')!.length).toBeLessThanOrEqual(5);
});

test('a name whose packets have all stopped begins anew', () => {
  let sent = 0;
  schedule.packets(40, { send: () => (sent += 100) }, 'a')();
  schedule.packets(40, { send: () => (sent += 1) }, 'a');
  vi.advanceTimersByTime(400);
  expect([9, 10]).toContain(sent);
});

test('a runDue sends what is due, once, and nothing before its time', () => {
  const times: number[] = [];
  schedule.packets(40, { send: (now) => times.push(now) });
  vi.advanceTimersByTime(80);
  const due = times[0]!;
  expect(times.length).toBeGreaterThan(0);
  schedule.runDue(due + 1);
  const sent = times.length;
  // The loop is busy with what comes in: the timer has not had its turn yet.
  late = 41;
  const now = performance.now();
  schedule.runDue(now);
  schedule.runDue(now);
  expect(times.slice(sent)).toEqual([now]);
  vi.advanceTimersByTime(0);
  expect(times.slice(sent)).toEqual([now]);
});

test('a computer too slow for all packets spends half of the time on reading', () => {
  // Eight beats of 10 ms, each of which takes 5 ms to send.
  for (let n = 0; n < 8; n += 1) schedule.packets(10, { send: () => (late += 5) }, String(n));
  vi.advanceTimersByTime(10);
  const from = performance.now();
  let reading = 0;
  while (performance.now() - from < 2000) {
    // A packet is read, and what is due meanwhile is looked at.
    late += 0.5;
    reading += 0.5;
    schedule.runDue(performance.now());
    vi.advanceTimersByTime(0);
  }
  expect(reading / 2000).toBeGreaterThan(0.45);
  expect(reading / 2000).toBeLessThan(0.6);
});
