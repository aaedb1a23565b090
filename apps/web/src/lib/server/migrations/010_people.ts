import type { Knex } from 'knex';

/** Who made a change, on which screen, and as which edit the others hear of it. */
export async function up(db: Knex): Promise<void> {
  await db.schema.alterTable('change', (t) => {
    t.text('desk').notNullable().defaultTo('');
    // `json`, not `jsonb`: it is handed out as it was made.
    t.json('edit');
    t.index(['cell_id', 'who', 'state']);
  });
}

export async function down(db: Knex): Promise<void> {
  await db.schema.alterTable('change', (t) => {
    t.dropIndex(['cell_id', 'who', 'state']);
    t.dropColumns('desk', 'edit');
  });
}
