import { expect, test } from 'vitest';
import { nextOnClock } from './metronome.js';
import { packetGrid, PacketBeats } from './packetBeats.js';

test('streams leave at their own places on the grid, each at its own interval, however long it is', () => {
  const beats = new PacketBeats();
  const begin = nextOnClock(1000, 20);
  const periods = { quick: 2, odd: 12, even: 20 };
  const left = new Map<string, number[]>();
  Object.entries(periods).forEach(([name, period], i) => {
    const times: number[] = [];
    left.set(name, times);
    beats.add(period, begin + i * packetGrid, { send: (now) => times.push(now) }, undefined);
  });
  for (let now = begin; now < begin + 240; now += 0.25) if (beats.earliest <= now) beats.send(now, 0);
  expect([...left.values()].map((times) => times[0]! - begin)).toEqual([0, 1.25, 2.5]);
  for (const [name, times] of left) {
    const gaps = times.slice(1).map((time, i) => time - times[i]!);
    expect(new Set(gaps)).toEqual(new Set([periods[name as keyof typeof periods]]));
  }
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
