import type { Knex } from 'knex';

/** How the controller sees the bytes of a link as elements, where not as its protocol or its controller has it. */
export async function up(db: Knex): Promise<void> {
  await db.schema.alterTable('link', (t) => {
    t.integer('element_bits').checkIn(['8', '16', '32', '64']);
    t.text('element_order').checkIn(['little', 'big']);
  });
}

export async function down(db: Knex): Promise<void> {
  await db.schema.alterTable('link', (t) => t.dropColumns('element_bits', 'element_order'));
}
