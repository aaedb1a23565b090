import type { Knex } from 'knex';

/** When a cell was made, and when it was deleted: it can be restored for a while. */
export async function up(db: Knex): Promise<void> {
  await db.schema.alterTable('cell', (t) => {
    t.timestamp('created_at').notNullable().defaultTo(db.fn.now());
    t.timestamp('deleted_at');
  });
}

/** A cell that is deleted is gone. */
export async function down(db: Knex): Promise<void> {
  await db('cell').whereNotNull('deleted_at').delete();
  await db.schema.alterTable('cell', (t) => t.dropColumns('created_at', 'deleted_at'));
}
