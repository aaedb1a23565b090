import { afterAll, expect, inject, test } from 'vitest';
import { openDatabase, withDatabase } from './database.js';

const db = openDatabase(inject('databaseUrl'));
afterAll(() => db.destroy());

/** What PostgreSQL raises with a SQLSTATE (PostgreSQL 15, appendix A). */
const raised = (state: string, text: string) =>
  withDatabase(() =>
    db.raw(`do $$ begin raise exception '${text}' using errcode = '${state}'; end $$`).then(() => undefined),
  );

test.each([
  ['53100', 'could not extend file: No space left on device', 'database.full'],
  ['58030', 'could not write block', 'database.full'],
  ['57P01', 'terminating connection due to administrator command', 'database.away'],
  ['22021', 'invalid byte sequence', 'input.invalid'],
])('SQLSTATE %s becomes a Problem with its cure', async (state, text, code) => {
  await expect(raised(state, text)).rejects.toMatchObject({ code });
  if (code === 'database.full')
    await expect(raised(state, text)).rejects.toThrow(`(${text}): nothing can be stored now.`);
});

test('anything else stays what it is', async () => {
  await expect(raised('P0001', 'own')).rejects.not.toMatchObject({ name: 'Problem' });
});
