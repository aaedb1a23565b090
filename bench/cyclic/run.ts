import { spawn, type ChildProcess } from 'node:child_process';
import { once } from 'node:events';
import { readFileSync } from 'node:fs';
import { fileURLToPath } from 'node:url';
import { createInterface } from 'node:readline';
import { median, type Result, type Side } from './measure.js';

/**
 * N EtherNet/IP connections at 10 ms each way, beside the bare limit of the same machine, in turn and in one run: only the
 * ratios count.
 *
 *   npm run cyclic -w bench -- [SECONDS] [ROUNDS]
 */
const seconds = Number(process.argv[2] ?? 10);
const rounds = Number(process.argv[3] ?? 3);
const counts = [50, 250, 500];
/** A core each: Linux at times puts both on one for some ms while the other stands still, and who sends in bursts waits the longer. */
const cores = { target: '0', originator: '1' } as const satisfies Record<Side, string>;
/** Ours runs as the agent and the command line do; the limit as Node comes. */
const flags = readFileSync(new URL('../../../packages/field/node.flags', import.meta.url), 'utf8')
  .trim()
  .split(/\s+/);

async function begin(
  script: string,
  side: Side,
  count: number,
): Promise<{ child: ChildProcess; result: Promise<Result> }> {
  const path = fileURLToPath(new URL(script, import.meta.url));
  const child = spawn(
    'taskset',
    [
      ...['-c', cores[side], process.execPath],
      ...(script === './ours.js' ? flags : []),
      ...[path, side, String(count), String(seconds)],
    ],
    { stdio: ['pipe', 'pipe', 'inherit'] },
  );
  const lines = createInterface({ input: child.stdout! });
  await once(lines, 'line');
  const result = once(lines, 'line').then(([line]) => JSON.parse(line as string) as Result);
  return { child, result };
}

/** Both halves of one measurement; the originator's result, with the CPU of both. */
async function measure(script: string, count: number): Promise<Result & { targetCpu: number }> {
  const target = await begin(script, 'target', count);
  const originator = await begin(script, 'originator', count);
  for (const { child } of [target, originator]) child.stdin!.write('go\n');
  const own = await originator.result;
  target.child.stdin!.write('done\n');
  const other = await target.result;
  for (const { child } of [target, originator]) if (child.exitCode === null) child.kill();
  return { ...own, targetCpu: other.cpu };
}

for (const count of counts) {
  const ratios: { delivered: number; p50: number; p99: number; timedOut: number }[] = [];
  for (let round = 0; round < rounds; round += 1) {
    const limit = await measure('./limit.js', count);
    const ours = await measure('./ours.js', count);
    ratios.push({
      delivered: ours.received / limit.received,
      p50: ours.p50 / limit.p50,
      p99: ours.p99 / limit.p99,
      timedOut: ours.timedOut,
    });
    for (const [name, r] of [
      ['limit', limit],
      ['ours', ours],
    ] as const)
      console.log(
        `${count} ${name}: received ${r.received}, deviation p50 ${r.p50.toFixed(3)} ms, p99 ${r.p99.toFixed(2)} ms, timed out ${r.timedOut}, CPU originator ${(r.cpu * 100).toFixed(0)} %, target ${(r.targetCpu * 100).toFixed(0)} %`,
      );
  }
  const of = (key: keyof (typeof ratios)[0]) => median(ratios.map((r) => r[key]));
  console.log(
    `${count}: delivered ${of('delivered').toFixed(3)} × limit, p50 ${of('p50').toFixed(2)} ×, p99 ${of('p99').toFixed(2)} ×, timed out ${Math.max(...ratios.map((r) => r.timedOut))}`,
  );
}
