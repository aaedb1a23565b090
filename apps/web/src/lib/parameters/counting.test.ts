import { applyEdit, compareParameters, Device, readCellFile } from '@fadenkreuz/core';
import demo from '@fadenkreuz/demo/ripening-store-3.json' with { type: 'json' };
import { describe, expect, test } from 'vitest';
import { intoPlan, planAsRead, planOne, planSet, toDevice, type Counts } from './counting.js';

const cell = readCellFile(JSON.stringify(demo));
const pump = cell.devices.find((d) => d.name === 'brine_pump_m2')!;
const byCode = (code: string, device: Device = pump) =>
  device.description.parameters.find((p) => p.code === code)!;
const [start, ramp, current] = ['P1', 'P4', 'P27'].map((code) => byCode(code)) as [
  ReturnType<typeof byCode>,
  ReturnType<typeof byCode>,
  ReturnType<typeof byCode>,
];
const planned = (device: Device, code: string) => byCode(code, device).planned;
const after = (edit: Parameters<typeof applyEdit>[1]) =>
  applyEdit(cell, edit).devices.find((d) => d.id === pump.id)!;

describe('planning by hand: as it is shown, or as it is entered', () => {
  test.each([
    ['7.5', 'P4', '7.5'],
    ['7.5 s', 'P4', '7.5'],
    [' 7.50  ', 'P4', '7.50'],
    ['2 · network', 'P1', '2'],
    ['network', 'P1', 'network'],
    ['', 'P4', null],
  ])('%j for %s', (typed, code, expected) => {
    expect(planned(after(planOne(pump, byCode(code), typed)), code)).toBe(expected);
  });
});

describe('which side counts', () => {
  const rows = compareParameters(
    pump.description.parameters.map((p) => (p === ramp ? { ...p, planned: '7.5' } : p)),
    {
      device: new Map([
        [start.id, '00 01'],
        [ramp.id, '00 28'],
        [current.id, '00 07'],
      ]),
    },
  );
  const counts = (entries: Record<string, Counts>) => new Map(Object.entries(entries));

  test('to the device go those whose plan counts', () => {
    expect([...toDevice(rows, counts({ [ramp.id]: 'planned', [start.id]: 'device' }))]).toEqual([
      [ramp.id, '00 4B'],
    ]);
    // Nothing is known of another side, and what can only be read is never written.
    expect(toDevice(rows, counts({ [ramp.id]: 'other', [current.id]: 'planned' })).size).toBe(0);
  });

  test('into the plan come those whose device counts', () => {
    expect(intoPlan(pump, rows, counts({ [ramp.id]: 'planned' }))).toBeUndefined();
    const device = after(intoPlan(pump, rows, counts({ [ramp.id]: 'device', [start.id]: 'device' }))!);
    expect([planned(device, 'P4'), planned(device, 'P1')]).toEqual(['4.0', '1']);
  });

  test('everything as it stands: settings alone, no readings and no commands', () => {
    const edit = planAsRead(pump, rows)!;
    expect(edit.parameters!.map((p) => p.id)).toEqual([start.id, ramp.id]);
    expect(planAsRead(pump, compareParameters(pump.description.parameters, {}))).toBeUndefined();
  });
});

test('the values of a set', () => {
  const device = after(planSet(pump, 'a title', [{ parameter: start, to: '2' }])!);
  expect(planned(device, 'P1')).toBe('2');
});
