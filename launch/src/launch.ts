import { spawnSync } from 'node:child_process';
import { randomBytes } from 'node:crypto';
import { mkdirSync, openSync, readFileSync, watch } from 'node:fs';
import { createServer } from 'node:net';
import { dirname, join, resolve } from 'node:path';
import { fileURLToPath } from 'node:url';
import { copyBefore } from './backup.js';
import { Cluster } from './cluster.js';
import { optionsFrom, type Options } from './options.js';
import { dataFolder, portsFrom, StartError, type Ports } from './places.js';
import { claim } from './runningFile.js';
import { answersHttp, watchOver } from './watchOver.js';
import { Supervised, type SupervisedOptions } from './supervised.js';

const checkout = resolve(dirname(fileURLToPath(import.meta.url)), '../..');
const readyWithinMs = 30_000;
/** How the set-up of the database ends where its tables would change (apps/web/src/lib/server/setup.ts). */
const toBeCopied = 3;

const say = (line: string) => process.stdout.write(line + '\n');
// A closed terminal takes its output with it; that must not keep us from stopping in order.
process.stdout.on('error', () => undefined);

const toStop: (() => Promise<void>)[] = [];
let stopping: Promise<void> | undefined;
function stopAll(): Promise<void> {
  stopping ??= (async () => {
    for (const stop of toStop.reverse()) await stop();
  })();
  return stopping;
}

/** Parts of a launcher that was killed notice that, and let their ports go. */
async function refuseTaken(port: number, what: string): Promise<void> {
  for (let left = 30; ; left -= 1) {
    try {
      return await refuseHeld(port, what);
    } catch (error) {
      if (left === 0) throw error;
      await new Promise((r) => setTimeout(r, 100));
    }
  }
}

function refuseHeld(port: number, what: string): Promise<void> {
  return new Promise((ok, refuse) => {
    const probe = createServer();
    probe.once('error', (error: NodeJS.ErrnoException) =>
      refuse(
        new StartError(
          `port ${port}, for ${what}, is taken by another program (${error.code})`,
          `end that program, or choose three other ports: FADENKREUZ_PORT=${port + 100} ./start`,
        ),
      ),
    );
    probe.listen(port, '127.0.0.1', () => probe.close(() => ok()));
  });
}

async function waitFor(what: string, url: string, log: string): Promise<void> {
  const limit = performance.now() + readyWithinMs;
  for (;;) {
    const answer = await fetch(url).catch(() => undefined);
    if (answer?.ok) return;
    if (stopping) throw new StartError('the start was broken off', 'start again');
    if (performance.now() > limit) throw new StartError(`${what} does not answer`, `read ${log}`);
    await new Promise((r) => setTimeout(r, 50));
  }
}

/** Starts the database and keeps it running: a server that ends by itself is started again. */
async function keepDatabase(cluster: Cluster): Promise<void> {
  const begin = (): Promise<void> =>
    cluster.start((how) => {
      if (stopping) return;
      say(`the database ended (${how}); it is started again.`);
      const again = (): void => {
        if (stopping) return;
        begin().catch(() => setTimeout(again, 500));
      };
      setTimeout(again, 200);
    });
  toStop.push(() => cluster.stop());
  await begin();
}

