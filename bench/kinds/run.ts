import demo from '@fadenkreuz/demo/ripening-store-3.json' with { type: 'json' };
import { readCellFile, type Cell } from '@fadenkreuz/core';
import { Bench } from '../../packages/field/src/bench/bench.js';
import {
  bitsFirst,
  ethernetIpLink,
  handMade,
  kindsByRoles,
  modbusLink,
  numbersFirst,
} from '../../packages/field/src/standIns/testKinds.js';

/**
 * So many devices of all kinds, each with its link at 20 ms, half of them over Modbus, in one process as the agent runs
 * it: how long they take to stand, what they take of a core, and how even the intervals are; beside the same devices
 * without roles, which only stand there. In turn, in one run.
 *
 *   npm run kinds -w bench -- [DEVICES] [SECONDS] [ROUNDS] [mixed|ethernet-ip|modbus-tcp]
 */
const [count = 200, seconds = 10, rounds = 3] = process.argv.slice(2, 5).map(Number);
const share = process.argv[5] ?? 'mixed';

function cellOf(acting: boolean): Cell {
  const base = readCellFile(JSON.stringify(demo));
  const devices = Array.from({ length: count }, (_, i) => {
    const { kind, commands, answers } = kindsByRoles[i % kindsByRoles.length]!;
    const link = (share === 'mixed' ? (i >> 4) % 2 === 0 : share === 'ethernet-ip')
      ? ethernetIpLink([bitsFirst(commands), bitsFirst(answers)])
      : modbusLink([numbersFirst(commands), numbersFirst(answers)]);
    const subnet = `10.62.${1 + Math.floor(i / 200)}`;
    const device = handMade(acting ? kind : 'other', subnet, 10 + (i % 200), link);
    return { ...device, id: `x${i}`, name: `unit_x${i}` };
  });
  return {
    ...base,
    controller: { ...base.controller, address: '10.62.0.1' },
    network: { ...base.network, subnet: '10.62.0.0/16', gateway: null, ranges: [] },
    machine: [],
    exchanges: [],
    devices,
  };
}

const median = (values: number[]): number => values.sort((a, b) => a - b)[values.length >> 1] ?? NaN;
const pause = (ms: number) => new Promise((resolve) => setTimeout(resolve, ms));

/** Starts the bench on a cell and lets it run. */
async function run(cell: Cell): Promise<string> {
  const bench = new Bench(cell);
  const from = performance.now();
  await bench.start();
  const standing = performance.now() - from;
  const isOpen = () => bench.report().filter(({ state }) => state === 'open').length;
  while (isOpen() < count && performance.now() - from < 30_000) await pause(20);
  const opening = performance.now() - from;
  // What is used most is still being compiled in the first seconds.
  await pause(3000);
  const before = process.cpuUsage();
  const measuredFrom = performance.now();
  await pause(seconds * 1000);
  const { user, system } = process.cpuUsage(before);
  const cpu = (user + system) / 1000 / (performance.now() - measuredFrom);
  const links = bench.report();
  const of = (key: 'p50' | 'p99') => median(links.flatMap((l) => l.intervals?.[key] ?? []));
  const open = isOpen();
  await bench.stop();
  return (
    `stand after ${(standing / 1000).toFixed(2)} s, all links open after ${(opening / 1000).toFixed(2)} s (${open}); ` +
    `${(cpu * 100).toFixed(0)} % of a core; interval p50 ${of('p50').toFixed(2)} ms, p99 ${of('p99').toFixed(2)} ms`
  );
}

for (let round = 0; round < rounds; round += 1)
  for (const [name, acting] of [
    ['by roles', true],
    ['described only', false],
  ] as const)
    console.log(`${count} ${name}: ${await run(cellOf(acting))}`);
process.exit(0);
