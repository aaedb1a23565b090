import { readFileSync } from 'node:fs';
import { describe, expect, test } from 'vitest';
import { linkBudget } from '../../protocols/linkBudget.js';
import { applyEdit } from '../../cell/edits/edit.js';
import { firstLink, testCell } from '../../cell/testCell.js';
import { check } from '../../checks/check.js';
import { codecOf } from '../../layout/codec.js';
import { deviceOfGsdml, devicesOfGsdml, pluggedInto } from './gsdmlDevice.js';
import { stretchFields } from './gsdmlFields.js';
import { factoryPlugs, freeSlots, movesBetween, plugged, type Plug } from './plugging.js';
import { readGsdml, slotList } from './readGsdml.js';

const text = readFileSync(
  new URL('../../../../../demo/describers/GSDML-V2.42-Murmel-MR5-20260901.xml', import.meta.url),
  'utf8',
);
const { describer, defects } = readGsdml(text);
const [robot] = describer.accessPoints as [(typeof describer.accessPoints)[0]];

describe('the robot of the demo', () => {
  test('device, access point, modules', () => {
    expect(describer).toMatchObject({
      schemaVersion: '2.42',
      device: { vendorId: 0xfe2e, deviceId: 0x0cee, vendorName: 'Murmel', mainFamily: 'Robotics' },
      languages: ['primary', 'de'],
    });
    expect(robot).toMatchObject({
      id: 'DAP_MR5',
      name: 'MR5 arm',
      orderNumber: 'MR5-900',
      softwareRelease: 'V1.4.0',
      slots: [0, 1, 2, 3, 4, 5, 6, 7, 8],
      fixedIn: [0],
      // 64 × 31.25 µs.
      minInterval: 2000,
      timing: { sendClock: [32], reductionRatio: [1, 2, 4, 8, 16, 32, 64, 128] },
    });
    expect(robot.submodules.map((s) => [s.name, s.fixedIn])).toEqual([
      ['MR5 arm', []],
      ['Interface', [32_768]],
      ['Port 1', [32_769]],
    ]);
    expect(describer.modules.map((m) => m.identNumber)).toEqual([0x201, 0x202, 0x203, 0x204]);
  });

  test('data with bits, and records with named values', () => {
    const status = describer.modules[0]!.submodules[0]!;
    expect(status.input).toMatchObject({ consistency: 'All items consistency', bytes: 8 });
    expect(status.input!.items[0]!.bits).toContainEqual({ offset: 3, name: 'At home' });
    const [loss, filter] = status.records[0]!.parameters;
    expect(loss).toMatchObject({ byteOffset: 0, labels: [{ value: 0, text: 'stop at once' }, { value: 1 }] });
    expect(filter).toMatchObject({ bitLength: 2, allowed: '0..3' });
  });

  test('its faults', () => {
    expect(defects.map((d) => d.says)).toEqual([
      '<ModuleItemRef> refers to the module M_Gripper, which the file does not have.',
      'The text T_R2 is missing.',
    ]);
    expect(defects.every((d) => d.line > 10)).toBe(true);
  });

  test('in another language', () =>
    expect(readGsdml(text, 'de').describer.accessPoints[0]!.name).toBe('MR5 Arm'));
});

// GSDML, 7.1: lists of numbers and ranges (from memory).
test.each([
  ['0..3', [0, 1, 2, 3]],
  ['1 3 5..6', [1, 3, 5, 6]],
  ['0x8000', [32_768]],
  ['', []],
])('the slots %s', (list, slots) => {
  let refused = 0;
  expect(slotList(list, () => (refused += 1))).toEqual(slots);
  expect(refused).toBe(0);
});
test.each(['x', '3..1', '0..99999999', '0..65536', '-1'])('%s is no list of slots', (list) => {
  let refused = 0;
  expect(slotList(list, () => (refused += 1))).toEqual([]);
  expect(refused).toBe(1);
});

