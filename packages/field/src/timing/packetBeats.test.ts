import { expect, test } from 'vitest';
import { nextOnClock } from './metronome.js';
import { grids, PacketBeats } from './packetBeats.js';

/** Runs beats over a time, in steps of a quarter of a millisecond; gives when each name left. */
function leaving(beats: PacketBeats, left: Map<string, number[]>, from: number, to: number) {
  for (let now = from; now < to; now += 0.25) if (beats.earliest <= now) beats.send(now, 0);
  return left;
}
function scene(periods: Record<string, number>) {
  const beats = new PacketBeats();
  const left = new Map<string, number[]>();
  const begin = nextOnClock(1000, 20);
  Object.entries(periods).forEach(([name, period], i) => {
    left.set(name, []);
    beats.add(period, begin + i * 1.25, { send: (now) => left.get(name)!.push(now) }, undefined);
  });
  return { beats, left, begin };
}
const gaps = (times: number[]) => times.slice(1).map((time, i) => time - times[i]!);

test('at ease, streams leave at their own places; busy, in few bursts, with the same intervals', () => {
  const { beats, left, begin } = scene({ a: 10, b: 10, c: 10, d: 10 });
  leaving(beats, left, begin, begin + 100);
  expect([...left.values()].map((times) => times[0]! - begin)).toEqual([0, 1.25, 2.5, 3.75]);
  for (const times of left.values()) times.length = 0;
  beats.busy = true;
  leaving(beats, left, begin + 100, begin + 300);
  const places = [...left.values()].map((times) => times[1]! % grids.busy);
  expect(new Set(places.map((place) => Math.round(place * 4))).size).toBe(1);
  for (const times of left.values()) expect(new Set(gaps(times))).toEqual(new Set([10]));
  beats.busy = false;
  for (const times of left.values()) times.length = 0;
  leaving(beats, left, begin + 300, begin + 400);
  expect(gaps(left.get('c')!).every((gap) => gap === 10)).toBe(true);
  expect((left.get('c')![2]! - begin) % 10).toBe(2.5);
});

test('an interval that is no multiple of the coarse grid stays even when the process is busy', () => {
  const { beats, left, begin } = scene({ quick: 2, odd: 12, even: 20 });
  beats.busy = true;
  leaving(beats, left, begin, begin + 240);
  expect(new Set(gaps(left.get('quick')!))).toEqual(new Set([2]));
  expect(new Set(gaps(left.get('odd')!))).toEqual(new Set([12]));
  expect(new Set(gaps(left.get('even')!))).toEqual(new Set([20]));
});

test('what has stopped leaves no more, and its name begins anew', () => {
  const beats = new PacketBeats();
  let sent = 0;
  const stop = beats.add(10, 100, { send: () => (sent += 1) }, 'a');
  beats.add(10, 103, { send: () => (sent += 1) }, 'a');
  stop();
  beats.send(200, 0);
  expect(sent).toBe(1);
  const again = new PacketBeats();
  again.add(10, 100, { send: () => (sent += 100) }, 'a')();
  expect(again.earliest).toBe(Infinity);
  again.add(10, 150, { send: () => undefined }, 'a');
  expect(again.earliest).toBeGreaterThanOrEqual(150);
});
