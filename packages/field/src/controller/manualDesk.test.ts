import { stoppingOf, DriveTrain, linkBudget, type Cell, type Device } from '@fadenkreuz/core';
import { afterEach, describe, expect, test } from 'vitest';
import { Bench } from '../bench/bench.js';
import { handMade, kindsByRoles, bitsFirst, modbusLink } from '../standIns/testKinds.js';
import { climateCell, demoDevice, until } from '../testBench.js';
import { holdLimitMs } from './manualDesk.js';

let bench: Bench | undefined;
let keeper: NodeJS.Timeout | undefined;
afterEach(async () => {
  clearInterval(keeper);
  await bench?.stop();
  bench = undefined;
});

async function started(device: Device): Promise<Bench> {
  const cell: Cell = { ...climateCell(), devices: [device], exchanges: [] };
  const one = new Bench(cell);
  bench = one;
  await one.start();
  await one.allow();
  await until(() => one.report().every((l) => l.state === 'open' && l.received > 2));
  return one;
}
const status = () => bench!.manual.statuses[0]!;
const moves = () => bench!.report()[0]!.side!.moves!;
/** Somebody holds until `letGo`. */
function hold(device: Device, holder = 'me'): void {
  keeper = setInterval(() => bench!.manual.hold(device.id, holder), 40);
}
/** What an axis knows of itself. */
const axisOf = (device: Device) =>
  (bench!.standInOf(device.id)!.seen as { hangs: { position: number; velocity: number } }).hangs;
const pause = (ms: number) => new Promise((resolve) => setTimeout(resolve, ms));

/** An axis of the demo with patience, and one that is not in the demo, on Modbus in a layout of its own. */
const lift = (): Device => {
  const device = demoDevice('rack_lift_a1', '10.99.40.31');
  return { ...device, links: device.links.map((l) => ({ ...l, timeoutMultiplier: 64 }) as typeof l) };
};
const pump = (): Device => {
  const { kind, commands, answers } = kindsByRoles.find((k) => k.kind === 'variable-speed drive')!;
  return handMade(kind, '10.99.40', 61, modbusLink([bitsFirst(commands), bitsFirst(answers)]));
};

describe('moves by hand', () => {
  test('a drive on Modbus that is not in the demo: both ways, as long as somebody holds', async () => {
    const device = pump();
    await started(device);
    for (const speed of [5, -5]) {
      hold(device);
      bench!.manual.begin(device.id, 'me', { kind: 'jog', speed });
      await until(() => Math.abs(moves()) > 1);
      expect(Math.sign(moves())).toBe(Math.sign(speed));
      bench!.manual.letGo(device.id, 'it was let go');
      clearInterval(keeper);
      await until(() => status().wireMs !== null);
      const { wireMs, state, reason } = status();
      expect([state, reason]).toEqual(['at rest', 'it was let go']);
      // A question every 100 ms: two of them at most, and some patience for a busy computer.
      expect(wireMs).toBeLessThan(2 * 100 + 100);
      await until(() => moves() === 0);
    }
    expect(bench!.trace.since(0).filter(({ event }) => event.what === 'moved')).toHaveLength(2);
  });

  test('an axis: homed, stepped, sent to a position, and jogged; nobody else may', async () => {
    const device = lift();
    await started(device);
    const at = () => axisOf(device);
    hold(device);
    bench!.manual.begin(device.id, 'me', { kind: 'jog', speed: 40 });
    await until(() => status().state === 'failed');
    expect(status().reason).toMatch(/not homed/);
    bench!.manual.begin(device.id, 'me', { kind: 'home', speed: 100 });
    await until(() => status().state === 'at rest');
    expect(status().reason).toBe('arrived');
    bench!.manual.begin(device.id, 'me', { kind: 'go to', position: 30, speed: 200 });
    await until(() => status().state === 'at rest');
    expect(at().position).toBeCloseTo(30, 3);
    bench!.manual.begin(device.id, 'me', { kind: 'step', distance: -12.5, speed: 200 });
    expect(() => bench!.manual.begin(device.id, 'you', { kind: 'jog', speed: 40 })).toThrow(/somebody else/);
    await until(() => status().state === 'at rest');
    expect(at().position).toBeCloseTo(17.5, 3);
    // Faster than a person may by its train, 100 mm/s: it is held to that.
    bench!.manual.begin(device.id, 'me', { kind: 'jog', speed: 5000 });
    await until(() => moves() > 99);
    expect(moves()).toBeLessThanOrEqual(100);
    bench!.manual.letGo(device.id, 'it was let go');
    await until(() => moves() === 0);
  });

  test('who falls silent, loses the permission or the link, does not move it any more', async () => {
    const device = pump();
    await started(device);
    // Nobody says that he still holds.
    bench!.manual.begin(device.id, 'me', { kind: 'jog', speed: 5 });
    const begun = performance.now();
    await until(() => status().state === 'at rest');
    expect(performance.now() - begun).toBeGreaterThan(holdLimitMs - 20);
    expect(status().reason).toMatch(/nobody holds/);
    hold(device);
    bench!.manual.begin(device.id, 'me', { kind: 'jog', speed: 5 });
    await until(() => moves() > 1);
    await bench!.forbid();
    expect(status().reason).toMatch(/not allowed/);
    await until(() => moves() === 0);
    await bench!.allow();
    bench!.manual.begin(device.id, 'me', { kind: 'jog', speed: 5 });
    await until(() => moves() > 1);
    bench!.inject(device.id, { fault: 'cable-pulled' });
    await until(() => status().state === 'failed');
    expect(status().reason).toMatch(/not connected|no open|open/);
    expect(() => bench!.manual.begin('gone', 'me', { kind: 'jog', speed: 1 })).toThrow();
  });
});

