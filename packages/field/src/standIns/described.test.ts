import {
  codecOf,
  descriptionByHand,
  Device,
  protocolById,
  unknownIdentity,
  unknownNameplate,
  type Cell,
  type Field,
  type Link,
  type SideValue,
} from '@fadenkreuz/core';
import fc from 'fast-check';
import { execFile } from 'node:child_process';
import { promisify } from 'node:util';
import { afterEach, describe, expect, test } from 'vitest';
import { Bench } from '../bench/bench.js';
import { climateCell, until } from '../testBench.js';
import { DeviceSide } from './deviceSide.js';

/** Devices of which nobody has a kind, laid out as a person would; none of them is in the demo. */

const field = (id: string, type: Field['type'], at: number, bits: number, more: Partial<Field> = {}) => ({
  ...{ id, name: id.replaceAll('-', '_'), type, at, bits },
  ...more,
});
const handMade = (address: string, link: Link): Device =>
  Device.parse({
    ...{ ...unknownNameplate, id: 'x1', name: 'oven_door_x1', address, designation: '', serves: '' },
    ...{ kind: 'other', maker: '', identity: unknownIdentity, simulated: false, orderSelectable: false },
    ...{ links: [link], description: descriptionByHand([link]) },
  });

const oven = handMade('10.99.41.21', {
  ...(protocolById('ethernet-ip').create({
    id: 'l1',
    update: 20_000,
    command: {
      ...{ id: 'c1', direction: 'command', instance: 120, size: 6, start: 0, order: null, swapped: false },
      ...{
        numbering: null,
        groups: [],
        fields: [field('open', 'BOOL', 3, 1), field('target', 'INT', 16, 16)],
      },
    } as never,
    feedback: {
      ...{ id: 'f1', direction: 'feedback', instance: 121, size: 10, start: 0, order: 'big', swapped: false },
      ...{ numbering: null, groups: [], derived: [] },
      fields: [
        field('closed', 'BOOL', 13, 1),
        field('position', 'DINT', 32, 32, { scale: { factor: '1/10', offset: '0' }, unit: 'mm' }),
        field('mode', 'BITS', 20, 3),
      ],
    } as never,
  }) as Link),
  timeoutMultiplier: 64,
} as Link);

const pump = handMade('10.99.41.22', {
  ...(protocolById('modbus-tcp').create({
    id: 'l1',
    update: 50_000,
    command: {
      ...{ id: 'c1', direction: 'command', instance: 1, size: 4, start: 0, order: 'big', swapped: false },
      ...{ numbering: null, groups: [], fields: [field('speed', 'UINT', 16, 16)] },
    } as never,
    feedback: {
      ...{ id: 'f1', direction: 'feedback', instance: 1, size: 6, start: 0, order: 'big', swapped: false },
      ...{ numbering: null, groups: [], derived: [], fields: [field('flow', 'INT', 32, 16)] },
    } as never,
  }) as Link),
  blocks: [
    ...[{ id: 'b1', name: 'set', direction: 'command', table: 'holding', start: 2000, count: 2, at: 0 }],
    ...[{ id: 'b2', name: 'actual', direction: 'feedback', table: 'input', start: 3100, count: 3, at: 0 }],
  ].map((block) => ({ ...block, poll: 50_000, fresh: null, age: null })),
} as never);

const cellOf = (...devices: Device[]): Cell => ({
  ...climateCell(),
  network: { ...climateCell().network, subnet: '10.99.41.0/24' },
  controller: { ...climateCell().controller, address: '10.99.41.1' },
  devices,
});

let bench: Bench;
afterEach(() => bench.stop());
const linkOf = (id = 'x1') => bench.report().find((l) => l.device === id)!;
const open = async (device: Device) => {
  bench = new Bench(cellOf(device));
  await bench.start();
  await until(() => linkOf().state === 'open');
};
/** What the controller reads of a signal. */
const seen = (device: Device, name: string) => {
  const codec = codecOf(device.links[0]!.feedback);
  const bytes = Buffer.from(linkOf().feedback, 'base64');
  codec.decode(new DataView(bytes.buffer, bytes.byteOffset, bytes.length));
  return codec.readingAt(codec.signals.findIndex((s) => s.id === name)).text;
};

