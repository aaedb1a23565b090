import { setTimeout as sleep } from 'node:timers/promises';
import { median, warmUpMs } from './measure.js';
import { measure } from './sides.js';

/**
 * How long the pages of a running Fadenkreuz take while 250 connections run beside it on the same cores, and without
 * them. Start it with `./start --reset-demo`, and its bench, first.
 *
 *   npm run pages -w bench -- [URL] [ROUNDS]
 */
// As the start prints it, with its token.
const { origin: url, searchParams } = new URL(process.argv[2] ?? 'http://127.0.0.1:8470');
const headers = { authorization: `Bearer ${searchParams.get('token') ?? ''}` };
const rounds = Number(process.argv[3] ?? 10);
const connections = 250;
const allowedMs = 100;
/** Between two pages, as a person would leave it, so that the pages do not stand in each other's way. */
const pauseMs = 100;

async function fetched(path: string): Promise<string> {
  const response = await fetch(url + path, { headers });
  const text = await response.text();
  if (!response.ok) throw new Error(`${url}${path} answered ${response.status}: ${text.slice(0, 200)}`);
  return text;
}

const [cell] = JSON.parse(await fetched('/api/cells')) as { id: string }[];
if (!cell) throw new Error(`${url} has no cell; start it with ./start --reset-demo`);
const views = ['line-up', 'line-up/reticle', 'sight', 'sight/table', 'bench', 'hand-over'].map(
  (view) => `/cells/${cell.id}/${view}`,
);

/** Asks for each view once a round until `over` is true, and says how long they took. */
async function ask(title: string, over: () => boolean): Promise<void> {
  const times: { path: string; ms: number }[] = [];
  while (!over())
    for (const path of views) {
      const startedAt = performance.now();
      await fetched(path);
      times.push({ path, ms: performance.now() - startedAt });
      await sleep(pauseMs);
    }
  const slow = times.filter((t) => t.ms >= allowedMs);
  console.log(
    `${title}: ${times.length} pages, median ${median(times.map((t) => t.ms)).toFixed(0)} ms, slowest ${Math.max(...times.map((t) => t.ms)).toFixed(0)} ms, ${slow.length} at ${allowedMs} ms or more`,
  );
  for (const { path, ms } of slow) console.log(`  ${path}: ${ms.toFixed(0)} ms`);
}

for (const path of views) await fetched(path);
let left = rounds;
await ask('alone', () => left-- === 0);
let ended = false;
const seconds = Math.ceil((rounds * views.length * (pauseMs + allowedMs)) / 1000);
const cyclic = measure('ours.js', connections, seconds).finally(() => (ended = true));
// They open and warm up first.
await sleep(warmUpMs);
await ask(`beside ${connections} connections`, () => ended);
const { timedOut, p99, cpu, targetCpu } = await cyclic;
console.log(
  `meanwhile: timed out ${timedOut}, deviation p99 ${p99.toFixed(2)} ms, CPU originator ${(cpu * 100).toFixed(0)} %, target ${(targetCpu * 100).toFixed(0)} %`,
);
