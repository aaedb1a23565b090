import { randomUUID } from 'node:crypto';
import { readFileSync } from 'node:fs';
import {
  Cell,
  Field,
  Notation,
  Parameter,
  protocolById,
  readCellFile,
  type Edit,
  type LinkOf,
} from '@fadenkreuz/core';
import { afterAll, beforeAll, beforeEach, describe, expect, inject, test } from 'vitest';
import { openDatabase, type Knex } from '../database.js';
import { cellLines, deleteCell, insertCell, loadCell, removeCell, restoreCell } from './cells.js';
import { makeEdit } from './changes.js';

const wholeDemo = readCellFile(
  readFileSync(new URL('../../../../../../demo/ripening-store-3.json', import.meta.url), 'utf8'),
);
/** Six devices are enough for what is tried here hundreds of times; the whole one is stored once. */
const demo = { ...wholeDemo, devices: wholeDemo.devices.slice(0, 6) };
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
const rename = (name: string): Edit => ({ edit: 'cell.set', set: { name } });

describe('cells', () => {
  test('a cell that was removed is not taken for one that was made in its place', async () => {
    expect((await loadCell(db, cell.id)).cell.name).toBe(cell.name);
    await removeCell(db, cell.id);
    await expect(loadCell(db, cell.id)).rejects.toMatchObject({ code: 'cell.unknown' });
    const other = { ...cell, name: 'Another store' };
    await insertCell(db, other);
    expect(await loadCell(db, cell.id)).toEqual({ cell: other, version: 1 });
  });

  test('the whole demo, with links of every kind and their blocks', async () => {
    const whole = { ...wholeDemo, id: randomUUID() };
    await insertCell(db, whole);
    expect((await loadCell(db, whole.id)).cell).toEqual(whole);
  });

  test('a stored cell is loaded as it was, every row of it', async () => {
    expect(await loadCell(db, cell.id)).toEqual({ cell, version: 1 });
    const line = (await cellLines(db)).find(({ id }) => id === cell.id)!;
    expect(line).toMatchObject({
      ...{ name: cell.name, subnet: cell.network.subnet, controller: cell.controller.name },
      ...{ devices: cell.devices.length, version: 1, deleted: null },
    });
    expect(line.changed).toEqual(line.created);
    await edit(1, rename('x'));
    const changed = (await cellLines(db)).find(({ id }) => id === cell.id)!;
    expect(changed.changed.getTime()).toBeGreaterThanOrEqual(line.created.getTime());
    expect(changed).toMatchObject({ name: 'x', version: 2, created: line.created });
  });

  test('every entry that the model has is stored and comes back, in its order', async () => {
    const full = structuredClone({ ...cell, id: randomUUID() });
    full.controller = { ...full.controller, elementBits: 64, elementOrder: 'big', notation: 'rows' };
    full.notations = [
      Notation.parse({
        ...{
          id: 'rows',
          title: 'rows',
          side: 'controller',
          pattern: 'row {unit:hex}/{bit}',
          unitBits: 'element',
        },
        ...{ order: 'element', counts: 'units', from: 'area', first: 1, firstBit: 1, last: 99 },
      }),
    ];
    const image = full.devices[2]!.links[0]!.feedback;
    Object.assign(image, {
      order: 'bigSwapped',
      swapped: true,
      numbering: {
        notation: 'signal',
        before: 4,
        slot: 1,
        subslot: 2,
        signals: [{ first: 217, count: 4, point: 12 }],
        blocks: [{ name: 'status', at: 2, first: 1 }],
      },
      groups: [
        { id: 'g2', name: 'port', count: 2, stride: 64, parent: null, first: 0 },
        { id: 'g1', name: 'channel', count: 2, stride: 32, parent: 'g2', first: 1 },
      ],
    });
    image.fields[0] = Field.parse({
      ...image.fields[0],
      order: 'big',
      group: 'g1',
      array: { count: 2, stride: 32 },
      sign: { way: 'bit', field: image.fields[1]!.id, bit: 3, inverted: true },
      scale: { factor: '5/9', offset: '-160/9' },
      decimals: { way: 'parameter', parameter: 'places', places: 2 },
      limits: { minimum: '-10', maximum: null },
      specials: [{ value: 65535, means: 'overrange' }],
      bitLabels: [{ bit: 3, text: 'late' }],
      normallyClosed: true,
      safety: true,
      radix: 'hex',
      sourceName: 'Late (ms)',
      role: { is: 'input', number: 2 },
      bitRoles: [{ bit: 3, role: { is: 'fault reset', number: null } }],
    });
    image.fields[1] = Field.parse({
      ...{ id: 'text', name: 'text', type: 'STRING', at: 0, bits: 160 },
      text: { prefix: 16, encoding: 'utf-8', pad: 32 },
    });
    full.network = {
      ...full.network,
      further: ['10.5.0.0/16', '10.6.0.0/16'],
      ranges: [{ id: 'r', first: '192.168.40.60', last: '192.168.40.69', kind: 'robot', title: 'arms' }],
      rate: 1000,
    };
    full.naming = { pattern: '{words}', longest: 20 };
    full.controller = {
      ...full.controller,
      cycle: 4000,
      limits: { connections: 32, packets: null, update: 2000 },
    };
    full.devices[0]!.description.parameters = [
      Parameter.parse({ id: 'p1', name: 'ramp', type: 'UINT', bits: 16 }),
      Parameter.parse({
        ...{ id: 'p2', code: 'P0305', name: 'mode', group: 'motor', type: 'DWORD', bits: 32, order: 'big' },
        ...{ place: { way: 'attribute', class: 100, instance: 1, attribute: 5 }, access: 'read' },
        ...{ scale: { factor: '1/10', offset: '-5' }, unit: 's', limits: { minimum: '0', maximum: null } },
        ...{ initial: '1.5', labels: [{ value: 1, text: 'on' }], note: 'page 12' },
        ...{ planned: '2.5', decimals: 'P1', retained: 'after saving', stopFirst: true, afterRestart: true },
      }),
    ];
    full.devices[0]!.description.chosen = [
      { use: 'feedback', point: 100, at: 4, size: 2, selectors: ['P1', 'P2'], by: 'code' },
    ];
    full.devices[0]!.description.lights = [
      { light: 'module', colour: 'red', pattern: '2 pulses', means: 'no supply' },
    ];
    full.devices[1]!.description.limits = { connections: null, packets: 4000, update: 16_000 };
    Object.assign(full.devices[1]!, {
      orderNumber: 'X-1',
      factoryAddress: '192.168.1.7',
      mac: '02-FA-12-34-56-78',
      serialNumber: 0xfedcba98,
    });
    const slot = { slot: 3, subslot: 1, module: 'M', moduleIdent: 0xffffffff, submoduleIdent: 1 };
    const [link] = full.devices[1]!.links;
    full.devices[1]!.links = [
      {
        ...protocolById('profinet').create({
          ...{ id: link!.id, command: link!.command, feedback: link!.feedback, update: 8000 },
        }),
        reaction: 40_000,
        slots: [{ ...slot, title: 'Status', inputs: 8, outputs: 0 }],
      } as LinkOf<'profinet'>,
    ];
    await insertCell(db, full);
    const stored = await loadCell(db, full.id);
    expect(JSON.stringify(stored.cell)).toBe(JSON.stringify(Cell.parse(full)));
  });

  test('an unknown cell', () =>
    expect(loadCell(db, 'nobody')).rejects.toMatchObject({ code: 'cell.unknown' }));

  test('a deleted cell takes no edits, and comes back with its history', async () => {
    await edit(1, rename('x'));
    await deleteCell(db, cell.id);
    const deleted = { code: 'cell.deleted' };
    await expect(loadCell(db, cell.id)).rejects.toMatchObject(deleted);
    await expect(edit(2, rename('y'))).rejects.toMatchObject(deleted);
    await expect(deleteCell(db, cell.id)).rejects.toMatchObject(deleted);
    const ids = async (which: 'there' | 'deleted') => (await cellLines(db, which)).map((line) => line.id);
    expect(await ids('there')).not.toContain(cell.id);
    expect(await ids('deleted')).toContain(cell.id);
    await restoreCell(db, cell.id);
    expect(await loadCell(db, cell.id)).toMatchObject({ cell: { name: 'x' }, version: 2 });
    await edit(2, rename('y'));
    expect(await ids('there')).toContain(cell.id);
  });

  test('after 30 days a deleted cell cannot be restored, and is forgotten with the next one', async () => {
    await deleteCell(db, cell.id);
    const age = (days: number) =>
      db('cell')
        .where({ id: cell.id })
        .update({ deleted_at: db.raw('now() - make_interval(days => ?)', [days]) });
    await age(29);
    expect((await cellLines(db, 'deleted')).map((line) => line.id)).toContain(cell.id);
    await age(30);
    expect((await cellLines(db, 'deleted')).map((line) => line.id)).not.toContain(cell.id);
    await expect(restoreCell(db, cell.id)).rejects.toMatchObject({ code: 'cell.unknown' });
    const other = { ...cell, id: randomUUID() };
    await insertCell(db, other);
    await deleteCell(db, other.id);
    expect(await db('cell').where({ id: cell.id })).toEqual([]);
    await expect(deleteCell(db, cell.id)).rejects.toMatchObject({ code: 'cell.unknown' });
  });

  test('a removed cell leaves no row behind', async () => {
    await edit(1, rename('x'));
    await removeCell(db, cell.id);
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
