import { applyEdit, Cell, editTitle, parseInput, Problem, type Edit } from '@fadenkreuz/core';
import type { Knex } from 'knex';
import { loadCellWithin, type StoredCell } from './cells.js';
import { cellChanges, inverse, storedRow, type RowChange } from './rowChange.js';
import { fromTables, rowsIn, tables, toRows } from './rows.js';

/** Channel of NOTIFY; the payload is a CellNotice. */
export const cellChannel = 'fadenkreuz_cell';
export interface CellNotice {
  cell: string;
  version: number;
}

/** Who asks for a change, and on which version of the cell it was made. */
export interface ChangeRequest {
  /** A UUID of the client's; a change that was sent twice is done once. */
  id: string;
  madeOn: number;
  who: string;
}

export interface ChangeLine {
  version: number;
  at: Date;
  who: string;
  title: string;
  kind: 'edit' | 'undo' | 'redo';
  state: 'done' | 'undone' | 'gone';
}

/** Titles of what undo and redo would do; null when there is nothing. */
export interface UndoState {
  undo: string | null;
  redo: string | null;
}

interface Made {
  title: string;
  kind: ChangeLine['kind'];
  rows: RowChange[];
}

/**
 * Makes one edit. Throws what applyEdit throws, `edit.stale` when the cell has moved on, `cell.unknown`; nothing is
 * stored then.
 */
export function makeEdit(db: Knex, cellId: string, request: ChangeRequest, edit: Edit): Promise<StoredCell> {
  return change(db, cellId, request, async (trx, cell) => {
    const next = applyEdit(cell, edit);
    await trx('change').where({ cell_id: cellId, state: 'undone' }).update({ state: 'gone' });
    return { title: editTitle(cell, edit), kind: 'edit', rows: cellChanges(cell, next) };
  });
}

/** Takes the latest edit back that is not taken back yet. Throws `edit.nothingToUndo`. */
export function undo(db: Knex, cellId: string, request: ChangeRequest): Promise<StoredCell> {
  return change(db, cellId, request, async (trx) => {
    const edit = await latest(trx, cellId, 'done');
    if (!edit) throw new Problem('edit.nothingToUndo', {});
    await trx('change').where({ cell_id: cellId, version: edit.version }).update({ state: 'undone' });
    return { title: edit.title, kind: 'undo', rows: inverse(edit.rows) };
  });
}

/** Makes the edit again that was taken back last. Throws `edit.nothingToRedo`. */
export function redo(db: Knex, cellId: string, request: ChangeRequest): Promise<StoredCell> {
  return change(db, cellId, request, async (trx) => {
    const edit = await latest(trx, cellId, 'undone');
    if (!edit) throw new Problem('edit.nothingToRedo', {});
    await trx('change').where({ cell_id: cellId, version: edit.version }).update({ state: 'done' });
    return { title: edit.title, kind: 'redo', rows: edit.rows };
  });
}

/** What undo and redo would do now. */
export async function undoState(db: Knex, cellId: string): Promise<UndoState> {
  const [done, undone] = await Promise.all([latest(db, cellId, 'done'), latest(db, cellId, 'undone')]);
  return { undo: done?.title ?? null, redo: undone?.title ?? null };
}

/** The latest changes, newest first. */
export function history(db: Knex, cellId: string, most: number): Promise<ChangeLine[]> {
  return db('change')
    .where({ cell_id: cellId })
    .orderBy('version', 'desc')
    .limit(most)
    .select<ChangeLine[]>('version', 'at', 'who', 'title', 'kind', 'state');
}

/** The cell as it was in an earlier version. Throws `cell.unknown`, `cell.noSuchVersion`. */
export function cellAt(db: Knex, cellId: string, version: number): Promise<Cell> {
  return db.transaction(
    async (trx) => {
      const { cell, version: now } = await loadCellWithin(trx, cellId);
      if (!Number.isInteger(version) || version < 1 || version > now)
        throw new Problem('cell.noSuchVersion', { version: String(version), now });
      const since = await trx('change')
        .where({ cell_id: cellId })
        .where('version', '>', version)
        .orderBy('version', 'desc')
        .pluck<RowChange[][]>('rows');
      return withRows(cell, since.flatMap(inverse));
    },
    { isolationLevel: 'repeatable read', readOnly: true },
  );
}

/** The edit that undo (`done`: the newest) or redo (`undone`: the oldest) would take. */
async function latest(db: Knex, cellId: string, state: 'done' | 'undone') {
  return db('change')
    .where({ cell_id: cellId, kind: 'edit', state })
    .orderBy('version', state === 'done' ? 'desc' : 'asc')
    .first<{ version: number; title: string; rows: RowChange[] } | undefined>('version', 'title', 'rows');
}

/** The one way in which a cell changes: rows, version, change row and notice in one transaction. */
async function change(
  db: Knex,
  cellId: string,
  { id, madeOn, who }: ChangeRequest,
  make: (trx: Knex.Transaction, cell: Cell) => Promise<Made>,
): Promise<StoredCell> {
  return db.transaction(async (trx) => {
    await trx('cell').where({ id: cellId }).forUpdate().first('id');
    const { cell, version } = await loadCellWithin(trx, cellId);
    // The answer to this change was lost on its way, and the client asked again.
    if (await trx('change').where({ id, cell_id: cellId }).first('id')) return { cell, version };
    if (madeOn !== version) throw new Problem('edit.stale', { madeOn, now: version });

    const made = await make(trx, cell);
    await writeRows(trx, cellId, made.rows);
    const next = version + 1;
    await trx('cell').where({ id: cellId }).update({ version: next });
    await trx('change').insert({
      cell_id: cellId,
      version: next,
      id,
      who,
      title: made.title,
      kind: made.kind,
      state: 'done',
      rows: JSON.stringify(made.rows),
    });
    await trx.raw('select pg_notify(?, ?)', [cellChannel, JSON.stringify({ cell: cellId, version: next })]);
    return { cell: withRows(cell, made.rows), version: next };
  });
}

/** The cell after a list of row changes; checked, because undo does not pass through applyEdit. */
function withRows(cell: Cell, changes: readonly RowChange[]): Cell {
  const whole = toRows(cell);
  const rows: Record<string, { id: string }[]> = Object.fromEntries(
    tables.map((table) => [table, rowsIn(whole, table)]),
  );
  for (const { table, id, after } of changes) {
    rows[table] = rows[table]!.filter((row) => row.id !== id);
    if (after) rows[table].push(after);
  }
  return parseInput(Cell, fromTables(rows), 'cell');
}

async function writeRows(
  trx: Knex.Transaction,
  cellId: string,
  changes: readonly RowChange[],
): Promise<void> {
  const key = (table: string, id: string) => (table === 'cell' ? { id } : { cell_id: cellId, id });
  const own = (table: string) => changes.filter((c) => c.table === table);
  // A pasted table adds and removes thousands of rows at once: as few statements as there are tables.
  for (const table of [...tables].reverse()) {
    const gone = own(table).filter((c) => !c.after);
    if (gone.length)
      await trx(table)
        .where({ cell_id: cellId })
        .whereRaw('id = any(?)', [gone.map((c) => c.id)])
        .delete();
  }
  for (const table of tables) {
    for (const { id, before, after } of own(table))
      if (before && after) await trx(table).where(key(table, id)).update(storedRow(after));
    const added = own(table).filter((c) => !c.before);
    const stored: Record<string, unknown>[] = added.map((c) => ({ ...storedRow(c.after!), cell_id: cellId }));
    await trx.batchInsert(table, stored, 500);
  }
}
