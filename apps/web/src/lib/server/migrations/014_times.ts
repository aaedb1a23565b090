import type { Knex } from 'knex';

/** The shortest update time of devices and controller, and the slowest reaction that is wanted of a link, µs. */
export async function up(db: Knex): Promise<void> {
  await db.schema.alterTable('device', (t) => t.integer('shortest_update'));
  await db.schema.alterTable('cell', (t) => t.integer('controller_shortest_update'));
  await db.schema.alterTable('link', (t) => t.integer('reaction'));
}

export async function down(db: Knex): Promise<void> {
  await db.schema.alterTable('device', (t) => t.dropColumn('shortest_update'));
  await db.schema.alterTable('cell', (t) => t.dropColumn('controller_shortest_update'));
  await db.schema.alterTable('link', (t) => t.dropColumn('reaction'));
}
