import type { Knex } from 'knex';

/** Links of every kind: how a connection is opened, and the blocks of Modbus links. */
export async function up(db: Knex): Promise<void> {
  await db.schema.alterTable('link', (t) => {
    t.text('to_controller').notNullable().defaultTo('point-to-point');
    t.text('trigger').notNullable().defaultTo('cyclic');
    t.text('command_format').notNullable().defaultTo('run-idle');
    t.text('feedback_format').notNullable().defaultTo('modeless');
    t.integer('unit').notNullable().defaultTo(255);
    t.integer('port').notNullable().defaultTo(502);
  });
  await db.schema.createTable('block', (t) => {
    t.text('cell_id').notNullable().references('cell.id').onDelete('CASCADE');
    t.text('id').notNullable();
    t.primary(['cell_id', 'id']);
    t.text('link_id').notNullable();
    t.foreign(['cell_id', 'link_id']).references(['cell_id', 'id']).inTable('link').onDelete('CASCADE');
    t.index(['cell_id', 'link_id']);
    t.integer('position').notNullable();
    t.text('name').notNullable();
    t.text('direction').notNullable().checkIn(['command', 'feedback']);
    t.text('table').notNullable().checkIn(['coils', 'discrete', 'holding', 'input']);
    for (const column of ['start', 'count', 'poll', 'at']) t.integer(column).notNullable();
    t.integer('fresh');
    t.integer('age');
  });
}

export async function down(db: Knex): Promise<void> {
  await db.schema.dropTable('block');
  await db.schema.alterTable('link', (t) =>
    t.dropColumns('to_controller', 'trigger', 'command_format', 'feedback_format', 'unit', 'port'),
  );
}
