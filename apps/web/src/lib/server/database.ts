import { Problem } from '@fadenkreuz/core';
import knex, { type Knex } from 'knex';
import pg from 'pg';
import { migrationSource } from './migrations/index.js';

export type { Knex };

/** How long a query may take, ms: the largest cell is stored in a small part of it. */
const answerWithinMs = 4000;
/** How long a request waits for one of the connections, ms; then too many came at once. */
const turnWithinMs = 4000;

/** Connects lazily: a database that is away shows at the first query and is tried again at each. */
export function openDatabase(url: string, withinMs = answerWithinMs): Knex {
  return knex({
    client: 'pg',
    connection: {
      ...{ connectionString: url, application_name: 'fadenkreuz' },
      // A server that stands still is away like one that has ended.
      ...{
        connectionTimeoutMillis: Math.max(2000, withinMs / 2),
        ...(withinMs > 0 ? { query_timeout: withinMs } : {}),
      },
    },
    pool: { min: 0, max: 8 },
    acquireConnectionTimeout: Math.max(turnWithinMs, withinMs),
    migrations: { migrationSource },
  });
}

/**
 * Brings the tables up to date. False where tables that hold something would change and nobody has `copied` them:
 * nothing was done then.
 */
export async function updateTables(db: Knex, copied: boolean): Promise<boolean> {
  const [, pending] = (await db.migrate.list()) as [unknown[], unknown[]];
  if (!copied && pending.length > 0 && (await db.schema.hasTable('cell'))) return false;
  await db.migrate.latest();
  return true;
}

const networkCodes = new Set(['ECONNREFUSED', 'ECONNRESET', 'EPIPE', 'ETIMEDOUT']);

/** Whether an error means that the server is not there (SQLSTATE classes 08 and 57P, or the socket). */
export function isDatabaseAway(error: unknown): boolean {
  const { code, message = '' } = error as { code?: string; message?: string };
  if (error instanceof pg.DatabaseError) return /^(08|57P)/.test(code ?? '');
  return (
    (code !== undefined && networkCodes.has(code)) ||
    /Connection (terminated|ended|error)|timeout expired|Query read timeout|Client has encountered a connection error/.test(
      message,
    )
  );
}

/** No room on the disk, or the disk failed (SQLSTATE 53100 and 58030). */
const fullDisk = new Set(['53100', '58030']);

/** Text that PostgreSQL cannot hold, and what it says then (SQLSTATE 22021 and 22P05): a NUL character. */
const noText = new Set(['22021', '22P05']);

/** What PostgreSQL says; Knex puts the statement before it. */
const lastLine = (message: string) => message.split('\n').at(-1)!.split(' - ').at(-1)!.slice(0, 200);

/**
 * Runs work on the database. Its absence becomes the Problem `database.away`, too much at once `database.busy`, a full
 * disk `database.full`; text that it cannot hold is `input.invalid`.
 */
export async function withDatabase<T>(work: () => Promise<T>): Promise<T> {
  try {
    return await work();
  } catch (cause) {
    if (isDatabaseAway(cause))
      throw new Problem('database.away', { reason: (cause as Error).message.split('\n')[0]! }, { cause });
    const { name, code } = cause as { name?: string; code?: string };
    if (code !== undefined && fullDisk.has(code))
      throw new Problem('database.full', { reason: lastLine((cause as Error).message) }, { cause });
    if (name === 'KnexTimeoutError') throw new Problem('database.busy', {}, { cause });
    if (code !== undefined && noText.has(code))
      throw new Problem('input.invalid', { where: 'request', reason: 'holds a NUL character' }, { cause });
    throw cause;
  }
}
