import { spawn, type ChildProcessByStdio } from 'node:child_process';
import type { Readable, Writable } from 'node:stream';
import { createInterface } from 'node:readline';
import type { Device } from '@fadenkreuz/core';
import { afterAll, beforeAll, describe, expect, test } from 'vitest';
import { IO } from 'st-ethernet-ip';
import { Schedule } from '../timing/schedule.js';
import { StandIn } from './standIn.js';
import {
  bitsFirst,
  ethernetIpLink,
  handMade,
  kindsByRoles,
  modbusLink,
  numbersFirst,
  type KindRoles,
  type Layout,
  type Spot,
} from './testKinds.js';

/**
 * Each kind twice, driven and watched by parties that are none of ours: over EtherNet/IP by a library of the npm
 * registry, bits before numbers, low byte first, hundredths in 16 bits; over Modbus by pymodbus, numbers before bits,
 * high byte first, thousandths in 32 bits, the bits one by one from the highest of a register down. Bytes are put and
 * read by this file alone.
 */

/** For how long nothing at all ran here, ms: a computer that others use, too, may halt for seconds, again and again. */
let halted = 0;
const beatMs = 100;
/** This process's own work, ms: what keeps itself busy does not halt. */
const worked = () => {
  const { user, system } = process.cpuUsage();
  return (user + system) / 1000;
};
let last = { at: performance.now(), worked: worked() };
const heart = setInterval(() => {
  const now = { at: performance.now(), worked: worked() };
  halted += Math.max(0, now.at - last.at - (now.worked - last.worked) - 2 * beatMs);
  last = now;
}, beatMs);

/** Waits, for 20 s at most that this computer runs: tests that run beside each other have no polling of their own. */
async function until(holds: () => boolean | Promise<boolean>): Promise<boolean> {
  const [from, before] = [performance.now(), halted];
  while (performance.now() - from - (halted - before) < 20_000) {
    if (await holds()) return true;
    await new Promise((resolve) => setTimeout(resolve, 10));
  }
  return false;
}

type Value = number | boolean | string;
function put(bytes: Buffer, { at, bits, way, per }: Spot, value: Value): void {
  const from = at >> 3;
  if (way === 'bit') bytes[from] = (bytes[from]! & ~(1 << (at % 8))) | (Number(value) << (at % 8));
  else if (way === 'text') bytes.fill(0, from, from + bits / 8).write(String(value), from, 'latin1');
  else if (way === 'low') bytes.writeInt16LE(Math.round(Number(value) * per), from);
  else bytes.writeInt32BE(Math.round(Number(value) * per), from);
}
function get(bytes: Buffer, { at, bits, way, per }: Spot): Value {
  const from = at >> 3;
  if (way === 'bit') return ((bytes[from]! >> (at % 8)) & 1) === 1;
  if (way === 'text') return bytes.toString('latin1', from, from + bits / 8).replaceAll('\0', '');
  return (way === 'low' ? bytes.readInt16LE(from) : bytes.readInt32BE(from)) / per;
}

/** What an outside party does with a device. */
interface Party {
  set(values: Record<string, Value>): Promise<void>;
  /** Waits until it shows these values; numbers within 0.02. */
  sees(values: Record<string, Value>): Promise<void>;
  /** What it shows now. */
  now(key: string): Promise<Value>;
}
function party(
  [command, feedback]: [Layout, Layout],
  write: (bytes: Buffer) => Promise<void>,
  read: () => Promise<Buffer>,
): Party {
  const bytes = Buffer.alloc(command.size);
  const spot = (of: Layout, key: string) => {
    const found = of.spots.find((s) => s.key === key);
    if (!found) throw new Error(`nothing is ${key}`);
    return found;
  };
  return {
    async set(values) {
      for (const [key, value] of Object.entries(values)) put(bytes, spot(command, key), value);
      await write(bytes);
    },
    async sees(values) {
      const wanted = Object.entries(values);
      let seen: Record<string, Value> = {};
      const agree = await until(async () => {
        const now = await read();
        seen = Object.fromEntries(wanted.map(([key]) => [key, get(now, spot(feedback, key))]));
        return wanted.every(([key, value]) =>
          typeof value === 'number' ? Math.abs(Number(seen[key]) - value) <= 0.02 : seen[key] === value,
        );
      });
      if (!agree) expect(seen).toEqual(values);
    },
    now: async (key) => get(await read(), spot(feedback, key)),
  };
}

