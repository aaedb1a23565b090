import { execFile, spawn, type ChildProcess } from 'node:child_process';
import { mkdtemp, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { promisify } from 'node:util';
import {
  Block,
  CommandImage,
  FeedbackImage,
  readPlace,
  type Device,
  type ModbusTcpLink,
} from '@fadenkreuz/core';
import ModbusRTU from 'modbus-serial';
import { afterAll, afterEach, beforeAll, beforeEach, describe, expect, test } from 'vitest';
import { noTap } from '../../capture/tap.js';
import type { LinkEnds } from '../ends.js';
import { openingGate } from '../runningLink.js';
import { Schedule } from '../../timing/schedule.js';
import { StandIn } from '../../standIns/standIn.js';
import { demoDevice, until } from '../../testBench.js';
import { onlyLoopback } from '../../wire/reach.js';
import { BlocksLink } from './blocksLink.js';
import { modbusTcpParameters } from './parameters.js';

/** Parties that are none of ours against the Modbus stand-ins, and servers that are none of ours against our link. */
const run = promisify(execFile);
const schedule = new Schedule();
afterAll(() => schedule.stop());

describe('stand-ins, asked by others', () => {
  const hub = demoDevice('port_hub_g1', '10.99.40.95');
  const pump = demoDevice('brine_pump_m2', '10.99.40.91');
  let standIns: StandIn[];
  beforeAll(async () => {
    standIns = [hub, pump].map((device) => new StandIn(device, { schedule }));
    for (const standIn of standIns) await standIn.open();
  });
  afterAll(() => Promise.all(standIns.map((s) => s.close())));
  const [at, atPump] = ['127.99.40.95', '127.99.40.91'];

  test('mbpoll (libmodbus) reads the ports of the hub and switches the load power of port 2 off', async () => {
    const poll = async (args: string[], values: string[] = []) => {
      const { stdout } = await run('mbpoll', ['-m', 'tcp', '-0', '-1', ...args, at, ...values]);
      return [...stdout.matchAll(/^\[(\d+)\]:\s+(\S+)/gm)].map((m) => Number(m[2]));
    };
    // Register 1000: bits 0 to 3 power (low byte), 8 to 11 valid (high byte), because the bytes come swapped.
    await until(async () => ((await poll(['-t', '3', '-r', '1000', '-c', '1']))[0]! & 0x0f00) === 0x0f00);
    expect(await poll(['-t', '3', '-r', '1001', '-c', '4'])).toEqual([1, 1, 1, 2]);
    await poll(['-t', '4', '-r', '4004'], ['13']);
    await until(async () => (await poll(['-t', '3', '-r', '1000', '-c', '1']))[0] === 0x0d0d);
    await poll(['-t', '4', '-r', '4004'], ['15']);
    await until(async () => (await poll(['-t', '3', '-r', '1000', '-c', '1']))[0] === 0x0f0f);
    await expect(poll(['-t', '3', '-r', '999', '-c', '1'])).rejects.toMatchObject({
      stderr: expect.stringContaining('Illegal data address') as string,
    });
  });

  test('pymodbus moves the brine valve, and asks a port for a parameter', async () => {
    const script = `
import time
from pymodbus.client import ModbusTcpClient
from pymodbus.mei_message import ReadDeviceInformationRequest
c = ModbusTcpClient("${at}"); c.connect()
# 60.0 % with its bytes swapped: 600 = 16#0258.
c.write_registers(2000, [0x5802, 0], slave=1)
for _ in range(60):
    position = c.read_input_registers(1006, 1, slave=255).registers[0]
    position = (position >> 8) | ((position & 255) << 8)
    if position == 600: break
    time.sleep(0.1)
print(position)
# Port 1, index 18; go is bit 1 of the low byte of the last word.
c.write_registers(4005, [1, 18], slave=0); c.write_register(4008, 2, slave=0); time.sleep(0.1)
print(c.read_input_registers(1009, 2, slave=0).registers)
print(c.execute(ReadDeviceInformationRequest(read_code=1, object_id=0, slave=1)).information)
print(c.write_registers(1000, [1], slave=1).exception_code)
c.close()`;
    const { stdout } = await run('/usr/bin/python3', ['-W', 'ignore', '-c', script]);
    expect(stdout.trim().split('\n')).toEqual([
      '600',
      '[0, 301]',
      "{0: b'Tannhorn', 1: b'1204', 2: b'2.1'}",
      '2',
    ]);
  });

  test('a client of the npm registry starts the pump, which ramps up', async () => {
    const client = new ModbusRTU();
    await client.connectTCP(atPump, { port: 502 });
    client.setID(255);
    expect((await client.readHoldingRegisters(3000, 10)).data[1]).toBe(0);
    await client.writeRegisters(3100, [1, 10, 10, 0]);
    await until(async () => {
      await client.writeRegister(3100, 1);
      // Bit 2 of the first register: full voltage.
      return ((await client.readHoldingRegisters(3000, 1)).data[0]! & 4) !== 0;
    }, 8000);
    const [, voltage, current] = (await client.readHoldingRegisters(3000, 3)).data;
    expect(voltage).toBe(4000);
    expect(current).toBeGreaterThan(100);
    await client.writeRegister(3100, 0);
    client.close(() => undefined);
  });
});

describe('our link against servers of others', () => {
  const planned = (): Device => {
    const device = demoDevice('brine_pump_m2', '10.99.40.90');
    const [base] = device.links;
    const block = (part: Partial<Block> & Pick<Block, 'name' | 'direction' | 'start' | 'count' | 'at'>) =>
      Block.parse({ id: part.name, table: 'holding', poll: 40_000, ...part });
    return {
      ...device,
      // What this server says of itself is not compared.
      identity: { ...device.identity, productCode: 0 },
      links: [
        {
          ...(base as ModbusTcpLink),
          unit: 1,
          port: 1502,
          command: CommandImage.parse({
            ...{ id: 'c', instance: 0, size: 4, start: 0, direction: 'command', order: 'big' },
            fields: [{ id: 'c0', name: 'c0', type: 'UINT', at: 0, bits: 16 }],
          }),
          feedback: FeedbackImage.parse({
            ...{ id: 'f', instance: 0, size: 460, start: 0, direction: 'feedback', order: 'big', fields: [] },
          }),
          blocks: [
            // 200 registers are two questions; the two bytes behind them show its age.
            block({
              name: 'long',
              direction: 'feedback',
              start: 10,
              count: 200,
              at: 0,
              fresh: 3200,
              age: 402,
            }),
            block({ name: 'bits', direction: 'feedback', table: 'coils', start: 3, count: 11, at: 404 }),
            block({ name: 'orders', direction: 'command', start: 2, count: 2, at: 0 }),
          ],
        },
      ],
    };
  };

  // A server that was killed keeps its port for a minute: each has an address of its own.
  const address = () =>
    `127.99.${50 + Math.floor(Math.random() * 200)}.${1 + Math.floor(Math.random() * 250)}`;
  let there: string;
  beforeEach(() => (there = address()));
  let link: BlocksLink | undefined;
  let theirs: ChildProcess | undefined;
  afterEach(async () => {
    await link?.stop();
    theirs?.kill();
  });
  function ends(): LinkEnds<ModbusTcpLink> {
    const device = planned();
    return {
      ...{ device, link: device.links[0] as ModbusTcpLink, localAddress: '127.99.40.1' },
      end: { on: 'ip', address: there, port: 1502 },
    };
  }
  function begin(): BlocksLink {
    const begun = new BlocksLink(ends(), {
      localAddress: '127.99.40.1',
      schedule,
      tap: noTap,
      reach: onlyLoopback,
      run: () => true,
      opening: openingGate(),
    });
    schedule.every(10, (now) => begun.watch(now));
    begun.start();
    return begun;
  }
  const register = (at: number) => (link!.feedback[2 * at]! << 8) | link!.feedback[2 * at + 1]!;

  /** Both servers hold twice the address in each register, and every third coil. */
  async function exchanges(): Promise<void> {
    link = begin();
    await until(() => link!.state === 'open', 15_000);
    await until(() => link!.counts.received > 6);
    expect([register(0), register(124), register(125), register(199)]).toEqual([20, 268, 270, 418]);
    // Coils 3, 6, 9, 12: bits 0, 3, 6 and 9 of the block.
    expect([link.feedback[404], link.feedback[405]]).toEqual([0b0100_1001, 0b10]);
    expect(link.feedback[400]).toBe(1);
    expect((link.feedback[402]! << 8) | link.feedback[403]!).toBeLessThan(500);
    link.write('c0', '4711');
    const sent = link.counts.sent;
    await until(() => link!.counts.sent > sent + 2);
    // What was lost is noticed, and tried again with growing pauses.
    theirs!.kill('SIGKILL');
    await until(() => link!.state === 'unreachable' || link!.state === 'timed-out');
    await until(() => link!.feedback[400] === 0);
    expect(link.command.every((b) => b === 0)).toBe(true);
  }

  const pymodbus = () => {
    const script = `
from pymodbus.server import StartTcpServer
from pymodbus.datastore import ModbusSequentialDataBlock, ModbusSlaveContext, ModbusServerContext
registers = ModbusSequentialDataBlock(1, [n * 2 for n in range(300)])
coils = ModbusSequentialDataBlock(1, [n % 3 == 0 for n in range(300)])
context = ModbusSlaveContext(co=coils, di=coils, hr=registers, ir=registers)
StartTcpServer(context=ModbusServerContext(slaves=context, single=True), address=("${there}", 1502))`;
    theirs = spawn('/usr/bin/python3', ['-W', 'ignore', '-c', script], { stdio: 'ignore' });
  };

  test('pymodbus’s server', async () => {
    pymodbus();
    await exchanges();
  });

  test('parameters of pymodbus’s server: registers of any number, bits, and what it refuses', async () => {
    pymodbus();
    const access = modbusTcpParameters(ends(), { tap: noTap, reach: onlyLoopback });
    const place = (text: string) => readPlace(text)!;
    const bytes = async (text: string, size: number) => [...(await access.read(place(text), size))];
    await until(() =>
      bytes('holding 10', 2).then(
        () => true,
        () => false,
      ),
    );
    expect(await bytes('holding 129', 4)).toEqual([1, 2, 1, 4]);
    expect(await bytes('input 255', 1)).toEqual([1]);
    expect([await bytes('coils 3', 1), await bytes('discrete 4', 1)]).toEqual([[1], [0]]);
    await access.write(place('holding 20'), Uint8Array.of(0x12, 0x34));
    await access.write(place('holding 21'), Uint8Array.of(0x56, 0x78, 0x9a, 0xbc));
    expect(await bytes('holding 20', 6)).toEqual([0x12, 0x34, 0x56, 0x78, 0x9a, 0xbc]);
    await access.write(place('coils 4'), Uint8Array.of(1));
    expect(await bytes('coils 4', 1)).toEqual([1]);
    await expect(access.read(place('holding 299'), 4)).rejects.toMatchObject({
      facts: { refusal: 'absent', place: 'holding 299' },
    });
    await expect(access.write(place('input 3'), Uint8Array.of(0, 1))).rejects.toMatchObject({
      code: 'parameter.noWay',
    });
    await access.close();
  });

  test('libmodbus’s server', async () => {
    const folder = await mkdtemp(join(tmpdir(), 'fadenkreuz-'));
    const source = join(folder, 'server.c');
    await writeFile(
      source,
      `#include <modbus/modbus.h>
int main(void) {
  modbus_t *ctx = modbus_new_tcp("${there}", 1502);
  modbus_mapping_t *map = modbus_mapping_new(300, 300, 300, 300);
  for (int i = 0; i < 300; i++) { map->tab_registers[i] = i * 2; map->tab_bits[i] = i % 3 == 0; }
  int listening = modbus_tcp_listen(ctx, 1);
  uint8_t query[MODBUS_TCP_MAX_ADU_LENGTH];
  for (;;) {
    modbus_tcp_accept(ctx, &listening);
    int length;
    while ((length = modbus_receive(ctx, query)) >= 0) if (length > 0) modbus_reply(ctx, query, length, map);
  }
}`,
    );
    const program = join(folder, 'server');
    await run('gcc', ['-o', program, source, '-lmodbus']);
    theirs = spawn(program, { stdio: 'ignore' });
    await exchanges();
  });
});
