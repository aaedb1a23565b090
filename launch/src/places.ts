import { createHash } from 'node:crypto';
import { homedir } from 'node:os';
import { basename, join } from 'node:path';

/**
 * Where this checkout keeps its data: outside the checkout, because the database server of a start as root runs as
 * another user, who may not be able to enter the checkout. One folder a checkout.
 */
export function dataFolder(checkout: string): string {
  if (process.env['FADENKREUZ_DATA']) return process.env['FADENKREUZ_DATA'];
  const name = `${basename(checkout)}-${createHash('sha256').update(checkout).digest('hex').slice(0, 8)}`;
  const root = process.getuid?.() === 0;
  return root ? join('/var/lib/fadenkreuz', name) : join(homedir(), '.local/share/fadenkreuz', name);
}

/** Three ports in a row: web, agent, database. */
export interface Ports {
  web: number;
  agent: number;
  database: number;
}

export const defaultPort = 8470;

/** Ports from FADENKREUZ_PORT, the first of three. Throws a StartError. */
export function portsFrom(text: string | undefined): Ports {
  const web = text === undefined ? defaultPort : Number(text);
  if (!Number.isInteger(web) || web < 1024 || web > 65_533)
    throw new StartError(
      `FADENKREUZ_PORT is ${text}`,
      'give a number from 1024 to 65533; it and the next two are used',
    );
  return { web, agent: web + 1, database: web + 2 };
}

/** Why the start cannot go on: one line, and what to do. */
export class StartError extends Error {
  constructor(
    says: string,
    readonly cure: string,
  ) {
    super(says);
  }
}