interface Took {
  seconds: number;
  /** How long of that nothing at all ran here. */
  halted: number;
}
interface Scenario {
  kind: Device['kind'];
  says: string;
  run(it: Party, took: (work: () => Promise<void>) => Promise<Took>): Promise<void>;
}
/** Seconds that a move takes, and what a step of 20 ms, an update of 20 ms and a busy machine add. */
const between = ({ seconds, halted }: Took, least: number) => {
  // A step that is late counts the time before the command, too.
  expect(seconds).toBeGreaterThan(least * 0.75 - 0.08);
  expect(seconds - halted).toBeLessThan(least + 3);
};

const scenarios: readonly Scenario[] = [
  {
    kind: 'variable-speed drive',
    says: '25 Hz a second up to 30 Hz: 1.2 s; reverse from there to −30 Hz: 2.4 s',
    async run(it, took) {
      between(
        await took(async () => {
          await it.set({ start: true, 'speed reference': 30 });
          await it.sees({ 'speed actual': 30, 'at speed': true });
        }),
        1.2,
      );
      between(
        await took(async () => {
          await it.set({ direction: true });
          await it.sees({ 'speed actual': -30 });
        }),
        2.4,
      );
      await it.set({ stop: true });
      await it.sees({ running: false, 'speed actual': 0 });
    },
  },
  {
    kind: 'soft starter',
    says: 'start and stop',
    async run(it) {
      await it.set({ start: true });
      await it.sees({ running: true, faulted: false });
      // At full voltage and speed it takes its rated current.
      await it.sees({ 'motor current': 12 });
      await it.set({ stop: true });
      await it.sees({ running: false, 'motor current': 0 });
    },
  },
  {
    kind: 'servo axis',
    says: '30 mm with 300 mm/s²: twice the root of 30/300, 0.63 s',
    async run(it, took) {
      await it.set({ velocity: 200, acceleration: 300, enable: true, home: true });
      await it.sees({ enabled: true, homed: true });
      await it.set({ home: false, 'position setpoint': 30 });
      between(
        await took(async () => {
          await it.set({ 'setpoint strobe': true });
          await it.sees({ 'position actual': 30, 'target reached': true, 'setpoint acknowledge': true });
        }),
        0.63,
      );
      await it.set({ 'setpoint strobe': false });
      await it.sees({ 'setpoint acknowledge': false });
    },
  },
  {
    kind: 'robot',
    says: 'a program of 2 s, started by an edge, held',
    async run(it, took) {
      await it.sees({ ready: true });
      await it.set({ 'program number': 4, permissive: true });
      between(
        await took(async () => {
          await it.set({ start: true });
          await it.sees({ 'program running': true, 'program shown': 4 });
          await it.set({ hold: true });
          await it.sees({ running: false, 'program running': true });
          await it.set({ hold: false });
          await it.sees({ done: true, 'program running': false });
        }),
        2,
      );
    },
  },
  {
    kind: 'vision sensor',
    says: 'trigger, result, acknowledge; another program',
    async run(it) {
      await it.sees({ 'trigger ready': true });
      await it.set({ trigger: true });
      await it.sees({ 'result valid': true, pass: true });
      await it.set({ trigger: false, 'result acknowledge': true });
      await it.sees({ 'result valid': false });
      await it.set({ 'program number': 12, 'program change': true });
      await it.sees({ 'program changed': true, 'program shown': 12 });
    },
  },
  {
    kind: 'safety controller',
    says: 'beams 4 to 6 of 20 mm pitch for an object of 50 mm at 60 mm; it waits for its reset',
    async run(it) {
      await it.sees({
        'beams 3': false,
        'beams 4': true,
        'beams 6': true,
        'beams 7': false,
        // Seen in steps of the beams.
        'object size': 60,
      });
      await it.sees({ 'object size': 0, 'beams 4': false });
      expect(await it.now('safety in order')).toBe(false);
      await it.set({ 'safety reset': true });
      await it.sees({ 'safety in order': true });
    },
  },
  {
    kind: 'valve terminal',
    says: 'end positions 80 ms behind the valves',
    async run(it, took) {
      between(
        await took(async () => {
          await it.set({ 'output 2': true, 'output 5': true });
          await it.sees({ 'input 1': false, 'input 2': true, 'input 5': true, 'input 6': false });
        }),
        0.08,
      );
      await it.set({ 'output 2': false });
      await it.sees({ 'input 2': false, 'input 5': true });
    },
  },
  {
    kind: 'weigher',
    says: '12.5 kg, tared by an edge',
    async run(it) {
      await it.sees({ gross: 12.5, stable: true });
      await it.set({ tare: true });
      await it.sees({ gross: 12.5, net: 0 });
    },
  },
  {
    kind: 'marker',
    says: 'a label of 0.6 s for each rise of the number',
    async run(it, took) {
      await it.set({ 'sequence number': 7, 'variable text': 'BATCH 12' });
      // The first number may have been a rise from 0.
      await new Promise((resolve) => setTimeout(resolve, 200));
      await it.sees({ ready: true });
      between(
        await took(async () => {
          await it.set({ 'sequence number': 8 });
          await it.sees({ printed: true, 'sequence number': 8 });
        }),
        0.6,
      );
    },
  },
  {
    kind: 'process I/O',
    says: 'an analogue value follows what is put out',
    async run(it) {
      await it.set({ 'analogue output 1': 7.5, 'analogue output 2': -2 });
      await it.sees({ 'analogue input 1': 7.5, 'analogue input 2': -2 });
    },
  },
  {
    kind: 'IO-Link master',
    says: 'a port has valid data with power and mode',
    async run(it) {
      await it.set({ 'load power 1': true, 'load power 2': true, 'port mode 1': 1, 'port mode 3': 1 });
      await it.sees({ 'port valid 1': true, 'port valid 2': false, 'port valid 3': false });
      await it.set({ 'load power 3': true });
      await it.sees({ 'port valid 3': true });
    },
  },
  {
    kind: 'remote I/O',
    says: 'each input is wired to the output of its number',
    async run(it) {
      await it.set({ 'output 1': true, 'output 16': true });
      await it.sees({ 'input 1': true, 'input 2': false, 'input 15': false, 'input 16': true });
    },
  },
  {
    kind: 'motor starter',
    says: '0.7 of 6.3 A, and reverse',
    async run(it) {
      await it.set({ forward: true });
      await it.sees({ 'runs forward': true, 'motor current': 4.41 });
      await it.set({ reverse: true });
      await it.sees({ running: false, 'motor current': 0 });
      await it.set({ forward: false });
      await it.sees({ 'runs reverse': true });
      await it.set({ stop: true });
      await it.sees({ running: false });
    },
  },
  {
    kind: 'identification reader',
    says: 'a text for each trigger',
    async run(it) {
      await it.set({ trigger: true });
      await it.sees({ 'result valid': true, 'result text': 'T000001', 'result length': 7 });
      await it.set({ trigger: false });
      // It must have seen that, also on a busy machine.
      await new Promise((resolve) => setTimeout(resolve, 1000));
      await it.set({ trigger: true });
      await it.sees({ 'result text': 'T000002' });
    },
  },
  {
    kind: 'torque tool',
    says: '720° and 160° more at 1200°/s up to 8 N·m: 0.73 s',
    async run(it, took) {
      await it.set({ 'program number': 2 });
      between(
        await took(async () => {
          await it.set({ start: true });
          await it.sees({ done: true, pass: true, 'torque actual': 8 });
        }),
        0.73,
      );
    },
  },
  {
    kind: 'measuring sensor',
    says: 'zero makes what it measures its zero',
    async run(it) {
      let before = 0;
      expect(await until(async () => Math.abs((before = Number(await it.now('measured value')))) > 1)).toBe(
        true,
      );
      await it.set({ zero: true });
      // From a tenth of the range up, which is far from 0, to 0 and on from there.
      expect(
        await until(async () => Math.abs(Number(await it.now('measured value'))) < Math.abs(before) / 4),
      ).toBe(true);
      expect(await it.now('faulted')).toBe(false);
    },
  },
];

