import { readCellFile } from '@fadenkreuz/core';
import demo from '@fadenkreuz/demo/ripening-store-3.json' with { type: 'json' };
import { afterAll, beforeAll, beforeEach, expect, inject, test } from 'vitest';
import type { NewSnapshot } from '../../api/parameters.js';
import { openDatabase, type Knex } from '../database.js';
import { insertCell, removeCell } from './cells.js';
import { deleteSnapshot, keepSnapshot, loadSnapshot, snapshotHeads } from './snapshots.js';

const cell = { ...readCellFile(JSON.stringify(demo)), id: 'with-snapshots' };
const [device] = cell.devices;
const snapshot = (id: string, title = 'as commissioned'): NewSnapshot => ({
  ...{ id, title, device: { id: device!.id, name: device!.name } },
  ...{ identity: device!.identity, serialNumber: 4_294_967_295 },
  values: [
    {
      code: '101',
      name: 'Acceleration time',
      place: 'class 15 instance 1 attribute 1',
      bytes: '1E 00',
      text: '3.0 s',
    },
  ],
});

let db: Knex;
beforeAll(async () => {
  db = openDatabase(inject('databaseUrl'), 60_000);
  await db.migrate.latest();
});
afterAll(() => db.destroy());
beforeEach(async () => {
  await db('cell').where({ id: cell.id }).delete();
  await insertCell(db, cell);
});

test('a snapshot is kept whole, with who and when; the latest comes first', async () => {
  await keepSnapshot(db, cell.id, 'anna', snapshot('s1'));
  await keepSnapshot(db, cell.id, 'ben', snapshot('s2', 'after the repair'));
  const heads = await snapshotHeads(db, cell.id);
  expect(heads.map((h) => [h.id, h.title, h.person, h.count])).toEqual([
    ['s2', 'after the repair', 'ben', 1],
    ['s1', 'as commissioned', 'anna', 1],
  ]);
  const { at, person, ...rest } = await loadSnapshot(db, cell.id, 's1');
  expect(rest).toEqual(snapshot('s1'));
  expect(Math.abs(Date.now() - Date.parse(at))).toBeLessThan(3_600_000);
  expect(person).toBe('anna');
});

test('the same one again changes nothing', async () => {
  await keepSnapshot(db, cell.id, 'anna', snapshot('s1'));
  await keepSnapshot(db, cell.id, 'ben', snapshot('s1', 'another title'));
  expect(await snapshotHeads(db, cell.id)).toMatchObject([{ title: 'as commissioned', person: 'anna' }]);
});

test('it outlasts its device, is deleted by hand, and goes with its cell', async () => {
  await keepSnapshot(db, cell.id, 'anna', snapshot('s1'));
  await keepSnapshot(db, cell.id, 'anna', snapshot('s2'));
  await db('device').where({ cell_id: cell.id, id: device!.id }).delete();
  expect(await snapshotHeads(db, cell.id)).toHaveLength(2);
  await deleteSnapshot(db, cell.id, 's1');
  expect(await snapshotHeads(db, cell.id)).toHaveLength(1);
  await removeCell(db, cell.id);
  expect(await db('snapshot').where({ cell_id: cell.id })).toEqual([]);
});

test('what is not there is said', async () => {
  const unknown = expect.objectContaining({ code: 'edit.unknown' }) as Error;
  await expect(keepSnapshot(db, 'no-such-cell', 'anna', snapshot('s1'))).rejects.toEqual(unknown);
  await expect(loadSnapshot(db, cell.id, 's1')).rejects.toEqual(unknown);
  await expect(deleteSnapshot(db, cell.id, 's1')).rejects.toEqual(unknown);
});
