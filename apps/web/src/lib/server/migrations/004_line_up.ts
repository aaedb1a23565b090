import type { Knex } from 'knex';

/** What the line-up knows of names, addresses, nameplates and limits. */
export async function up(db: Knex): Promise<void> {
  await db.schema.alterTable('device', (t) => {
    t.text('order_number').notNullable().defaultTo('');
    t.text('factory_address');
    t.text('mac').notNullable().defaultTo('');
    t.bigInteger('serial_number');
    t.integer('most_connections');
    t.integer('most_packets');
  });
  await db.schema.alterTable('cell', (t) => {
    t.jsonb('further_subnets').notNullable().defaultTo('[]');
    t.integer('rate').notNullable().defaultTo(100).checkIn(['100', '1000']);
    t.text('naming_pattern').notNullable().defaultTo('');
    t.integer('naming_longest').notNullable().defaultTo(32);
    t.integer('controller_cycle').notNullable().defaultTo(10_000);
    t.integer('controller_connections');
    t.integer('controller_packets');
  });
  await db.schema.createTable('address_range', (t) => {
    t.text('cell_id').notNullable().references('cell.id').onDelete('CASCADE');
    t.text('id').notNullable();
    t.primary(['cell_id', 'id']);
    t.integer('position').notNullable();
    t.text('first').notNullable();
    t.text('last').notNullable();
    t.text('kind');
    t.text('title').notNullable();
  });
}

export async function down(db: Knex): Promise<void> {
  await db.schema.dropTable('address_range');
  await db.schema.alterTable('cell', (t) =>
    t.dropColumns(
      'further_subnets',
      'rate',
      'naming_pattern',
      'naming_longest',
      'controller_cycle',
      'controller_connections',
      'controller_packets',
    ),
  );
  await db.schema.alterTable('device', (t) =>
    t.dropColumns(
      'order_number',
      'factory_address',
      'mac',
      'serial_number',
      'most_connections',
      'most_packets',
    ),
  );
}
