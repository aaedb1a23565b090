import demo from '@fadenkreuz/demo/ripening-store-3.json' with { type: 'json' };
import { describe, expect, test } from 'vitest';
import { readCellFile } from '../cell/cellFile.js';
import { applyEdit } from '../cell/edits/edit.js';
import { MachineRow } from '../cell/machineRow.js';
import { testCell } from '../cell/testCell.js';
import { check } from '../checks/check.js';
import { quantitiesOf } from '../devices/surroundings.js';
import { Machine } from './machine.js';

const rows = (...lines: [name: string, expression: string, begins?: number][]): MachineRow[] =>
  lines.map(([name, expression, begins = 0], i) =>
    MachineRow.parse({ id: `w${i}`, name, expression, begins }),
  );
const devices = [
  { id: 'p', name: 'pump m2' },
  { id: 's', name: 'scale_b1' },
];
const shown: Record<string, number> = { 'p motor_speed': 1450, 'p valve': 0 };
const read = (device: string, name: string) => shown[`${device} ${name}`];
const valuesOf = (machine: Machine) => [...machine.values.values()];

describe('the machine around the devices', () => {
  test('lines are worked out in turn; a quantity in its own expression is what it was', () => {
    // A tank: 4 l/s at full speed, 1 l/s out: 3 l a second, up to 10.
    const machine = new Machine(
      rows(
        ['inflow', '4 * pump_m2.motor_speed / 1450'],
        ['level', 'min(10, level + dt * (inflow - 1))', 5],
        ['scale_b1.load', 'level * 1.2'],
      ),
      devices,
    );
    expect(valuesOf(machine)).toEqual([0, 5]);
    machine.step(0.5, read);
    expect(valuesOf(machine)).toEqual([4, 6.5, 7.8]);
    expect(machine.actsOn('s').get('load')).toBeCloseTo(7.8);
    for (let i = 0; i < 10; i += 1) machine.step(0.5, read);
    expect(machine.actsOn('s').get('load')).toBeCloseTo(12);
    expect([...machine.actsOn('p')]).toEqual([]);
    expect([...machine.reads]).toEqual(['p']);
  });

  test('what cannot be worked out stays as it was, and acts on nothing where it never was anything', () => {
    const machine = new Machine(
      rows(
        ['a', 'nobody.speed + 1', 3],
        ['scale_b1.load', '1 / 0'],
        ['scale_b1.tag', 'a +'],
        ['gone_x1.load', '1'],
      ),
      devices,
    );
    machine.step(1, read);
    expect(valuesOf(machine)).toEqual([3]);
    expect([...machine.actsOn('s')]).toEqual([]);
  });

  test('another table keeps the quantities that are still there', () => {
    const before = new Machine(rows(['a', 'a + 1'], ['b', '7']), devices);
    before.step(1, read);
    before.step(1, read);
    const after = new Machine(rows(['c', '', 9], ['a', 'a + 10', 100]), devices, before);
    after.step(1, read);
    expect(valuesOf(after)).toEqual([9, 12]);
  });
});

describe('its lines in the cell', () => {
  const cell = testCell();
  const name = cell.devices[0]!.name;
  const withRows = (...lines: Parameters<typeof rows>) => ({ ...cell, machine: rows(...lines) });
  const codes = (...lines: Parameters<typeof rows>) =>
    check(withRows(...lines)).flatMap(({ code }) => (code.startsWith('machine.') ? [code] : []));

  test.each<[string, string, string[]]>([
    ['a', '1 + dt', []],
    ['a', 'b + 1', ['machine.nameUnknown']],
    ['a', 'nobody_x9.speed', ['machine.nameUnknown']],
    ['a', '1 +', ['machine.wrong']],
    ['nobody_x9.load', '1', ['machine.targetUnknown']],
    [`${name}.nothing_like_it`, '1', ['machine.targetUnknown']],
  ])('%s = %s', (left, right, wanted) => expect(codes([left, right])).toEqual(wanted));

  test('two lines for one thing', () => expect(codes(['a', '1'], ['a', '2'])).toEqual(['machine.twice']));

  test('are added, changed, removed; a device under another name keeps them', () => {
    const edits = [
      {
        edit: 'machine.add',
        row: { id: 'w1', name: `${name}.load`, expression: `2 * ${name}.speed + x${name}.speed` },
      },
      { edit: 'machine.set', row: 'w1', set: { unit: 'kg' } },
      { edit: 'device.set', device: cell.devices[0]!.id, set: { name: 'other_b7' } },
    ] as const;
    const after = edits.reduce<typeof cell>((now, edit) => applyEdit(now, edit), cell);
    expect(after.machine).toEqual([
      {
        ...{ id: 'w1', name: 'other_b7.load', expression: `2 * other_b7.speed + x${name}.speed` },
        ...{ unit: 'kg', begins: 0, note: '' },
      },
    ]);
    expect(applyEdit(after, { edit: 'machine.remove', row: 'w1' }).machine).toEqual([]);
    expect(() => applyEdit(cell, { edit: 'machine.remove', row: 'w1' })).toThrow(/line of the machine/);
  });
});

test('the demo machine names nothing that is not there, and only quantities of its kinds', () => {
  const cell = readCellFile(JSON.stringify(demo));
  expect(check(cell).filter(({ code }) => code.startsWith('machine.'))).toEqual([]);
  expect(quantitiesOf({ kind: 'weigher' })).toMatchObject([{ name: 'load', unit: 'kg' }]);
});
