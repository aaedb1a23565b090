import { readFileSync } from 'node:fs';
import { applyEdit, check, readCellFile, readManualLine } from '@fadenkreuz/core';
import { expect, test } from 'vitest';
import { deviceFrom, withLine, type NewDevice } from './newDevice.js';

const demo = readCellFile(
  readFileSync(new URL('../../../../../demo/ripening-store-3.json', import.meta.url), 'utf8'),
);
const entry: NewDevice = {
  name: 'smoke_flap_y1',
  designation: '',
  kind: 'other',
  maker: '',
  address: '192.168.40.120',
  protocol: 'ethernet-ip',
  commandInstance: 100,
  commandCount: 3,
  feedbackInstance: 101,
  feedbackCount: 5,
  configurationInstance: 102,
  unitBytes: 2,
  ...{ commandStart: 100, commandRegisters: 3, feedbackTable: 'input' },
  ...{ feedbackStart: 200, feedbackRegisters: 5 },
  updateMs: 20,
};
const ids = () => {
  let n = 0;
  return () => `id${(n += 1)}`;
};

test.each([
  [1, 3, 5],
  [2, 6, 10],
  [4, 12, 20],
])('sizes counted in units of %i bytes', (unitBytes, command, feedback) => {
  const [link] = deviceFrom(demo, { ...entry, unitBytes }, ids()).links;
  expect([link!.command.size, link!.feedback.size]).toEqual([command, feedback]);
});

test('a device added by hand brings no finding: its images lie behind all others', () => {
  const device = deviceFrom(demo, entry, ids());
  const cell = applyEdit(demo, { edit: 'device.add', device });
  expect(check(cell).filter((f) => f.place.device === device.id)).toEqual([]);
  const behind = (direction: 'command' | 'feedback') =>
    Math.max(...demo.devices.flatMap((d) => d.links.map((l) => l[direction].start + l[direction].size)));
  expect(device.links[0]!.command.start).toBe(behind('command'));
  expect(device.links[0]!.feedback.start).toBe(behind('feedback'));
});

test('what is wrong in the entry is refused by the model', () => {
  for (const wrong of [
    { commandCount: -1 },
    { commandCount: NaN },
    { address: '' },
    { name: '' },
    { updateMs: 0 },
  ])
    expect(() =>
      applyEdit(demo, { edit: 'device.add', device: deviceFrom(demo, { ...entry, ...wrong }, ids()) }),
    ).toThrow();
});

test.each([
  // Four bytes are two of the 16-bit elements that the form counts in; 7 bytes are no whole number of them.
  [
    'input 131 size 7, output 141 size 6, 32-bit, RPI 8',
    2,
    { commandCount: 12, feedbackCount: 14, updateMs: 8 },
  ],
  ['T->O 101 7 bytes O->T 102 4 bytes configuration 7', 1, { commandCount: 4, feedbackCount: 7 }],
  [
    'output 141 size 6 bytes',
    2,
    { commandInstance: 141, commandCount: 3, feedbackInstance: 101, feedbackCount: 5 },
  ],
])('the entries after the line %s', (line, unitBytes, wanted) =>
  expect(withLine(entry, readManualLine(line)!)).toMatchObject({ unitBytes, ...wanted }),
);

test('a device of registers has a block for each side, and sound checks', () => {
  const device = deviceFrom(demo, { ...entry, protocol: 'modbus-tcp' }, ids());
  const [link] = device.links;
  expect(link).toMatchObject({
    protocol: 'modbus-tcp',
    command: { size: 6, order: 'big' },
    feedback: { size: 10, order: 'big' },
    blocks: [
      { direction: 'command', table: 'holding', start: 100, count: 3, poll: 20_000 },
      { direction: 'feedback', table: 'input', start: 200, count: 5, poll: 20_000 },
    ],
  });
  const after = applyEdit(demo, { edit: 'device.add', device });
  expect(check(after).filter((f) => f.place.device === device.id && f.severity === 'error')).toEqual([]);
});
