import { spawn } from 'node:child_process';
import { once } from 'node:events';
import { createInterface } from 'node:readline';
import { fileURLToPath } from 'node:url';
import type { Protocol } from './messages.js';

/**
 * Questions and answers a second over one connection, client and server in a process each: ours and the libraries of the registry
 * beside a bare socket loop, in turn and in one run. Only the ratios count.
 *
 *   npm run requests -w bench -- [SECONDS] [ROUNDS]
 */
const seconds = Number(process.argv[2] ?? 3);
const rounds = Number(process.argv[3] ?? 5);
const at = (name: string) => fileURLToPath(new URL(`./${name}.js`, import.meta.url));
type Who = 'bare' | 'ours' | 'library';

/** A process on a core of its own: two that share one, by the scheduler's choice, would be compared with two that do not. */
const onCore = (core: number, script: string[]) =>
  spawn('taskset', ['-c', String(core), process.execPath, ...script], {
    stdio: ['ignore', 'pipe', 'inherit'],
  });

async function rateOf(server: Who, client: Who, protocol: Protocol, flight: number): Promise<number> {
  const answering = onCore(0, [at('server'), server, protocol]);
  await once(createInterface({ input: answering.stdout }), 'line');
  const asking = onCore(1, [at('client'), client, protocol, String(flight), String(seconds)]);
  // A library may lose an answer when several are under way, and then waits for ever: it counts as 0.
  const patience = new Promise<[string]>((resolve) =>
    setTimeout(() => resolve(['0']), (seconds + 4) * 1000).unref(),
  );
  const answered = once(createInterface({ input: asking.stdout }), 'line') as Promise<[string]>;
  const [line] = await Promise.race([answered, patience]);
  if (asking.exitCode === null) asking.kill();
  answering.kill();
  await once(answering, 'exit');
  return Number(line);
}
const median = (values: number[]) => [...values].sort((a, b) => a - b)[Math.floor(values.length / 2)]!;

const pairs: [title: string, server: Who, client: Who][] = [
  ['our client', 'bare', 'ours'],
  ['our server', 'ours', 'bare'],
  ['library client', 'bare', 'library'],
  ['library server', 'library', 'bare'],
];
for (const protocol of ['explicit', 'modbus'] as const)
  for (const flight of [1, 8]) {
    const ratios: Record<string, number[]> = {};
    for (let round = 0; round < rounds; round += 1) {
      const limit = await rateOf('bare', 'bare', protocol, flight);
      for (const [title, server, client] of pairs) {
        // There is no EtherNet/IP server in that library.
        if (protocol === 'explicit' && server === 'library') continue;
        (ratios[title] ??= []).push((await rateOf(server, client, protocol, flight)) / limit);
      }
      (ratios['limit, 1/s'] ??= []).push(limit);
    }
    for (const [title, values] of Object.entries(ratios))
      console.log(
        `${protocol}, ${flight} in flight, ${title}: ${median(values).toFixed(title.startsWith('limit') ? 0 : 2)}`,
      );
  }
