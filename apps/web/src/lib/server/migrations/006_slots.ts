import type { Knex } from 'knex';

/** What is plugged into PROFINET devices: a list that is read and written as a whole. */
export async function up(db: Knex): Promise<void> {
  await db.schema.alterTable('link', (t) => t.jsonb('slots').notNullable().defaultTo('[]'));
}

export async function down(db: Knex): Promise<void> {
  await db.schema.alterTable('link', (t) => t.dropColumn('slots'));
}
