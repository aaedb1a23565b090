import { Problem } from '@fadenkreuz/core';
import knex, { type Knex } from 'knex';
import pg from 'pg';
import { migrationSource } from './migrations/index.js';

export type { Knex };

/** Connects lazily: a database that is away shows at the first query and is tried again at each. */
export function openDatabase(url: string): Knex {
  return knex({
    client: 'pg',
    connection: { connectionString: url, connectionTimeoutMillis: 2000, application_name: 'fadenkreuz' },
    pool: { min: 0, max: 8 },
    acquireConnectionTimeout: 4000,
    migrations: { migrationSource },
  });
}

const networkCodes = new Set(['ECONNREFUSED', 'ECONNRESET', 'EPIPE', 'ETIMEDOUT']);

/** Whether an error means that the server is not there (SQLSTATE classes 08 and 57P, or the socket). */
export function isDatabaseAway(error: unknown): boolean {
  const { code, message = '', name } = error as { code?: string; message?: string; name?: string };
  if (error instanceof pg.DatabaseError) return /^(08|57P)/.test(code ?? '');
  return (
    (code !== undefined && networkCodes.has(code)) ||
    name === 'KnexTimeoutError' ||
    /Connection (terminated|ended|error)|timeout expired|Client has encountered a connection error/.test(
      message,
    )
  );
}

/** Runs work on the database; its absence becomes the Problem `database.away`. */
export async function withDatabase<T>(work: () => Promise<T>): Promise<T> {
  try {
    return await work();
  } catch (cause) {
    if (isDatabaseAway(cause))
      throw new Problem('database.away', { reason: (cause as Error).message.split('\n')[0]! }, { cause });
    throw cause;
  }
}
