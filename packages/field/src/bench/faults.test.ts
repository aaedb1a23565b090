import { faultChoices, faultKey, type Fault } from '@fadenkreuz/core';
import { mkdtemp } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterAll, afterEach, beforeAll, describe, expect, test, vi } from 'vitest';
import { CaptureFile } from '../capture/captureFile.js';
import { climateCell, demoDevice, until } from '../testBench.js';
import { tsharkFields } from '../tshark.js';
import { Bench } from './bench.js';

let bench: Bench | undefined;
afterEach(async () => {
  await bench?.stop();
  bench = undefined;
});
const link = () => bench!.report()[0]!;
const first = () => link().causes[0]?.title ?? 'none';

async function begin(cell = climateCell()): Promise<void> {
  bench = new Bench(cell);
  await bench.start();
  await until(() => link().state === 'open' && link().received > 5);
}

/** The hub of the demo alone, at an address of its own. */
const hubCell = () => ({ ...climateCell(), devices: [demoDevice('port_hub_g1', '10.99.40.95')] });

describe('each fault leads to its cause, from what can be seen alone', () => {
  const cases: [Fault, RegExp, string][] = [
    [{ fault: 'cable-pulled' }, /^The cable is out/, 'timed-out'],
    [{ fault: 'power-cycled', offMs: 60_000 }, /^The device has no power$/, 'timed-out'],
    [{ fault: 'wrong-device', differs: 'product' }, /^Another device has this address/, 'refused'],
    [{ fault: 'wrong-device', differs: 'revision' }, /another revision/, 'refused'],
    [{ fault: 'duplicate-address' }, /^Two devices have this address$/, ''],
    [{ fault: 'factory-address', address: '10.99.9.1' }, /^The device has another address$/, ''],
    [{ fault: 'asks-for-address', method: 'dhcp' }, /^The device has no address$/, ''],
    [{ fault: 'assembly-resized', direction: 'feedback', by: 2 }, /another size/, 'refused'],
    [{ fault: 'assembly-resized', direction: 'command', by: -4 }, /another size/, 'refused'],
    [{ fault: 'packets-lost', share: 0.3 }, /^Packets get lost/, 'open'],
    [{ fault: 'packets-delayed', share: 0.5, ms: 60 }, /^Packets are held up/, 'open'],
    [{ fault: 'packets-doubled', share: 0.5 }, /^Packets come twice$/, 'open'],
    [{ fault: 'packets-reordered', share: 0.3 }, /^Packets overtake each other$/, 'open'],
    [{ fault: 'slow', ms: 700 }, /^The device answers slowly$/, 'open'],
    [{ fault: 'busy' }, /^The device is busy$/, 'open'],
    [{ fault: 'stolen' }, /^Another controller owns/, 'refused'],
    [{ fault: 'frozen' }, /^The device sends, but its program has stopped$/, 'open'],
    [{ fault: 'out-of-range' }, /^A value is out of range$/, 'open'],
    [{ fault: 'device', id: 'unsupplied' }, /^The device itself has a fault$/, 'open'],
  ];
  /** A climate module for each case, all on one bench: what is wrong with one must not show on another. */
  let all: Bench;
  const reportOf = (i: number) => all.report().find((l) => l.device === `d${i}`)!;
  beforeAll(async () => {
    const cell = climateCell();
    const [model] = cell.devices;
    const devices = cases.map((_, i) => ({
      ...model!,
      id: `d${i}`,
      name: `climate_u${i}`,
      address: `10.99.40.${100 + i}`,
      links: [{ ...model!.links[0]!, id: `l${i}` }],
    }));
    all = new Bench({ ...cell, controller: { ...cell.controller, address: '10.99.40.4' }, devices });
    await all.start();
    const stand = () => expect(all.report().every((l) => l.state === 'open' && l.received > 10)).toBe(true);
    await vi.waitFor(stand, { timeout: 40_000 });
    cases.forEach(([fault], i) => all.inject(`d${i}`, fault));
  });
  afterAll(() => all.stop());

  test.each(cases.map((entry, i) => [entry[0], entry[1], entry[2], i] as const))(
    '%j',
    async (fault, cause, state, i) => {
      await until(() => cause.test(reportOf(i).causes[0]?.title ?? ''));
      if (state) expect(['opening', 'unreachable', state]).toContain(reportOf(i).state);
      // Whatever is tried meanwhile, it is known how long ago the last good packet came.
      expect(reportOf(i).ageMs).toBeGreaterThanOrEqual(0);
      // What was injected is listed, on the link and on the trace.
      expect(reportOf(i).faults.map((f) => f.key)).toEqual([faultKey(fault)]);
      const lines = all.trace.since(0).filter((l) => l.device === `d${i}`);
      expect(lines.some((l) => l.event.what === 'injected')).toBe(true);
    },
  );

  test.each(['port-power', 'port-mode'])('%s: the link stays green, the port says why', async (id) => {
    await begin(hubCell());
    bench!.inject('g1', { fault: 'device', id });
    const cause =
      id === 'port-power' ? 'A port has no load power' : 'A port is in another mode than its device needs';
    await until(() => first() === cause);
    expect(link().state).toBe('open');
    bench!.clear('g1', `device ${id}`);
    await until(() => first() === 'none');
  });

  test.each<[Fault, RegExp]>([
    [{ fault: 'busy' }, /^The device is busy$/],
    [{ fault: 'wrong-device', differs: 'product' }, /^Another device has this address/],
    [{ fault: 'assembly-resized', direction: 'feedback', by: -2 }, /^The registers are not where/],
    [{ fault: 'cable-pulled' }, /^The cable is out/],
    [{ fault: 'factory-address', address: '10.99.9.2' }, /^The device has another address$/],
    [{ fault: 'asks-for-address', method: 'bootp' }, /^The device has another address$/],
    [{ fault: 'slow', ms: 3000 }, /^The device answers slowly$/],
    [{ fault: 'out-of-range' }, /^A value is out of range$/],
  ])('a Modbus device: %j', async (fault, cause) => {
    await begin(hubCell());
    bench!.inject('g1', fault);
    await until(() => cause.test(first()));
    bench!.clear('g1', faultKey(fault));
    await until(() => link().state === 'open');
  });

  test('a Modbus device that was cut off while it was asked what it is, is asked again', async () => {
    await begin(hubCell());
    // Its answers come so late that the question fails.
    bench!.inject('g1', { fault: 'slow', ms: 3000 });
    await until(() => link().state === 'unreachable');
    bench!.clear('g1', 'slow');
    await until(() => link().state === 'open');
    bench!.inject('g1', { fault: 'wrong-device', differs: 'product' });
    await until(() => first() === 'Another device has this address');
  });

  test('a Modbus device that was switched off has lost its power and no packets; one that is slow leaves turns out', async () => {
    await begin(hubCell());
    bench!.inject('g1', { fault: 'power-cycled', offMs: 1500 });
    await until(() => link().timeouts === 1);
    await until(() => link().state === 'open');
    await until(() => first().startsWith('The device has lost its power for a moment'));
    // Eight turns went by before the link was given up; a halt of this computer may leave one out.
    expect(link().lost).toBeLessThan(4);
    const { lost } = link();
    bench!.inject('g1', { fault: 'slow', ms: 250 });
    await until(() => link().lost > lost + 4);
    expect(link().timeouts).toBe(1);
  });

  test('a fault that is taken away leaves nothing behind: the link stands again', async () => {
    await begin();
    for (const fault of [{ fault: 'stolen' }, { fault: 'wrong-device', differs: 'product' }] as Fault[]) {
      bench!.inject('u1', fault);
      await until(() => link().state === 'refused');
      bench!.clear('u1', faultKey(fault));
      await until(() => link().state === 'open');
      expect(link().faults).toEqual([]);
    }
  });

  test('a device that is switched off and on starts anew, and says so for a while', async () => {
    await begin();
    bench!.write('u1', 'u1-cmd-heater', '1');
    bench!.inject('u1', { fault: 'power-cycled', offMs: 600 });
    await until(() => link().state !== 'open');
    await until(() => link().state === 'open');
    await until(() => first().startsWith('The device has lost its power for a moment'));
    expect(Buffer.from(link().feedback, 'base64')[0]! & 1).toBe(0);
  });
});

