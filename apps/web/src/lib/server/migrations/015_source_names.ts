import type { Knex } from 'knex';

/** What a field is called in the description file that it came from, where it is called otherwise here. */
export async function up(db: Knex): Promise<void> {
  await db.schema.alterTable('field', (t) => t.text('source_name').notNullable().defaultTo(''));
}

export async function down(db: Knex): Promise<void> {
  await db.schema.alterTable('field', (t) => t.dropColumn('source_name'));
}
