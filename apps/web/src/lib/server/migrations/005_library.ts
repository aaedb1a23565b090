import type { Knex } from 'knex';

/** Describers: the files as they came, and what a search asks for. */
export async function up(db: Knex): Promise<void> {
  await db.schema.createTable('describer', (t) => {
    t.text('id').primary();
    // The same file is kept once.
    t.text('hash').notNullable().unique();
    t.text('file_name').notNullable();
    t.binary('bytes').notNullable();
    t.text('source').notNullable().checkIn(['eds', 'gsdml', 'iodd', 'table']);
    t.text('protocol').notNullable();
    t.text('maker').notNullable();
    t.integer('vendor').notNullable();
    t.bigInteger('product').notNullable();
    t.text('title').notNullable();
    t.text('kind').notNullable();
    t.jsonb('order_numbers').notNullable();
    t.text('revision').notNullable();
    t.timestamp('added').notNullable().defaultTo(db.fn.now());
    t.index(['vendor', 'product']);
  });
}

export async function down(db: Knex): Promise<void> {
  await db.schema.dropTable('describer');
}
