import { spawn, type ChildProcessByStdio } from 'node:child_process';
import type { Readable, Writable } from 'node:stream';
import { createInterface } from 'node:readline';
import {
  descriptionByHand,
  Device,
  protocolById,
  unknownIdentity,
  unknownNameplate,
  type Link,
  type Role,
} from '@fadenkreuz/core';
import { afterAll, beforeAll, describe, expect, test } from 'vitest';
import { IO } from 'st-ethernet-ip';
import { Schedule } from '../timing/schedule.js';
import { StandIn } from './standIn.js';

/**
 * Each kind twice, driven and watched by parties that are none of ours: over EtherNet/IP by a library of the npm
 * registry, bits before numbers, low byte first, hundredths in 16 bits; over Modbus by pymodbus, numbers before bits,
 * high byte first, thousandths in 32 bits, the bits one by one from the highest of a register down. Bytes are put and
 * read by this file alone.
 */

type DeviceKind = Device['kind'];

interface Wanted {
  is: Role;
  /** How many there are of a numbered one. */
  count?: number;
  unit?: string;
  text?: number;
}
/** Where a value stands in an image: bits from its start. */
interface Spot {
  key: string;
  at: number;
  bits: number;
  way: 'bit' | 'low' | 'high' | 'text';
  /** Counts of one unit. */
  per: number;
}
interface Layout {
  size: number;
  spots: Spot[];
  fields: object[];
}

const single = (wanted: readonly Wanted[]) =>
  wanted.flatMap(({ count = 1, ...one }) =>
    Array.from({ length: count }, (_, i) => ({ ...one, n: count > 1 ? i + 1 : null })),
  );
const keyOf = ({ is, n }: { is: Role; n: number | null }) => (n === null ? is : `${is} ${n}`);
const isNumber = (one: Wanted) => one.unit !== undefined;
const nameOf = (key: string) => key.replaceAll(/[^a-z0-9]/g, '_');

/** Bits one by one, then numbers as INT in hundredths or USINT, then texts. */
function bitsFirst(wanted: readonly Wanted[]): Layout {
  const all = single(wanted);
  const layout: Layout = { size: 0, spots: [], fields: [] };
  let at = 0;
  const add = (one: (typeof all)[number], bits: number, spot: Pick<Spot, 'way' | 'per'>, more: object) => {
    const key = keyOf(one);
    layout.spots.push({ key, at, bits, ...spot });
    layout.fields.push({
      ...{ id: `f${layout.fields.length}`, name: nameOf(key), at, bits, role: { is: one.is, number: one.n } },
      ...more,
    });
    at += bits;
  };
  for (const one of all.filter((o) => !isNumber(o) && !o.text))
    add(one, 1, { way: 'bit', per: 1 }, { type: 'BOOL' });
  at = Math.ceil(at / 16) * 16;
  for (const one of all.filter(isNumber))
    add(
      one,
      16,
      { way: 'low', per: one.unit ? 100 : 1 },
      {
        type: one.unit ? 'INT' : 'UINT',
        unit: one.unit,
        ...(one.unit ? { scale: { factor: '1/100', offset: '0' } } : {}),
      },
    );
  for (const one of all.filter((o) => o.text))
    add(
      one,
      one.text! * 8,
      { way: 'text', per: 1 },
      {
        type: 'STRING',
        text: { prefix: 0, encoding: 'ascii', pad: 0 },
      },
    );
  return { ...layout, size: Math.ceil(at / 16) * 2 };
}

