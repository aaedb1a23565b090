import type { EthernetIpLink } from '@fadenkreuz/core';
import { classes, logical, services } from '@fadenkreuz/core/ethernet-ip';
import { mkdtemp } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterEach, describe, expect, test } from 'vitest';
import { Bench } from '../../bench/bench.js';
import { CaptureFile } from '../../capture/captureFile.js';
import { noTap, type Tap } from '../../capture/tap.js';
import { openingGate } from '../runningLink.js';
import { climateSeen, climateCell, demoDevice, until } from '../../testBench.js';
import { tsharkFields } from '../../tshark.js';
import { onlyLoopback } from '../../wire/reach.js';
import { ExplicitClient } from './explicitClient.js';
import { EthernetIpOriginator } from './originator.js';
import type { CyclicLink } from './cyclicLink.js';

let bench: Bench;
const ends: (() => Promise<unknown>)[] = [];
afterEach(async () => {
  for (const end of ends.splice(0).reverse()) await end();
  await bench.stop();
});
const report = () => bench.report()[0]!;
const device = () => bench.standInOf('u1')!;
const seen = () => climateSeen(device());

async function begin(change: Parameters<typeof climateCell>[0] = () => undefined, tap: Tap = noTap) {
  bench = new Bench(climateCell(change), { tap });
  await bench.start();
  await until(() => report().state === 'open' && report().received > 5);
}

/** A second controller at an address of its own, with a link to the same device. */
async function second(change: (link: EthernetIpLink) => void): Promise<CyclicLink> {
  const localAddress = '127.99.40.2';
  const { schedule } = bench;
  const originator = new EthernetIpOriginator({
    ...{ localAddress, schedule, tap: noTap, reach: onlyLoopback, run: () => true, opening: openingGate() },
  });
  await originator.open(localAddress);
  const planned = climateCell(change).devices[0]!;
  const link = originator.link({
    ...{ device: planned, link: planned.links[0] as EthernetIpLink, localAddress },
    end: { on: 'ip', address: '127.99.40.71' },
  }) as CyclicLink;
  const stop = schedule.every(5, (now) => link.watch(now));
  link.start();
  ends.push(() => link.stop().then(() => (stop(), originator.close())));
  return link;
}
const listening = (connection: 'input-only' | 'listen-only') => (link: EthernetIpLink) => {
  link.connection = connection;
  link.toController = 'multicast';
  link.configuration.data = '';
  Object.assign(link.command, { instance: connection === 'input-only' ? 198 : 199, size: 0, fields: [] });
};

describe('who may connect beside whom', () => {
  test('an input-only controller hears the same data; it owns nothing', async () => {
    await begin();
    const other = await second(listening('input-only'));
    await until(() => other.state === 'open' && other.counts.received > 5);
    bench.write('u1', 'u1-cmd-heater', '1');
    await until(() => (other.feedback[0]! & 1) === 1);
    expect(report().state).toBe('open');
  });

  test('a listen-only one is refused while nobody holds a connection, and ends with the last that does', async () => {
    await begin((l) => {
      l.toController = 'multicast';
    });
    const other = await second(listening('listen-only'));
    await until(() => other.state === 'open' && other.counts.received > 5);
    await bench.linkOf('u1-link')!.stop();
    await until(() => other.state === 'refused');
    expect(other.reason?.facts).toMatchObject({ extended: '16#0119' });
  });

  test('a second owner is refused with 16#0106; it gets the device once the first has gone', async () => {
    await begin();
    const other = await second(() => undefined);
    await until(() => other.state === 'refused');
    expect(other.reason?.facts).toMatchObject({ extended: '16#0106' });
    await bench.linkOf('u1-link')!.stop();
    await until(() => other.state === 'open');
  });
});

test('multicast: one stream for all, to the group that the standard reckons, named in the answer (tshark)', async () => {
  const path = join(await mkdtemp(join(tmpdir(), 'fadenkreuz-')), 'multicast.pcapng');
  const tap = new CaptureFile(path);
  await begin((l) => {
    l.toController = 'multicast';
  }, tap);
  const other = await second(listening('input-only'));
  await until(() => other.state === 'open' && other.counts.received > 10);
  expect(report().lost).toBe(0);
  for (const end of ends.splice(0)) await end();
  await bench.stop();
  await tap.close();
  // Host 71 of 127.99.40.0/24: 239.192.1.0 + 32 × 70 = 239.192.9.192 (CIP Vol. 2, 3-5.3; from memory).
  const groups = tsharkFields(path, 'cipio and ip.dst == 224.0.0.0/4', ['ip.dst', 'eth.dst']);
  expect(new Set(groups.map((g) => g['ip.dst']))).toEqual(new Set(['239.192.9.192']));
  expect(groups[0]!['eth.dst']).toBe('01:00:5e:40:09:c0');
  const [opened] = tsharkFields(path, 'enip.sinaddr', ['enip.sinaddr', 'enip.sinport']);
  expect(opened).toMatchObject({ 'enip.sinaddr': '239.192.9.192', 'enip.sinport': '2222' });
  expect(tsharkFields(path, '_ws.malformed', ['frame.number'])).toEqual([]);
  await begin();
});

test('change of state: a change comes at once, and the interval goes on beside it', async () => {
  await begin((l) => {
    l.trigger = 'change-of-state';
    l.feedbackRpi = 500_000;
    l.commandRpi = 20_000;
  });
  const before = report().received;
  const from = performance.now();
  bench.write('u1', 'u1-cmd-heater', '1');
  await until(() => (Buffer.from(report().feedback, 'base64')[0]! & 1) === 1);
  // The climate counter changes with every step: more packets than the interval alone would bring.
  await until(() => report().received - before > (performance.now() - from) / 500 + 2);
});

