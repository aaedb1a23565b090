import { execFile, spawn } from 'node:child_process';
import { once } from 'node:events';
import { connect } from 'node:net';
import { promisify } from 'node:util';
import type { ModbusMemory } from '@fadenkreuz/core/modbus-tcp';
import { afterEach, beforeEach, describe, expect, test } from 'vitest';
import { until } from '../../testBench.js';
import { ModbusClient } from './client.js';
import { ModbusServer } from './server.js';

const address = '127.168.41.71';
const port = 1502;
const run = promisify(execFile);

/** 200 holding registers and coils; input registers hold 1000 more. */
class Memory implements ModbusMemory {
  registers = Array.from({ length: 200 }, (_, i) => i * 3);
  coils = Array.from({ length: 200 }, (_, i) => i % 5 === 0);
  identification = [{ id: 0, text: 'Tannhorn' }];
  private inside = (start: number, count: number) => start + count <= 200;

  readBits(_kind: string, start: number, count: number) {
    return this.inside(start, count) ? this.coils.slice(start, start + count) : undefined;
  }
  readRegisters(kind: 'holding' | 'inputs', start: number, count: number) {
    const more = kind === 'inputs' ? 1000 : 0;
    const own = this.registers.slice(start, start + count).map((r) => r + more);
    return this.inside(start, count) ? own : undefined;
  }
  writeBits(start: number, bits: readonly boolean[]) {
    if (!this.inside(start, bits.length)) return 'absent';
    this.coils.splice(start, bits.length, ...bits);
    return undefined;
  }
  writeRegisters(start: number, registers: readonly number[]) {
    if (!this.inside(start, registers.length)) return 'absent';
    this.registers.splice(start, registers.length, ...registers);
    return undefined;
  }
}

let memory: Memory;
let server: ModbusServer;
beforeEach(async () => {
  memory = new Memory();
  const memoryOf = (unit: number) => ([0, 1, 255].includes(unit) ? memory : undefined);
  server = new ModbusServer({ address, port, memoryOf, idleMs: 2000 });
  await server.open();
});
afterEach(() => server.close());

describe('mbpoll, an independent client on libmodbus, against our server', () => {
  /** Counts from 0 (-0), asks once (-1); type 0 coils, 3 input and 4 holding registers. */
  const mbpoll = async (args: string[], values: string[] = []) => {
    const { stdout } = await run('mbpoll', [
      '-m',
      'tcp',
      '-p',
      String(port),
      '-0',
      '-1',
      ...args,
      address,
      ...values,
    ]);
    return [...stdout.matchAll(/^\[(\d+)\]:\s+(\S+)/gm)].map((m) => [Number(m[1]), Number(m[2])]);
  };

  test('reads registers of both kinds, and coils', async () => {
    expect(await mbpoll(['-t', '4', '-r', '10', '-c', '2'])).toEqual([
      [10, 30],
      [11, 33],
    ]);
    expect(await mbpoll(['-t', '3', '-r', '1', '-c', '1'])).toEqual([[1, 1003]]);
    expect(await mbpoll(['-t', '0', '-r', '4', '-c', '3'])).toEqual([
      [4, 0],
      [5, 1],
      [6, 0],
    ]);
  });

  test('writes one register, several, and coils', async () => {
    await mbpoll(['-t', '4', '-r', '20'], ['777']);
    await mbpoll(['-t', '4', '-r', '21'], ['11', '12', '13']);
    await mbpoll(['-t', '0', '-r', '1'], ['1', '1', '0', '1']);
    expect(memory.registers.slice(20, 24)).toEqual([777, 11, 12, 13]);
    expect(memory.coils.slice(0, 6)).toEqual([true, true, true, false, true, true]);
  });

  test('is told what there is not: addresses, and units behind no gateway', async () => {
    await expect(mbpoll(['-t', '4', '-r', '199', '-c', '2'])).rejects.toMatchObject({
      stderr: expect.stringContaining('Illegal data address') as string,
    });
    await expect(mbpoll(['-a', '7', '-t', '4', '-r', '0'])).rejects.toMatchObject({
      stderr: expect.stringContaining('Target device failed to respond') as string,
    });
  });
});

/** Tries again until the other end listens. */
async function patientlyOpen(there: string): Promise<ModbusClient> {
  for (let n = 0; n < 100; n += 1) {
    const client = await ModbusClient.open({ address: there, port }).catch(() => undefined);
    if (client) return client;
    await new Promise((resolve) => setTimeout(resolve, 150));
  }
  throw new Error(`nobody listens at ${there}`);
}

