import type { Knex } from 'knex';

/** Sets of parameters that a cell adds to those of the kinds. */
export async function up(db: Knex): Promise<void> {
  // `json`, not `jsonb`: rows are compared as text, and jsonb does not keep the order of keys.
  await db.schema.alterTable('cell', (t) => {
    t.json('sets').notNullable().defaultTo('[]');
  });
}

export async function down(db: Knex): Promise<void> {
  await db.schema.alterTable('cell', (t) => t.dropColumn('sets'));
}
