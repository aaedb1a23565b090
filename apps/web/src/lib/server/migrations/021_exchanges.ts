import type { Knex } from 'knex';

/** Exchanges step by step, and what somebody changed at the chains of what stops a device. */
export async function up(db: Knex): Promise<void> {
  // `json`, not `jsonb`: rows are compared as text, and jsonb does not keep the order of keys.
  await db.schema.alterTable('device', (t) =>
    t.json('beam').notNullable().defaultTo('{"leftOut":[],"own":[]}'),
  );
  await db.schema.createTable('exchange', (t) => {
    t.text('cell_id').notNullable().references('cell.id').onDelete('CASCADE');
    t.text('id').notNullable();
    t.primary(['cell_id', 'id']);
    t.integer('position').notNullable();
    t.text('name').notNullable();
    t.text('note').notNullable();
    t.json('preconditions').notNullable();
    t.json('variables').notNullable();
  });
  await db.schema.createTable('exchange_step', (t) => {
    t.text('cell_id').notNullable().references('cell.id').onDelete('CASCADE');
    t.text('id').notNullable();
    t.primary(['cell_id', 'id']);
    t.text('exchange_id').notNullable();
    t.foreign(['cell_id', 'exchange_id'])
      .references(['cell_id', 'id'])
      .inTable('exchange')
      .onDelete('CASCADE');
    t.integer('position').notNullable();
    t.text('title').notNullable();
    t.json('orders').notNullable();
    t.json('conditions').notNullable();
    t.boolean('any').notNullable();
    t.integer('updates').notNullable();
    t.integer('least').notNullable();
    t.integer('limit');
    t.text('reason').notNullable();
    t.text('late');
    t.boolean('fails').notNullable();
    t.json('results').notNullable();
    t.json('branches').notNullable();
    t.json('repeat');
  });
}

export async function down(db: Knex): Promise<void> {
  await db.schema.dropTable('exchange_step');
  await db.schema.dropTable('exchange');
  await db.schema.alterTable('device', (t) => t.dropColumn('beam'));
}
