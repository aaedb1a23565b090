import { execFile } from 'node:child_process';
import { promisify } from 'node:util';
import {
  Device,
  faultKey,
  hexOf,
  ParameterCodec,
  readCellFile,
  type Cell,
  type Fault,
  type Parameter,
} from '@fadenkreuz/core';
import demo from '@fadenkreuz/demo/ripening-store-3.json' with { type: 'json' };
import { afterAll, beforeAll, describe, expect, test } from 'vitest';
import { Bench } from '../bench/bench.js';
import { until } from '../testBench.js';
import type { SeriesLine } from './series.js';

/**
 * Parameters of IO-Link devices through their master: over the demo's mailbox of registers, and through a service of an
 * object of a master that is not in the demo.
 */
const run = promisify(execFile);
const all = readCellFile(JSON.stringify(demo));
const hub = {
  ...all.devices.find((d) => d.name === 'port_hub_g1')!,
  address: '10.94.40.81',
};
/** Of the climate module only the protocol and the connection stay. */
const climate = all.devices.find((d) => d.name === 'climate_io_u1')!;
const damping = {
  ...{ id: 'damping', code: 'P3.102', name: 'damping', type: 'UINT', bits: 16, unit: 'ms' },
  place: { way: 'port', port: 3, index: 102, subindex: 0 },
  limits: { minimum: '0', maximum: '4000' },
  initial: '20',
};
const other = Device.parse({
  ...climate,
  ...{ id: 'other', name: 'weigh_ports', address: '10.94.40.82' },
  description: {
    ...climate.description,
    parameters: [
      damping,
      {
        ...{ id: 'product', code: 'P3.18', name: 'product', type: 'STRING', bits: 512, access: 'read' },
        place: { way: 'port', port: 3, index: 18, subindex: 0 },
      },
    ],
    ports: [{ port: 3, name: 'load cell', productName: 'LC-20 / 5 t' }],
    portRules: {
      requests: {
        ...{ by: 'service', class: 0x96, instance: { first: 1, step: 1 }, read: 0x4b, write: 0x4c },
      },
    },
  },
});
const cell: Cell = {
  ...all,
  controller: { ...all.controller, address: '10.94.40.1' },
  machine: [],
  exchanges: [],
  devices: [hub, other],
};

let bench: Bench;
beforeAll(async () => {
  bench = new Bench(cell);
  await bench.start();
  await bench.allow();
});
afterAll(() => bench.stop());

const withCode = (device: Device, code: string): Parameter =>
  device.description.parameters.find((p) => p.code === code)!;
async function read(device: Device, ...codes: string[]) {
  const parameters = codes.map((code) => withCode(device, code).id);
  const { id } = bench.parameters.read([{ device: device.id, parameters }]);
  await bench.parameters.ended(id);
  return bench.parameters.linesOf(id)!;
}
async function write(device: Device, code: string, typed: string) {
  const parameter = withCode(device, code);
  const bytes = hexOf(new ParameterCodec(parameter).written(typed));
  const { id } = bench.parameters.write([
    { device: device.id, steps: [{ parameter: parameter.id, bytes, why: 'value' }] },
  ]);
  await bench.parameters.ended(id);
  return bench.parameters.linesOf(id)![0]!;
}
const textOf = (device: Device, code: string, hex: string | null) =>
  new ParameterCodec(withCode(device, code)).read(
    Uint8Array.from((hex ?? '').split(' '), (pair) => parseInt(pair, 16)),
  ).value;

describe.each([
  ['registers', hub, 'P1.102', 'P1.18', 'PT3 pressure sensor'],
  ['a service', other, 'P3.102', 'P3.18', 'LC-20 / 5 t'],
] as const)('by %s', (_by, device, setting, product, name) => {
  test('written, read back, and the product name as text', async () => {
    // A port takes a moment until its device talks.
    await until(async () => (await write(device, setting, '350')).outcome === 'written');
    const [value, said] = await read(device, setting, product);
    expect(value!.bytes).toBe('01 5E');
    expect(textOf(device, setting, value!.bytes)).toBe('350');
    expect(textOf(device, product, said!.bytes)).toBe(name);
  });
  test('what the device refuses is said with its own error', async () => {
    let last: SeriesLine | undefined;
    // The first commands of the controller may start a port once more.
    await until(async () => {
      last = await write(device, setting, '9000');
      return !last.problem?.says?.includes('No device talks');
    });
    expect(last).toMatchObject({
      outcome: 'refused',
      problem: { says: expect.stringContaining('16#8030') as string },
    });
  });
});

test('a port whose device is unplugged says to look at power, mode and plug; plugged in, it answers again', async () => {
  const unplugged: Fault = { fault: 'device', id: 'unplugged' };
  bench.inject(hub.id, unplugged);
  await until(async () => (await read(hub, 'P1.102'))[0]!.outcome === 'refused');
  const [line] = await read(hub, 'P1.102');
  expect(line!.problem!.cure).toContain('IO-Link mode');
  // The other ports go on.
  await until(async () => (await read(hub, 'P2.100'))[0]!.outcome === 'read');
  bench.clear(hub.id, faultKey(unplugged));
  await until(async () => (await read(hub, 'P1.102'))[0]!.outcome === 'read');
});

test('pymodbus asks the same mailbox, register by register, and reads the same value', async () => {
  await until(async () => (await write(hub, 'P2.100', '1200')).outcome === 'written');
  const { stdout } = await run('/usr/bin/python3', [
    ...['-W', 'ignore', '-c'],
    `
from pymodbus.client import ModbusTcpClient
c = ModbusTcpClient("127.94.40.81"); c.connect()
c.write_registers(7240, [0], slave=1)
c.write_registers(7240, [1, 100, 0, 2], slave=1)
print(c.read_holding_registers(7360, 4, slave=1).registers)
c.close()`,
  ]);
  // Done, no error, two bytes, 1200 ms.
  expect(stdout.trim()).toBe('[2, 0, 2, 1200]');
});
