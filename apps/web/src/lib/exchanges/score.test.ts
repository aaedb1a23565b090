import demo from '@fadenkreuz/demo/ripening-store-3.json' with { type: 'json' };
import { readCellFile, type ExchangePlace } from '@fadenkreuz/core';
import { describe, expect, test } from 'vitest';
import type { Story } from '../api/exchanges.js';
import { keyOfPlace, placeChoices } from './placeChoices.js';
import { histogram, median, scoreOf, waitsOf } from './score.js';
import { valueText, valueTyped } from './valueTyped.js';

const cell = readCellFile(JSON.stringify(demo));
const inspect = cell.exchanges.find((e) => e.name === 'rind camera: inspect')!;

describe('the score of an exchange', () => {
  test('expected alone: steps one after the other, commands above feedback, a bit stands until it is taken back', () => {
    const { rows, bars, ends } = scoreOf(cell, inspect, undefined);
    expect(rows[0]!.side).toBe('step');
    const sides = rows.slice(1).map(({ side }) => side);
    expect(sides).toEqual([...sides].sort((a, b) => Number(a === 'feedback') - Number(b === 'feedback')));
    const steps = bars.filter(({ is }) => is === 'step');
    expect(steps.map(({ text }) => text)).toEqual(inspect.steps.map(({ title }, i) => `${i + 1} ${title}`));
    steps.slice(1).forEach(({ from }, i) => expect(from).toBe(steps[i]!.to));
    const trigger = rows.findIndex(({ title }) => title === 'trigger');
    const [given] = bars.filter(({ row, is }) => row === trigger && is === 'expected');
    expect([given!.from, given!.to]).toEqual([steps[1]!.from, steps[3]!.from]);
    expect(ends).toBe(steps.at(-1)!.to);
  });

  test('recorded: a run that failed ends at its step, with the time that it might have taken', () => {
    const places = [inspect.steps[1]!.orders[0]!.place];
    const story: Story = {
      status: {
        ...{ exchange: inspect.id, state: 'failed', step: null, run: 1, times: 1, waits: false },
        failure: { step: 1, reason: 'rind_camera_v1 does not take the trigger.' },
      },
      open: [],
      ended: [],
      places,
      samples: [
        { place: 0, ms: 0, value: false },
        { place: 0, ms: 60, value: true },
      ],
      steps: [
        { step: 0, began: 0, ended: 60, late: false },
        { step: 1, began: 60, ended: 1060, late: true },
      ],
    };
    const { bars, ends } = scoreOf(cell, inspect, story);
    expect(ends).toBe(1060);
    expect(bars.find(({ is }) => is === 'failed')).toMatchObject({ from: 60, to: 1060, step: 1 });
    expect(bars.filter(({ is }) => is === 'recorded')).toEqual([
      expect.objectContaining({ from: 60, to: 1060, text: '1' }),
    ]);
  });

  test('a step that was taken out since it ran is drawn no more, and those that are left are', () => {
    const left = { ...inspect, steps: inspect.steps.slice(0, 1) };
    const steps = inspect.steps.map((_, step) => ({
      ...{ step, began: 60 * step, ended: 60 * (step + 1), late: false },
    }));
    const story: Story = {
      status: {
        ...{ exchange: inspect.id, state: 'done', step: null, run: 1, times: 1, waits: false },
        failure: null,
      },
      ...{ open: [], ended: [], places: [], samples: [], steps },
    };
    const { bars, ends } = scoreOf(cell, left, story);
    expect(ends).toBe(60 * inspect.steps.length);
    expect(bars.filter(({ is }) => is === 'step')).toEqual([
      expect.objectContaining({ from: 0, to: 60, text: `1 ${left.steps[0]!.title}` }),
    ]);
    expect(new Set(bars.map(({ step }) => step))).toEqual(new Set([0]));
  });

  test('waits of a step over all runs, those that were late apart', () => {
    const runs = [10, 30, 20].map((ms, i) => ({
      ...{ run: i + 1, state: 'done' as const, failure: null, results: {}, ms },
      steps: [{ step: 0, began: 0, ended: ms, late: false }],
    }));
    expect(waitsOf(runs, 0)).toMatchObject({ count: 3, least: 10, typical: 20, most: 30 });
    expect(waitsOf(runs, 1)).toBeUndefined();
    expect(histogram([1, 1, 2, 3], 2).map(({ count }) => count)).toEqual([2, 2]);
    expect(median([])).toBe(0);
  });
});

test('every place of a device has one entry, by role where it has one', () => {
  for (const device of cell.devices)
    for (const side of ['command', 'feedback'] as const) {
      const choices = placeChoices(device, side);
      expect(new Set(choices.map(({ key }) => key)).size).toBe(choices.length);
      for (const { key, place } of choices) expect(keyOfPlace({ ...place } as ExchangePlace)).toBe(key);
    }
});

test.each([
  ['1', 'bit', true],
  ['0', 'bit', false],
  ['2', 'bit', undefined],
  ['12.5', 'number', 12.5],
  ['', 'number', undefined],
  ['speed', 'number', { variable: 'speed', plus: 0 }],
  ['speed + 2', 'number', { variable: 'speed', plus: 2 }],
  ['LOT 1', 'text', 'LOT 1'],
] as const)('typed %s for a %s', (typed, reads, value) => {
  const read = valueTyped(typed, reads, [{ name: 'speed' }]);
  expect(read).toEqual(value);
  if (read !== undefined) expect(valueTyped(valueText(read), reads, [{ name: 'speed' }])).toEqual(value);
});
