import type { Knex } from 'knex';

/**
 * What parameters are planned to be, what a loss of power leaves of them, what is at ports, and snapshots of what
 * stood in a device.
 */
export async function up(db: Knex): Promise<void> {
  await db.schema.alterTable('parameter', (t) => {
    t.text('planned');
    t.text('decimals_by');
    t.text('retained');
    t.boolean('stop_first').notNullable().defaultTo(false);
    t.boolean('after_restart').notNullable().defaultTo(false);
  });
  // `json`, not `jsonb`: rows are compared as text, and jsonb does not keep the order of keys.
  await db.schema.alterTable('description', (t) => {
    t.json('chosen').notNullable().defaultTo('[]');
    t.json('ports').notNullable().defaultTo('[]');
    t.json('port_rules');
  });
  await db.schema.createTable('snapshot', (t) => {
    t.text('id').primary();
    t.text('cell_id').notNullable().references('cell.id').onDelete('CASCADE');
    // No foreign key: a snapshot outlasts the device, so that a replacement can be set by it.
    t.text('device_id').notNullable();
    t.text('device_name').notNullable();
    t.text('title').notNullable();
    t.text('person').notNullable();
    t.timestamp('at').notNullable();
    t.jsonb('identity').notNullable();
    t.bigInteger('serial_number');
    t.jsonb('values').notNullable();
    t.index(['cell_id', 'device_id', 'at']);
  });
}

/** Snapshots and planned values are gone. */
export async function down(db: Knex): Promise<void> {
  await db.schema.dropTable('snapshot');
  await db.schema.alterTable('description', (t) => t.dropColumns('chosen', 'ports', 'port_rules'));
  await db.schema.alterTable('parameter', (t) =>
    t.dropColumns('planned', 'decimals_by', 'retained', 'stop_first', 'after_restart'),
  );
}
