import { mkdirSync } from 'node:fs';
import { dirname, resolve } from 'node:path';
import { fileURLToPath } from 'node:url';
import { backUp, restore } from './backup.js';
import { Cluster } from './cluster.js';
import { dataFolder, portsFrom, StartError } from './places.js';
import { claim, runningAt } from './runningFile.js';

/** `./fadenkreuz backup FILE` and `./fadenkreuz restore FILE`: everything that is stored, as one file, and back. */
const checkout = resolve(dirname(fileURLToPath(import.meta.url)), '../..');
const home = dataFolder(checkout);
const say = (line: string) => process.stdout.write(line + '\n');

/** Runs work on the database: that of an application that runs, or one that is started for it. */
async function onDatabase(work: (cluster: Cluster) => Promise<void>, alone: boolean): Promise<void> {
  mkdirSync(home, { recursive: true });
  const running = await runningAt(home);
  if (running && alone)
    throw new StartError(
      `Fadenkreuz runs at ${running.address} (process ${running.pid})`,
      `end it first, with Ctrl-C in its terminal or kill ${running.pid}`,
    );
  const port = running
    ? Number(new URL(running.address).port) + 2
    : portsFrom(process.env['FADENKREUZ_PORT']).database;
  const cluster = new Cluster(home, port);
  if (running) return work(cluster);
  const release = await claim(home, `http://127.0.0.1:${port - 2}`);
  try {
    await cluster.start();
    await work(cluster);
  } finally {
    await cluster.stop();
    await release();
  }
}

const [verb, file, ...more] = process.argv.slice(2);
try {
  if ((verb !== 'backup' && verb !== 'restore') || !file || more.length > 0)
    throw new StartError('a file is missing', './fadenkreuz backup FILE, or ./fadenkreuz restore FILE');
  if (verb === 'backup')
    await onDatabase(async (cluster) => {
      await backUp(cluster, file);
      say(`All cells, their history and the library are in ${resolve(file)}.`);
    }, false);
  else
    await onDatabase(async (cluster) => {
      const before = await restore(cluster, file, home);
      say(`Restored from ${resolve(file)}. What was there before is in ${before}.`);
    }, true);
} catch (error) {
  if (!(error instanceof StartError)) throw error;
  process.stderr.write(`Not done: ${error.message}. Cure: ${error.cure}.\n`);
  process.exitCode = 2;
}
