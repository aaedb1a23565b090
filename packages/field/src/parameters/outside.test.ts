import { execFile } from 'node:child_process';
import { mkdtemp } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { promisify } from 'node:util';
import { hexOf, ParameterCodec, placeText, protocolById, readCellFile, type Cell } from '@fadenkreuz/core';
import demo from '@fadenkreuz/demo/ripening-store-3.json' with { type: 'json' };
import { EthernetIP } from 'st-ethernet-ip';
import { afterAll, beforeAll, expect, test } from 'vitest';
import { Bench } from '../bench/bench.js';
import { CaptureFile } from '../capture/captureFile.js';
import { scapyAt } from '../testScapy.js';
import { tsharkFields } from '../tshark.js';

/** Parties that are none of ours read what we write, and see our requests: pymodbus, st-ethernet-ip, scapy, tshark. */
const run = promisify(execFile);
const all = readCellFile(JSON.stringify(demo));
const addresses = { brush_belt_m1: '10.97.40.21', rack_lift_a1: '10.97.40.31', brine_pump_m2: '10.97.40.91' };
const cell: Cell = {
  ...all,
  controller: { ...all.controller, address: '10.97.40.1' },
  machine: [],
  exchanges: [],
  devices: Object.entries(addresses).map(([name, address]) => ({
    ...all.devices.find((d) => d.name === name)!,
    address,
  })),
};
const deviceOf = (name: keyof typeof addresses) => cell.devices.find((d) => d.name === name)!;
const parameterOf = (name: keyof typeof addresses, code: string) =>
  deviceOf(name).description.parameters.find((p) => p.code === code)!;

let bench: Bench;
let file: CaptureFile;
let path: string;
beforeAll(async () => {
  path = join(await mkdtemp(join(tmpdir(), 'fadenkreuz-')), 'parameters.pcapng');
  file = new CaptureFile(path);
  bench = new Bench(cell, { tap: file });
  await bench.start();
  await bench.allow();
});
afterAll(() => bench.stop());

const write = async (name: keyof typeof addresses, code: string, typed: string) => {
  const parameter = parameterOf(name, code);
  const bytes = hexOf(new ParameterCodec(parameter).written(typed));
  const steps = [{ parameter: parameter.id, bytes, why: 'value' as const }];
  const { id } = bench.parameters.write([{ device: deviceOf(name).id, steps }]);
  await bench.parameters.ended(id);
  expect(bench.parameters.linesOf(id)).toMatchObject([{ outcome: 'written', bytes }]);
};

test('pymodbus reads what was written to the pump, one register and two', async () => {
  await write('brine_pump_m2', 'P4', '7.5');
  const [ramp, energy] = ['P4', 'P29'].map((code) => parameterOf('brine_pump_m2', code).place) as {
    start: number;
  }[];
  const { stdout } = await run('/usr/bin/python3', [
    ...['-W', 'ignore', '-c'],
    `
from pymodbus.client import ModbusTcpClient
c = ModbusTcpClient("127.97.40.91"); c.connect()
print(c.read_holding_registers(${ramp!.start}, 1, slave=1).registers, len(c.read_holding_registers(${energy!.start}, 2, slave=1).registers))
c.write_registers(${ramp!.start}, [125], slave=1)
c.close()`,
  ]);
  expect(stdout.trim()).toBe('[75] 2');
  const { id } = bench.parameters.read([
    { device: deviceOf('brine_pump_m2').id, parameters: [parameterOf('brine_pump_m2', 'P4').id] },
  ]);
  await bench.parameters.ended(id);
  // 125 with one decimal is 12.5 s: common practice, no source.
  const [line] = bench.parameters.linesOf(id)!;
  const bytes = Uint8Array.from(line!.bytes!.split(' '), (pair) => parseInt(pair, 16));
  expect(new ParameterCodec(parameterOf('brine_pump_m2', 'P4')).read(bytes).text).toBe('12.5 s');
});

