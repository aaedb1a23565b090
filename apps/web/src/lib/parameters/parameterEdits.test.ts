import {
  applyEdit,
  check,
  guessParameters,
  readCellFile,
  readParameters,
  tableCells,
} from '@fadenkreuz/core';
import { readFileSync } from 'node:fs';
import { expect, test } from 'vitest';
import { newParameter, takeParameters } from './parameterEdits.js';

const cell = readCellFile(
  readFileSync(new URL('../../../../../demo/ripening-store-3.json', import.meta.url), 'utf8'),
);
const pump = cell.devices.find((d) => d.name === 'brine_pump_m2')!;
let n = 0;
const ids = () => `p${(n += 1)}`;
const read = (text: string) => {
  const rows = tableCells(text);
  return readParameters(rows, guessParameters(rows), ids);
};
const sheet = `No.;Name;Register;Range;Default
P1;Ramp up;40101;0.5 to 60.0 s;10.0 s
P2;Ramp down;40102;0.5 to 60.0 s;10.0 s`;

test('a table taken a second time changes what it changes: ids stay, others are left or go', () => {
  const given = pump;
  const bare = { ...given, description: { ...given.description, parameters: [] } };
  const with2 = applyEdit({ ...cell, devices: [bare] }, takeParameters(bare, read(sheet), false)).devices[0]!;
  expect(with2.description.parameters.map((p) => [p.name, p.limits?.maximum, p.scale?.factor])).toEqual([
    ['Ramp up', '60.0', '1/10'],
    ['Ramp down', '60.0', '1/10'],
  ]);
  const shorter = read(`Name;Register;Range\nRamp up;40101;0.5 to 90.0 s`);
  const kept = applyEdit({ ...cell, devices: [with2] }, takeParameters(with2, shorter, false)).devices[0]!;
  expect(kept.description.parameters.map((p) => [p.id, p.limits?.maximum])).toEqual([
    [with2.description.parameters[0]!.id, '90.0'],
    [with2.description.parameters[1]!.id, '60.0'],
  ]);
  const alone = applyEdit({ ...cell, devices: [with2] }, takeParameters(with2, shorter, true)).devices[0]!;
  expect(alone.description.parameters.map((p) => p.name)).toEqual(['Ramp up']);
  expect(check({ ...cell, devices: [alone] }).filter((f) => f.place.parameter)).toEqual([]);
});

test('a new parameter has a name of its own and meets the model', () => {
  const first = newParameter(pump, ids);
  const edit = { edit: 'parameters.arrange', device: pump.id, title: 'add', parameters: [first] } as const;
  const { devices } = applyEdit(cell, { ...edit, parameters: [first] });
  const after = devices.find((d) => d.id === pump.id)!;
  expect(newParameter(after, ids).name).not.toBe(first.name);
});
