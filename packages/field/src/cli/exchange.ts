import { setTimeout as pause } from 'node:timers/promises';
import { devicesOf, Problem, type Cell, type Exchange, type Plain } from '@fadenkreuz/core';
import { Bench } from '../bench/bench.js';
import type { ExchangeEnded } from '../controller/exchangeDesk.js';
import { Reach } from '../wire/reach.js';
import { cellOf } from './cellArgument.js';
import { exitCodes, print } from './output.js';

export interface ExchangeCommand {
  json?: boolean;
  times?: number;
  set?: string[];
  reach?: string[];
}

/** Links that do not stand by then will not, ms. */
const openWithinMs = 20_000;
const lookMs = 20;

/**
 * Runs an exchange on the devices of a cell, which are simulated where they cannot be reached; a line a run. Without a
 * name it lists the exchanges.
 */
export async function runExchange(
  argument: string,
  name: string | undefined,
  { json = false, times = 1, set = [], reach = [] }: ExchangeCommand,
): Promise<number> {
  const cell = await cellOf(argument);
  if (name === undefined) {
    for (const exchange of cell.exchanges) print(json, ...listed(cell, exchange));
    return exitCodes.done;
  }
  const exchange = cell.exchanges.find((e) => e.name === name || e.id === name);
  if (!exchange)
    throw new Problem('exchange.unknown', {
      exchange: name,
      known: cell.exchanges.map((e) => e.name).join(', '),
    });
  const given = Object.fromEntries(set.map((entry) => valueOf(exchange, entry)));
  const own = new Set(devicesOf(exchange));
  const bench = new Bench(cell, { reach: new Reach(reach) });
  await bench.start();
  try {
    await bench.allow();
    await opened(bench, own);
    let good = true;
    // A failed run ends the series on a bench; here each has its own turn.
    for (let run = 1; run <= times; run += 1) {
      bench.exchanges.run(exchange.id, { times: 1, given, byStep: false });
      while (bench.exchanges.story(exchange.id)?.status.state === 'running') await pause(lookMs);
      const [ended] = bench.exchanges.story(exchange.id)?.ended.slice(-1) ?? [];
      good &&= ended?.state === 'done';
      if (ended) print(json, ...lineOf(exchange, { ...ended, run }));
    }
    return good ? exitCodes.done : exitCodes.findings;
  } finally {
    await bench.stop();
  }
}

/** `speed=12.5` as a variable of the exchange. */
function valueOf({ name, variables }: Exchange, entry: string): [string, Plain] {
  const [key = '', ...rest] = entry.split('=');
  const variable = variables.find((v) => v.name === key);
  const text = rest.join('=');
  if (!variable) throw new Problem('exchange.variableUnknown', { exchange: name, step: '', variable: key });
  if (variable.type === 'text') return [key, text];
  if (variable.type === 'bit') return [key, text === '1' || text === 'true'];
  if (text === '' || Number.isNaN(Number(text)))
    throw new Problem('input.invalid', { where: key, reason: `${text} is no number` });
  return [key, Number(text)];
}

/** Waits until the links of these devices stand. Throws `bench.noOpenLink`. */
async function opened(bench: Bench, devices: ReadonlySet<string>): Promise<void> {
  const until = performance.now() + openWithinMs;
  const open = () => bench.report().filter((l) => devices.has(l.device));
  while (open().some((l) => l.state !== 'open')) {
    if (performance.now() > until) {
      const silent = open().find((l) => l.state !== 'open')!;
      const device = bench.designed.devices.find((d) => d.id === silent.device)!;
      throw new Problem('bench.noOpenLink', { device: device.name });
    }
    await pause(lookMs);
  }
}

function listed({ devices }: Cell, exchange: Exchange): [object, string] {
  const { name, steps, variables } = exchange;
  const own = devicesOf(exchange).map((id) => devices.find((d) => d.id === id)?.name ?? id);
  return [
    { exchange: name, devices: own, steps: steps.length, variables },
    `${name}: ${steps.length} steps, ${own.join(', ')}`,
  ];
}

function lineOf(
  exchange: Exchange,
  { state, failure, steps, results, ms, run }: ExchangeEnded,
): [object, string] {
  const title = (at: number | null) => (at === null ? 'precondition' : (exchange.steps[at]?.title ?? ''));
  const waits = steps.map(({ step, began, ended, late }) => ({
    step: title(step),
    ms: round(ended - began),
    late,
  }));
  const failed = failure && { step: title(failure.step), reason: failure.reason };
  const own = Object.fromEntries(
    exchange.variables.flatMap((v) =>
      v.result && results[v.name] !== undefined ? [[v.name, results[v.name]]] : [],
    ),
  );
  return [
    { exchange: exchange.name, run, state, failed, ms: round(ms), steps: waits, results: own },
    `${exchange.name}: ${state} in ${round(ms)} ms` +
      (failed ? `; ${failed.step}: ${failed.reason}` : '') +
      waits.map((w) => `\n  ${w.step}: ${w.ms} ms${w.late ? ', late' : ''}`).join(''),
  ];
}
const round = (ms: number): number => Math.round(ms * 10) / 10;