test('the command to rest does not wait for its turn', async () => {
  const device = pump();
  const links = device.links.map((l) =>
    'blocks' in l ? { ...l, blocks: l.blocks.map((b) => ({ ...b, poll: 400_000 })) } : l,
  );
  await started({ ...device, links });
  hold(device);
  for (const speed of [5, -5, 5]) {
    bench!.manual.begin(device.id, 'me', { kind: 'jog', speed });
    await until(() => Math.abs(moves()) > 1);
    bench!.manual.letGo(device.id, 'it was let go');
    await until(() => status().wireMs !== null);
    // A turn comes every 400 ms.
    expect(status().wireMs).toBeLessThan(100);
    await until(() => moves() === 0);
  }
});

/** How far an axis at 200 mm/s goes on once its cable is pulled, mm. */
async function goesOn(device: Device): Promise<number> {
  await started(device);
  const seen = () => axisOf(device);
  hold(device);
  bench!.manual.begin(device.id, 'me', { kind: 'home', speed: 100 });
  await until(() => status().state === 'at rest');
  bench!.manual.begin(device.id, 'me', { kind: 'jog', speed: 200 });
  await until(() => seen().velocity > 199.9);
  await pause(100);
  const from = seen().position;
  bench!.inject(device.id, { fault: 'cable-pulled' });
  const pulled = seen().position;
  await until(() => seen().velocity === 0 && seen().position > pulled, 10_000);
  const gone = seen().position - from;
  clearInterval(keeper);
  await bench!.stop();
  return gone;
}

test('a cable that is pulled: the axis stops where that was predicted, within one update time', async () => {
  const train = DriveTrain.parse({ quickStop: 800 });
  const device = { ...demoDevice('rack_lift_a1', '10.99.40.31'), train };
  const { lossNoticed, command } = linkBudget(device.links[0]!, 10);
  const { distance } = stoppingOf(200, 800, lossNoticed);
  // The last packet came up to one update before, and the stand-in works in steps of 20 ms.
  const updateMs = 1000 / command.packetsPerSecond;
  const may = (200 * (updateMs + 20)) / 1000;
  // A busy computer looks at the clock late and the axis goes further, never less far.
  let gone: number;
  let tries = 0;
  do {
    gone = await goesOn(device);
    expect(gone).toBeGreaterThanOrEqual(distance - may);
  } while (gone > distance + may && (tries += 1) < 5);
  expect(gone).toBeLessThanOrEqual(distance + may);
});