/** Numbers as DINT or UDINT, high byte first; then texts; then words of bits, from the highest down. */
function numbersFirst(wanted: readonly Wanted[]): Layout {
  const all = single(wanted);
  const layout: Layout = { size: 0, spots: [], fields: [] };
  let at = 0;
  const field = (more: object) =>
    layout.fields.push({ id: `f${layout.fields.length}`, order: 'big', ...more });
  for (const one of all.filter(isNumber)) {
    const key = keyOf(one);
    layout.spots.push({ key, at, bits: 32, way: 'high', per: one.unit ? 1000 : 1 });
    field({
      ...{ name: nameOf(key), type: one.unit ? 'DINT' : 'UDINT', at, bits: 32, unit: one.unit },
      ...(one.unit ? { scale: { factor: '1/1000', offset: '0' } } : {}),
      role: { is: one.is, number: one.n },
    });
    at += 32;
  }
  for (const one of all.filter((o) => o.text)) {
    const key = keyOf(one);
    layout.spots.push({ key, at, bits: one.text! * 8, way: 'text', per: 1 });
    field({
      ...{ name: nameOf(key), type: 'STRING', at, bits: one.text! * 8, role: { is: one.is } },
      text: { prefix: 0, encoding: 'ascii', pad: 0 },
    });
    at += one.text! * 8;
  }
  const bits = all.filter((o) => !isNumber(o) && !o.text);
  for (let from = 0; from < bits.length; from += 16, at += 16) {
    const word = bits.slice(from, from + 16);
    // Bit 15 of a register that is sent high byte first is bit 7 of the first byte.
    word.forEach((one, i) =>
      layout.spots.push({
        key: keyOf(one),
        at: at + (i < 8 ? 7 - i : 8 + 15 - i),
        bits: 1,
        way: 'bit',
        per: 1,
      }),
    );
    field({
      ...{ name: `word_${from / 16}`, type: 'WORD', at, bits: 16 },
      bitRoles: word.map((one, i) => ({ bit: 15 - i, role: { is: one.is, number: one.n } })),
    });
  }
  return { ...layout, size: at / 8 };
}

