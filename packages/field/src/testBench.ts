import demo from '@fadenkreuz/demo/ripening-store-3.json' with { type: 'json' };
import { readCellFile, type Cell, type Device, type EthernetIpLink } from '@fadenkreuz/core';
import { afterEach, beforeEach, expect } from 'vitest';
import { Schedule } from './timing/schedule.js';
import { StandIn } from './standIns/standIn.js';

const demoCell = readCellFile(JSON.stringify(demo));

/**
 * For tests: the climate module of the demo in a cell of its own, at bench addresses that a running demo does not use.
 * `change` may alter a copy of its device and link.
 */
export function climateCell(change: (link: EthernetIpLink, device: Device) => void = () => undefined): Cell {
  const { devices, ...rest } = demoCell;
  const cell = structuredClone(rest);
  const device = structuredClone(devices.find((d) => d.id === 'u1')!);
  device.address = '10.99.40.71';
  // Quick, but with patience: a loaded test machine must not look like a lost connection.
  const link = device.links[0] as EthernetIpLink;
  Object.assign(link, { commandRpi: 20_000, feedbackRpi: 20_000, timeoutMultiplier: 64 });
  change(link, device);
  return {
    ...cell,
    id: 'test',
    controller: { ...cell.controller, address: '10.99.40.1' },
    network: { ...cell.network, subnet: '10.99.40.0/24', gateway: null, ranges: [] },
    // What stood around it is not there.
    machine: [],
    exchanges: [],
    devices: [device],
  };
}

/** The climate stand-in of a test, always with the same serial number; stands before each test and is gone after it. */
export function climateStandIn(): () => StandIn {
  let schedule: Schedule;
  let standIn: StandIn;
  beforeEach(async () => {
    schedule = new Schedule();
    standIn = new StandIn(climateCell().devices[0]!, { schedule, seed: 0x12345678 });
    await standIn.open();
  });
  afterEach(async () => {
    await standIn.close();
    schedule.stop();
  });
  return () => standIn;
}

/** A device of the demo at an address of its own. */
export function demoDevice(name: string, address: string): Device {
  return { ...structuredClone(demoCell.devices.find((d) => d.name === name)!), address };
}

/** What the climate module has put out, as somebody who stands before it would see it. */
export function climateSeen(standIn: StandIn | undefined) {
  const { outputs, analogue } = standIn!.seen as { outputs: boolean[]; analogue: number[] };
  const [heaterOn = false, , fanOn = false, flapOpen = false] = outputs;
  return { heaterOn, fanOn, flapOpen, heaterLevel: analogue[0] ?? 0 };
}

/** Waits until the condition holds; fails after `limitMs`. */
export const until = (condition: () => unknown, limitMs = 30_000): Promise<void> =>
  expect.poll(async () => Boolean(await condition()), { timeout: limitMs, interval: 10 }).toBe(true);
