import { Problem, type Cell } from '@fadenkreuz/core';
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

/** Cells that are kept as they were last read, by database, so that only the first page after an edit reads all of their rows. */
const lastRead = new WeakMap<Knex, Map<string, KeptCell>>();
const mostKept = 50;

/**
 * The transaction that wrote the row of the cell; undefined when there is none. Every edit writes it, and unlike its version it differs
 * from that of a cell of the same name that was removed before.
 */
const writerOf = async (db: Knex, cellId: string): Promise<string | undefined> =>
  (await db('cell').where({ id: cellId }).select<{ by: string }[]>(db.raw('xmin::text as by')))[0]?.by;

/** One state of a cell, read as a whole. Throws `cell.unknown`. */
export async function loadCell(db: Knex, cellId: string): Promise<StoredCell> {
  const kept = lastRead.get(db) ?? new Map<string, KeptCell>();
  lastRead.set(db, kept);
  const known = kept.get(cellId);
  if (known && known.writtenBy === (await writerOf(db, cellId))) return known.stored;
  return db.transaction(
    async (trx) => {
      const writtenBy = await writerOf(trx, cellId);
      const stored = await loadCellWithin(trx, cellId);
      kept.delete(cellId);
      if (writtenBy) kept.set(cellId, { writtenBy, stored });
      if (kept.size > mostKept) kept.delete(kept.keys().next().value!);
      return stored;
    },
    { isolationLevel: 'repeatable read', readOnly: true },
  );
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
