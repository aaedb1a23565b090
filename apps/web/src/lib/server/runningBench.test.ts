import { readFileSync } from 'node:fs';
import { Problem, readCellFile } from '@fadenkreuz/core';
import type { BenchStatus } from '@fadenkreuz/field/agent-api';
import { beforeEach, expect, test, vi } from 'vitest';
import { RunningBench } from './runningBench.js';

const cell = readCellFile(
  readFileSync(new URL('../../../../../demo/ripening-store-3.json', import.meta.url), 'utf8'),
);
let version: number;
let told: string[];
/** What happens while the agent is at a request. */
let meanwhile: () => unknown;
/** What the agent says that it runs. */
let running: BenchStatus['bench'];
const agent = {
  last: undefined as BenchStatus | undefined,
  request: async (method: string, path: string, body?: unknown) => {
    told.push(`${method} ${path} ${(body as { version?: number } | undefined)?.version ?? ''}`.trim());
    await meanwhile();
    return {} as BenchStatus;
  },
  runs: async () => {
    await meanwhile();
    return running;
  },
};
const stored = () => ({ cell, version });
const change = () => ({
  cell,
  change: { version, id: 'x', edit: { edit: 'cell.set', set: { name: 'N' } } as const },
});
let bench: RunningBench;

beforeEach(() => {
  version = 1;
  told = [];
  meanwhile = () => undefined;
  agent.last = undefined;
  running = null;
  bench = new RunningBench(agent, () => Promise.resolve(stored()));
});

test('a change that is stored while the bench starts reaches it', async () => {
  meanwhile = async () => {
    meanwhile = () => undefined;
    version = 2;
    await bench.changed(change());
  };
  await bench.start(cell.id);
  expect(told).toEqual(['POST /bench 1', 'PUT /bench 2']);
});

test('a change reaches a bench of whose start no news has come yet', async () => {
  await bench.start(cell.id);
  version = 2;
  await bench.changed(change());
  expect(told).toEqual(['POST /bench 1', 'POST /bench/edit 2']);
});

test('a bench that was running before this server is told too; one of another cell is not', async () => {
  agent.last = { bench: { cell: cell.id } } as BenchStatus;
  await bench.changed(change());
  agent.last = { bench: { cell: 'another' } } as BenchStatus;
  await bench.changed(change());
  expect(told).toEqual(['POST /bench/edit 1']);
});

test('nothing is told after the stop; an agent that is away does not make the change fail', async () => {
  await bench.start(cell.id);
  await bench.stop();
  await bench.changed(change());
  expect(told).toEqual(['POST /bench 1', 'DELETE /bench']);
  agent.last = { bench: { cell: cell.id } } as BenchStatus;
  meanwhile = () => Promise.reject(new Error('the agent is away'));
  const log = vi.spyOn(console, 'error').mockImplementation(() => undefined);
  await bench.changed(change());
  expect(log).toHaveBeenCalledWith('the agent is away');
  log.mockRestore();
});

test('a bench that has another version is given the whole cell', async () => {
  await bench.start(cell.id);
  version = 5;
  meanwhile = () => {
    meanwhile = () => undefined;
    throw new Problem('bench.otherVersion', { asked: 4, has: 1 });
  };
  await bench.changed(change());
  expect(told).toEqual(['POST /bench 1', 'POST /bench/edit 5', 'PUT /bench 5']);
});

test('what runs is asked of the agent: its last news may be older than a stop', async () => {
  agent.last = { bench: { cell: cell.id } } as BenchStatus;
  expect(await bench.runs(cell.id)).toBe(false);
  running = { cell: cell.id, version: 1, run: true };
  expect([await bench.runs(cell.id), await bench.runs('another')]).toEqual([true, false]);
  meanwhile = () => Promise.reject(new Problem('agent.away', { reason: 'it has ended' }));
  expect(await bench.runs(cell.id)).toBe(false);
});