const schedule = new Schedule();
/** By the last number of their addresses: a second try finds those of the first. */
const standIns = new Map<number, StandIn>();
const controller = '127.99.44.1';

/** A device by hand that stands at 127.99.44.N. */
async function stand(kind: Device['kind'], n: number, link: object): Promise<StandIn> {
  const standIn = new StandIn(handMade(kind, '10.99.44', n, link), { schedule });
  await standIns.get(n)?.close();
  standIns.set(n, standIn);
  await standIn.open();
  return standIn;
}

interface Connection {
  inputData: Buffer;
  outputData: Buffer;
  run: boolean;
  connected: boolean;
  tcpController: { destroy: () => void };
}
let scanner: {
  socket: { close: () => void };
  addConnection: (config: object, rpi: number, address: string) => Connection;
};
const connections = new Map<number, Connection>();

/**
 * pymodbus behind a pipe: a line for each request, a line for each answer, "late" where there was none in time,
 * "refused" where it is an exception of Modbus.
 */
const clientScript = `
import sys
from pymodbus.client import ModbusTcpClient
from pymodbus.exceptions import ModbusException
clients = {}
for line in sys.stdin:
    what, host, port, start, *rest = line.split()
    if host not in clients:
        clients[host] = ModbusTcpClient(host, port=int(port)); clients[host].connect()
    c = clients[host]
    try:
        if what == "w":
            answer = c.write_registers(int(start), [int(v) for v in rest], slave=1)
        else:
            answer = c.read_input_registers(int(start), int(rest[0]), slave=1)
    except ModbusException as lost:
        answer = lost
    # An answer that did not come is thrown, or given back.
    if isinstance(answer, ModbusException):
        print("late", flush=True)
    elif answer.isError():
        print("refused", flush=True)
    else:
        print(*(["written"] if what == "w" else answer.registers), flush=True)
`;
let python: ChildProcessByStdio<Writable, Readable, null>;
const answers: ((line: string) => void)[] = [];
/** A halted computer keeps the client from its answer: it is asked once more then. */
async function askPython(line: string): Promise<string> {
  for (let left = 3; ; left -= 1) {
    const answer = await new Promise<string>((resolve) => {
      answers.push(resolve);
      python.stdin.write(`${line}\n`);
    });
    if (answer !== 'late' || left === 0) return answer;
  }
}

