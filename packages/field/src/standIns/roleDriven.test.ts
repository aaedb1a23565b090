import { execFile } from 'node:child_process';
import { promisify } from 'node:util';
import {
  codecOf,
  descriptionByHand,
  Device,
  faultKey,
  protocolById,
  unknownIdentity,
  unknownNameplate,
  type Field,
  type Link,
} from '@fadenkreuz/core';
import { afterEach, describe, expect, test } from 'vitest';
import { Bench } from '../bench/bench.js';
import { Schedule } from '../timing/schedule.js';
import { climateCell, until } from '../testBench.js';
import { StandIn } from './standIn.js';

/** One behaviour, two layouts that have nothing in common but their roles. */

type Draft = [name: string, type: Field['type'], at: number, bits: number, role: string, more?: object];
const fieldsOf = (drafts: readonly Draft[]) =>
  drafts.map(([name, type, at, bits, is, more = {}]) => ({
    ...{ id: name, name, type, at, bits, ...(is ? { role: { is } } : {}) },
    ...more,
  }));
const device = (address: string, kind: Device['kind'], link: object): Device =>
  Device.parse({
    ...{ ...unknownNameplate, id: 'x1', name: 'unit_x1', address, designation: '', serves: '', kind },
    ...{ maker: '', identity: unknownIdentity, simulated: false, orderSelectable: false },
    ...{ links: [link], description: descriptionByHand([link as Link]) },
  });
const images = (
  command: { size: number; fields: readonly Draft[] },
  feedback: { size: number; fields: readonly Draft[]; order?: string },
) => ({
  command: {
    ...{ id: 'c1', direction: 'command', instance: 130, size: command.size, start: 0, swapped: false },
    ...{ order: feedback.order ?? 'little', numbering: null, groups: [], fields: fieldsOf(command.fields) },
  } as never,
  feedback: {
    ...{ id: 'f1', direction: 'feedback', instance: 131, size: feedback.size, start: 0, swapped: false },
    ...{ order: feedback.order ?? 'little', numbering: null, groups: [], derived: [] },
    fields: fieldsOf(feedback.fields),
  } as never,
});
const ethernetIp = (sides: ReturnType<typeof images>) => ({
  ...protocolById('ethernet-ip').create({ id: 'l1', update: 20_000, ...sides }),
  timeoutMultiplier: 512,
});

/** A maker's own words: 16 bits, hundredths of a Hz, start and direction apart. */
const inHz = device(
  '10.99.42.21',
  'variable-speed drive',
  ethernetIp(
    images(
      {
        size: 6,
        fields: [
          ['go', 'BOOL', 4, 1, 'start'],
          ['halt_nc', 'BOOL', 5, 1, 'stop', { normallyClosed: true }],
          ['back', 'BOOL', 6, 1, 'direction'],
          ['quit', 'BOOL', 7, 1, 'fault reset'],
          ['want', 'INT', 16, 16, 'speed reference', { scale: { factor: '1/100', offset: '0' }, unit: 'Hz' }],
          ['ramp', 'UINT', 32, 16, 'acceleration', { scale: { factor: '1/10', offset: '0' }, unit: 's' }],
        ],
      },
      {
        size: 6,
        fields: [
          ['bad', 'BOOL', 0, 1, 'faulted'],
          ['turns', 'BOOL', 1, 1, 'running'],
          ['there', 'BOOL', 9, 1, 'at speed'],
          ['is', 'INT', 16, 16, 'speed actual', { scale: { factor: '1/100', offset: '0' }, unit: 'Hz' }],
          ['code', 'UINT', 32, 16, 'fault code'],
        ],
      },
    ),
  ),
);

/** Registers: bits of a word, whole rpm, a start for each direction. */
const inRpm = device('10.99.42.22', 'variable-speed drive', {
  ...protocolById('modbus-tcp').create({
    ...{ id: 'l1', update: 50_000 },
    ...images(
      {
        size: 4,
        fields: [
          [
            ...(['control', 'WORD', 0, 16, 'control word'] as const),
            {
              bitRoles: [
                { bit: 0, role: { is: 'forward' } },
                { bit: 1, role: { is: 'reverse' } },
                { bit: 7, role: { is: 'fault reset' } },
              ],
            },
          ],
          ['set', 'INT', 16, 16, 'speed reference', { unit: 'rpm' }],
        ],
      },
      {
        size: 6,
        order: 'big',
        fields: [
          [
            ...(['status', 'WORD', 0, 16, 'status word'] as const),
            {
              bitRoles: [
                { bit: 2, role: { is: 'running' } },
                { bit: 3, role: { is: 'faulted' } },
              ],
            },
          ],
          ['speed', 'INT', 16, 16, 'speed actual', { unit: 'rpm' }],
          ['error', 'UINT', 32, 16, 'fault code'],
        ],
      },
    ),
  }),
  blocks: [
    ...[{ id: 'b1', name: 'out', direction: 'command', table: 'holding', start: 100, count: 2, at: 0 }],
    ...[{ id: 'b2', name: 'in', direction: 'feedback', table: 'input', start: 200, count: 3, at: 0 }],
  ].map((block) => ({ ...block, poll: 50_000, fresh: null, age: null })),
});

