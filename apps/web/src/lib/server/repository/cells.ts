import { Problem, type Cell, type Edit } from '@fadenkreuz/core';
import type { Knex } from 'knex';
import { storedRow } from './rowChange.js';
import { fromTables, rowsIn, tables, toRows } from './rows.js';

export interface StoredCell {
  cell: Cell;
  version: number;
}

export interface CellLine {
  id: string;
  name: string;
  devices: number;
}

/** Every cell with its count of devices, by name; of equal names by id, so that the list stands still. */
export async function cellLines(db: Knex): Promise<CellLine[]> {
  const rows = await db('cell')
    .leftJoin('device', 'device.cell_id', 'cell.id')
    .groupBy('cell.id')
    .orderBy(['cell.name', 'cell.id'])
    .select('cell.id', 'cell.name')
    .count<{ id: string; name: string; devices: string }[]>('device.id as devices');
  return rows.map((row) => ({ ...row, devices: Number(row.devices) }));
}

interface KeptCell {
  writtenBy: string;
  stored: StoredCell;
}

/**
 * Cells that are kept as they were last read or written, by database: only the first page after a start reads all of
 * their rows.
 */
const lastRead = new WeakMap<Knex, Map<string, KeptCell>>();
const mostKept = 50;

const keptOf = (db: Knex): Map<string, KeptCell> => {
  const kept = lastRead.get(db) ?? new Map<string, KeptCell>();
  lastRead.set(db, kept);
  return kept;
};

/** Keeps a state of a cell that a transaction has written; one that is newer already stays. */
export function keepCell(db: Knex, cellId: string, state: KeptCell): void {
  const kept = keptOf(db);
  const known = kept.get(cellId);
  if (known && known.stored.version > state.stored.version && known.stored.cell.id === cellId) return;
  kept.delete(cellId);
  kept.set(cellId, state);
  if (kept.size > mostKept) kept.delete(kept.keys().next().value!);
}

/**
 * The transaction that wrote the row of the cell; undefined when there is none. Every edit writes it, and unlike its
 * version it differs from that of a cell of the same name that was removed before.
 */
const writerOf = async (db: Knex, cellId: string): Promise<string | undefined> =>
  (await db('cell').where({ id: cellId }).select<{ by: string }[]>(db.raw('xmin::text as by')))[0]?.by;

/** One state of a cell, read as a whole. Throws `cell.unknown`. */
export async function loadCell(db: Knex, cellId: string): Promise<StoredCell> {
  const known = keptOf(db).get(cellId);
  const by = await writerOf(db, cellId);
  if (known && known.writtenBy === by) return known.stored;
  return db.transaction(
    async (trx) => {
      const writtenBy = await writerOf(trx, cellId);
      const stored = await loadCellWithin(trx, cellId);
      if (writtenBy) {
        keptOf(db).delete(cellId);
        keepCell(db, cellId, { writtenBy, stored });
      }
      return stored;
    },
    { isolationLevel: 'repeatable read', readOnly: true },
  );
}

/**
 * The newest state of a cell, which nobody else can change until the transaction ends; and the change of this id, where
 * it was made already. Throws `cell.unknown`.
 */
export async function cellForChange(
  db: Knex,
  trx: Knex.Transaction,
  cellId: string,
  changeId: string,
): Promise<{ stored: StoredCell; done: { version: number; id: string; edit: Edit } | undefined }> {
  const { rows } = await trx.raw<{
    rows: { version: number; by: string; done: number | null; edit: Edit }[];
  }>(
    `select cell.version, cell.xmin::text as by, change.version as done, change.edit
     from cell left join change on change.cell_id = cell.id and change.id = ?
     where cell.id = ? for update of cell`,
    [changeId, cellId],
  );
  const [head] = rows;
  if (!head) throw new Problem('cell.unknown', { cell: cellId });
  const known = keptOf(db).get(cellId);
  const same = known && known.writtenBy === head.by && known.stored.version === head.version;
  const stored = same ? known.stored : await loadCellWithin(trx, cellId);
  const done = head.done === null ? undefined : { version: head.done, id: changeId, edit: head.edit };
  return { stored, done };
}

/** As loadCell, in a transaction that stands already. */
export async function loadCellWithin(trx: Knex.Transaction, cellId: string): Promise<StoredCell> {
  const rows: Record<string, { id: string }[]> = {};
  for (const table of tables)
    rows[table] = await trx(table)
      .where(table === 'cell' ? { id: cellId } : { cell_id: cellId })
      .select();
  const [head] = rows['cell'] as { id: string; version: number }[];
  if (!head) throw new Problem('cell.unknown', { cell: cellId });
  return { cell: fromTables(rows), version: head.version };
}

/** Stores a new cell as version 1, all or nothing. */
export async function insertCell(db: Knex, cell: Cell): Promise<void> {
  const rows = toRows(cell);
  await db.transaction(async (trx) => {
    for (const table of tables) {
      const own = table === 'cell' ? { version: 1 } : { cell_id: cell.id };
      const stored: Record<string, unknown>[] = rowsIn(rows, table).map((row) => ({
        ...storedRow(row),
        ...own,
      }));
      await trx.batchInsert(table, stored, 500);
    }
  });
}

/** Removes a cell with everything that belongs to it, its history too. */
export async function deleteCell(db: Knex, cellId: string): Promise<void> {
  await db('cell').where({ id: cellId }).delete();
}
