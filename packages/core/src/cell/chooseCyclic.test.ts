import demo from '@fadenkreuz/demo/ripening-store-3.json' with { type: 'json' };
import { describe, expect, test } from 'vitest';
import { check } from '../checks/check.js';
import { DescribedParameters } from '../devices/plain/parameters.js';
import { ChosenValues } from '../devices/plain/chosenValues.js';
import { canBeChosen, type ChosenSlots } from '../devices/chosenSlots.js';
import { Parameter } from '../devices/parameter.js';
import { readCellFile } from './cellFile.js';
import { chosenNow } from './chooseCyclic.js';
import { applyEdit, readEdit } from './edits/edit.js';
import { Device, type Cell } from './model.js';

const cell = readCellFile(JSON.stringify(demo));
const choose = (of: Cell, device: string, choice: number, parameters: (string | null)[]) =>
  applyEdit(of, readEdit({ edit: 'parameters.choose', device, choice, parameters }));
const deviceOf = (of: Cell, id: string) => of.devices.find((d) => d.id === id)!;

describe('the drive of the demo', () => {
  const byCode = (code: string) =>
    deviceOf(cell, 'm1').description.parameters.find((p) => p.code === code)!.id;
  const thermal = byCode('224');
  const after = choose(cell, 'm1', 1, [thermal, byCode('226')]);
  const { links, description } = deviceOf(after, 'm1');

  test('as planned it carries current and voltage; after the choice load and warning', () => {
    const [, slots] = description.chosen as [ChosenSlots, ChosenSlots];
    expect(chosenNow(deviceOf(cell, 'm1'), slots)).toEqual([byCode('222'), byCode('223')]);
    expect(chosenNow(deviceOf(after, 'm1'), slots)).toEqual([thermal, byCode('226')]);
    const { fields, size } = links[0]!.feedback;
    expect(fields.filter((f) => f.at >= 32 && f.at < 64).map((f) => [f.name, f.at, f.bits, f.unit])).toEqual([
      ['thermal_load', 32, 16, '%'],
      ['warning_code', 48, 16, ''],
    ]);
    expect(size).toBe(12);
    // Its connection point is laid out alike, so nothing is found that differs.
    expect(check(after).filter((f) => f.place.device === 'm1' && f.code.startsWith('image.'))).toEqual([]);
  });

  test('what tells the device is planned', () => {
    const planned = Object.fromEntries(description.parameters.map((p) => [p.code, p.planned]));
    expect([planned['303'], planned['304'], planned['301']]).toEqual(['224', '226', null]);
  });

  test('a place may stay free; what goes the other way, or is too long, is refused', () => {
    const free = choose(cell, 'm1', 0, [null, byCode('121')]);
    expect(deviceOf(free, 'm1').links[0]!.command.fields.map((f) => f.name)).not.toContain(
      'acceleration_time',
    );
    expect(deviceOf(free, 'm1').links[0]!.command.fields.at(-1)).toMatchObject({
      name: 'highest_frequency',
      at: 48,
    });
    expect(() => choose(cell, 'm1', 0, [thermal])).toThrow(
      expect.objectContaining({ code: 'parameter.notCyclic' }),
    );
    expect(() => choose(cell, 'm1', 1, [byCode('225')])).toThrow(
      expect.objectContaining({ code: 'parameter.notCyclic' }),
    );
    expect(() => choose(cell, 'm1', 5, [])).toThrow(expect.objectContaining({ code: 'edit.unknown' }));
  });
});

/** Another device than the demo's: registers, places of two words, chosen by the first register of each. */
describe('a device of registers', () => {
  const pump = deviceOf(cell, 'm2');
  const parameter = (code: string, start: number, more: Partial<Parameter> = {}) =>
    Parameter.parse({
      ...{ id: `x-${code}`, code, name: `Wert ${code}`, type: 'UINT', bits: 16 },
      place: { way: 'register', table: 'holding', start },
      ...more,
    });
  const slots: ChosenSlots = {
    ...{ use: 'feedback', point: 2, at: 8, size: 4, by: 'register', selectors: ['S1', 'S2'] },
  };
  const parameters = [
    parameter('S1', 900),
    parameter('S2', 901),
    parameter('A', 410, { type: 'UDINT', bits: 32, access: 'read' }),
    parameter('B', 420),
    parameter('T', 430, { type: 'STRING', bits: 32 }),
  ];
  const own: Cell = {
    ...cell,
    machine: [],
    exchanges: [],
    devices: [Device.parse({ ...pump, description: { ...pump.description, parameters, chosen: [slots] } })],
  };

  test('the layout follows the order of the choice', () => {
    const { links, description } = deviceOf(choose(own, 'm2', 0, ['x-B', 'x-A']), 'm2');
    const placed = links[0]!.feedback.fields.filter((f) => f.at >= 64 && f.at < 128);
    expect(placed.map((f) => [f.name, f.type, f.at])).toEqual([
      ['wert_b', 'UINT', 64],
      ['wert_a', 'UDINT', 96],
    ]);
    expect(description.parameters.slice(0, 2).map((p) => p.planned)).toEqual(['420', '410']);
  });

  test('neither texts nor what tells the device can be chosen', () => {
    expect(parameters.filter((p) => canBeChosen(slots, p)).map((p) => p.code)).toEqual(['A', 'B']);
  });

  test('a simulated one carries what it was told, and nothing where it was told nothing', () => {
    const described = new DescribedParameters(parameters);
    const values = new ChosenValues([slots, { ...slots, use: 'command', point: 1, at: 0 }], described.all);
    const [s1, , a, b] = described.all;
    a!.bytes.set([1, 2, 3, 4]);
    const image = new Uint8Array(16).fill(0xee);
    values.show({ number: 2, use: 'feedback' }, image);
    expect([...image.slice(8)]).toEqual([0, 0, 0, 0, 0, 0, 0, 0]);
    s1!.write(Uint8Array.of(410 >> 8, 410 & 0xff));
    values.show({ number: 2, use: 'feedback' }, image);
    expect([...image.slice(8, 12)]).toEqual([1, 2, 3, 4]);
    expect(image[0]).toBe(0xee);
    s1!.write(Uint8Array.of(420 >> 8, 420 & 0xff));
    values.take(1, Uint8Array.of(0, 77, 0, 0, 0, 0, 0, 0));
    expect(b!.value).toBe(77);
    values.take(2, Uint8Array.of(0, 78, 0, 0, 0, 0, 0, 0));
    expect(b!.value).toBe(77);
  });
});
