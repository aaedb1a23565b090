import { randomUUID } from 'node:crypto';
import { readFileSync } from 'node:fs';
import { applyEdit, Cell, readCellFile, type Edit } from '@fadenkreuz/core';
import pg from 'pg';
import { afterAll, beforeAll, beforeEach, describe, expect, inject, test } from 'vitest';
import { CellFeed } from '../cellFeed.js';
import { isDatabaseAway, openDatabase, withDatabase, type Knex } from '../database.js';
import { insertCell, loadCell } from './cells.js';
import { cellAt, changesSince, history, makeEdit, redo, undo, undoState } from './changes.js';

const wholeDemo = readCellFile(
  readFileSync(new URL('../../../../../../demo/ripening-store-3.json', import.meta.url), 'utf8'),
);
/** Four devices are enough for what is tried here hundreds of times; the whole one is stored once. */
const demo = {
  ...wholeDemo,
  devices: wholeDemo.devices.filter(({ id }) => ['k1', 'b1', 'u1', 'r1'].includes(id)),
};
let db: Knex;
let cell: Cell;

beforeAll(async () => {
  db = openDatabase(inject('databaseUrl'), 60_000);
  await db.migrate.latest();
});
afterAll(() => db.destroy());
beforeEach(async () => {
  cell = { ...demo, id: randomUUID() };
  await insertCell(db, cell);
});

const request = (madeOn: number, id = randomUUID(), who = 'test', desk = who) => ({ id, madeOn, who, desk });
const edit = (madeOn: number, change: Edit) => makeEdit(db, cell.id, request(madeOn), change);
const move = (at: number): Edit => ({
  edit: 'field.set',
  image: 'u1-cmd',
  field: 'u1-cmd-flap',
  set: { at },
});
const rename = (name: string): Edit => ({ edit: 'cell.set', set: { name } });

