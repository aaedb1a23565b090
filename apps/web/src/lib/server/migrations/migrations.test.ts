import { randomUUID } from 'node:crypto';
import { readFileSync } from 'node:fs';
import { actingByRoles, readCellFile } from '@fadenkreuz/core';
import { afterAll, beforeAll, expect, inject, test } from 'vitest';
import { openDatabase, updateTables, type Knex } from '../database.js';
import { loadCell } from '../repository/cells.js';
import { makeEdit, undo, undoState } from '../repository/changes.js';

/** Databases as earlier versions of this program left them, taken over. */
let db: Knex;
beforeAll(() => {
  db = openDatabase(inject('databaseUrl'));
});
afterAll(() => db.destroy());

/** A database of its own, brought up to this step. */
async function at(step: string, use: (old: Knex) => Promise<void>): Promise<void> {
  const name = `old_${randomUUID().replaceAll('-', '')}`;
  await db.raw('create database ??', [name]);
  const old = openDatabase(inject('databaseUrl').replace(/[^/]*$/, name));
  try {
    // Each call goes one step on.
    const done = async () => ((await old.migrate.list()) as [{ name: string }[]])[0].map((m) => m.name);
    do await old.migrate.up();
    while (!(await done()).includes(step));
    await use(old);
  } finally {
    await old.destroy();
    await db.raw('drop database ?? with (force)', [name]);
  }
}
const written = (name: string) => readFileSync(new URL(name, import.meta.url), 'utf8');

test('tables that hold something change only once they are copied', async () => {
  await at('022_drive_trains', async (old) => {
    const pending = async () => ((await old.migrate.list()) as [unknown[], unknown[]])[1].length;
    expect(await updateTables(old, false)).toBe(false);
    expect(await pending()).toBeGreaterThan(0);
    expect(await updateTables(old, true)).toBe(true);
    expect(await pending()).toBe(0);
    expect(await updateTables(old, false)).toBe(true);
  });
});

test('one of the first version: scales and all', () =>
  at('001_cell', async (old) => {
    await old('cell').insert({
      ...{
        id: 'c',
        version: 2,
        name: 'C',
        designation: '',
        controller_name: 'p',
        controller_designation: '',
      },
      ...{ controller_address: '10.0.0.1', controller_element_bits: 16, subnet: '10.0.0.0/24' },
    });
    await old('device').insert({
      ...{
        cell_id: 'c',
        id: 'd',
        position: 0,
        name: 'd',
        designation: '',
        kind: 'other',
        maker: '',
        serves: '',
      },
      ...{ address: '10.0.0.2', product_name: '', vendor: 1, device_type: 1, product_code: 1 },
      ...{ major_revision: 1, minor_revision: 1 },
    });
    await old('link').insert({
      ...{ cell_id: 'c', id: 'l', device_id: 'd', position: 0, protocol: 'ethernet-ip' },
      ...{ connection: 'exclusive-owner', on_loss: 'drop', configuration_data: '', command_rpi: 20000 },
      ...{ feedback_rpi: 20000, timeout_multiplier: 16, configuration_instance: 150 },
    });
    for (const direction of ['command', 'feedback'])
      await old('image').insert({
        ...{ cell_id: 'c', id: direction, link_id: 'l', direction, instance: 100, size: 8, start: 0 },
      });
    await old('field').insert({
      ...{
        cell_id: 'c',
        id: 'f',
        image_id: 'feedback',
        position: 0,
        name: 'f',
        type: 'INT',
        unit: '',
        note: '',
      },
      ...{ at: 0, bits: 16, scale_numerator: 1, scale_denominator: 100, scale_offset: -2.5, labels: '[]' },
    });
    await old('change').insert({
      ...{
        cell_id: 'c',
        version: 2,
        id: randomUUID(),
        who: 'x',
        title: 't',
        kind: 'edit',
        state: 'done',
        rows: '[]',
      },
    });
    await old.migrate.latest();
    const { cell: taken } = await loadCell(old, 'c');
    expect(taken.devices[0]!.links[0]!.feedback.fields[0]).toMatchObject({
      name: 'f',
      scale: { factor: '1/100', offset: '-2.5' },
    });
    expect(await undoState(old, 'c', 'test')).toEqual({ undo: null, redo: null });
  }));

/**
 * Written by the program of before descriptions (commit 395a8e6) through its own API: a drive and an IO-Link master
 * that behaviours stood in for, a PROFINET robot and an axis by hand, which was taken away last. Beside it the cell
 * file that the same program answered.
 */
test('one from before descriptions: every protocol, by hand and with a stand-in, and what was taken away', () =>
  at('008_lights', async (old) => {
    await old.raw(written('./008_lights.sql').replaceAll('?', '\\?'));
    await old.migrate.latest();
    const file = readCellFile(written('./008_lights.cell.json'));
    const { cell, version } = await loadCell(old, file.id);
    expect([cell, version]).toEqual([file, 6]);
    const offers = cell.devices.map(({ name, description: { origin, offer, points } }) => [
      ...[name, origin.from, offer?.protocol],
      points.length,
    ]);
    expect(offers).toEqual([
      ['brush_belt_m1', 'hand', undefined, 3],
      ['port_hub_g1', 'hand', undefined, 2],
      ['crate_robot_r2', 'hand', undefined, 2],
    ]);

    // What they acted as by name is their kind and their roles now.
    expect(cell.devices.map((d) => [d.simulated, actingByRoles(d)?.title.split(':')[0]])).toEqual([
      [true, 'a drive'],
      [true, 'an IO-Link master'],
      [false, undefined],
    ]);

    const request = { id: randomUUID(), madeOn: version, who: 'desk', desk: 'desk' };
    await undo(old, cell.id, request);
    const back = (await loadCell(old, cell.id)).cell.devices.find((d) => d.id === 'door')!;
    expect(back).toMatchObject({ name: 'oven_door_a2', serves: 'oven door', simulated: false });
    expect(back.description).toMatchObject({
      origin: { from: 'hand' },
      points: [{ use: 'command' }, { use: 'feedback' }, { use: 'configuration' }],
      limits: { connections: 4, packets: 2000 },
      parameters: [{ id: 'door-p1', name: 'Ramp', limits: { minimum: '0.1', maximum: '60' } }],
      lights: [{ light: 'module', pattern: '2 pulses' }],
    });
    await makeEdit(
      old,
      cell.id,
      { ...request, id: randomUUID(), madeOn: version + 1 },
      { edit: 'description.set', device: 'door', set: { limits: { connections: 5, packets: null } } },
    );
    const now = (await loadCell(old, cell.id)).cell.devices.find((d) => d.id === 'door')!;
    expect(now.description.limits).toEqual({ connections: 5, packets: null, update: null });
  }));
