import { capturedBytes, linkBudget } from '@fadenkreuz/core';
import { mkdtemp } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { expect, test } from 'vitest';
import { CaptureFile } from '../capture/captureFile.js';
import { climateCell, demoDevice, until } from '../testBench.js';
import { tsharkFields } from '../tshark.js';
import { Bench } from './bench.js';

test('the frames that a link was reckoned to send are those of a capture, byte for byte, as often as it sends (tshark)', async () => {
  const path = join(await mkdtemp(join(tmpdir(), 'fadenkreuz-')), 'budget.pcapng');
  const tap = new CaptureFile(path);
  const cell = climateCell();
  const bench = new Bench(cell, { tap });
  await bench.start();
  await until(() => bench.report()[0]!.received > 60);
  await bench.stop();
  await tap.close();
  const budget = linkBudget(cell.devices[0]!.links[0]!, 10)!;
  const seen = tsharkFields(path, 'udp.port == 2222', ['ip.src', 'frame.len', 'frame.time_relative']);
  const from = (address: string) => seen.filter((f) => f['ip.src'] === address);
  for (const [address, { payload, packetsPerSecond }] of [
    ['127.99.40.1', budget.command],
    ['127.99.40.71', budget.feedback],
  ] as const) {
    const frames = from(address);
    expect(new Set(frames.map((f) => Number(f['frame.len'])))).toEqual(new Set([capturedBytes(payload)]));
    const times = frames.map((f) => Number(f['frame.time_relative']));
    // The median interval, for a shared machine leaves some packets out.
    const gaps = times
      .slice(1)
      .map((t, i) => t - times[i]!)
      .sort((a, b) => a - b);
    const median = gaps[gaps.length >> 1]!;
    expect(Math.abs(median * packetsPerSecond - 1)).toBeLessThan(0.01);
  }
});

test('questions and answers of polled links and of register blocks have the sizes that were reckoned (tshark)', async () => {
  const path = join(await mkdtemp(join(tmpdir(), 'fadenkreuz-')), 'asked.pcapng');
  const tap = new CaptureFile(path);
  const devices = [
    demoDevice('gripper_valves_q1', '10.99.40.45'),
    demoDevice('brine_pump_m2', '10.99.40.91'),
  ];
  const bench = new Bench({ ...climateCell(), devices }, { tap });
  await bench.start();
  await until(() => bench.report().every((l) => l.received > 30 && l.sent > 10));
  await bench.stop();
  await tap.close();
  for (const device of devices) {
    const { command, feedback } = linkBudget(device.links[0]!, 10);
    const bench = device.address.replace(/^10/, '127');
    const sizes = (filter: string) => {
      const seen = tsharkFields(path, `tcp.len > 0 and ${filter}`, ['tcp.len']).map((f) =>
        Number(f['tcp.len']),
      );
      const counts = new Map<number, number>();
      for (const size of seen) counts.set(size, (counts.get(size) ?? 0) + 1);
      // What came a few times only belongs to opening, probing and closing.
      return [...counts].filter(([, count]) => count > 5).map(([size]) => size);
    };
    expect(Math.max(...sizes(`ip.dst == ${bench}`))).toBe(command.payload);
    expect(sizes(`ip.src == ${bench}`)).toContain(feedback.payload);
  }
});
