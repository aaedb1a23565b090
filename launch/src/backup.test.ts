import { chmod, mkdtemp, readdir, readFile, rm, writeFile } from 'node:fs/promises';
import { join } from 'node:path';
import pg from 'pg';
import { afterAll, beforeAll, expect, test } from 'vitest';
import { backUp, copyBefore, restore } from './backup.js';
import { Cluster } from './cluster.js';
import { freePort } from './testDatabase.js';

let home: string;
let cluster: Cluster;
beforeAll(async () => {
  home = await mkdtemp(join('/tmp', 'fadenkreuz-test-'));
  await chmod(home, 0o755);
  cluster = new Cluster(home, await freePort());
  await cluster.start();
});
afterAll(async () => {
  await cluster.stop();
  await rm(home, { recursive: true, force: true });
});

async function query(sql: string): Promise<Record<string, unknown>[]> {
  const client = new pg.Client({ connectionString: await cluster.url() });
  await client.connect();
  try {
    return (await client.query<Record<string, unknown>>(sql)).rows;
  } finally {
    await client.end();
  }
}

test('what was backed up comes back, whatever was made since; what was there is kept', async () => {
  await query(
    `create table kept (n int primary key, says json); insert into kept values (7, '{"b": 1, "a": "é"}')`,
  );
  const file = join(home, 'one.dump');
  await backUp(cluster, file);
  await expect(backUp(cluster, file)).rejects.toThrow(/is there already/);
  await query('delete from kept; create table later (n int)');
  const before = await restore(cluster, file, home);
  // The application's role has its tables again with the next start.
  await cluster.stop();
  await cluster.start();
  expect(await query('select n, says::text from kept')).toEqual([{ n: 7, says: '{"b": 1, "a": "é"}' }]);
  await expect(query('select * from later')).rejects.toThrow(/does not exist/);
  await query('alter table kept add column m int');

  await restore(cluster, before, home);
  await cluster.stop();
  await cluster.start();
  expect(await query('select * from kept')).toEqual([]);
  expect(await query('select * from later')).toEqual([]);
});

test.each<[string, (dump: Buffer) => Buffer]>([
  ['no backup', () => Buffer.from('hello')],
  ['cut off', (dump) => dump.subarray(0, dump.length - 200)],
  ['empty', () => Buffer.alloc(0)],
])('a file that is %s changes nothing', async (_says, spoil) => {
  await query('create table if not exists whole (n int); truncate whole; insert into whole values (1)');
  const good = join(home, `good-${Math.random()}.dump`);
  await backUp(cluster, good);
  await query('insert into whole values (2)');
  const bad = join(home, `bad-${Math.random()}.dump`);
  await writeFile(bad, spoil(await readFile(good)));
  await expect(restore(cluster, bad, home)).rejects.toThrow(/is no backup|nothing was restored/);
  expect(await query('select n from whole order by n')).toEqual([{ n: 1 }, { n: 2 }]);
});

test('of the copies that are made by themselves the ten newest are kept, and others are left alone', async () => {
  await writeFile(join(home, 'backups/mine.dump'), 'x');
  for (let n = 0; n < 12; n += 1) await copyBefore(cluster, home, n % 2 ? 'update' : 'restore');
  const names = await readdir(join(home, 'backups'));
  expect(names.filter((n) => n.startsWith('before-'))).toHaveLength(10);
  expect(names).toContain('mine.dump');
});
