import type { Knex } from 'knex';

/** What fields and their bits are for. */
export async function up(db: Knex): Promise<void> {
  await db.schema.alterTable('field', (t) => {
    // `json`, not `jsonb`: rows are compared as text, and jsonb does not keep the order of keys.
    t.json('role');
    t.json('bit_roles').notNullable().defaultTo('[]');
  });
}

export async function down(db: Knex): Promise<void> {
  await db.schema.alterTable('field', (t) => t.dropColumns('role', 'bit_roles'));
}
