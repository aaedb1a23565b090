import { faultKey, traceText } from '@fadenkreuz/core';
import { Bench } from '../bench/bench.js';
import type { LinkReport } from '../bench/report.js';
import { CaptureFile } from '../capture/captureFile.js';
import { Reach } from '../wire/reach.js';
import { cellOf } from './cellArgument.js';
import { faultOf, type PlannedFault } from './faultArgument.js';
import { exitCodes, print, wait } from './output.js';

export interface BenchCommand {
  json?: boolean;
  for: number;
  capture?: string;
  fault?: PlannedFault[];
  reach?: string[];
}

const ms = (value: number | null | undefined) =>
  value === undefined || value === null ? null : Math.round(value * 1000) / 1000;

/**
 * Runs stand-ins and originator for a time, with the faults that are planned; prints the trace and a line per
 * connection at the end.
 */
export async function runBench(argument: string, options: BenchCommand): Promise<number> {
  const { json = false, for: seconds, capture, fault: planned = [], reach = [] } = options;
  const cell = await cellOf(argument);
  const faults = planned.map((plan) => ({ plan, ...faultOf(cell, plan) }));
  const file = capture === undefined ? undefined : new CaptureFile(capture);
  const nameOf = (id: string | null) => cell.devices.find((d) => d.id === id)?.name ?? null;
  const bench = new Bench(cell, {
    ...(file ? { tap: file } : {}),
    reach: new Reach(reach),
    onTrace: ({ at, device, event }) => {
      // What every start brings is no news on the command line.
      if (faults.length === 0) return;
      const line = { trace: event.what, at: new Date(at).toISOString(), device: nameOf(device), ...event };
      print(json, line, `${line.at} ${line.device ?? 'bench'}: ${traceText(event)}`);
    },
  });
  await bench.start();
  const timers = faults.flatMap(({ plan, device, fault }) => [
    setTimeout(() => bench.inject(device.id, fault), plan.from * 1000),
    ...(plan.to === undefined
      ? []
      : [setTimeout(() => bench.clear(device.id, faultKey(fault)), plan.to * 1000)]),
  ]);
  await wait(seconds);
  timers.forEach(clearTimeout);
  const links = bench.report().filter((l) => l.state !== 'no-stand-in');
  await bench.stop();
  await file?.close();
  for (const link of links) print(json, ...lineOf(nameOf(link.device)!, link));
  return links.every((l) => l.state === 'open' && l.lost === 0) ? exitCodes.done : exitCodes.findings;
}

function lineOf(device: string, link: LinkReport): [object, string] {
  const { state, sent, received, lost, late, doubled, timeouts, reconnects, causes } = link;
  const interval = {
    expected: ms(link.expectedMs),
    p50: ms(link.intervals?.p50),
    p99: ms(link.intervals?.p99),
    p999: ms(link.intervals?.p999),
  };
  const facts = { sent, received, lost, late, doubled, interval, timeouts, reconnects };
  const where = { address: link.address, port: link.port };
  const reasons = [
    ...(link.reason ? [`${link.reason.says} ${link.reason.cure}`] : []),
    ...causes.map(({ title, evidence, next }) => `${title} (${evidence.join('; ')}). ${next}`),
  ];
  return [
    { device, link: link.link, ...where, state, ...facts, reason: link.reason, causes },
    `${device}: ${state}; sent ${sent}, received ${received}, lost ${lost}; interval ${interval.p50} ms (99 %: ${interval.p99}, 99.9 %: ${interval.p999}); timeouts ${timeouts}, reconnects ${reconnects}` +
      reasons.map((r) => `\n  ${r}`).join(''),
  ];
}
