import type { Knex } from 'knex';

/** How the controller counts its direct addresses; and numberings that say of their blocks that there are none. */
export async function up(db: Knex): Promise<void> {
  await db.schema.alterTable('cell', (t) => {
    t.text('controller_direct_counts').checkIn(['bytes', 'units', 'words']);
    t.integer('controller_input_from').notNullable().defaultTo(0);
    t.integer('controller_output_from').notNullable().defaultTo(0);
  });
  await db('image')
    .whereNotNull('numbering')
    .update({ numbering: db.raw(`(numbering::jsonb || '{"blocks": []}')::json`) });
}

export async function down(db: Knex): Promise<void> {
  await db.schema.alterTable('cell', (t) =>
    t.dropColumns('controller_direct_counts', 'controller_input_from', 'controller_output_from'),
  );
  await db('image')
    .whereNotNull('numbering')
    .update({ numbering: db.raw(`(numbering::jsonb - 'blocks')::json`) });
}
