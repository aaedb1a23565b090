import type { Knex } from 'knex';

/** What a drive turns, and what a safety controller's status bits mean. */
export async function up(db: Knex): Promise<void> {
  // `json`, not `jsonb`: rows are compared as text, and jsonb does not keep the order of keys.
  await db.schema.alterTable('device', (t) => {
    t.json('train');
    t.json('safety');
  });
}

export async function down(db: Knex): Promise<void> {
  await db.schema.alterTable('device', (t) => t.dropColumns('train', 'safety'));
}
