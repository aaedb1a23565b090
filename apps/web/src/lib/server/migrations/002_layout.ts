import type { Knex } from 'knex';

/** Byte order, repetition, the whole value chain, numbering and derived values; and factors as exact ratios. */
export async function up(db: Knex): Promise<void> {
  await db.schema.alterTable('cell', (t) => {
    t.text('controller_element_order').notNullable().defaultTo('little').checkIn(['little', 'big']);
    t.text('controller_notation').notNullable().defaultTo('element');
  });
  await dropChecks(db, 'cell', 'element_bits');
  await db.raw(`alter table cell add check (controller_element_bits in (8, 16, 32, 64))`);
  await db.schema.alterTable('device', (t) => {
    t.boolean('order_selectable').notNullable().defaultTo(false);
  });
  await db.schema.alterTable('image', (t) => {
    t.text('byte_order');
    t.boolean('swapped').notNullable().defaultTo(false);
    // `json`, not `jsonb`: rows are compared as text, and jsonb does not keep the order of keys.
    t.json('numbering');
  });

  /** A part of an image, in its order. */
  const part = (t: Knex.CreateTableBuilder) => {
    t.text('cell_id').notNullable().references('cell.id').onDelete('CASCADE');
    t.text('id').notNullable();
    t.primary(['cell_id', 'id']);
    t.text('image_id').notNullable();
    t.foreign(['cell_id', 'image_id']).references(['cell_id', 'id']).inTable('image').onDelete('CASCADE');
    t.index(['cell_id', 'image_id']);
    t.integer('position').notNullable();
    t.text('name').notNullable();
  };
  await db.schema.createTable('field_group', (t) => {
    part(t);
    t.integer('count').notNullable().checkPositive();
    t.integer('stride').notNullable().checkPositive();
    t.text('parent_id');
    t.integer('first').notNullable();
  });
  await db.schema.createTable('derived', (t) => {
    part(t);
    for (const column of ['expression', 'uncertainty', 'unit', 'note']) t.text(column).notNullable();
  });
  await db.schema.createTable('notation', (t) => {
    t.text('cell_id').notNullable().references('cell.id').onDelete('CASCADE');
    t.text('id').notNullable();
    t.primary(['cell_id', 'id']);
    t.integer('position').notNullable();
    for (const column of ['title', 'side', 'pattern', 'unit_bits', 'order', 'counts', 'from'])
      t.text(column).notNullable();
    for (const column of ['first', 'first_bit']) t.integer(column).notNullable();
    t.integer('last');
    t.boolean('ranges').notNullable();
  });

  await db.schema.alterTable('field', (t) => {
    for (const column of ['byte_order', 'group_id', 'scale_factor', 'scale_add']) t.text(column);
    for (const column of ['array', 'text', 'sign', 'decimals', 'limits']) t.json(column);
    for (const column of ['specials', 'bit_labels']) t.json(column).notNullable().defaultTo('[]');
    for (const column of ['normally_closed', 'safety']) t.boolean(column).notNullable().defaultTo(false);
    t.text('radix').notNullable().defaultTo('decimal');
  });
  await db('field')
    .whereNotNull('scale_numerator')
    .update({
      scale_factor: db.raw(`scale_numerator || '/' || scale_denominator`),
      scale_add: db.raw(`cast(scale_offset as numeric)::text`),
    });
  await db.raw('alter table field alter column labels type json');
  await db.schema.alterTable('field', (t) => {
    t.dropColumns('scale_numerator', 'scale_denominator', 'scale_offset');
    t.check('num_nulls(scale_factor, scale_add) in (0, 2)', {}, 'field_scale_whole');
  });
  await dropChecks(db, 'field', '64');
  await db.raw('alter table field add constraint field_place check (at >= 0 and bits between 1 and 12000)');
  // The changes so far name columns that are gone; they stay as history, but cannot be taken back any more.
  await db('change').whereIn('state', ['done', 'undone']).update({ state: 'gone' });
}

/** Drops the checks of a table whose text mentions something; PostgreSQL has named them itself. */
async function dropChecks(db: Knex, table: string, mentions: string): Promise<void> {
  const found = await db
    .from('pg_constraint')
    .whereRaw(`conrelid = ?::regclass and contype = 'c' and pg_get_constraintdef(oid) like ?`, [
      table,
      `%${mentions}%`,
    ])
    .pluck<string[]>('conname');
  for (const name of found) await db.raw('alter table ?? drop constraint ??', [table, name]);
}

/** There is no way back to rows that cannot hold what is stored now. */
export function down(): Promise<void> {
  return Promise.reject(new Error('This step has no way back: restore a copy of the database.'));
}
