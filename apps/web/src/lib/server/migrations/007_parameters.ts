import type { Knex } from 'knex';

/** What is read and set by requests: the parameters of a device, in their order. */
export async function up(db: Knex): Promise<void> {
  await db.schema.createTable('parameter', (t) => {
    t.text('cell_id').notNullable().references('cell.id').onDelete('CASCADE');
    t.text('id').notNullable();
    t.primary(['cell_id', 'id']);
    t.text('device_id').notNullable();
    t.foreign(['cell_id', 'device_id']).references(['cell_id', 'id']).inTable('device').onDelete('CASCADE');
    t.index(['cell_id', 'device_id']);
    t.integer('position').notNullable();
    for (const column of ['code', 'name', 'heading', 'type', 'unit', 'note']) t.text(column).notNullable();
    t.integer('bits').notNullable().checkPositive();
    t.text('byte_order');
    t.text('access').notNullable().checkIn(['read-write', 'read', 'write']);
    t.text('scale_factor');
    t.text('scale_add');
    t.text('initial');
    // `json`, not `jsonb`: rows are compared as text, and jsonb does not keep the order of keys.
    t.json('place');
    t.json('limits');
    t.json('labels').notNullable();
    t.check('num_nulls(scale_factor, scale_add) in (0, 2)', {}, 'parameter_scale_whole');
  });
}

export async function down(db: Knex): Promise<void> {
  await db.schema.dropTable('parameter');
}