describe('plugging', () => {
  const factory = factoryPlugs(robot);
  const start = { input: 256, output: 512 };
  const at = (plugs: Plug[]) => plugged(describer, robot, plugs, start);

  test('from the factory: what is fixed and used, in the order of the slots, addresses behind each other', () => {
    expect(factory).toEqual([
      { slot: 1, module: 'M_Status' },
      { slot: 2, module: 'M_Command' },
      { slot: 3, module: 'M_Registers' },
    ]);
    const { places, troubles, inputBytes, outputBytes } = at(factory);
    expect(troubles).toEqual([]);
    expect([inputBytes, outputBytes]).toEqual([12, 8]);
    const addresses = places
      .filter((p) => p.input ?? p.output)
      .map((p) => [p.slot, p.subslot, p.input?.start ?? null, p.output?.start ?? null]);
    expect(addresses).toEqual([
      [1, 1, 256, null],
      [2, 1, null, 512],
      [3, 1, 264, 516],
    ]);
  });

  test('a module that is put before others moves their inputs, and it is said which', () => {
    const [status, command, registers] = factory as [Plug, Plug, Plug];
    const after = [status, command, { slot: 4, module: 'M_Pose' }, registers];
    expect(movesBetween(at(factory), at(after))).toEqual([
      { slot: 3, name: 'Registers', side: 'input', bytes: 4, from: 264, to: 276 },
      { slot: 4, name: 'Pose', side: 'input', bytes: 12, from: null, to: 264 },
    ]);
    // At the end it moves nothing.
    const last = [...factory, { slot: 4, module: 'M_Pose' }];
    expect(movesBetween(at(factory), at(last)).every((m) => m.from === null)).toBe(true);
  });

  test.each<[string, Plug[], string[]]>([
    ['a slot where it may not be', [{ slot: 3, module: 'M_Status' }], ['slot.notAllowed']],
    ['a slot that is taken', [...factory, { slot: 3, module: 'M_Pose' }], ['slot.taken']],
    ['a module that is not there', [{ slot: 4, module: 'M_Gripper' }], ['slot.noModule']],
    ['too much', Array.from({ length: 30 }, (_, i) => ({ slot: i + 3, module: 'M_Pose' })), ['slot.tooMuch']],
  ])('%s is said', (_says, plugs, codes) => {
    expect(new Set(at(plugs).troubles.map((t) => t.code))).toEqual(
      new Set([...codes, ...(codes[0] === 'slot.tooMuch' ? ['slot.notAllowed'] : [])]),
    );
  });

  test('a device of the cell keeps its slots; its images are the bytes behind each other, and it comes back to its plugs', () => {
    const cell = testCell();
    const place = { name: 'wheel_turner_r2', address: '192.168.40.42' };
    let n = 0;
    const device = deviceOfGsdml(describer, robot, at(factory), cell, place, () => `n${(n += 1)}`);
    const next = applyEdit(cell, { edit: 'device.add', device });
    const link = firstLink(next.devices.at(-1)!, 'profinet');
    expect([link.feedback.size, link.command.size, link.feedback.start]).toEqual([12, 8, 12]);
    // Port, interface and head are submodules too, without data.
    expect(link.slots.map((s) => [s.slot, s.subslot, s.inputs, s.outputs])).toEqual([
      [0, 1, 0, 0],
      [0, 32_768, 0, 0],
      [0, 32_769, 0, 0],
      [1, 1, 8, 0],
      [2, 1, 0, 4],
      [3, 1, 4, 4],
    ]);
    expect(devicesOfGsdml(next, describer).map((d) => d.name)).toEqual(['wheel_turner_r2']);
    expect(pluggedInto(device, robot)).toEqual({
      plugs: factory,
      start: { input: link.feedback.start, output: link.command.start },
    });
    // One that has no link of this protocol is as the factory makes it.
    expect(pluggedInto(cell.devices[0]!, robot).plugs).toEqual(factoryPlugs(robot));
    expect(link.command.fields.map((f) => f.name)).toContain('program_number');
    expect(device.identity).toMatchObject({
      vendor: 0xfe2e,
      productCode: 0x0cee,
      majorRevision: 1,
      minorRevision: 4,
    });
    // 31.25 µs × 32 × 8.
    expect(link.feedbackRpi).toBe(8000);
    // The name on the wire has no underscores; 12 bytes and 6 of status are filled up to 40: 40 + 10 + 14 + 24 (IEC
    // 61158-6-10).
    expect(check(next).map((f) => f.code)).toEqual(['device.stationName']);
    expect(linkBudget(link, 10).feedback).toMatchObject({ payload: 50, wire: 88, packetsPerSecond: 125 });
  });

  test('free slots', () => {
    expect(freeSlots(robot, factory, 'M_Pose')).toEqual([4, 5, 6, 7, 8]);
    expect(freeSlots(robot, factory, 'M_Status')).toEqual([]);
  });

  test('the bytes of the wire read as the manual says: high byte first, bit 0 in the last byte of its item', () => {
    const stretches = at(factory).places.flatMap(({ submodule, input }) =>
      input ? [{ title: submodule.name, data: input.data }] : [],
    );
    let n = 0;
    const fields = stretchFields(stretches, () => `f${(n += 1)}`);
    const codec = codecOf({ fields, groups: [], order: 'little', size: 12 });
    // Status word 0009: ready and at home; program 7; 100000 ms; registers −2 and 300.
    codec.decode(new DataView(Uint8Array.of(0, 9, 0, 7, 0, 1, 0x86, 0xa0, 0xff, 0xfe, 1, 0x2c).buffer));
    const values = Object.fromEntries(codec.signals.map((s, i) => [s.name, codec.readingAt(i).text]));
    expect(values).toEqual({
      ready: '1',
      servo_is_on: '0',
      program_runs: '0',
      at_home: '1',
      fault: '0',
      program_echo: '7',
      cycle_time: '100000',
      register_1: '-2',
      t_r2: '300',
    });
  });
});
