import { readdirSync, readFileSync } from 'node:fs';
import { afterAll, beforeAll, beforeEach, describe, expect, inject, test } from 'vitest';
import { openDatabase, type Knex } from '../database.js';
import {
  addDescriber,
  describerFile,
  findDescribers,
  removeDescriber,
  removeDescribersNamed,
} from './describers.js';

const folder = new URL('../../../../../../demo/describers/', import.meta.url);
const files = readdirSync(folder).map((name) => ({ name, bytes: readFileSync(new URL(name, folder)) }));
const eds = files.find((f) => f.name === 'murmel_px8.eds')!;

let db: Knex;
beforeAll(async () => {
  db = openDatabase(inject('databaseUrl'));
  await db.migrate.latest();
});
afterAll(() => db.destroy());
beforeEach(() => db('describer').delete());

test('every describer of the demo goes in, and comes out byte for byte', async () => {
  for (const { name, bytes } of files) {
    const { id } = await addDescriber(db, name, bytes);
    const stored = await describerFile(db, id);
    expect(stored.fileName).toBe(name);
    expect(stored.bytes.equals(bytes)).toBe(true);
  }
  expect(await findDescribers(db)).toHaveLength(files.length);
});

test('the same file is kept once; another revision of a product stands beside it', async () => {
  const first = await addDescriber(db, eds.name, eds.bytes);
  expect((await addDescriber(db, 'again.eds', eds.bytes)).id).toBe(first.id);
  const newer = Buffer.from(eds.bytes.toString('latin1').replace(/MinRev\s*=\s*4/, 'MinRev = 5'), 'latin1');
  await addDescriber(db, 'newer.eds', newer);
  const found = await findDescribers(db, 'PX-8');
  expect(found.map((l) => [l.product, l.revision])).toEqual([
    [412, '3.4'],
    [412, '3.5'],
  ]);
});

describe('a search', () => {
  beforeEach(async () => {
    for (const { name, bytes } of files) await addDescriber(db, name, bytes);
  });
  test.each([
    ['murmel', 4],
    ['Murmel io-link', 1],
    ['profinet', 1],
    ['PT3-25', 1],
    ['level silberdistel', 1],
    ['nothing like this', 0],
    // Signs of the pattern language stand for themselves.
    ['%', 0],
    ['_____________', 0],
    ["'; drop table describer; --", 0],
  ])('for %s finds %i', async (text, count) => {
    expect((await findDescribers(db, text)).filter((l) => l.source !== 'table')).toHaveLength(count);
  });
});

test('what is no description file is refused, and nothing is stored', async () => {
  await expect(addDescriber(db, 'x.eds', Buffer.from('hello'))).rejects.toThrow(/no section/);
  await expect(addDescriber(db, 'x.xml', Buffer.from('<html/>'))).rejects.toThrow(/neither/);
  expect(await findDescribers(db)).toEqual([]);
});

test('one that was taken out is not there any more', async () => {
  const { id } = await addDescriber(db, eds.name, eds.bytes);
  await removeDescriber(db, id);
  await expect(describerFile(db, id)).rejects.toThrow(/no describer/);
  for (const { name, bytes } of files) await addDescriber(db, name, bytes);
  await removeDescribersNamed(db, [eds.name, 'never there.eds']);
  expect((await findDescribers(db)).map((l) => l.fileName)).not.toContain(eds.name);
  expect(await findDescribers(db)).toHaveLength(files.length - 1);
});
