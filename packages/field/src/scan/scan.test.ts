import { compareLineUp, type Cell, type Device } from '@fadenkreuz/core';
import { afterEach, describe, expect, test } from 'vitest';
import { setAddress, stopAsking } from '../protocols/ethernetIp/setAddress.js';
import { AddressServer } from '../addresses/addressServer.js';
import { Wire } from '../agent/wire.js';
import { Schedule } from '../timing/schedule.js';
import { StandIn } from '../standIns/standIn.js';
import { climateCell, demoDevice, until } from '../testBench.js';
import { benchAddress, onlyLoopback, Reach } from '../wire/reach.js';
import { addressesOf } from './scanRange.js';
import { Scan } from './scan.js';

const subnet = '10.97.40.0/27';
const factoryAddress = '10.97.9.1';
const climate = (host: number, part: Partial<Device> = {}): Device => ({
  ...climateCell().devices[0]!,
  id: `u${host}`,
  name: `climate_u${host}`,
  address: `10.97.40.${host}`,
  factoryAddress,
  ...part,
});
const cellOf = (devices: Device[]): Cell => ({ ...climateCell(), devices });

const open: { close(): Promise<void> }[] = [];
const schedules: Schedule[] = [];
afterEach(async () => {
  await Promise.all(open.splice(0).map((o) => o.close()));
  schedules.splice(0).forEach((s) => s.stop());
});
async function stand(device: Device): Promise<StandIn> {
  const schedule = new Schedule();
  schedules.push(schedule);
  const standIn = new StandIn(device, { schedule });
  open.push(standIn);
  await standIn.open();
  return standIn;
}

async function scanned(ranges: string[] = [subnet, factoryAddress]) {
  const scan = new Scan({ ranges, ports: [502, 1502], planned: '10.97.40.1', reach: onlyLoopback });
  await scan.run();
  return scan.state;
}
const verdicts = async (cell: Cell) =>
  compareLineUp(cell, (await scanned()).found).map((l) => [l.device, l.verdict]);

describe('ranges', () => {
  test.each([
    ['192.168.40.0/30', ['192.168.40.1', '192.168.40.2']],
    ['192.168.40.9', ['192.168.40.9']],
    ['192.168.40.254-192.168.41.1', ['192.168.40.254', '192.168.40.255', '192.168.41.0', '192.168.41.1']],
  ])('%s', (range, addresses) => expect(addressesOf([range])).toEqual(addresses));

  test.each([
    '',
    '192.168.40',
    '192.168.40.0/33',
    '192.168.40.9-192.168.40.8',
    'a-b',
    '1.1.1.1-1.1.1.2-1.1.1.3',
  ])('%s is none', (range) => expect(() => addressesOf([range])).toThrow(/no range/));

  test('too many addresses are refused before they are counted out', () =>
    expect(() => addressesOf(['10.0.0.0/8'])).toThrow(/4096 at most/));
});

test('what stands there is found, with its nameplate and its settings, and matched with the plan', async () => {
  const devices = [
    climate(2),
    climate(3),
    { ...demoDevice('brine_pump_m2', '10.97.40.4'), id: 'm2' },
    climate(5),
  ];
  const [first, wrong] = [await stand(devices[0]!), await stand(devices[1]!), await stand(devices[2]!)];
  wrong.inject({ fault: 'wrong-device', differs: 'revision' });
  const { found, running, asked, toAsk } = await scanned();
  expect([running, asked]).toEqual([false, toAsk]);
  const lines = compareLineUp(cellOf(devices), found);
  expect(lines.map((l) => l.verdict)).toEqual(['right', 'wrong-revision', 'right', 'missing']);
  expect(lines[0]!.found[0]).toMatchObject({
    at: first.address,
    address: '10.97.40.2',
    addressFrom: 'stored',
    mask: '255.255.255.0',
    productName: devices[0]!.identity.productName,
  });
  expect(lines[0]!.found[0]!.mac).toMatch(/^02-FA(-[0-9A-F]{2}){4}$/);
});

test('two devices at one address are seen by their serial numbers', async () => {
  const devices = [climate(2)];
  (await stand(devices[0]!)).inject({ fault: 'duplicate-address' });
  expect(await verdicts(cellOf(devices))).toEqual([['u2', 'two-at-address']]);
});