describe('what is only described stands on the bench', () => {
  test('a value that is set on its side is read by the controller, and goes when it is let go', async () => {
    await open(oven);
    bench.setSide('x1', 'position', { way: 'value', value: '-12.5' });
    bench.setSide('x1', 'closed', { way: 'value', value: '1' });
    bench.setSide('x1', 'mode', { way: 'value', value: '5' });
    await until(() => seen(oven, 'position') === '-12.5');
    expect([seen(oven, 'closed'), seen(oven, 'mode')]).toEqual(['1', '5']);
    // −125 in bytes 4 to 7, high byte first; bit 13 and bits 20 to 22, by hand.
    expect([...Buffer.from(linkOf().feedback, 'base64')]).toEqual([0, 32, 80, 0, 255, 255, 255, 131, 0, 0]);
    expect(linkOf().side!.held.map((h) => h.field)).toEqual(['position', 'closed', 'mode']);
    bench.setSide('x1', 'position', null);
    await until(() => seen(oven, 'position') === '0.0');
    expect(seen(oven, 'closed')).toBe('1');
  });

  test('a command is seen in the device; when the controller is gone it drops its outputs, and says since when', async () => {
    await open(oven);
    await until(() => linkOf().side!.outputs === 'commanded');
    bench.write('x1', 'target', '513');
    await until(() => Buffer.from(linkOf().sideCommand, 'base64').readInt16LE(2) === 513);
    const before = Date.now();
    bench.inject('x1', { fault: 'cable-pulled' });
    await until(() => linkOf().side!.outputs === 'dropped');
    expect(linkOf().side!.since).toBeGreaterThanOrEqual(before);
    expect([...Buffer.from(linkOf().sideCommand, 'base64')]).toEqual([0, 0, 0, 0, 0, 0]);
  });

  test('one that holds its outputs on loss keeps them', async () => {
    const holding = { ...oven, description: { ...oven.description, loss: { by: 'device', does: 'hold' } } };
    await open(Device.parse(holding));
    bench.write('x1', 'open', '1');
    await until(() => Buffer.from(linkOf().sideCommand, 'base64')[0] === 8);
    bench.inject('x1', { fault: 'cable-pulled' });
    await until(() => linkOf().side!.outputs === 'held');
    expect(Buffer.from(linkOf().sideCommand, 'base64')[0]).toBe(8);
  });

  test('a size that is not described is refused by the device', async () => {
    const [link] = oven.links;
    const described = { origin: { from: 'table', title: 'manual' }, identity: null } as const;
    const wrong = { ...oven, description: { ...oven.description, ...described } };
    wrong.links = [{ ...link!, feedback: { ...link!.feedback, size: 12 } }];
    bench = new Bench(cellOf(Device.parse(wrong)));
    await bench.start();
    await until(() => linkOf().state === 'refused');
    expect(linkOf().reason!.facts).toMatchObject({
      ...{ side: 'feedback', planned: 12, actual: 10 },
      // Invalid target to originator size (CIP Vol. 1, table 3-5.33).
      reading: 'General status 16#01, extended status 16#0128.',
    });
  });

  test('registers: pymodbus reads what is set on its side, and nothing beside what is described', async () => {
    await open(pump);
    bench.setSide('x1', 'flow', { way: 'value', value: '-300' });
    await until(() => seen(pump, 'flow') === '-300');
    const { port } = linkOf();
    const script = `
from pymodbus.client import ModbusTcpClient
c = ModbusTcpClient('127.99.41.22', port=${port}); c.connect()
print(c.read_input_registers(3102, 1, slave=1).registers[0])
print(c.write_registers(2000, [7, 1450], slave=1).isError())
print(c.read_input_registers(3103, 1, slave=1).exception_code)
`;
    const { stdout } = await promisify(execFile)('/usr/bin/python3', ['-c', script]);
    const said = stdout.trim().split('\n');
    // −300 as a register; exception 2: no such address (Modbus Application Protocol V1.1b3, 7).
    expect(said).toEqual(['65236', 'False', '2']);
  });

  test('values that move by themselves, and values that do not fit', async () => {
    await open(oven);
    bench.setSide('x1', 'mode', { way: 'counter', low: 0, high: 3, periodMs: 20 });
    const found = new Set<string>();
    await until(() => found.add(seen(oven, 'mode')).size === 4);
    expect([...found].sort()).toEqual(['0', '1', '2', '3']);
    expect(() => bench.setSide('x1', 'mode', { way: 'value', value: '9' })).toThrow();
    expect(() => bench.setSide('x1', 'gone', { way: 'value', value: '9' })).toThrow(/gone/);
  });

  test('a new layout keeps what is still there', async () => {
    await open(oven);
    bench.setSide('x1', 'closed', { way: 'value', value: '1' });
    const [link] = oven.links;
    const feedback = { ...link!.feedback, fields: [{ ...link!.feedback.fields[0]!, at: 16 }] };
    const moved = { ...oven, links: [{ ...link!, feedback }] } as Device;
    await bench.update(cellOf(moved));
    await until(() => Buffer.from(linkOf().feedback, 'base64')[2] === 1);
    expect(linkOf().side!.held).toHaveLength(1);
  });
});

