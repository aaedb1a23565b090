import { spawn, type ChildProcess } from 'node:child_process';
import { once } from 'node:events';
import { readFileSync } from 'node:fs';
import { dirname, join } from 'node:path';
import { createInterface } from 'node:readline';
import type { Result, Side } from './measure.js';

/**
 * A core each: Linux at times puts both on one for some ms while the other stands still, and who sends in bursts waits
 * the longer.
 */
const cores = { target: '0', originator: '1' } as const satisfies Record<Side, string>;
/** All that is run lies in one folder once built; this module may be bundled elsewhere. */
const here = dirname(process.argv[1]!);
/** Ours runs as the agent and the command line do; the limit as Node comes. */
const flags = readFileSync(join(here, '../../../packages/field/node.flags'), 'utf8').trim().split(/\s+/);
export type Script = 'ours.js' | 'limit.js';
/** Connections to one stand-in: its owner, and controllers that take its feedback and send heartbeats. */
export const perStandIn = Number(process.env['PER_STAND_IN'] ?? 5);

async function begin(
  script: Script,
  side: Side,
  count: number,
  seconds: number,
  devices: number,
): Promise<{ child: ChildProcess; result: Promise<Result> }> {
  const child = spawn(
    'taskset',
    [
      ...['-c', cores[side], process.execPath],
      ...(script === 'ours.js' ? flags : []),
      ...[join(here, script), side, String(count), String(seconds), String(devices)],
    ],
    { stdio: ['pipe', 'pipe', 'inherit'] },
  );
  const lines = createInterface({ input: child.stdout! });
  const ended = once(child, 'exit').then(([code]) => {
    throw new Error(`${script} ${side} ended with ${code} before it had a result`);
  });
  const line = () => Promise.race([once(lines, 'line') as Promise<[string]>, ended]);
  await line();
  const result = line().then(([text]) => JSON.parse(text) as Result);
  return { child, result };
}

/** Both halves of one measurement over so many seconds; the originator's result, with the CPU of both. */
export async function measure(
  script: Script,
  count: number,
  seconds: number,
  devices = 1,
): Promise<Result & { targetCpu: number }> {
  const target = await begin(script, 'target', count, seconds, devices);
  const originator = await begin(script, 'originator', count, seconds, devices);
  for (const { child } of [target, originator]) child.stdin!.write('go\n');
  const own = await originator.result;
  target.child.stdin!.write('done\n');
  const other = await target.result;
  for (const { child } of [target, originator]) if (child.exitCode === null) child.kill();
  return { ...own, targetCpu: other.cpu };
}
