import { readFileSync } from 'node:fs';
import { readCellFile } from '@fadenkreuz/core';
import { expect, test } from 'vitest';
import { marksOf, outerRing, radiusOf, reach, ringTimes, shortName, strokeOf } from './reticle.js';

const demo = readCellFile(
  readFileSync(new URL('../../../../../demo/ripening-store-3.json', import.meta.url), 'utf8'),
);

test('rings stand evenly, four times the update time apart', () => {
  const radii = ringTimes.map(radiusOf);
  const steps = radii.slice(1).map((r, i) => r - radii[i]!);
  for (const step of steps) expect(step).toBeCloseTo(steps[0]!, 9);
  expect(radii.at(-1)).toBe(outerRing);
  expect(radiusOf(8)).toBeCloseTo((radiusOf(4) + radiusOf(16)) / 2, 9);
});

test('whatever the update time, a device stays in the picture and off the controller', () => {
  for (const ms of [0, 0.5, 10_000]) {
    expect(radiusOf(ms)).toBeGreaterThan(40);
    expect(radiusOf(ms)).toBeLessThan(reach);
  }
});

test('every device of the demo stands at its ring, apart from the others; more traffic is a wider line', () => {
  const marks = marksOf(demo.devices);
  for (const { x, y, updateMs } of marks) expect(Math.hypot(x, y)).toBeCloseTo(radiusOf(updateMs!), 6);
  marks.forEach((a, i) =>
    marks.slice(i + 1).forEach((b) => expect(Math.hypot(a.x - b.x, a.y - b.y)).toBeGreaterThan(24)),
  );
  const widths = [0, 1000, 10_000, 1e6, 1e9].map(strokeOf);
  expect([...widths].sort((a, b) => a - b)).toEqual(widths);
});

test('two hundred devices', () => {
  const many = Array.from({ length: 200 }, (_, i) => demo.devices[i % demo.devices.length]!);
  expect(new Set(marksOf(many).map(({ x, y }) => `${x.toFixed(2)} ${y.toFixed(2)}`)).size).toBe(200);
});

test('a long name keeps its begin and its end, 24 letters in all', () => {
  expect(shortName('brush_belt_m1')).toBe('brush_belt_m1');
  expect(shortName('a23456789012345678901234')).toBe('a23456789012345678901234');
  expect(shortName('conveyor_to_the_ripening_room_m12')).toBe('conveyor_to_…ng_room_m12');
});
