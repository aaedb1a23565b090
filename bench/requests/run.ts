import { spawn, type ChildProcess } from 'node:child_process';
import { once } from 'node:events';
import { createInterface } from 'node:readline';
import { setTimeout as sleep } from 'node:timers/promises';
import { fileURLToPath } from 'node:url';
import type { Protocol } from './messages.js';

/**
 * Questions and answers a second over one connection, client and server in a process each: ours and the libraries of
 * the registry beside a bare socket loop. All stand open at once and take turns, a twentieth of a second each, so that
 * the moods of a shared machine meet all of them; only the ratios of one round count.
 *
 *   npm run requests -w bench -- [ROUNDS]
 */
const rounds = Number(process.argv[2] ?? 160);
const sliceMs = 50;
const warmUpMs = 500;
const at = (name: string) => fileURLToPath(new URL(`./${name}.js`, import.meta.url));
type Who = 'bare' | 'ours' | 'library';

/**
 * A process on a core of its own: two that share one, by the scheduler's choice, would be compared with two that do
 * not.
 */
function onCore(core: number, script: string[]): { child: ChildProcess; line: () => Promise<string> } {
  const child = spawn('taskset', ['-c', String(core), process.execPath, ...script], {
    stdio: ['pipe', 'pipe', 'inherit'],
  });
  const lines = createInterface({ input: child.stdout! });
  return { child, line: async () => ((await once(lines, 'line')) as [string])[0] };
}

/** A client and the server that it asks, on addresses of their own. */
class Pair {
  readonly ratios: number[] = [];
  /** A library may lose an answer when several are under way, and then waits for ever. */
  stopped = false;

  private constructor(
    readonly title: string,
    private readonly server: ReturnType<typeof onCore>,
    private readonly client: ReturnType<typeof onCore>,
  ) {}

  static async open(
    title: string,
    place: number,
    who: { server: Who; client: Who },
    protocol: Protocol,
    flight: number,
  ): Promise<Pair> {
    const server = onCore(0, [at('server'), who.server, protocol, String(place)]);
    await server.line();
    const client = onCore(1, [at('client'), who.client, protocol, String(place), String(flight)]);
    await client.line();
    const pair = new Pair(title, server, client);
    await pair.rate(warmUpMs);
    return pair;
  }

  /** Answers a second over so many ms; 0 when none come any more. */
  async rate(ms: number): Promise<number> {
    if (this.stopped) return 0;
    this.client.child.stdin!.write(`${ms}\n`);
    const patience = new AbortController();
    const silent = sleep(ms + 3000, '0', { signal: patience.signal });
    const answer = await Promise.race([this.client.line(), silent]);
    patience.abort();
    silent.catch(() => undefined);
    this.stopped = answer === '0';
    return Number(answer);
  }

  async close(): Promise<void> {
    for (const { child } of [this.client, this.server]) {
      child.kill();
      if (child.exitCode === null && child.signalCode === null) await once(child, 'exit');
    }
  }
}

const sorted = (values: number[]) => [...values].sort((a, b) => a - b);
const quantile = (values: number[], share: number) => sorted(values)[Math.floor(values.length * share)]!;

const kinds: [title: string, server: Who, client: Who][] = [
  ['our client', 'bare', 'ours'],
  ['our server', 'ours', 'bare'],
  ['library client', 'bare', 'library'],
  ['library server', 'library', 'bare'],
];
for (const protocol of ['explicit', 'modbus'] as const)
  for (const flight of [1, 8]) {
    const limit = await Pair.open('limit', 1, { server: 'bare', client: 'bare' }, protocol, flight);
    const pairs: Pair[] = [];
    for (const [n, [title, server, client]] of kinds.entries())
      // There is no EtherNet/IP server in that library.
      if (protocol !== 'explicit' || server !== 'library')
        pairs.push(await Pair.open(title, n + 2, { server, client }, protocol, flight));
    const limits: number[] = [];
    for (let round = 0; round < rounds; round += 1) {
      // Each is measured between two turns of the limit.
      let before = await limit.rate(sliceMs);
      for (const pair of pairs) {
        const rate = await pair.rate(sliceMs);
        const after = await limit.rate(sliceMs);
        pair.ratios.push((2 * rate) / (before + after));
        limits.push((before = after));
      }
    }
    console.log(`${protocol}, ${flight} in flight, limit: ${quantile(limits, 0.5).toFixed(0)} a second`);
    for (const { title, ratios } of pairs)
      console.log(
        `${protocol}, ${flight} in flight, ${title}: ${quantile(ratios, 0.5).toFixed(2)} (quartiles ${quantile(ratios, 0.25).toFixed(2)}, ${quantile(ratios, 0.75).toFixed(2)})`,
      );
    for (const pair of [limit, ...pairs]) await pair.close();
  }
