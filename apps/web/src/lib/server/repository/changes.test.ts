import { randomUUID } from 'node:crypto';
import { readFileSync } from 'node:fs';
import { applyEdit, readCellFile, type Cell, type Edit } from '@fadenkreuz/core';
import pg from 'pg';
import { afterAll, beforeAll, beforeEach, describe, expect, inject, test } from 'vitest';
import { CellFeed } from '../cellFeed.js';
import { isDatabaseAway, openDatabase, withDatabase, type Knex } from '../database.js';
import { cellLines, deleteCell, insertCell, loadCell } from './cells.js';
import { history, makeEdit, redo, undo, undoState } from './changes.js';

const demo = readCellFile(
  readFileSync(new URL('../../../../../../demo/ripening-store-3.json', import.meta.url), 'utf8'),
);
let db: Knex;
let cell: Cell;

beforeAll(async () => {
  db = openDatabase(inject('databaseUrl'));
  await db.migrate.latest();
});
afterAll(() => db.destroy());
beforeEach(async () => {
  cell = { ...demo, id: randomUUID() };
  await insertCell(db, cell);
});

const request = (madeOn: number, id = randomUUID()) => ({ id, madeOn, who: 'test' });
const edit = (madeOn: number, change: Edit) => makeEdit(db, cell.id, request(madeOn), change);
const move = (at: number): Edit => ({
  edit: 'field.set',
  image: 'u1-cmd',
  field: 'u1-cmd-flap',
  set: { at },
});
const rename = (name: string): Edit => ({ edit: 'cell.set', set: { name } });

describe('cells', () => {
  test('a stored cell is loaded as it was, every row of it', async () => {
    expect(await loadCell(db, cell.id)).toEqual({ cell, version: 1 });
    expect(await cellLines(db)).toContainEqual({ id: cell.id, name: cell.name, devices: 4 });
  });

  test('an unknown cell', () =>
    expect(loadCell(db, 'nobody')).rejects.toMatchObject({ code: 'cell.unknown' }));

  test('a deleted cell leaves no row behind', async () => {
    await edit(1, rename('x'));
    await deleteCell(db, cell.id);
    for (const table of ['device', 'link', 'image', 'field', 'change'])
      expect(await db(table).where({ cell_id: cell.id }), table).toEqual([]);
  });

  test('a cell that cannot be stored as a whole is not stored at all', async () => {
    const id = randomUUID();
    const broken = structuredClone({ ...cell, id });
    broken.devices[1]!.links[0]!.feedback.size = -1;
    await expect(insertCell(db, broken)).rejects.toThrow();
    await expect(loadCell(db, id)).rejects.toMatchObject({ code: 'cell.unknown' });
  });
});

