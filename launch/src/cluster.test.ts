import { chmod, mkdir, mkdtemp, readFile, rm, stat, writeFile } from 'node:fs/promises';
import { join } from 'node:path';
import pg from 'pg';
import { afterEach, beforeEach, expect, test } from 'vitest';
import { Cluster } from './cluster.js';
import { portsFrom, StartError } from './places.js';
import { claim } from './runningFile.js';
import { freePort } from './testDatabase.js';

let home: string;
let port: number;
const started: Cluster[] = [];
const cluster = () => {
  const made = new Cluster(home, port);
  started.push(made);
  return made;
};
beforeEach(async () => {
  home = await mkdtemp(join('/tmp', 'fadenkreuz-test-'));
  await chmod(home, 0o755);
  port = await freePort();
});
afterEach(async () => {
  for (const one of started.splice(0)) await one.stop();
  await rm(home, { recursive: true, force: true });
});

async function query(url: string, sql: string): Promise<unknown[]> {
  const client = new pg.Client(url);
  client.on('error', () => undefined);
  await client.connect();
  try {
    return (await client.query<Record<string, unknown>>(sql)).rows;
  } finally {
    await client.end();
  }
}
const serverPid = async () =>
  Number((await readFile(join(home, 'database/postmaster.pid'), 'utf8')).split('\n')[0]);

test('a cluster of its own: on loopback only, with a password, closed to others on disk', async () => {
  const one = cluster();
  await one.start();
  const url = await one.url();
  expect(await query(url, 'show listen_addresses')).toEqual([{ listen_addresses: '127.0.0.1' }]);
  await expect(query(url.replace(/:[^:@]+@/, ':wrong@'), 'select 1')).rejects.toThrow(/password/);
  expect((await stat(join(home, 'database'))).mode & 0o077).toBe(0);
  expect((await stat(join(home, 'database.secret'))).mode & 0o077).toBe(0);

  // The application owns its tables, and nothing else.
  const role = `select rolsuper, rolcreatedb, rolcreaterole from pg_roles where rolname = current_user`;
  expect(await query(url, role)).toEqual([{ rolsuper: false, rolcreatedb: false, rolcreaterole: false }]);
  await query(await one.ownerUrl(), 'create table made_before (n serial)');
  await one.stop();
  await one.start();
  await query(url, 'insert into made_before default values; alter table made_before add column m int');
  await expect(query(url, 'create role another superuser')).rejects.toThrow(/permission|superuser/);
});

test('a cluster that another version has made, and one without its password, are named', async () => {
  const one = cluster();
  await one.start();
  await one.stop();
  const version = join(home, 'database/PG_VERSION');
  const made = await readFile(version, 'utf8');
  await writeFile(version, '9\n');
  await expect(one.start()).rejects.toThrow(/made by PostgreSQL 9/);
  await writeFile(version, made);
  await rm(join(home, 'database.secret'));
  await expect(one.start()).rejects.toThrow(/password of the database.*is missing/);
});

test('what was committed is there after kill -9 of the server and a new start', async () => {
  const one = cluster();
  let how = '';
  await one.start((end) => (how = end));
  const url = await one.url();
  await query(url, 'create table kept (n int)');
  await query(url, 'insert into kept values (7)');
  process.kill(await serverPid(), 'SIGKILL');
  await expect.poll(() => how).toBe('SIGKILL');
  // The launcher tries until the killed server's children have gone.
  await expect
    .poll(
      () =>
        one.start().then(
          () => true,
          () => false,
        ),
      { timeout: 15_000, interval: 300 },
    )
    .toBe(true);
  expect(await query(url, 'select n from kept')).toEqual([{ n: 7 }]);
});

test('a server that outlived its launcher is ended and replaced', async () => {
  await cluster().start();
  const left = await serverPid();
  const two = cluster();
  await two.start();
  expect(await serverPid()).not.toBe(left);
  expect(await query(await two.url(), 'select 1 as one')).toEqual([{ one: 1 }]);
});

test('a making that was cut off is begun anew; an incomplete database is named, not touched', async () => {
  await mkdir(join(home, 'database.new/cluster'), { recursive: true });
  await cluster().start();
  await started[0]!.stop();
  await rm(join(home, 'database/global/pg_control'));
  const error = await cluster()
    .start()
    .catch((e: unknown) => e);
  expect(error).toBeInstanceOf(StartError);
  expect((error as StartError).message).toContain('incomplete');
  expect((error as StartError).cure).toContain('rm -r');
});

test('one start at a time; a claim of a process that is gone does not count', async () => {
  const release = await claim(home, 'http://x');
  await expect(claim(home, 'http://x')).rejects.toThrow(/runs already at http:\/\/x/);
  await release();
  await writeFile(
    join(home, 'running.json'),
    JSON.stringify({ pid: 1, begun: 'long ago', address: 'http://y' }),
  );
  await (
    await claim(home, 'http://x')
  )();
  await writeFile(join(home, 'running.json'), '');
  await (
    await claim(home, 'http://x')
  )();
});

test.each(['80', '70000', 'abc', '8470.5'])('FADENKREUZ_PORT=%s is refused', (text) => {
  expect(() => portsFrom(text)).toThrow(StartError);
});

test('three ports in a row', () =>
  expect(portsFrom('9000')).toEqual({ web: 9000, agent: 9001, database: 9002 }));
