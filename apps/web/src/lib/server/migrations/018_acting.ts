import { formerKind, formerRole } from '@fadenkreuz/core';
import type { Knex } from 'knex';

type Row = Record<string, unknown>;

/**
 * Devices act by their kind and their roles: parameters have roles and keys, and what a device acted as by name becomes
 * kind and roles.
 */
export async function up(db: Knex): Promise<void> {
  await db.schema.alterTable('parameter', (t) => {
    // `json`, not `jsonb`: rows are compared as text, and jsonb does not keep the order of keys.
    t.json('role');
    t.json('key');
  });
  await db.schema.alterTable('device', (t) => t.boolean('simulated').notNullable().defaultTo(false));
  const devices = await db<Row>('device').whereNotNull('stand_in');
  for (const device of devices) await actsByRoles(db, device);
  await db.schema.alterTable('device', (t) => t.dropColumn('stand_in'));
}

async function actsByRoles(db: Knex, { cell_id, id, kind, stand_in }: Row): Promise<void> {
  const mine = { cell_id, id } as object;
  const former = kind === 'other' ? formerKind(stand_in) : undefined;
  await db('device')
    .where(mine)
    .update({ simulated: true, ...(former ? { kind: former } : {}) });
  const description = await db<Row>('description').where(mine).first('points');
  if (description) {
    const points = (description['points'] as Row[]).map((point) => ({
      ...point,
      fields:
        (point['fields'] as Row[] | null)?.map((field) => ({
          ...field,
          role: field['role'] ?? formerRole(stand_in, point['use'], field['name']) ?? null,
        })) ?? null,
    }));
    await db('description')
      .where(mine)
      .update({ points: JSON.stringify(points) });
  }
  const links = db('link')
    .where({ cell_id, device_id: id } as object)
    .select('id');
  const images = await db<Row>('image')
    .where({ cell_id } as object)
    .whereIn('link_id', links);
  for (const image of images) {
    const of = { cell_id, image_id: image['id'] } as object;
    for (const field of await db<Row>('field').where(of).whereNull('role')) {
      const role = formerRole(stand_in, image['direction'], field['name']);
      const own = { cell_id, id: field['id'] } as object;
      if (role)
        await db('field')
          .where(own)
          .update({ role: JSON.stringify(role) });
    }
  }
}

/** What acted by name does so no longer. */
export async function down(db: Knex): Promise<void> {
  await db.schema.alterTable('device', (t) => t.text('stand_in'));
  await db.schema.alterTable('device', (t) => t.dropColumn('simulated'));
  await db.schema.alterTable('parameter', (t) => t.dropColumns('role', 'key'));
}
