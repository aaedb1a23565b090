import type { Knex } from 'knex';

/**
 * What the lights of a device say. `json`, not `jsonb`: rows are compared as text, and jsonb does not keep the order of
 * keys.
 */
export async function up(db: Knex): Promise<void> {
  await db.schema.alterTable('device', (t) => {
    t.json('lights').notNullable().defaultTo('[]');
  });
}

export async function down(db: Knex): Promise<void> {
  await db.schema.alterTable('device', (t) => t.dropColumn('lights'));
}
