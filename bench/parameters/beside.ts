import { spawn } from 'node:child_process';
import { once } from 'node:events';
import { setTimeout as pause } from 'node:timers/promises';
import { fileURLToPath } from 'node:url';
import { readCellFile, type Cell, type EthernetIpLink } from '@fadenkreuz/core';
import demo from '@fadenkreuz/demo/ripening-store-3.json' with { type: 'json' };
import { Bench } from '../../packages/field/src/bench/bench.js';
import { noTap, type Tap } from '../../packages/field/src/capture/tap.js';
import { devices } from './cell.js';
import { ours } from './ours.js';

/**
 * 50 connections at 10 ms, with and without passes over 2,000 parameters of ten other devices beside them, in turn. The
 * bench asks and its own stand-ins answer in this process; the ten stand in another one. Prints the 99th percentile of
 * the time between two packets of one connection, medians of the rounds, and their ratio.
 */
const rounds = 6;
const roundMs = 5000;
const connections = 50;

const all = readCellFile(JSON.stringify(demo));
const climate = all.devices.find((d) => d.name === 'climate_io_u1')!;
const cell: Cell = {
  ...all,
  controller: { ...all.controller, address: '10.96.41.1' },
  machine: [],
  exchanges: [],
  devices: Array.from({ length: connections }, (_, n) => {
    const [link] = structuredClone(climate.links) as [EthernetIpLink];
    const own = {
      ...link,
      id: `l${n}`,
      commandRpi: 10_000,
      feedbackRpi: 10_000,
      timeoutMultiplier: 64,
    } as const;
    own.command.id = `c${n}`;
    own.feedback.id = `f${n}`;
    return { ...climate, id: `u${n}`, name: `module_${n}`, address: `10.96.41.${10 + n}`, links: [own] };
  }),
};

/** Times between packets of one direction, ms. */
let between: number[] = [];
const last = new Map<string, number>();
const tap: Tap = {
  ...noTap,
  listens: true,
  udp: (from, to) => {
    const now = performance.now();
    const key = `${from.address} ${to.address}`;
    const before = last.get(key);
    if (before !== undefined) between.push(now - before);
    last.set(key, now);
  },
};

const target = spawn(process.execPath, [fileURLToPath(new URL('standIns.js', import.meta.url))], {
  stdio: ['pipe', 'pipe', 'inherit'],
});
await once(target.stdout, 'data');
const bench = new Bench(cell, { tap });
await bench.start();
await pause(3000);

const pass = ours(devices);
const sides = { without: [] as number[], beside: [] as number[] };
let passes = 0;
for (let round = 0; round < rounds; round += 1)
  for (const side of ['without', 'beside'] as const) {
    last.clear();
    between = [];
    const until = performance.now() + roundMs;
    if (side === 'without') await pause(roundMs);
    else
      while (performance.now() < until) {
        await pass();
        passes += 1;
      }
    between.sort((a, b) => a - b);
    sides[side].push(between[Math.floor(between.length * 0.99)]!);
  }
const median = (values: number[]) => values.sort((a, b) => a - b)[values.length >> 1]!;
const [without, beside] = [median(sides.without), median(sides.beside)];
console.log(
  `${connections} connections at 10 ms: p99 ${without.toFixed(2)} ms without, ${beside.toFixed(2)} ms beside ` +
    `${Math.round(passes / rounds)} passes of 2,000 in ${roundMs / 1000} s (${(beside / without).toFixed(2)})`,
);
await bench.stop();
target.stdin.end();
process.exit(0);
