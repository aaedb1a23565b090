import knex from 'knex';
import { expect, inject, test, vi } from 'vitest';
import { CellFeed } from './cellFeed.js';

test('a database that stands still, its sockets open, is told to be away, and then to be there again', async () => {
  const url = inject('databaseUrl');
  const feed = new CellFeed(`${url}?application_name=feed-test`);
  const told: boolean[] = [];
  const end = feed.listen((news) => 'databaseThere' in news && told.push(news.databaseThere));
  await vi.waitFor(() => expect(told.at(-1)).toBe(true), { timeout: 20_000 });
  const db = knex({ client: 'pg', connection: url });
  const rows = await db('pg_stat_activity').where({ application_name: 'feed-test' }).select('pid');
  const [{ pid }] = rows as [{ pid: number }];
  await db.destroy();
  process.kill(pid, 'SIGSTOP');
  try {
    await vi.waitFor(() => expect(told.at(-1)).toBe(false), { timeout: 20_000 });
    // Another connection is served.
    await vi.waitFor(() => expect(told.at(-1)).toBe(true), { timeout: 20_000 });
  } finally {
    process.kill(pid, 'SIGCONT');
    end();
  }
});