let bench: Bench | undefined;
afterEach(async () => {
  await bench?.stop();
  bench = undefined;
});
const report = () => bench!.report()[0]!;
async function run(one: Device): Promise<(name: string) => number> {
  const cell = climateCell();
  bench = new Bench({
    ...cell,
    network: { ...cell.network, subnet: '10.99.42.0/24' },
    controller: { ...cell.controller, address: '10.99.42.1' },
    devices: [one],
  });
  await bench.start();
  await until(() => report().state === 'open');
  const codec = codecOf(one.links[0]!.feedback);
  return (name) => {
    const bytes = Buffer.from(report().feedback, 'base64');
    codec.decode(new DataView(bytes.buffer, bytes.byteOffset, bytes.length));
    return codec.numbers[codec.signals.findIndex((s) => s.name === name)]!;
  };
}
const write = (field: string, value: string) => bench!.write('x1', field, value);

describe('a drive by its roles', () => {
  test('in hundredths of a Hz over EtherNet/IP: ramp, direction, stop before start, fault and its code', async () => {
    const value = await run(inHz);
    // The stop is normally closed: 1 lets it run.
    for (const [name, typed] of [
      ['want', '40'],
      ['ramp', '1'],
      ['go', '1'],
    ] as const)
      write(name, typed);
    await until(() => value('turns') === 0 && value('is') === 0);
    const from = performance.now();
    write('halt_nc', '1');
    await until(() => value('there') === 1);
    // 50 Hz a second: 40 Hz are reached after 0.8 s, as far as the bench's cycle tells.
    const took = (performance.now() - from) / 1000;
    expect(value('is')).toBeCloseTo(40, 1);
    expect(took).toBeGreaterThan(0.75);
    write('back', '1');
    await until(() => value('is') === -40);
    write('halt_nc', '0');
    await until(() => value('is') === 0 && value('turns') === 0);
    write('halt_nc', '1');
    await until(() => value('is') === -40);
    const jammed = { fault: 'device', id: 'jammed' } as const;
    bench!.inject('x1', jammed);
    await until(() => value('bad') === 1);
    expect(value('code')).toBe(0x2310);
    bench!.clear('x1', faultKey(jammed));
    write('quit', '1');
    await until(() => value('bad') === 0);
    // The start that is still set does not start it again.
    await until(() => value('is') === 0);
    expect(value('turns')).toBe(0);
    for (const typed of ['0', '1']) {
      write('go', typed);
      if (typed === '0') await new Promise((resolve) => setTimeout(resolve, 200));
    }
    await until(() => value('is') === -40);
  });

  test('in rpm over Modbus, driven by pymodbus: reverse, and the same ramp in its own unit', async () => {
    const schedule = new Schedule();
    const standIn = new StandIn(inRpm, { schedule });
    await standIn.open();
    const script = `
import time
from pymodbus.client import ModbusTcpClient
c = ModbusTcpClient('127.99.42.22', port=${standIn.port}); c.connect()
def speed():
    value = c.read_input_registers(201, 1, slave=1).registers[0]
    return value - 65536 if value > 32767 else value
c.write_registers(100, [2, 900], slave=1)
start = time.monotonic(); seen = []
while time.monotonic() - start < 4 and speed() != -900:
    seen.append((time.monotonic() - start, speed())); time.sleep(0.02)
print(speed(), c.read_input_registers(200, 3, slave=1).registers[0])
print(max(abs(v + 750 * t) for t, v in seen if t < 1.1) < 60)
c.write_registers(100, [3, 900], slave=1); time.sleep(2)
print(speed())
`;
    const { stdout } = await promisify(execFile)('/usr/bin/python3', ['-c', script]);
    await standIn.close();
    schedule.stop();
    // 50 Hz in 2 s are 750 rpm a second (4 poles); both directions at once are none.
    expect(stdout.trim().split('\n')).toEqual(['-900 4', 'True', '0']);
  });
});

test('an axis by its roles: enabled, homed, sent by a strobe, acknowledged, there', async () => {
  const axis = device(
    '10.99.42.23',
    'servo axis',
    ethernetIp(
      images(
        {
          size: 10,
          fields: [
            ['en', 'BOOL', 0, 1, 'enable'],
            ['ref', 'BOOL', 1, 1, 'home'],
            ['new', 'BOOL', 2, 1, 'setpoint strobe'],
            [
              'to',
              'DINT',
              16,
              32,
              'position setpoint',
              { scale: { factor: '1/1000', offset: '0' }, unit: 'mm' },
            ],
            ['v', 'UINT', 48, 16, 'velocity', { unit: 'mm/s' }],
            ['a', 'UINT', 64, 16, 'acceleration', { unit: 'mm/s²' }],
          ],
        },
        {
          size: 8,
          fields: [
            ['on', 'BOOL', 0, 1, 'enabled'],
            ['known', 'BOOL', 1, 1, 'homed'],
            ['taken', 'BOOL', 2, 1, 'setpoint acknowledge'],
            ['there', 'BOOL', 3, 1, 'target reached'],
            [
              'at',
              'DINT',
              32,
              32,
              'position actual',
              { scale: { factor: '1/1000', offset: '0' }, unit: 'mm' },
            ],
          ],
        },
      ),
    ),
  );
  const value = await run(axis);
  for (const [name, typed] of [
    ['v', '200'],
    ['a', '1000'],
    ['en', '1'],
    ['ref', '1'],
  ] as const)
    write(name, typed);
  await until(() => value('known') === 1 && value('on') === 1);
  write('ref', '0');
  write('to', '300');
  expect(value('at')).toBe(0);
  const from = performance.now();
  write('new', '1');
  await until(() => value('taken') === 1 && value('there') === 0);
  await until(() => value('there') === 1);
  // 300 mm with 200 mm/s and 1000 mm/s²: 0.2 s up, 1.3 s at speed, 0.2 s down; 1.7 s by hand.
  expect((performance.now() - from) / 1000).toBeGreaterThan(1.6);
  expect(value('at')).toBe(300);
  write('new', '0');
  await until(() => value('taken') === 0);
});
