import { readFileSync } from 'node:fs';
import { applyEdit, check, readCellFile, type Device, type Link } from '@fadenkreuz/core';
import { describe, expect, test } from 'vitest';
import { deviceFrom, type NewDevice } from './newDevice.js';
import * as ethernetIp from './protocols/ethernetIp/fromManual.js';
import * as modbusTcp from './protocols/modbusTcp/fromManual.js';

const demo = readCellFile(
  readFileSync(new URL('../../../../../demo/ripening-store-3.json', import.meta.url), 'utf8'),
);
const entry: NewDevice = {
  name: 'smoke_flap_y1',
  designation: '',
  kind: 'other',
  maker: '',
  address: '192.168.40.120',
};
const ids = () => {
  let n = 0;
  return () => `id${(n += 1)}`;
};

describe.each([
  ['ethernet-ip', ethernetIp.linkFrom, ethernetIp.initial()],
  ['modbus-tcp', modbusTcp.linkFrom, modbusTcp.initial()],
])('over %s', (_, linkFrom: (...of: never[]) => Link, initial) => {
  const made = (part: Partial<NewDevice> = {}, own: object = {}) => {
    const newId = ids();
    const link = linkFrom(demo as never, { ...initial, ...own } as never, newId as never);
    return deviceFrom({ ...entry, ...part }, link, newId);
  };
  const add = (device: Device) => applyEdit(demo, { edit: 'device.add', device });

  test('a device added by hand brings no error: its images lie behind all others', () => {
    const device = made();
    expect(check(add(device)).filter((f) => f.place.device === device.id && f.severity === 'error')).toEqual(
      [],
    );
    const behind = (direction: 'command' | 'feedback') =>
      Math.max(...demo.devices.flatMap((d) => d.links.map((l) => l[direction].start + l[direction].size)));
    expect(device.links[0]!.command.start).toBe(behind('command'));
    expect(device.links[0]!.feedback.start).toBe(behind('feedback'));
  });

  test('what is wrong in the entry is refused by the model', () => {
    for (const wrong of [{ address: '' }, { name: '' }]) expect(() => add(made(wrong))).toThrow();
    for (const updateMs of [0, NaN]) expect(() => add(made({}, { updateMs }))).toThrow();
  });
});

test('over EtherNet/IP it has no finding at all', () => {
  const newId = ids();
  const device = deviceFrom(entry, ethernetIp.linkFrom(demo, ethernetIp.initial(), newId), newId);
  const cell = applyEdit(demo, { edit: 'device.add', device });
  expect(check(cell).filter((f) => f.place.device === device.id)).toEqual([]);
});

test('counts that are none are refused by the model', () => {
  const refused = (link: Link) =>
    expect(() => applyEdit(demo, { edit: 'device.add', device: deviceFrom(entry, link, ids()) })).toThrow();
  for (const commandCount of [-1, NaN])
    refused(ethernetIp.linkFrom(demo, { ...ethernetIp.initial(), commandCount }, ids()));
  for (const [start, count] of [
    ['0', -1],
    ['0', NaN],
    ['none', 2],
  ] as const)
    refused(
      modbusTcp.linkFrom(
        demo,
        { ...modbusTcp.initial(), command: { table: 'holding', start, count } },
        ids(),
      ),
    );
});