async function launch(ports: Ports, { resetDemo, dev, reach }: Options): Promise<void> {
  const home = dataFolder(checkout);
  mkdirSync(home, { recursive: true });
  const address = `http://127.0.0.1:${ports.web}`;
  toStop.push(await claim(home, address));
  const cluster = new Cluster(home, ports.database);
  // A launcher that was killed leaves its parts behind; they are ours.
  await cluster.endLeftOver();
  await refuseTaken(ports.web, 'the web server');
  await refuseTaken(ports.agent, 'the agent');
  await refuseTaken(ports.database, 'the database');

  // Tests and scripts may choose it; it ends with this start.
  const token = process.env['FADENKREUZ_TOKEN'] || randomBytes(16).toString('hex');
  await keepDatabase(cluster);
  const env: NodeJS.ProcessEnv = {
    ...process.env,
    NODE_ENV: dev ? 'development' : 'production',
    DATABASE_URL: await cluster.url(),
    AGENT_PORT: String(ports.agent),
    AGENT_SECRET: randomBytes(24).toString('hex'),
    FADENKREUZ_TOKEN: token,
    FADENKREUZ_FILE_READER: join(checkout, 'apps/web/build-setup/fileReader.js'),
    AGENT_REACH: reach.join(','),
    AGENT_JOURNAL: join(home, 'writes.jsonl'),
    HOST: '127.0.0.1',
    PORT: String(ports.web),
    ORIGIN: address,
    // The routes bound every body themselves, with a message; this limit would only cut the connection.
    BODY_SIZE_LIMIT: 'Infinity',
    SHUTDOWN_TIMEOUT: '1',
  };
  const setUp = (...args: string[]) =>
    spawnSync(process.execPath, [join(checkout, 'apps/web/build-setup/setup.js'), ...args], {
      env,
      encoding: 'utf8',
    });
  const reset = resetDemo ? ['--reset-demo'] : [];
  let setup = setUp(...reset);
  if (setup.status === toBeCopied) {
    say(
      `The tables change; what is stored was copied to ${await copyBefore(cluster, home, 'update')} before.`,
    );
    setup = setUp('--copied', ...reset);
  }
  if (setup.status !== 0)
    throw new StartError(
      `the database could not be brought up to date: ${setup.stderr.trim().split('\n').at(-1)}`,
      'see the lines above',
    );

  const log = join(home, 'fadenkreuz.log');
  const logFile = openSync(log, 'a');
  const agent = new Supervised({
    name: 'the agent',
    script: join(checkout, 'packages/field/dist/agent.js'),
    flags: readFileSync(join(checkout, 'packages/field/node.flags'), 'utf8').trim().split(/\s+/),
    env,
    log: logFile,
    say,
  });
  const web = new Supervised({
    name: 'the web server',
    ...(dev ? fromSources(ports) : { script: join(checkout, 'apps/web/build/index.js') }),
    env,
    log: logFile,
    say,
  });
  toStop.push(
    () => agent.stop(),
    () => web.stop(),
  );
  if (dev) rebuildAgent(agent, { env, log: logFile, say });
  agent.start();
  web.start();
  await waitFor('the web server or the agent', `${address}/api/health`, log);
  // Working on it, one stops its parts to look at them.
  if (!dev) {
    const secret = { authorization: `Bearer ${env['AGENT_SECRET']}` };
    const stops = [
      watchOver({
        name: 'the web server',
        answers: answersHttp(`${address}/api/health`),
        process: () => web.pid,
        end: () => web.kill(),
        say,
      }),
      watchOver({
        name: 'the agent',
        answers: answersHttp(`http://127.0.0.1:${ports.agent}/bench`, secret),
        process: () => agent.pid,
        end: () => agent.kill(),
        say,
      }),
      watchOver({
        name: 'the database',
        answers: () => cluster.answers(),
        process: () => cluster.pid,
        end: () => cluster.kill(),
        say,
      }),
    ];
    toStop.push(() => Promise.resolve(stops.forEach((stop) => stop())));
  }
  if (reach.length > 0) say(`Real devices in ${reach.join(', ')} are reached as planned.`);
  say(`Fadenkreuz is ready at ${address}/?token=${token} (Ctrl-C ends it)`);
}

const vite = join(checkout, 'node_modules/vite/bin/vite.js');

/** The web application from its sources, with hot reload. */
const fromSources = ({ web }: Ports) => ({
  script: vite,
  args: ['dev', '--host', '127.0.0.1', '--port', String(web), '--strictPort'],
  cwd: join(checkout, 'apps/web'),
});

/** Builds the agent anew with each change of its sources, and starts it again with what was built. */
function rebuildAgent(agent: Supervised, common: Pick<SupervisedOptions, 'env' | 'log' | 'say'>): void {
  const folder = join(checkout, 'packages/field');
  const builder = new Supervised({
    name: 'the build of the agent',
    script: vite,
    args: ['build', '--watch'],
    cwd: folder,
    ...common,
  });
  let settle: NodeJS.Timeout | undefined;
  const watcher = watch(join(folder, 'dist'), () => {
    clearTimeout(settle);
    settle = setTimeout(() => agent.restart(), 300);
  });
  toStop.push(() => {
    watcher.close();
    clearTimeout(settle);
    return builder.stop();
  });
  builder.start();
}

for (const signal of ['SIGINT', 'SIGTERM', 'SIGHUP'] as const)
  process.on(signal, () => void stopAll().then(() => process.exit(0)));

try {
  await launch(portsFrom(process.env['FADENKREUZ_PORT']), optionsFrom(process.argv.slice(2)));
} catch (error) {
  const broken = stopping !== undefined;
  await stopAll();
  if (!(error instanceof StartError)) throw error;
  if (!broken) process.stderr.write(`Not started: ${error.message}. Cure: ${error.cure}.\n`);
  process.exit(broken ? 0 : 1);
}