test('a fault that a device cannot have, or a device without a stand-in, is refused in a sentence', async () => {
  await begin(hubCell());
  expect(() => bench!.inject('g1', { fault: 'stolen' })).toThrow(/cannot be injected at port_hub_g1/);
  expect(() => bench!.inject('g1', { fault: 'device', id: 'jammed' })).toThrow(/cannot be injected/);
  expect(() => bench!.inject('x', { fault: 'busy' })).toThrow(/no device with the id x/);
});

test('the list of faults holds what a device can have', () => {
  const kinds = (name: string) => faultChoices(demoDevice(name, '10.99.40.1')).map((c) => faultKey(c.fault));
  expect(kinds('port_hub_g1')).not.toContain('stolen');
  expect(kinds('gripper_valves_q1')).not.toContain('packets-lost');
  expect(kinds('brush_belt_m1')).toContain('device jammed');
});

test('a capture carries a remark for each fault, and is whole (tshark)', async () => {
  const path = join(await mkdtemp(join(tmpdir(), 'fadenkreuz-')), 'faults.pcapng');
  const tap = new CaptureFile(path);
  bench = new Bench(climateCell(), { tap });
  await bench.start();
  await until(() => link().received > 20);
  bench.inject('u1', { fault: 'packets-doubled', share: 0.5 });
  await until(() => link().doubled > 5);
  bench.clear('u1', 'packets-doubled');
  await until(() => link().sent > 80);
  await bench.stop();
  await tap.close();
  const remarks = tsharkFields(path, 'frame.comment', ['frame.comment']).map((f) => f['frame.comment']);
  expect(remarks).toEqual([
    'climate_io_u1: fault injected: double packets, share 0.5',
    'climate_io_u1: fault taken away: double packets, share 0.5',
  ]);
  expect(tsharkFields(path, '_ws.malformed or _ws.expert.severity >= 0x600000', ['frame.number'])).toEqual(
    [],
  );
  // Ethernet, and times in ns.
  expect(tsharkFields(path, 'frame.number == 1', ['frame.protocols'])[0]!['frame.protocols']).toMatch(
    /^eth:/,
  );
  bench = undefined;
});
