import type { Knex } from 'knex';

/** The machine around the devices of a cell, line by line. */
export async function up(db: Knex): Promise<void> {
  await db.schema.createTable('machine_line', (t) => {
    t.text('cell_id').notNullable().references('cell.id').onDelete('CASCADE');
    t.text('id').notNullable();
    t.primary(['cell_id', 'id']);
    t.integer('position').notNullable();
    t.text('name').notNullable();
    t.text('expression').notNullable();
    t.text('unit').notNullable();
    t.double('begins').notNullable();
    t.text('note').notNullable();
  });
}

export async function down(db: Knex): Promise<void> {
  await db.schema.dropTable('machine_line');
}
