import { readFileSync } from 'node:fs';
import { describe, expect, test } from 'vitest';
import { choosePoint, pointsOf } from '../cell/choosePoint.js';
import { applyEdit, type EditOf } from '../cell/edits/edit.js';
import { readCellFile } from '../cell/cellFile.js';
import { descriptionByHand } from '../cell/description.js';
import type { Cell, Device } from '../cell/model.js';
import { testCell, testDevice, testLink } from '../cell/testCell.js';
import { deviceOfChoice } from '../describers/list.js';
import { readDescriber } from '../describers/read.js';
import { Field } from '../layout/field.js';
import type { ConnectionPoint } from '../devices/description.js';
import { Block } from '../protocols/modbusTcp/link.js';
import { allRules, check } from './check.js';

const file = (path: string) =>
  new Uint8Array(readFileSync(new URL(`../../../../demo/${path}`, import.meta.url)));
const demo = readCellFile(new TextDecoder().decode(file('ripening-store-3.json')));
let ids = 0;
const newId = () => `n${(ids += 1)}`;
const codes = (cell: Cell) => check(cell).map((f) => f.code);

/**
 * The drive as its maker's file describes it: its own words at 121 and 171, and speed control in rpm at 20/70 and
 * 21/71.
 */
function driveFromFile(): Device {
  const { describer } = readDescriber(file('describers/quellwerk_fq2_2_11.eds'), TextDecoder as never);
  const place = { name: 'belt_m9', address: '192.168.40.29' };
  return deviceOfChoice(describer, 1, testCell([]), place, newId)!;
}

describe('a point of the description', () => {
  const cell = testCell([driveFromFile()]);
  const commandOf = (of: Cell) => of.devices[0]!.links[0]!.command;
  const point = (number: number): ConnectionPoint => {
    const [device] = cell.devices;
    return pointsOf(device!.links[0]!, 'command', device!.description).find((p) => p.number === number)!;
  };

  test('every connection of a file gives its points, with their layouts', () => {
    const { points } = cell.devices[0]!.description;
    expect(points.map((p) => [p.use, p.number, p.size, p.fields?.length])).toEqual([
      ['command', 121, 8, 8],
      ['feedback', 171, 12, 13],
      ['configuration', 151, 0, undefined],
      ['command', 20, 4, 3],
      ['feedback', 70, 4, 3],
      ['command', 21, 4, 6],
      ['feedback', 71, 4, 10],
    ]);
  });

  test('set by its number and size alone, the old layout stays: that is a finding, with the unit that is wrong', () => {
    const set = { instance: 20, size: 4 };
    const moved = applyEdit(cell, { edit: 'image.set', image: commandOf(cell).id, set });
    const found = check(moved).find((f) => f.code === 'image.layoutDiffers');
    expect(found?.says).toContain('speed_reference counts 1/100 Hz, speed_reference counts rpm');
  });

  test('chosen, it brings size and layout; what becomes of each field is said before', () => {
    const choice = choosePoint(commandOf(cell), point(20), newId);
    const names = (what: string) => choice.fields.filter((f) => f.what === what).map((f) => f.name);
    expect(names('kept')).toEqual(['run_forward', 'fault_reset']);
    expect(names('moved')).toEqual(['speed_reference']);
    expect(names('gone')).toEqual([
      ...['run_reverse', 'net_control', 'net_reference', 'acceleration_time', 'deceleration_time'],
    ]);
    const chosen = applyEdit(cell, choice.edit);
    expect(commandOf(chosen)).toMatchObject({ instance: 20, size: 4 });
    expect(commandOf(chosen).fields.find((f) => f.name === 'speed_reference')).toMatchObject({
      ...{ at: 16, unit: 'rpm', scale: null },
    });
    expect(codes(chosen)).not.toContain('image.layoutDiffers');
    // And back: with the same names, the same ids.
    const back = applyEdit(chosen, choosePoint(commandOf(chosen), point(121), newId).edit);
    expect(commandOf(back).fields.map((f) => f.name)).toEqual(commandOf(cell).fields.map((f) => f.name));
    expect(codes(back)).toEqual(codes(cell));
  });

  test('of which the layout is not known leaves what fits', () => {
    const unknown = { ...point(20), fields: null };
    const { edit, fields } = choosePoint(commandOf(cell), unknown, newId);
    expect(edit.fields.map((f) => f.name)).toEqual([
      ...['run_forward', 'run_reverse', 'fault_reset', 'net_control', 'net_reference', 'speed_reference'],
    ]);
    expect(fields.filter((f) => f.what === 'gone').map((f) => f.name)).toHaveLength(2);
  });
});