test('a device at its factory address is given its own, and comes back there', async () => {
  const devices = [climate(2)];
  const cell = cellOf(devices);
  const standIn = await stand(devices[0]!);
  standIn.inject({ fault: 'factory-address', address: null });
  await until(async () => (await verdicts(cell))[0]![1] === 'factory-address');
  const at = benchAddress(factoryAddress);
  const order = { at, address: '10.97.40.2', then: benchAddress('10.97.40.2'), mask: '255.255.255.0' };
  const done = await setAddress({ ...order, gateway: '10.97.40.30', reach: onlyLoopback });
  expect(done).toHaveLength(4);
  expect(standIn.injected).toEqual([]);
  const { found } = await scanned();
  expect(compareLineUp(cell, found)[0]!.verdict).toBe('right');
  expect(found[0]).toMatchObject({ gateway: '10.97.40.30' });
});

test.each([
  ['0.0.0.0', /invalid|value/i],
  ['10.97.40.255', /invalid|value/i],
])('the address %s is refused by the device, which stays where it is', async (address, why) => {
  const devices = [climate(2)];
  const standIn = await stand(devices[0]!);
  const { address: at } = standIn;
  const order = { at, address, then: benchAddress(address), mask: '255.255.255.0', gateway: null };
  await expect(setAddress({ ...order, reach: onlyLoopback })).rejects.toThrow(why);
  expect(await verdicts(cellOf(devices))).toEqual([['u2', 'right']]);
});

describe.each(['bootp', 'dhcp'] as const)('a device that asks by %s', (method) => {
  test('gets what was chosen for it, forgets it at the next start, and keeps it once told to', async () => {
    const devices = [climate(2)];
    const cell = cellOf(devices);
    const standIn = await stand(devices[0]!);
    standIn.inject({ fault: 'asks-for-address', method });
    await until(() => standIn.address === '');
    const server = new AddressServer('127.97.40.1', onlyLoopback, () => undefined);
    await server.open();
    open.push(server);
    server.give([], 1);
    await until(() => server.state.heard.length > 0);
    const [heard] = server.state.heard;
    expect(heard).toMatchObject({ method, given: null });
    expect(await verdicts(cell)).toEqual([['u2', 'missing']]);

    server.give([{ mac: heard!.mac, address: '10.97.40.2', mask: '255.255.255.0', gateway: null }], 1);
    await until(async () => (await verdicts(cell))[0]![1] === 'asks');
    // Left as it is, it has no address after the next start.
    server.give([], 1);
    standIn.inject({ fault: 'power-cycled', offMs: 100 });
    await until(() => standIn.address === '');
    server.give([{ mac: heard!.mac, address: '10.97.40.2', mask: '255.255.255.0', gateway: null }], 1);
    await until(async () => (await verdicts(cell))[0]![1] === 'asks');
    await stopAsking(standIn.address, onlyLoopback);
    expect(await verdicts(cell)).toEqual([['u2', 'right']]);
    server.give([], 1);
    standIn.inject({ fault: 'power-cycled', offMs: 100 });
    await until(() => standIn.injected.length === 0);
    await until(async () => (await verdicts(cell))[0]![1] === 'right');
  });
});

test('where the network may be reached, the server listens there beside its own socket, and still answers here', async () => {
  // TEST-NET-1 of RFC 5737: no adapter stands there, so nothing is ever sent to it.
  const server = new AddressServer('127.97.40.1', new Reach(['192.0.2.0/24']), () => undefined);
  await server.open();
  server.give([], 1);
  expect(server.state).toMatchObject({ assignments: [], heard: [] });
  await server.close();
  // Closed, it holds no port.
  const again = new AddressServer('127.97.40.1', onlyLoopback, () => undefined);
  await again.open();
  await again.close();
});

test('the server ends by itself', async () => {
  let ended = false;
  const server = new AddressServer('127.97.40.1', onlyLoopback, () => (ended = true));
  await server.open();
  server.give([], 0.002);
  await until(() => ended);
  expect(server.state.leftMs).toBe(0);
});

test('a scan that is begun while another one runs takes its place: what was repaired meanwhile is seen', async () => {
  await stand(climate(9));
  const wire = new Wire(onlyLoopback);
  const start = (ranges: string[]) => wire.startScan({ ranges, ports: [502], planned: '10.97.40.1' });
  start([subnet]);
  const first = wire.status.scan!;
  expect(first.running).toBe(true);
  expect(() => start(['10.0.0.0/8'])).toThrow(expect.objectContaining({ code: 'scan.tooWide' }));
  start(['10.97.40.9']);
  await until(() => !wire.status.scan!.running);
  expect(wire.status.scan!.found.map((f) => f.address)).toEqual(['10.97.40.9']);
  await wire.stop();
});