describe('changes', () => {
  test('an edit is stored with its row changes, and what was returned is what is there', async () => {
    const made = await edit(1, move(7));
    expect(made.version).toBe(2);
    expect(await loadCell(db, cell.id)).toEqual({ cell: made.cell, version: made.version });
    expect(made).toMatchObject({ undo: 'place flap', redo: null, change: { version: 2, edit: move(7) } });
    expect(made.cell).toEqual(applyEdit(cell, move(7)));
    const [row] = await db('change').where({ cell_id: cell.id }).select('rows', 'title');
    expect(row.title).toBe('place flap');
    expect(row.rows).toHaveLength(1);
    expect(row.rows[0]).toMatchObject({ table: 'field', before: { at: 3 }, after: { at: 7 } });
  });

  test('undo and redo, and a new edit ends what could be redone', async () => {
    await edit(1, move(7));
    await edit(2, rename('Store'));
    expect(await undoState(db, cell.id, 'test')).toEqual({ undo: 'change name of the cell', redo: null });
    await undo(db, cell.id, request(3));
    await undo(db, cell.id, request(4));
    expect((await loadCell(db, cell.id)).cell).toEqual(cell);
    expect(await undoState(db, cell.id, 'test')).toEqual({ undo: null, redo: 'place flap' });
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

  test('every earlier version can be looked at, also across undo and redo', async () => {
    const versions = [cell];
    versions.push((await edit(1, move(7))).cell);
    versions.push((await edit(2, { edit: 'device.remove', device: 'b1' })).cell);
    versions.push((await undo(db, cell.id, request(3))).cell);
    versions.push((await edit(4, rename('Store'))).cell);
    for (const [i, expected] of versions.entries())
      expect(await cellAt(db, cell.id, i + 1)).toEqual(expected);
    for (const wrong of [0, 6, 1.5, NaN])
      await expect(cellAt(db, cell.id, wrong)).rejects.toMatchObject({ code: 'cell.noSuchVersion' });
  });

  test('a removed device comes back whole, in its place', async () => {
    await edit(1, { edit: 'device.remove', device: 'k1' });
    expect((await loadCell(db, cell.id)).cell.devices.map((d) => d.id)).toEqual(
      cell.devices.map((d) => d.id).filter((id) => id !== 'k1'),
    );
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
        set: { scale: n % 2 ? null : { factor: `${n}/7`, offset: '-0.5' } },
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

  /** An edit of one of several people, made on the version that all of them have seen. */
  const by = (who: string, change: Edit, madeOn = 1) =>
    makeEdit(db, cell.id, request(madeOn, randomUUID(), who), change);

  test('of ten people who change the same at the same time, one is stored and nine are told by whom', async () => {
    const results = await Promise.allSettled(
      Array.from({ length: 10 }, (_, n) => by(`person ${n}`, rename(`Store ${n}`))),
    );
    const refused = results.filter((r) => r.status === 'rejected');
    expect(refused).toHaveLength(9);
    for (const r of refused)
      expect(r.reason).toMatchObject({
        code: 'edit.conflict',
        facts: { what: expect.stringMatching(/^name of Store/), by: 'change name of the cell' },
      });
    expect((await loadCell(db, cell.id)).version).toBe(2);
  });

  test('two people, 200 edits each on different devices at the same time: none refused, none lost, each undoes his own', async () => {
    const serves = (device: string, n: number): Edit => ({
      ...{ edit: 'device.set', device },
      set: { serves: `place ${n}` },
    });
    const all = async (who: string, device: string) => {
      // The version that a person has seen: that of his own last edit, as his screen may not show the others' yet.
      let seen = 1;
      for (let n = 0; n < 200; n += 1) seen = (await by(who, serves(device, n), seen)).version;
    };
    await Promise.all([all('anna', 'b1'), all('bert', 'k1')]);
    const { cell: now, version } = await loadCell(db, cell.id);
    expect(version).toBe(401);
    const place = (id: string, of = now) => of.devices.find((d) => d.id === id)!.serves;
    expect([place('b1'), place('k1')]).toEqual(['place 199', 'place 199']);
    const anna = await undo(db, cell.id, request(401, randomUUID(), 'anna'));
    const bert = await undo(db, cell.id, request(402, randomUUID(), 'bert'));
    expect([place('b1', anna.cell), place('k1', anna.cell)]).toEqual(['place 198', 'place 199']);
    expect([place('b1', bert.cell), place('k1', bert.cell)]).toEqual(['place 198', 'place 198']);
    await expect(undo(db, cell.id, request(403, randomUUID(), 'carl'))).rejects.toMatchObject({
      code: 'edit.nothingToUndo',
    });
  });

  test('two columns of one row stand beside each other; what somebody else has changed since is not taken back', async () => {
    await by('anna', { edit: 'device.set', device: 'b1', set: { serves: 'scale' } });
    await by('bert', { edit: 'device.set', device: 'b1', set: { maker: 'Silberdistel' } });
    const b1 = async () => (await loadCell(db, cell.id)).cell.devices.find((d) => d.id === 'b1')!;
    expect(await b1()).toMatchObject({ serves: 'scale', maker: 'Silberdistel' });
    await by('bert', { edit: 'device.set', device: 'b1', set: { serves: 'weigher' } }, 3);
    await expect(undo(db, cell.id, request(4, randomUUID(), 'anna'))).rejects.toMatchObject({
      code: 'edit.undoConflict',
    });
    // His own later one keeps nobody from taking back what he did.
    await undo(db, cell.id, request(4, randomUUID(), 'bert'));
    expect(await b1()).toMatchObject({ serves: 'scale', maker: 'Silberdistel' });
  });

  test('what somebody else has taken away cannot be changed, and what he has changed is not taken away unseen', async () => {
    await by('anna', { edit: 'device.remove', device: 'b1' });
    await expect(
      by('bert', { edit: 'device.set', device: 'b1', set: { serves: 'x' } }),
    ).rejects.toMatchObject({ code: 'edit.conflict', facts: { by: expect.stringMatching(/^remove/) } });
    await by('anna', { edit: 'device.set', device: 'r1', set: { serves: 'x' } }, 2);
    await expect(by('bert', { edit: 'device.remove', device: 'r1' }, 2)).rejects.toMatchObject({
      code: 'edit.conflict',
    });
  });

  test('whoever has the version before gets to the next one by the change that is told', async () => {
    let told = cell;
    const steps = [
      () => edit(1, move(7)),
      () => edit(2, { edit: 'device.remove', device: 'k1' }),
      () => undo(db, cell.id, request(3)),
      () => edit(4, { edit: 'device.move', device: 'b1', to: 3 }),
      () => undo(db, cell.id, request(5)),
      () => undo(db, cell.id, request(6)),
      () => redo(db, cell.id, request(7)),
    ];
    for (const step of steps) {
      const made = await step();
      told = applyEdit(told, made.change.edit);
      expect(told).toEqual(made.cell);
      expect((await loadCell(db, cell.id)).cell).toEqual(made.cell);
    }
    const since = await changesSince(db, cell.id, 1);
    expect(since!.reduce((state, change) => applyEdit(state, change.edit), cell)).toEqual(told);
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
    const made = { version: 2, edit: rename('Store') };
    await expect
      .poll(() => news.at(-1))
      .toMatchObject({ notice: { cell: cell.id, version: 2, change: made } });
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
    // As the desk does: the same change with the same id, until the answer is yes or no; a busy computer is cut often.
    for (let attempt = 0; attempt < 500; attempt += 1) {
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
