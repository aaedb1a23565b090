import { spawn } from 'node:child_process';
import { existsSync } from 'node:fs';
import { mkdir, readdir, rename, rm } from 'node:fs/promises';
import { join, resolve } from 'node:path';
import type { Cluster } from './cluster.js';
import { StartError } from './places.js';

/** Copies that are made by themselves, before a step that changes the tables; older ones are removed. */
const kept = 10;

/** Runs a tool of PostgreSQL; what it prints is the result. Throws an Error with its last line. */
function run(tool: string, args: readonly string[], input = ''): Promise<string> {
  return new Promise((done, fail) => {
    const child = spawn(tool, args, { stdio: ['pipe', 'pipe', 'pipe'] });
    const printed: Buffer[] = [];
    let complaint = '';
    child.stdout.on('data', (part: Buffer) => printed.push(part));
    child.stderr.on('data', (part: Buffer) => (complaint += part.toString()));
    child.stdin.on('error', () => undefined);
    child.stdin.end(input);
    child.on('error', fail);
    child.on('exit', (code) =>
      code === 0
        ? done(Buffer.concat(printed).toString())
        : fail(new Error(complaint.trim().split('\n').at(-1) ?? `${tool} ended with ${code}`)),
    );
  });
}

/** Writes everything that is stored into a file, whole or not at all. Throws a StartError; never writes over a file. */
export async function backUp(cluster: Cluster, file: string): Promise<void> {
  const path = resolve(file);
  if (existsSync(path)) throw new StartError(`${path} is there already`, 'choose another name');
  const part = `${path}.part`;
  try {
    const tool = join(await cluster.binaries(), 'pg_dump');
    await run(tool, ['--format=custom', '--no-owner', '--file', part, '--dbname', await cluster.ownerUrl()]);
    await rename(part, path);
  } catch (error) {
    await rm(part, { force: true });
    if (error instanceof StartError) throw error;
    throw new StartError(`nothing was written to ${path}: ${(error as Error).message}`, 'look at the folder');
  }
}

/**
 * Puts back what a backup holds in place of everything that is stored, in one transaction: a file that cannot be read
 * to its end changes nothing. What was there is backed up first, to the file that is returned. Throws a StartError.
 */
export async function restore(cluster: Cluster, file: string, home: string): Promise<string> {
  const path = resolve(file);
  const bin = await cluster.binaries();
  const sql = await run(join(bin, 'pg_restore'), [
    '--no-owner',
    '--no-privileges',
    '--file',
    '-',
    path,
  ]).catch((error: Error) => {
    throw new StartError(`${path} is no backup: ${error.message}`, 'give a file of ./fadenkreuz backup');
  });
  const before = await copyBefore(cluster, home, 'restore');
  const script = `drop schema public cascade;\ncreate schema public;\n${sql}`;
  const settings = ['--quiet', '--no-psqlrc', '--single-transaction', '--set', 'ON_ERROR_STOP=1'];
  await run(
    join(bin, 'psql'),
    [...settings, '--output', '/dev/null', '--dbname', await cluster.ownerUrl()],
    script,
  ).catch((error: Error) => {
    throw new StartError(`nothing was restored: ${error.message}`, 'all is as it was before');
  });
  return before;
}

/** A copy of everything in the data folder, before something that may change all of it. */
export async function copyBefore(cluster: Cluster, home: string, what: string): Promise<string> {
  const folder = join(home, 'backups');
  await mkdir(folder, { recursive: true, mode: 0o700 });
  const name = `before-${what}-${new Date().toISOString().replace(/[:.]/g, '-')}.dump`;
  await backUp(cluster, join(folder, name));
  const own = (await readdir(folder)).filter((n) => n.startsWith('before-')).sort(byTime);
  for (const old of own.slice(0, -kept)) await rm(join(folder, old));
  return join(folder, name);
}
const timeOf = (name: string) => name.slice(-'2026-01-01T00-00-00-000Z.dump'.length);
const byTime = (a: string, b: string) => timeOf(a).localeCompare(timeOf(b));