/** Waits, for 20 s at most: tests that run beside each other have no polling of their own. */
async function until(holds: () => boolean | Promise<boolean>): Promise<boolean> {
  const deadline = performance.now() + 20_000;
  while (performance.now() < deadline) {
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

interface Scenario {
  kind: DeviceKind;
  says: string;
  commands: readonly Wanted[];
  answers: readonly Wanted[];
  run(it: Party, took: (work: () => Promise<void>) => Promise<number>): Promise<void>;
}
const bits = (...names: Role[]): Wanted[] => names.map((is) => ({ is }));
const counts = (...names: Role[]): Wanted[] => names.map((is) => ({ is, unit: '' }));
/** Seconds that a move takes, and what a step of 20 ms, an update of 20 ms and a busy machine add. */
const between = (seconds: number, least: number) => {
  expect(seconds).toBeGreaterThan(least - 0.08);
  expect(seconds).toBeLessThan(least + 3);
};

const scenarios: readonly Scenario[] = [
  {
    kind: 'variable-speed drive',
    says: '25 Hz a second up to 30 Hz: 1.2 s; reverse from there to −30 Hz: 2.4 s',
    commands: [...bits('start', 'stop', 'direction'), { is: 'speed reference', unit: 'Hz' }],
    answers: [...bits('running', 'at speed'), { is: 'speed actual', unit: 'Hz' }],
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
    commands: bits('start', 'stop'),
    answers: [...bits('running', 'faulted'), { is: 'motor current', unit: 'A' }],
    async run(it) {
      await it.set({ start: true });
      await it.sees({ running: true, faulted: false });
      // 4 A times the root of 0.4² and 0.6².
      await it.sees({ 'motor current': 2.884 });
      await it.set({ stop: true });
      await it.sees({ running: false, 'motor current': 0 });
    },
  },
  {
    kind: 'servo axis',
    says: '30 mm with 300 mm/s²: twice the root of 30/300, 0.63 s',
    commands: [
      ...bits('enable', 'home', 'setpoint strobe'),
      { is: 'position setpoint', unit: 'mm' },
      { is: 'velocity', unit: 'mm/s' },
      { is: 'acceleration', unit: 'mm/s²' },
    ],
    answers: [
      ...bits('enabled', 'homed', 'setpoint acknowledge', 'target reached'),
      { is: 'position actual', unit: 'mm' },
    ],
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
    commands: [...bits('start', 'hold', 'permissive'), ...counts('program number')],
    answers: [...bits('ready', 'program running', 'running', 'done'), ...counts('program shown')],
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
    commands: [...bits('trigger', 'result acknowledge', 'program change'), ...counts('program number')],
    answers: [
      ...bits('trigger ready', 'busy', 'result valid', 'pass', 'program changed'),
      ...counts('program shown'),
    ],
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
    commands: bits('safety reset'),
    answers: [{ is: 'beams', count: 16 }, ...bits('safety in order'), { is: 'object size', unit: 'mm' }],
    async run(it) {
      await it.sees({
        'beams 3': false,
        'beams 4': true,
        'beams 6': true,
        'beams 7': false,
        'object size': 50,
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
    commands: [{ is: 'output', count: 6 }],
    answers: [{ is: 'input', count: 6 }, ...bits('overload')],
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
    commands: bits('tare', 'zero'),
    answers: [...bits('stable'), { is: 'gross', unit: 'kg' }, { is: 'net', unit: 'kg' }],
    async run(it) {
      await it.sees({ gross: 12.5, stable: true });
      await it.set({ tare: true });
      await it.sees({ gross: 12.5, net: 0 });
    },
  },
  {
    kind: 'marker',
    says: 'a label of 0.6 s for each rise of the number',
    commands: [...counts('sequence number'), { is: 'variable text', text: 12 }],
    answers: [...bits('ready', 'busy', 'printed'), ...counts('sequence number')],
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
    commands: [{ is: 'analogue output', unit: 'V', count: 2 }],
    answers: [{ is: 'analogue input', unit: 'V', count: 2 }],
    async run(it) {
      await it.set({ 'analogue output 1': 7.5, 'analogue output 2': -2 });
      await it.sees({ 'analogue input 1': 7.5, 'analogue input 2': -2 });
    },
  },
  {
    kind: 'IO-Link master',
    says: 'a port has valid data with power and mode',
    commands: [
      { is: 'load power', count: 4 },
      { is: 'port mode', unit: '', count: 4 },
    ],
    answers: [{ is: 'port valid', count: 4 }],
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
    commands: [{ is: 'output', count: 16 }],
    answers: [{ is: 'input', count: 16 }],
    async run(it) {
      await it.set({ 'output 1': true, 'output 16': true });
      await it.sees({ 'input 1': true, 'input 2': false, 'input 15': false, 'input 16': true });
    },
  },
  {
    kind: 'motor starter',
    says: '0.7 of 6.3 A, and reverse',
    commands: bits('forward', 'reverse', 'stop'),
    answers: [...bits('running', 'runs forward', 'runs reverse'), { is: 'motor current', unit: 'A' }],
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
    commands: bits('trigger'),
    answers: [...bits('busy', 'result valid'), ...counts('result length'), { is: 'result text', text: 12 }],
    async run(it) {
      await it.set({ trigger: true });
      await it.sees({ 'result valid': true, 'result text': 'T000001', 'result length': 7 });
      await it.set({ trigger: false });
      await new Promise((resolve) => setTimeout(resolve, 200));
      await it.set({ trigger: true });
      await it.sees({ 'result text': 'T000002' });
    },
  },
  {
    kind: 'torque tool',
    says: '720° and 160° more at 1200°/s up to 8 N·m: 0.73 s',
    commands: [...bits('start'), ...counts('program number')],
    answers: [...bits('running', 'done', 'pass'), { is: 'torque actual', unit: 'Nm' }],
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
    commands: bits('zero'),
    answers: [...bits('faulted'), { is: 'measured value', unit: 'mm' }],
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
const standIns: StandIn[] = [];
const controller = '127.99.44.1';

/** A device by hand that stands at 127.99.44.N. */
async function stand(kind: DeviceKind, n: number, link: object): Promise<StandIn> {
  const standIn = new StandIn(
    Device.parse({
      ...{ ...unknownNameplate, id: `x${n}`, name: `unit_x${n}`, address: `10.99.44.${n}`, designation: '' },
      ...{ serves: '', kind, maker: '', identity: unknownIdentity, standIn: null, orderSelectable: false },
      ...{ links: [link], description: descriptionByHand([link as Link]) },
    }),
    { schedule },
  );
  standIns.push(standIn);
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
const connections: Connection[] = [];

/** pymodbus behind a pipe: a line for each request, a line for each answer. */
const clientScript = `
import sys
from pymodbus.client import ModbusTcpClient
clients = {}
for line in sys.stdin:
    what, host, port, start, *rest = line.split()
    if host not in clients:
        clients[host] = ModbusTcpClient(host, port=int(port)); clients[host].connect()
    c = clients[host]
    if what == "w":
        print(c.write_registers(int(start), [int(v) for v in rest], slave=1).isError(), flush=True)
    else:
        print(*c.read_input_registers(int(start), int(rest[0]), slave=1).registers, flush=True)
`;
let python: ChildProcessByStdio<Writable, Readable, null>;
const answers: ((line: string) => void)[] = [];
const askPython = (line: string): Promise<string> =>
  new Promise((resolve) => {
    answers.push(resolve);
    python.stdin.write(`${line}\n`);
  });

beforeAll(() => {
  scanner = new IO.Scanner(2222, controller) as typeof scanner;
  python = spawn('/usr/bin/python3', ['-W', 'ignore', '-c', clientScript], {
    stdio: ['pipe', 'pipe', 'inherit'],
  });
  createInterface(python.stdout).on('line', (line) => answers.shift()?.(line));
});
afterAll(async () => {
  for (const connection of connections) connection.tcpController.destroy();
  scanner.socket.close();
  python.stdin.end();
  await Promise.all(standIns.map((s) => s.close()));
  schedule.stop();
});

const sides = (layouts: [Layout, Layout], order: 'little' | 'big') => ({
  command: {
    ...{ id: 'c1', direction: 'command', instance: 130, size: layouts[0].size, start: 0, swapped: false },
    ...{ order, numbering: null, groups: [], fields: layouts[0].fields },
  } as never,
  feedback: {
    ...{ id: 'f1', direction: 'feedback', instance: 131, size: layouts[1].size, start: 0, swapped: false },
    ...{ order, numbering: null, groups: [], derived: [], fields: layouts[1].fields },
  } as never,
});

async function overEthernetIp({ kind, commands, answers: shown }: Scenario, n: number): Promise<Party> {
  const layouts: [Layout, Layout] = [bitsFirst(commands), bitsFirst(shown)];
  await stand(
    kind,
    n,
    protocolById('ethernet-ip').create({ id: 'l1', update: 20_000, ...sides(layouts, 'little') }),
  );
  const connection = scanner.addConnection(
    {
      configInstance: { assembly: 1, size: 0 },
      outputInstance: { assembly: 130, size: layouts[0].size },
      inputInstance: { assembly: 131, size: layouts[1].size },
    },
    20,
    `127.99.44.${n}`,
  );
  connections.push(connection);
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

async function overModbus({ kind, commands, answers: shown }: Scenario, n: number): Promise<Party> {
  const layouts: [Layout, Layout] = [numbersFirst(commands), numbersFirst(shown)];
  const block = { poll: 20_000, at: 0, fresh: null, age: null };
  const standIn = await stand(kind, n, {
    ...protocolById('modbus-tcp').create({ id: 'l1', update: 20_000, ...sides(layouts, 'big') }),
    blocks: [
      {
        ...block,
        id: 'b1',
        name: 'out',
        direction: 'command',
        table: 'holding',
        start: 40,
        count: layouts[0].size / 2,
      },
      {
        ...block,
        id: 'b2',
        name: 'in',
        direction: 'feedback',
        table: 'input',
        start: 700,
        count: layouts[1].size / 2,
      },
    ],
  });
  const at = `127.99.44.${n} ${standIn.port}`;
  return party(
    layouts,
    async (bytes) => {
      const registers = Array.from({ length: bytes.length / 2 }, (_, i) => bytes.readUInt16BE(2 * i));
      expect(await askPython(`w ${at} 40 ${registers.join(' ')}`)).toBe('False');
    },
    async () => {
      const line = await askPython(`r ${at} 700 ${layouts[1].size / 2}`);
      const bytes = Buffer.alloc(layouts[1].size);
      line.split(' ').forEach((register, i) => bytes.writeUInt16BE(Number(register), 2 * i));
      return bytes;
    },
  );
}

const took = async (work: () => Promise<void>): Promise<number> => {
  const from = performance.now();
  await work();
  return (performance.now() - from) / 1000;
};

describe.concurrent.each(scenarios.map((scenario, i) => ({ ...scenario, i })))('$kind: $says', (scenario) => {
  test('over EtherNet/IP', async () => scenario.run(await overEthernetIp(scenario, 10 + scenario.i), took));
  test('over Modbus', async () => scenario.run(await overModbus(scenario, 50 + scenario.i), took));
});
