import type { Knex } from 'knex';

/** The ends of a value's limits are called minimum and maximum, no longer least and most. */
const renamed: [string, string][] = [
  ['least', 'minimum'],
  ['most', 'maximum'],
];

/** A key in the text of JSON: inside a string its quotes would stand behind a backslash. */
async function rename(db: Knex, table: string, column: string, type: 'json' | 'jsonb'): Promise<void> {
  for (const [from, to] of renamed)
    await db(table)
      .whereRaw('??::text ~ ?', [column, `"${from}"\\s*:`])
      .update({
        [column]: db.raw(`regexp_replace(??::text, ?, ?, 'g')::${type}`, [
          ...[column, `"${from}"(\\s*):`, `"${to}"\\1:`],
        ]),
      });
}

export async function up(db: Knex): Promise<void> {
  await rename(db, 'field', 'limits', 'json');
  await rename(db, 'parameter', 'limits', 'json');
  await rename(db, 'description', 'points', 'json');
  await rename(db, 'change', 'rows', 'jsonb');
  // Edits as they were made before are no edits of today: whoever asks for them gets the whole cell.
  await db('change').update({ edit: null });
}

/** There is no way back to names that no program reads. */
export function down(): Promise<void> {
  return Promise.reject(new Error('This step has no way back: restore a copy of the database.'));
}