test('a client of the npm registry reads what was written to drive and axis', async () => {
  const asked = async (name: keyof typeof addresses, code: string) => {
    const place = parameterOf(name, code).place as { class: number; instance: number; attribute: number };
    const client = new EthernetIP.ENIP();
    await client.connect(addresses[name].replace(/^10/, '127'), 2000);
    const answered = new Promise<Buffer>((resolve) =>
      client.once('SendRRData Received', (items: { TypeID: number; data: Buffer }[]) =>
        resolve(items.find((i) => i.TypeID === 0xb2)!.data),
      ),
    );
    const { MessageRouter } = EthernetIP.CIP;
    const path = [0x20, place.class, 0x24, place.instance, 0x30, place.attribute];
    client.write_cip(MessageRouter.build(0x0e, Buffer.from(path), Buffer.alloc(0)));
    const { generalStatusCode, data } = MessageRouter.parse(await answered);
    client.destroy();
    expect(generalStatusCode).toBe(0);
    return data;
  };
  await write('brush_belt_m1', '101', '4.2');
  expect((await asked('brush_belt_m1', '101')).readUInt16LE(0)).toBe(42);
  // Menu 6, number 10 of the axis: instance and attribute of one class.
  expect(placeText(parameterOf('rack_lift_a1', '6.10').place)).toBe('class 101 instance 6 attribute 10');
  await write('rack_lift_a1', '6.10', '35');
  expect((await asked('rack_lift_a1', '6.10')).readUInt16LE(0)).toBe(35);
});

test('scapy reads what was written to the drive, and what it writes is read by us', async () => {
  const parameter = parameterOf('brush_belt_m1', '101');
  const place = parameter.place as { class: number; instance: number; attribute: number };
  await write('brush_belt_m1', '101', '4.2');
  const where = `0x20, ${place.class}, 0x24, ${place.instance}, 0x30, ${place.attribute}`;
  // Get_Attribute_Single, Set_Attribute_Single of 43, low byte first, and read once more.
  const said = await scapyAt(
    addresses.brush_belt_m1.replace(/^10/, '127'),
    `
_, session, _ = read(register())
print(request(session, bytes([0x0e, 3, ${where}]))[1].hex())
print(request(session, bytes([0x10, 3, ${where}, 43, 0]))[1].hex())
print(request(session, bytes([0x0e, 3, ${where}]))[1].hex())`,
  );
  expect(said).toEqual(['8e0000002a00', '90000000', '8e0000002b00']);
  const { id } = bench.parameters.read([
    { device: deviceOf('brush_belt_m1').id, parameters: [parameter.id] },
  ]);
  await bench.parameters.ended(id);
  expect(bench.parameters.linesOf(id)).toMatchObject([{ outcome: 'read', bytes: '2B 00' }]);
});

test('tshark reads our requests as the services and paths that were meant, each after the answer before it', async () => {
  const readings = ['8.1', '8.2', '8.3'].map((code) => parameterOf('rack_lift_a1', code).id);
  const { id } = bench.parameters.read([{ device: deviceOf('rack_lift_a1').id, parameters: readings }]);
  await bench.parameters.ended(id);
  // What the lens calls each byte of the last of them is what tshark calls it.
  const [last] = bench.parameters.framesOf(deviceOf('rack_lift_a1').id, readings.at(-1)!);
  const parts = protocolById('ethernet-ip')!.explain!(last!.bytes, last!.answer);
  const called = ['service', 'class', 'instance', 'attribute'].map((name) =>
    Number(/\(?16#([0-9A-F]+)\)?/.exec(parts.find((p) => p.name === name)!.means)![1]!.replace(/^/, '0x')),
  );
  expect(called).toEqual([0x0e, 101, 8, 3]);
  await bench.stop();
  await file.close();
  const rows = tsharkFields(path, 'cip.class == 101 || (cip && cip.genstat)', [
    ...['cip.rr', 'cip.sc', 'cip.class', 'cip.instance', 'cip.attribute'],
  ]);
  const ours = rows.filter((r) => r['cip.class'] === '0x65' || r['cip.class'] === '101');
  const asked = ours
    .filter((r) => Number(r['cip.rr']) === 0)
    .map((r) => [r['cip.sc'], r['cip.instance'], r['cip.attribute']].map(Number));
  expect(asked).toEqual(
    expect.arrayContaining([
      [0x10, 6, 10],
      [0x0e, 6, 10],
      [0x0e, 8, 1],
      [0x0e, 8, 2],
      [0x0e, 8, 3],
    ]),
  );
});