test('1,000 random layouts and values: set, shown, or refused with a Problem (seeded)', () => {
  const layout = fc.array(
    fc.record({
      type: fc.constantFrom<Field['type']>('BOOL', 'BITS', 'INT', 'UINT', 'REAL', 'DINT', 'BCD', 'STRING'),
      at: fc.nat(80),
      bits: fc.integer({ min: 1, max: 40 }),
    }),
    { minLength: 1, maxLength: 6 },
  );
  const value = fc.oneof<fc.Arbitrary<SideValue>[]>(
    fc.record({ way: fc.constant('value' as const), value: fc.string({ maxLength: 12 }) }),
    fc.record({ way: fc.constant('toggle' as const), periodMs: fc.integer({ min: 20, max: 900 }) }),
    fc.record({
      ...{ way: fc.constantFrom('ramp' as const, 'sine' as const, 'noise' as const, 'counter' as const) },
      ...{ low: fc.double({ noNaN: true, min: -1e6, max: 1e6 }) },
      ...{ high: fc.double({ noNaN: true, min: -1e6, max: 1e6 }), periodMs: fc.constant(100) },
    }),
  );
  const tally = { shown: 0, refused: 0 };
  fc.assert(
    fc.property(layout, value, fc.nat(5), (drafts, wanted, which) => {
      const image = oven.links[0]!.feedback;
      const made = drafts.flatMap((d, i) => {
        const parsed = Device.safeParse({
          ...oven,
          links: [
            { ...oven.links[0]!, feedback: { ...image, fields: [field(`s${i}`, d.type, d.at, d.bits)] } },
          ],
        });
        return parsed.success ? parsed.data.links[0]!.feedback.fields : [];
      });
      if (made.length === 0) return;
      const one = made[which % made.length]!;
      const link = { ...oven.links[0]!, feedback: { ...image, fields: [one] } } as Link;
      const side = new DeviceSide(link, oven.description, () => 0.5);
      try {
        side.take(one.id, wanted, 0);
        for (const now of [0, 20, 99, 12_345]) side.move(now);
        side.over({ number: 121, use: 'feedback' }, new Uint8Array(10));
        tally.shown += 1;
      } catch (error) {
        expect(error).toMatchObject({ name: 'Problem' });
        tally.refused += 1;
      }
    }),
    { numRuns: 1000, seed: 19 },
  );
  expect(Math.min(tally.shown, tally.refused)).toBeGreaterThan(50);
});