test('formats: bare commands and feedback with a run/idle word, as the marker has them', async () => {
  const marker = demoDevice('batch_marker_p1', '10.99.40.81');
  bench = new Bench({ ...climateCell(), devices: [marker] });
  await bench.start();
  await until(() => report().state === 'open' && report().received > 3);
  expect(Buffer.from(report().feedback, 'base64')[0]! & 1).toBe(1);
});

test('the device sees run → idle → run', async () => {
  await begin();
  bench.write('u1', 'u1-cmd-fan', '1');
  await until(() => seen().fanOn);
  bench.setRun(false);
  await until(() => !seen().fanOn);
  expect(device().indicators[0]).toMatchObject({ colour: 'green', pattern: '2 pulses' });
  bench.setRun(true);
  await until(() => seen().fanOn);
});

describe('assemblies asked for at a poll time', () => {
  const valves = (connection: 'polled-connected' | 'polled-unconnected') => {
    const planned = demoDevice('gripper_valves_q1', '10.99.40.45');
    const link = {
      ...(planned.links[0] as EthernetIpLink),
      connection,
      commandRpi: 40_000,
      feedbackRpi: 40_000,
    };
    return { ...climateCell(), devices: [{ ...planned, links: [link] }] };
  };
  const isOn = () => (bench.standInOf('q1')!.seen as { inputs: boolean[] }).inputs[0] ?? false;

  test.each([
    ['polled-connected', 'drops them', false],
    ['polled-unconnected', 'holds them', true],
  ] as const)('%s: on loss the device %s', async (connection, _says, left) => {
    bench = new Bench(valves(connection));
    await bench.start();
    await until(() => report().state === 'open');
    bench.write('q1', 'q1-cmd-gripper_close', '1');
    await until(() => (Buffer.from(report().feedback, 'base64')[0]! & 1) === 1);
    expect(isOn()).toBe(true);
    // The controller is not heard any more, and says no farewell.
    bench.inject('q1', { fault: 'cable-pulled' });
    await until(() => report().state !== 'open');
    await until(() => isOn() === left);
  });

  test('a device without cyclic connections refuses one', async () => {
    const cell = valves('polled-connected');
    cell.devices[0]!.links[0]!.connection = 'exclusive-owner' as never;
    bench = new Bench(cell);
    await bench.start();
    await until(() => report().state === 'refused');
  });
});

describe('explicit messages to a running device', () => {
  test('parameters, drive objects and several requests over one class 3 connection', async () => {
    bench = new Bench({ ...climateCell(), devices: [demoDevice('brush_belt_m1', '10.99.40.21')] });
    await bench.start();
    const client = await ExplicitClient.open({ address: '127.99.40.21', localAddress: '127.99.40.3' });
    ends.push(() => client.close());
    await client.connect({ connectionSerial: 7, originatorVendor: 65_000, originatorSerial: 9 }, 2_000_000);
    const ask = (service: number, path: [classId: number, instance: number, attribute: number], data = '') =>
      client.requestConnected({
        service,
        path: [logical('class', path[0]), logical('instance', path[1]), logical('attribute', path[2])],
        data: Uint8Array.from(Buffer.from(data, 'hex')),
      });
    // Acceleration time 12.0 s is 120; the drive object says it in ms.
    expect((await ask(services.setAttributeSingle, [classes.parameter, 1, 1], '7800')).status).toBe(0);
    const inDrive = async () =>
      Buffer.from((await ask(services.getAttributeSingle, [classes.acDcDrive, 1, 18])).data).readUInt16LE(0);
    await until(async () => (await inDrive()) === 12_000);
    const answers = await Promise.all(
      Array.from({ length: 20 }, () => ask(services.getAttributeSingle, [classes.motorData, 1, 7])),
    );
    expect(answers.map((a) => Buffer.from(a.data).readUInt16LE(0))).toEqual(Array(20).fill(400));
  });

  test('calibration is closed until the key word has been written', async () => {
    await begin();
    const client = await ExplicitClient.open({ address: '127.99.40.71', localAddress: '127.99.40.3' });
    ends.push(() => client.close());
    const set = async (instance: number, data: string) =>
      (
        await client.request({
          service: services.setAttributeSingle,
          path: [logical('class', classes.parameter), logical('instance', instance), logical('attribute', 1)],
          data: Uint8Array.from(Buffer.from(data, 'hex')),
        })
      ).status;
    expect(await set(3, '6400')).toBe(0x0f);
    expect(await set(2, '454b')).toBe(0);
    expect(await set(3, '6400')).toBe(0);
    const { description } = bench.designed.devices[0]!;
    const meaning = description.lights.find((light) => light.when === 'unlocked')!.means;
    expect(device().indicators[0]).toMatchObject({ pattern: 'flashing', means: meaning });
  });

  test('Reset ends the connections; the device comes back as after power-on', async () => {
    await begin();
    bench.write('u1', 'u1-cmd-heater', '1');
    await until(() => seen().heaterOn);
    const client = await ExplicitClient.open({ address: '127.99.40.71', localAddress: '127.99.40.3' });
    const path = [logical('class', classes.identity), logical('instance', 1)];
    const answer = await client.request({ service: services.reset, path, data: new Uint8Array() });
    expect(answer.status).toBe(0);
    await until(() => report().reconnects === 1);
    expect(seen().heaterOn).toBe(false);
  });
});