test('what was laid out under other names, in part, or bit by bit, does not differ', () => {
  const device = driveFromFile();
  const feedback = device.links[0]!.feedback;
  const other = feedback.fields
    .filter((f) => f.name !== 'motor_current')
    .map((f) => ({ ...f, name: `x_${f.name}`.slice(0, 60) }));
  // drive_state, a byte, named by two of its bits.
  const state = other.find((f) => f.name === 'x_drive_state')!;
  const bits = [0, 3].map((bit) =>
    Field.parse({ id: `b${bit}`, name: `b${bit}`, type: 'BOOL', at: state.at + bit, bits: 1 }),
  );
  const fields = [...other.filter((f) => f !== state), ...bits];
  const link = { ...device.links[0]!, feedback: { ...feedback, fields } } as Device['links'][number];
  expect(codes(testCell([{ ...device, links: [link] }]))).not.toContain('image.layoutDiffers');
});

describe('findings hang on what is described, not on who plays it', () => {
  const without = (cell: Cell): Cell => ({
    ...cell,
    devices: cell.devices.map((device) => ({ ...device, simulated: false })),
  });
  /** Cells in which rules about a device's own truth speak, by what they are to say. */
  const wrong = (change: (device: Device) => Device): Cell => ({
    ...demo,
    devices: demo.devices.map(change),
  });
  const link = (device: Device, part: object, name: string): Device =>
    device.name === name
      ? { ...device, links: [{ ...device.links[0]!, ...part } as Device['links'][number]] }
      : device;
  const image = (device: Device, side: 'command' | 'feedback', part: object, name: string): Device =>
    link(device, { [side]: { ...device.links[0]![side], ...part } }, name);
  const block = Block.parse({
    ...{ id: 'x', name: 'x', direction: 'feedback', table: 'holding', start: 43_001, count: 10 },
    ...{ poll: 100_000, at: 0 },
  });
  const cells: [string, Cell][] = [
    ['', demo],
    ['image.instanceUnknown', wrong((d) => image(d, 'command', { instance: 999 }, 'brush_belt_m1'))],
    ['image.sizeFactor', wrong((d) => image(d, 'command', { size: 4 }, 'brush_belt_m1'))],
    ['image.sizeDiffers', wrong((d) => image(d, 'feedback', { size: 14 }, 'brush_belt_m1'))],
    ['image.layoutDiffers', wrong((d) => image(d, 'feedback', { order: 'big' }, 'brush_belt_m1'))],
    ['link.notCyclic', wrong((d) => link(d, { connection: 'exclusive-owner' }, 'gripper_valves_q1'))],
    ['link.formatDiffers', wrong((d) => link(d, { commandFormat: 'modeless' }, 'climate_io_u1'))],
    ['block.noSuchRegisters', wrong((d) => link(d, { blocks: [block] }, 'brine_pump_m2'))],
    ['link.otherProtocol', wrong((d) => link(d, testLink('modbus-tcp'), 'rind_camera_v1'))],
    [
      'link.lossContradicts',
      wrong((d) =>
        link(d, { onLoss: 'drop', configuration: { instance: 150, data: 'F4010100' } }, 'climate_io_u1'),
      ),
    ],
  ];

  test.each(cells)('%s', (code, cell) => {
    if (code) expect(codes(cell)).toContain(code);
    for (const rule of allRules) {
      const said = (of: Cell) => rule(of).map((f) => [f.code, f.severity, f.place, f.facts]);
      expect(said(without(cell))).toEqual(said(cell));
    }
  });
});

test('a device made by hand is described by its links, and its description follows them', () => {
  const cell = testCell([testDevice()]);
  const description = (of: Cell) => of.devices[0]!.description;
  expect(description(cell).points.map((p) => [p.use, p.number, p.size])).toEqual([
    ['command', 120, 8],
    ['feedback', 110, 12],
    ['configuration', 150, 0],
  ]);
  const edit: EditOf<'image.set'> = { edit: 'image.set', image: 'i1', set: { instance: 7, size: 6 } };
  const next = applyEdit(cell, edit);
  expect(description(next).points[0]).toMatchObject({ number: 7, size: 6, fields: null });
  expect(codes(next)).toEqual([]);
  expect(description(next)).toEqual(descriptionByHand(next.devices[0]!.links));
});
