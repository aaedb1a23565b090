import { mkdtemp } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { descriptionByHand, type Device, type EthernetIpLink } from '@fadenkreuz/core';
import { afterEach, beforeEach, describe, expect, test } from 'vitest';
import { CaptureFile } from '../capture/captureFile.js';
import { StandIn } from '../standIns/standIn.js';
import { climateSeen, climateCell, demoDevice, until } from '../testBench.js';
import { Schedule } from '../timing/schedule.js';
import { tsharkFields } from '../tshark.js';
import { Reach } from '../wire/reach.js';
import { Bench } from './bench.js';
import type { AfterArm } from './report.js';

/** Stand-ins that this bench knows nothing of, at addresses that it may reach: for it they are real devices. */
const climate: Device = { ...climateCell().devices[0]!, address: '10.200.40.71' };
const pump: Device = demoDevice('brine_pump_m2', '10.200.40.91');
/** An axis whose description was entered by hand, and so offers nothing to listen to. */
const valves: Device = demoDevice('gripper_valves_q1', '10.200.40.45');
const real = (device: Device): Device => ({
  ...device,
  simulated: false,
  address: device.address.replace(/^10/, '127'),
});
const planned = [
  real(climate),
  real(pump),
  { ...real(valves), description: descriptionByHand(valves.links) },
];
const cell = (devices = planned) => ({ ...climateCell(), devices });

let schedule: Schedule;
let others: StandIn[];
let bench: Bench;
let path: string;
beforeEach(async () => {
  schedule = new Schedule();
  others = [climate, pump, valves].map((device) => new StandIn(device, { schedule }));
  for (const other of others) await other.open();
  path = join(await mkdtemp(join(tmpdir(), 'fadenkreuz-')), 'real.pcapng');
});
afterEach(async () => {
  await bench.stop();
  for (const other of others) await other.close();
  schedule.stop();
});

let capture: CaptureFile;
async function begin(devices = planned): Promise<void> {
  capture = new CaptureFile(path);
  bench = new Bench(cell(devices), { reach: new Reach(['127.200.0.0/16']), tap: capture });
  await bench.start();
  await until(() => bench.report().every((l) => l.state === 'open' && l.received > 3));
}
const linkOf = (device: Device) => bench.report().find((l) => l.device === device.id)!;
const heaterOn = () => climateSeen(others[0]).heaterOn;

/**
 * Frames that write: Set_Attribute, the writing functions of Modbus, and cyclic packets to a device that carry more
 * than their count. An owner's Forward_Open writes too: it takes the outputs, and may carry configuration data.
 */
function writes(): Record<string, number> {
  const count = (filter: string) => tsharkFields(path, filter, ['frame.number']).length;
  const toDevice = 'ip.src == 127.99.40.1';
  return {
    set: count('cip.service == 0x10'),
    modbus: count(`mbtcp && tcp.dstport == 502 && modbus.func_code in {5, 6, 15, 16, 22, 23}`),
    data: count(`${toDevice} && cipio && udp.length > 28`),
    // Sizes of both directions, that to the device first; a heartbeat has its count alone.
    owner: tsharkFields(path, 'cip.cm.fwo.consize', ['cip.cm.fwo.consize']).filter(
      (frame) => Number.parseInt(frame['cip.cm.fwo.consize']!) > 2,
    ).length,
    configuration: count('cip.data_segment.size > 0'),
  };
}

test('what somebody sees of its lights counts for its likely causes, as those of a stand-in do', async () => {
  await begin();
  const causes = () => linkOf(climate).causes.map((c) => c.title);
  expect([linkOf(climate).indicators, causes()]).toEqual([[], []]);
  bench.setSeen(climate.id, [
    { light: 'Module', colour: 'red', pattern: 'flashing' },
    { light: 'nobody knows it', colour: 'red', pattern: 'flashing' },
  ]);
  expect(linkOf(climate).indicators).toEqual([
    // As its manual has it, rather than as the standard.
    { name: 'module', colour: 'red', pattern: 'flashing', means: 'the supply of the outputs is missing' },
  ]);
  await until(() => causes().length > 0);
  expect(linkOf(climate).causes[0]!.evidence.join()).toContain('module light');
  bench.setSeen(climate.id, []);
  await until(() => causes().length === 0);
  expect(() => bench.setSeen('nobody', [])).toThrow(/nobody/);
});

describe('nothing is written to a real device before Arm', () => {
  test('through start, an edit that opens a link anew, and a device that goes and comes back', async () => {
    await begin();
    expect(bench.report().map((l) => [l.real, l.reads])).toEqual(Array(3).fill([true, true]));
    expect(linkOf(climate).sends).toMatch(/exclusive owner connection: 8 bytes of zeros/);
    expect(linkOf(pump).sends).toMatch(/zeros to \d+ holding registers/);
    expect(linkOf(valves).sends).not.toBe('');
    // What a stored edit changes of a running link is not sent.
    const [first, ...rest] = planned;
    const link = first!.links[0] as EthernetIpLink;
    const quicker = { ...link, feedbackRpi: 40_000, configuration: { ...link.configuration, data: '0A0B' } };
    await bench.update(cell([{ ...first!, links: [quicker] }, ...rest]));
    await until(() => linkOf(climate).state === 'open' && linkOf(climate).expectedMs === 40);
    await others[0]!.close();
    await until(() => linkOf(climate).state !== 'open');
    await others[0]!.open();
    await until(() => bench.report().every((l) => l.state === 'open'));
    await bench.stop();
    await capture.close();
    expect(writes()).toEqual({ set: 0, modbus: 0, data: 0, owner: 0, configuration: 0 });
  });

  test('Arm opens the links as they are planned; when it ends they may not come back as owners', async () => {
    await begin();
    await bench.allow();
    await until(() => bench.report().every((l) => l.state === 'open' && !l.reads));
    bench.write(climate.id, 'u1-cmd-heater', '1');
    await until(heaterOn);
    await bench.forbid();
    // Zeros with idle by default.
    await until(() => !heaterOn());
    expect(linkOf(climate)).toMatchObject({ state: 'open', reads: false, afterArm: 'idle' });
    await others[0]!.close();
    await until(() => linkOf(climate).state !== 'open');
    await others[0]!.open();
    await until(() => linkOf(climate).state === 'open');
    expect(linkOf(climate).reads).toBe(true);
    await capture.close();
    const { data, owner, modbus } = writes();
    expect(Math.min(data!, owner!, modbus!)).toBeGreaterThan(0);
  });

  test.each<[AfterArm, boolean, boolean]>([
    ['idle', false, false],
    ['hold', true, false],
    // Its reaction to loss, which drops; then it is only listened to.
    ['release', false, true],
  ])('after Arm, %s: the heater stays on %j, the link reads alone %j', async (does, on, reads) => {
    await begin([planned[0]!]);
    const { id } = planned[0]!.links[0]!;
    bench.setAfterArm(id, does);
    await bench.allow();
    await until(() => bench.report().every((l) => l.state === 'open' && !l.reads));
    bench.write(climate.id, 'u1-cmd-heater', '1');
    await until(heaterOn);
    await bench.forbid();
    await until(() => linkOf(climate).state === 'open' && linkOf(climate).reads === reads);
    await until(() => heaterOn() === on);
    expect(Buffer.from(linkOf(climate).command, 'base64')[0] ?? 0).toBe(on ? 1 : 0);
  });
});
