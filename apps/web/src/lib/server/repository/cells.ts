import { Problem, type Cell, type Edit } from '@fadenkreuz/core';
import type { Knex } from 'knex';
import { storedRow } from './rowChange.js';
import { fromTables, rowsIn, tables, toRows } from './rows.js';

export interface StoredCell {
  cell: Cell;
  version: number;
}

/** A cell in the list of cells. */
export interface CellLine {
  id: string;
  name: string;
  subnet: string;
  controller: string;
  devices: number;
  version: number;
  created: Date;
  /** When it was last changed; when it was made, if never. */
  changed: Date;
  /** When it was deleted; null for one that is there. */
  deleted: Date | null;
}

/** A deleted cell can be restored for so many days. */
export const keptDays = 30;

/** Every cell by name, of equal names by age; deleted ones too, the latest first, while they can be restored. */
export async function cellLines(db: Knex, which: 'there' | 'deleted' = 'there'): Promise<CellLine[]> {
  const devices = db('device').whereRaw('device.cell_id = cell.id').count();
  const changed = db('change').whereRaw('change.cell_id = cell.id').max('at');
  const lines = await db('cell')
    .modify((query) =>
      which === 'there'
        ? void query.whereNull('deleted_at').orderBy(['name', 'created_at', 'id'])
        : void query.where('deleted_at', '>', daysAgo(db)).orderBy('deleted_at', 'desc'),
    )
    .select<(Omit<CellLine, 'devices' | 'changed'> & { devices: string; changed: Date | null })[]>(
      'id',
      'name',
      'subnet',
      'controller_name as controller',
      'version',
      'created_at as created',
      'deleted_at as deleted',
      devices.as('devices'),
      changed.as('changed'),
    );
  return lines.map((line) => ({
    ...line,
    devices: Number(line.devices),
    changed: line.changed ?? line.created,
  }));
}

const daysAgo = (db: Knex) => db.raw(`now() - make_interval(days => ${keptDays})`);

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
    rows: {
      version: number;
      by: string;
      done: number | null;
      edit: Edit;
      name: string;
      deleted_at: Date | null;
    }[];
  }>(
    `select cell.version, cell.name, cell.deleted_at, cell.xmin::text as by, change.version as done, change.edit
     from cell left join change on change.cell_id = cell.id and change.id = ?
     where cell.id = ? for update of cell`,
    [changeId, cellId],
  );
  const [head] = rows;
  if (!head) throw new Problem('cell.unknown', { cell: cellId });
  refuseDeleted(head);
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
  const [head] = rows['cell'] as { id: string; version: number; name: string; deleted_at: Date | null }[];
  if (!head) throw new Problem('cell.unknown', { cell: cellId });
  refuseDeleted(head);
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

const refuseDeleted = ({ name, deleted_at }: { name: string; deleted_at: Date | null }): void => {
  if (deleted_at)
    throw new Problem('cell.deleted', {
      cell: name,
      on: deleted_at.toISOString().slice(0, 10),
      days: keptDays,
    });
};

/**
 * Deletes a cell so that it can be restored, and forgets those that were deleted too long ago. Throws `cell.unknown`,
 * `cell.deleted`.
 */
export async function deleteCell(db: Knex, cellId: string): Promise<void> {
  await forgetDeleted(db);
  await db.transaction(async (trx) => {
    await refuseUnknown(trx, cellId);
    await trx('cell').where({ id: cellId }).update({ deleted_at: trx.fn.now() });
  });
}

async function refuseUnknown(trx: Knex.Transaction, cellId: string): Promise<void> {
  const head = await trx('cell')
    .where({ id: cellId })
    .forUpdate()
    .first<{ name: string; deleted_at: Date | null } | undefined>('name', 'deleted_at');
  if (!head) throw new Problem('cell.unknown', { cell: cellId });
  refuseDeleted(head);
}

/** Brings a deleted cell back, with its history. Throws `cell.unknown` where it is not kept any more. */
export async function restoreCell(db: Knex, cellId: string): Promise<void> {
  const back = await db('cell')
    .where({ id: cellId })
    .where((kept) => void kept.whereNull('deleted_at').orWhere('deleted_at', '>', daysAgo(db)))
    .update({ deleted_at: null });
  if (back === 0) throw new Problem('cell.unknown', { cell: cellId });
}

/** Removes a cell with everything that belongs to it, its history too. */
export async function removeCell(db: Knex, cellId: string): Promise<void> {
  await db('cell').where({ id: cellId }).delete();
}

async function forgetDeleted(db: Knex): Promise<void> {
  await db('cell').where('deleted_at', '<=', daysAgo(db)).delete();
}