describe('changes', () => {
  test('an edit is stored with its row changes, and what was returned is what is there', async () => {
    const made = await edit(1, move(7));
    expect(made.version).toBe(2);
    expect(await loadCell(db, cell.id)).toEqual(made);
    expect(made.cell).toEqual(applyEdit(cell, move(7)));
    const [row] = await db('change').where({ cell_id: cell.id }).select('rows', 'title');
    expect(row.title).toBe('place flap');
    expect(row.rows).toHaveLength(1);
    expect(row.rows[0]).toMatchObject({ table: 'field', before: { at: 3 }, after: { at: 7 } });
  });

  test('undo and redo, and a new edit ends what could be redone', async () => {
    await edit(1, move(7));
    await edit(2, rename('Store'));
    expect(await undoState(db, cell.id)).toEqual({ undo: 'change name of the cell', redo: null });
    await undo(db, cell.id, request(3));
    await undo(db, cell.id, request(4));
    expect((await loadCell(db, cell.id)).cell).toEqual(cell);
    expect(await undoState(db, cell.id)).toEqual({ undo: null, redo: 'place flap' });
    await expect(undo(db, cell.id, request(5))).rejects.toMatchObject({ code: 'edit.nothingToUndo' });
    await redo(db, cell.id, request(5));
    expect((await loadCell(db, cell.id)).cell).toEqual(applyEdit(cell, move(7)));
    await edit(6, rename('Other'));
    await expect(redo(db, cell.id, request(7))).rejects.toMatchObject({ code: 'edit.nothingToRedo' });
    await undo(db, cell.id, request(7));
    expect((await loadCell(db, cell.id)).cell).toEqual(applyEdit(cell, move(7)));
    expect((await history(db, cell.id, 99)).map((c) => c.kind)).toEqual([
      'undo',
      'edit',
      'redo',
      'undo',
      'undo',
      'edit',
      'edit',
    ]);
  });

  test('a removed device comes back whole, in its place', async () => {
    await edit(1, { edit: 'device.remove', device: 'k1' });
    expect((await loadCell(db, cell.id)).cell.devices.map((d) => d.id)).toEqual(['m1', 'b1', 'u1']);
    expect((await undo(db, cell.id, request(2))).cell).toEqual(cell);
    expect((await loadCell(db, cell.id)).cell).toEqual(cell);
  });

  test('30 edits of every kind, all undone, all redone', async () => {
    const kinds: ((n: number) => Edit)[] = [
      (n) => rename(`Store ${n}`),
      (n) => move(n % 8),
      (n) => ({ edit: 'device.set', device: 'b1', set: { address: `192.168.40.${100 + n}` } }),
      (n) => ({ edit: 'image.set', image: 'b1-fb', set: { size: 22 + n } }),
      (n) => ({
        edit: 'field.set',
        image: 'b1-fb',
        field: 'b1-fb-gross_1',
        set: { scale: n % 2 ? null : { numerator: n, denominator: 7, offset: -0.5 } },
      }),
      (n) => ({
        edit: 'field.set',
        image: 'b1-fb',
        field: 'b1-fb-still',
        set: { labels: [{ value: n % 2, text: `label ${n}` }] },
      }),
      (n) => ({
        edit: 'field.add',
        image: 'k1-cmd',
        field: { ...demo.devices[0]!.links[0]!.command.fields[0]!, id: `new-${n}`, name: `new_${n}`, at: 15 },
      }),
    ];
    const states = [cell];
    let version = 1;
    for (let n = 0; n < 30; n += 1) {
      const made = await edit(version, kinds[n % kinds.length]!(n));
      version = made.version;
      states.push(made.cell);
    }
    for (let n = 29; n >= 0; n -= 1) {
      version = (await undo(db, cell.id, request(version))).version;
      expect((await loadCell(db, cell.id)).cell).toEqual(states[n]);
    }
    for (let n = 1; n <= 30; n += 1) version = (await redo(db, cell.id, request(version))).version;
    expect((await loadCell(db, cell.id)).cell).toEqual(states[30]);
  });

  test('the same change sent twice is done once', async () => {
    const id = randomUUID();
    const first = await makeEdit(db, cell.id, request(1, id), move(7));
    expect(await makeEdit(db, cell.id, request(1, id), move(7))).toEqual(first);
    expect(await history(db, cell.id, 9)).toHaveLength(1);
  });

  test('of ten edits made on one version at the same time, one is stored and nine are told', async () => {
    const results = await Promise.allSettled(
      Array.from({ length: 10 }, (_, n) => edit(1, rename(`Store ${n}`))),
    );
    const refused = results.filter((r) => r.status === 'rejected');
    expect(refused).toHaveLength(9);
    for (const r of refused) expect(r.reason).toMatchObject({ code: 'edit.stale' });
    expect((await loadCell(db, cell.id)).version).toBe(2);
  });

  test.each<[string, Edit, string]>([
    ['a bit offset past the end', move(64), 'edit.fieldPastEnd'],
    ['a negative offset', move(-1), 'input.invalid'],
    ['an empty name', rename(''), 'input.invalid'],
    ['NUL in a name', rename('a\u0000b'), 'input.invalid'],
  ])('%s: a message, and nothing is stored', async (_says, change, code) => {
    await expect(edit(1, change)).rejects.toMatchObject({ code });
    expect(await loadCell(db, cell.id)).toEqual({ cell, version: 1 });
    expect(await history(db, cell.id, 9)).toEqual([]);
  });

  test('those who watch are told of the new version', async () => {
    const feed = new CellFeed(inject('databaseUrl'));
    const news: unknown[] = [];
    feed.listen((n) => news.push(n));
    await expect.poll(() => news).toContainEqual({ databaseThere: true });
    await edit(1, rename('Store'));
    await expect.poll(() => news).toContainEqual({ notice: { cell: cell.id, version: 2 } });
  });
});

test('a server process that is killed while edits are saved: what was confirmed is there, nothing is half there', async () => {
  let version = 1;
  let confirmed = cell;
  let cuts = 0;
  const killer = new pg.Client(inject('databaseUrl'));
  await killer.connect();
  const cut = setInterval(() => {
    void killer
      .query("select pg_terminate_backend(pid) from pg_stat_activity where application_name = 'fadenkreuz'")
      .catch(() => undefined);
  }, 130);
  for (let n = 0; n < 40; n += 1) {
    const id = randomUUID();
    // As the desk does: the same change with the same id, until the answer is yes or no.
    for (let attempt = 0; attempt < 50; attempt += 1) {
      try {
        const made = await withDatabase(() =>
          makeEdit(db, cell.id, request(version, id), rename(`Store ${n}`)),
        );
        ({ version, cell: confirmed } = made);
        break;
      } catch (error) {
        expect(error).toMatchObject({ code: 'database.away' });
        cuts += 1;
      }
    }
  }
  clearInterval(cut);
  await killer.end();
  await expect
    .poll(() => loadCell(db, cell.id).catch((e: unknown) => isDatabaseAway(e)))
    .toEqual({ cell: confirmed, version });
  expect(confirmed.name).toBe('Store 39');
  expect(cuts).toBeGreaterThan(0);
  expect(version).toBe(41);
  expect(await history(db, cell.id, 100)).toHaveLength(40);
});