beforeAll(() => {
  scanner = new IO.Scanner(2222, controller) as typeof scanner;
  python = spawn('/usr/bin/python3', ['-W', 'ignore', '-c', clientScript], {
    stdio: ['pipe', 'pipe', 'inherit'],
  });
  createInterface(python.stdout).on('line', (line) => answers.shift()?.(line));
});
afterAll(async () => {
  clearInterval(heart);
  for (const connection of connections.values()) connection.tcpController.destroy();
  scanner.socket.close();
  python.stdin.end();
  await Promise.all([...standIns.values()].map((s) => s.close()));
  schedule.stop();
});

async function overEthernetIp({ kind, commands, answers: shown }: KindRoles, n: number): Promise<Party> {
  const layouts: [Layout, Layout] = [bitsFirst(commands), bitsFirst(shown)];
  connections.get(n)?.tcpController.destroy();
  await stand(kind, n, ethernetIpLink(layouts));
  const connection = scanner.addConnection(
    {
      configInstance: { assembly: 1, size: 0 },
      outputInstance: { assembly: 130, size: layouts[0].size },
      inputInstance: { assembly: 131, size: layouts[1].size },
    },
    20,
    `127.99.44.${n}`,
  );
  connections.set(n, connection);
  expect(await until(() => connection.connected)).toBe(true);
  return party(
    layouts,
    (bytes) => {
      connection.outputData = Buffer.from(bytes);
      return Promise.resolve();
    },
    () => Promise.resolve(connection.inputData),
  );
}

async function overModbus({ kind, commands, answers: shown }: KindRoles, n: number): Promise<Party> {
  const layouts: [Layout, Layout] = [numbersFirst(commands), numbersFirst(shown)];
  const standIn = await stand(kind, n, modbusLink(layouts));
  const at = `127.99.44.${n} ${standIn.port}`;
  return party(
    layouts,
    async (bytes) => {
      const registers = Array.from({ length: bytes.length / 2 }, (_, i) => bytes.readUInt16BE(2 * i));
      expect(await askPython(`w ${at} 40 ${registers.join(' ')}`)).toBe('written');
    },
    async () => {
      const line = await askPython(`r ${at} 700 ${layouts[1].size / 2}`);
      expect(line).toMatch(/^\d/);
      const bytes = Buffer.alloc(layouts[1].size);
      line.split(' ').forEach((register, i) => bytes.writeUInt16BE(Number(register), 2 * i));
      return bytes;
    },
  );
}

const took = async (work: () => Promise<void>): Promise<Took> => {
  const [from, before] = [performance.now(), halted];
  await work();
  return { seconds: (performance.now() - from) / 1000, halted: (halted - before) / 1000 };
};

describe.concurrent.each(
  kindsByRoles.map((roles, i) => ({ ...scenarios.find(({ kind }) => kind === roles.kind)!, roles, i })),
)('$kind: $says', ({ run, roles, i }) => {
  test('over EtherNet/IP', async () => run(await overEthernetIp(roles, 10 + i), took));
  test('over Modbus', async () => run(await overModbus(roles, 50 + i), took));
});
