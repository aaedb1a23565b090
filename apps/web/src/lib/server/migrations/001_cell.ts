import type { Knex } from 'knex';

/** The tables of the model: one row per part of a cell, keyed within its cell; and the log of changes. */
export async function up(db: Knex): Promise<void> {
  const text = (t: Knex.CreateTableBuilder, name: string) => t.text(name).notNullable();
  const int = (t: Knex.CreateTableBuilder, name: string) => t.integer(name).notNullable();

  await db.schema.createTable('cell', (t) => {
    t.text('id').primary();
    int(t, 'version').checkPositive();
    text(t, 'name');
    text(t, 'designation');
    text(t, 'controller_name');
    text(t, 'controller_designation');
    text(t, 'controller_address');
    int(t, 'controller_element_bits').checkIn(['8', '16', '32']);
    text(t, 'subnet');
    t.text('gateway');
  });

  /** A part of a cell: its own id is unique within the cell, and it goes when its parent goes. */
  const part = (t: Knex.CreateTableBuilder, parent?: { table: string; column: string }) => {
    t.text('cell_id').notNullable().references('cell.id').onDelete('CASCADE');
    text(t, 'id');
    t.primary(['cell_id', 'id']);
    if (!parent) return;
    text(t, parent.column);
    t.foreign(['cell_id', parent.column])
      .references(['cell_id', 'id'])
      .inTable(parent.table)
      .onDelete('CASCADE');
    t.index(['cell_id', parent.column]);
  };

  await db.schema.createTable('device', (t) => {
    part(t);
    int(t, 'position');
    for (const name of ['name', 'designation', 'kind', 'maker', 'serves', 'address', 'product_name'])
      text(t, name);
    for (const name of ['vendor', 'device_type', 'product_code', 'major_revision', 'minor_revision'])
      int(t, name);
    t.text('stand_in');
  });
  await db.schema.createTable('link', (t) => {
    part(t, { table: 'device', column: 'device_id' });
    int(t, 'position');
    for (const name of ['protocol', 'connection', 'on_loss', 'configuration_data']) text(t, name);
    for (const name of ['command_rpi', 'feedback_rpi', 'timeout_multiplier', 'configuration_instance'])
      int(t, name);
  });
  await db.schema.createTable('image', (t) => {
    part(t, { table: 'link', column: 'link_id' });
    text(t, 'direction').checkIn(['command', 'feedback']);
    for (const name of ['instance', 'size', 'start']) int(t, name);
    t.unique(['cell_id', 'link_id', 'direction']);
    t.check('size >= 0 and start >= 0');
  });
  await db.schema.createTable('field', (t) => {
    part(t, { table: 'image', column: 'image_id' });
    int(t, 'position');
    for (const name of ['name', 'type', 'unit', 'note']) text(t, name);
    int(t, 'at');
    int(t, 'bits');
    t.integer('scale_numerator');
    t.integer('scale_denominator');
    t.double('scale_offset');
    t.jsonb('labels').notNullable();
    t.check('at >= 0 and bits between 1 and 64');
    t.check('num_nulls(scale_numerator, scale_denominator, scale_offset) in (0, 3)');
  });

  await db.schema.createTable('change', (t) => {
    t.text('cell_id').notNullable().references('cell.id').onDelete('CASCADE');
    /** The version of the cell that this change made. */
    int(t, 'version');
    t.primary(['cell_id', 'version']);
    /** Chosen by the client: the same change sent twice is done once. */
    t.uuid('id').notNullable().unique();
    t.timestamp('at', { useTz: true }).notNullable().defaultTo(db.fn.now());
    text(t, 'who');
    text(t, 'title');
    text(t, 'kind').checkIn(['edit', 'undo', 'redo']);
    /** Of an edit: done, undone, or gone (undone, and then another edit was made). */
    text(t, 'state').checkIn(['done', 'undone', 'gone']);
    /** The rows that it touched: table, id, before, after. */
    t.jsonb('rows').notNullable();
  });
}

export async function down(db: Knex): Promise<void> {
  for (const table of ['change', 'field', 'image', 'link', 'device', 'cell'])
    await db.schema.dropTable(table);
}