describe('our client', () => {
  test('against pymodbus’s server: registers, coils, masks, exchange', async () => {
    const script = `
from pymodbus.server import StartTcpServer
from pymodbus.datastore import ModbusSequentialDataBlock, ModbusSlaveContext, ModbusServerContext
block = lambda: ModbusSequentialDataBlock(1, [n * 2 for n in range(100)])
context = ModbusSlaveContext(di=block(), co=ModbusSequentialDataBlock(1, [False] * 100), hr=block(), ir=block())
StartTcpServer(context=ModbusServerContext(slaves=context, single=True), address=("127.168.41.72", 1502))`;
    const theirs = spawn('/usr/bin/python3', ['-W', 'ignore', '-c', script], { stdio: 'ignore' });
    try {
      const ask = await patientlyOpen('127.168.41.72');
      expect(await ask.ask(1, 'readHoldingRegisters', { start: 5, count: 3 })).toEqual({
        registers: [10, 12, 14],
      });
      expect(await ask.ask(1, 'readInputRegisters', { start: 0, count: 2 })).toEqual({ registers: [0, 2] });
      await ask.ask(1, 'writeRegisters', { start: 5, count: 2, registers: [500, 501] });
      await ask.ask(1, 'writeCoils', { start: 3, count: 3, bits: [true, false, true] });
      const { bits } = await ask.ask(1, 'readCoils', { start: 2, count: 5 });
      expect(bits.slice(0, 5)).toEqual([false, true, false, true, false]);
      await ask.ask(1, 'maskWriteRegister', { start: 5, and: 0xff00, or: 0x0012 });
      const exchange = { start: 5, count: 2, writeStart: 6, writeCount: 1, registers: [9] };
      expect(await ask.ask(1, 'exchangeRegisters', exchange)).toEqual({
        registers: [(500 & 0xff00) | 0x12, 9],
      });
      await expect(ask.ask(1, 'readHoldingRegisters', { start: 99, count: 9 })).rejects.toMatchObject({
        code: 'modbus.refused',
        facts: { exception: 2 },
      });
      ask.close();
    } finally {
      theirs.kill();
    }
  });

  test('asks many questions before the first is answered; each answer finds its own', async () => {
    const client = await ModbusClient.open({ address, port });
    const answers = await Promise.all(
      Array.from({ length: 100 }, (_, start) => client.ask(255, 'readHoldingRegisters', { start, count: 1 })),
    );
    expect(answers.map((a) => a.registers[0])).toEqual(memory.registers.slice(0, 100));
    client.close();
  });

  test('says when nobody listens, when the device goes, and may not leave loopback', async () => {
    await expect(ModbusClient.open({ address: '127.168.41.73', port })).rejects.toMatchObject({
      code: 'ECONNREFUSED',
    });
    await expect(ModbusClient.open({ address: '192.168.41.73', port })).rejects.toMatchObject({
      code: 'bench.outsideLoopback',
    });
    const client = await ModbusClient.open({ address, port });
    await server.close();
    await expect(client.ask(1, 'readCoils', { start: 0, count: 1 })).rejects.toThrow();
    expect(client.closed).toBe(true);
    await server.open();
  });
});

describe('our server', () => {
  test('bytes that are no Modbus end their connection, and no other', async () => {
    const client = await ModbusClient.open({ address, port });
    const stranger = connect(port, address);
    stranger.on('error', () => undefined);
    stranger.write('GET / HTTP/1.1\r\n\r\n');
    await once(stranger, 'close');
    expect((await client.ask(0, 'readHoldingRegisters', { start: 1, count: 1 })).registers).toEqual([3]);
    client.close();
  });

  test('a ninth client is turned away; an idle one is let go', async () => {
    const clients = await Promise.all(Array.from({ length: 8 }, () => ModbusClient.open({ address, port })));
    const ninth = connect(port, address);
    ninth.on('error', () => undefined);
    await once(ninth, 'close');
    await until(() => clients.every((c) => c.closed));
  });
});

describe('many clients', () => {
  const reads = (client: ModbusClient) =>
    client.ask(1, 'readHoldingRegisters', { start: 3, count: 1 }).then(({ registers }) => registers[0]);

  test('30 at once are all served; after 64 silent ones a new one does not wait', async () => {
    const open = (count: number) => Promise.all(Array.from({ length: count }, () => patientlyOpen(address)));
    const first = await open(30);
    expect(await Promise.all(first.map(reads))).toEqual(Array(30).fill(9));
    const silent = await open(64);
    const late = await patientlyOpen(address);
    expect(await reads(late)).toBe(9);
    // Those that had been silent longest gave way.
    await until(() => first.every((c) => c.closed));
    expect(silent.filter((c) => c.closed).length).toBe(1);
    await Promise.all([...first, ...silent, late].map((c) => c.close()));
  });

  test('a device that takes two serves the newest two', async () => {
    const small = new ModbusServer({ address, port: port + 1, memoryOf: () => memory, maxClients: 2 });
    await small.open();
    const open = () => ModbusClient.open({ address, port: port + 1 });
    const [a, b] = [await open(), await open()];
    expect([await reads(b), await reads(a)]).toEqual([9, 9]);
    const c = await open();
    expect(await reads(c)).toBe(9);
    await until(() => b.closed);
    expect([await reads(a), await reads(c)]).toEqual([9, 9]);
    await small.close();
  });
});
