import { applyEdit, Cell, editTitle, parseInput, Problem, restoring, type Edit } from '@fadenkreuz/core';
import type { Knex } from 'knex';
import { cellForChange, keepCell, loadCellWithin, type StoredCell } from './cells.js';
import { conflictOf, type OtherChange } from './conflicts.js';
import { cellChanges, inverse, storedRow, type RowChange } from './rowChange.js';
import { fromTables, rowsIn, tables, toRows } from './rows.js';

/** Channel of NOTIFY; the payload is a CellNotice. */
export const cellChannel = 'fadenkreuz_cell';
export interface CellNotice {
  cell: string;
  version: number;
  /** The change itself, where it fits a notice. */
  change?: MadeChange;
}

/** A payload of NOTIFY has at most 7,999 bytes. */
const mostNoticed = 7500;

/** Who asks for a change, and on which version of the cell it was made. */
export interface ChangeRequest {
  /** A UUID of the client's; a change that was sent twice is done once. */
  id: string;
  /** What the person saw, without changes of the same desk that were under way. */
  madeOn: number;
  /** Whose it is: each takes back his own. */
  who: string;
  /** The browser window: its own changes are no news to it, and never stand against each other. */
  desk: string;
}

/** A change as those hear of it who have the version before. */
export interface MadeChange {
  version: number;
  id: string;
  edit: Edit;
}

/** What came of a change. */
export interface Made {
  cell: Cell;
  version: number;
  change: MadeChange;
  undo: string | null;
  redo: string | null;
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

/** Before people were told apart, everybody was this one. */
const everybody = 'desk';

/**
 * Makes one edit on the newest version. Throws what applyEdit throws, `edit.conflict` when somebody else has changed
 * the same thing since it was made, `cell.unknown`; nothing is stored then.
 */
export function makeEdit(db: Knex, cellId: string, request: ChangeRequest, edit: Edit): Promise<Made> {
  return change(db, cellId, request, async (trx, { cell, version }) => {
    const others = request.madeOn < version ? await changesOfOthers(trx, cellId, request) : [];
    const next = appliedOver(cell, edit, others);
    const rows = cellChanges(cell, next);
    const conflict = conflictOf(rows, others);
    if (conflict) throw new Problem('edit.conflict', conflict);
    const title = editTitle(cell, edit);
    return { title, kind: 'edit', cell: next, edit, rows, steps: { undo: title, redo: null } };
  });
}

/** What others have taken away cannot be edited; the edit is told by what it went. */
function appliedOver(cell: Cell, edit: Edit, others: readonly OtherChange[]): Cell {
  try {
    return applyEdit(cell, edit);
  } catch (error) {
    const last = others.at(-1);
    if (!last || !(error instanceof Problem) || error.code !== 'edit.unknown') throw error;
    throw new Problem('edit.conflict', { what: 'what it belongs to', by: last.title }, { cause: error });
  }
}

const changesOfOthers = (trx: Knex.Transaction, cellId: string, { madeOn, desk }: ChangeRequest) =>
  trx('change')
    .where({ cell_id: cellId })
    .where('version', '>', madeOn)
    .whereNot({ desk })
    .orderBy('version')
    .select<OtherChange[]>('title', 'rows');

/**
 * Takes the latest edit of this person back that is not taken back yet. Throws `edit.nothingToUndo`,
 * `edit.undoConflict`.
 */
export const undo = (db: Knex, cellId: string, request: ChangeRequest): Promise<Made> =>
  step(db, cellId, request, 'undo');

/** Makes the edit of this person again that was taken back last. Throws `edit.nothingToRedo`, `edit.undoConflict`. */
export const redo = (db: Knex, cellId: string, request: ChangeRequest): Promise<Made> =>
  step(db, cellId, request, 'redo');

function step(db: Knex, cellId: string, request: ChangeRequest, kind: 'undo' | 'redo'): Promise<Made> {
  return change(db, cellId, request, async (trx, { cell }) => {
    const [from, to] = kind === 'undo' ? (['done', 'undone'] as const) : (['undone', 'done'] as const);
    const taken = await latest(trx, cellId, request.who, from);
    if (!taken) throw new Problem(kind === 'undo' ? 'edit.nothingToUndo' : 'edit.nothingToRedo', {});
    const { title, version } = taken;
    const since = await trx('change')
      .where({ cell_id: cellId })
      .where('version', '>', version)
      .whereNotIn('who', [request.who, everybody])
      .select<OtherChange[]>('title', 'rows');
    const wanted = kind === 'undo' ? inverse(taken.rows) : taken.rows;
    const conflict = conflictOf(wanted, since);
    if (conflict) throw new Problem('edit.undoConflict', { title, by: conflict.by });
    await trx('change').where({ cell_id: cellId, version }).update({ state: to });
    const next = sharing(cell, withRows(cell, wanted));
    const steps = await undoState(trx, cellId, request.who);
    return {
      title,
      kind,
      cell: next,
      edit: restoring(cell, next, title),
      rows: cellChanges(cell, next),
      steps,
    };
  });
}

/** What undo and redo would do now for a person. */
export async function undoState(db: Knex, cellId: string, who: string): Promise<UndoState> {
  const [done, undone] = await Promise.all(
    (['done', 'undone'] as const).map((state) => latest(db, cellId, who, state)),
  );
  return { undo: done?.title ?? null, redo: undone?.title ?? null };
}

/** The latest changes, newest first. */
export function history(db: Knex, cellId: string, maximum: number): Promise<ChangeLine[]> {
  return db('change')
    .where({ cell_id: cellId })
    .orderBy('version', 'desc')
    .limit(maximum)
    .select<ChangeLine[]>('version', 'at', 'who', 'title', 'kind', 'state');
}

/**
 * The changes after a version, oldest first; undefined where one of them cannot be told, or they are more than `most`.
 */
export async function changesSince(
  db: Knex,
  cellId: string,
  version: number,
  maximum = 500,
): Promise<MadeChange[] | undefined> {
  const rows = await db('change')
    .where({ cell_id: cellId })
    .where('version', '>', version)
    .orderBy('version')
    .limit(maximum + 1)
    .select<(Omit<MadeChange, 'edit'> & { edit: Edit | null })[]>('version', 'id', 'edit');
  return rows.length > maximum || rows.some((row) => row.edit === null) ? undefined : (rows as MadeChange[]);
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

/** The edit of a person that undo (`done`: the newest) or redo (`undone`: the oldest) would take. */
const latest = (db: Knex, cellId: string, who: string, state: 'done' | 'undone') =>
  db('change')
    .where({ cell_id: cellId, kind: 'edit', state })
    .whereIn('who', [who, everybody])
    .orderBy('version', state === 'done' ? 'desc' : 'asc')
    .first<{ version: number; title: string; rows: RowChange[] } | undefined>('version', 'title', 'rows');

interface Step {
  title: string;
  kind: ChangeLine['kind'];
  cell: Cell;
  edit: Edit;
  rows: RowChange[];
  steps: UndoState;
}

/** The one way in which a cell changes: rows, version, change row and notice in one transaction. */
async function change(
  db: Knex,
  cellId: string,
  request: ChangeRequest,
  make: (trx: Knex.Transaction, stored: StoredCell) => Promise<Step>,
): Promise<Made> {
  const { id, madeOn, who } = request;
  const { made, writtenBy } = await db.transaction(async (trx) => {
    const { stored, done } = await cellForChange(db, trx, cellId, id);
    const { version } = stored;
    // The answer to this change was lost on its way, and the client asked again.
    if (done) return { made: { ...stored, change: done, ...(await undoState(trx, cellId, who)) } };
    if (madeOn > version) throw new Problem('edit.ahead', { madeOn, now: version });
    const { cell, title, kind, edit, rows, steps } = await make(trx, stored);
    await writeRows(trx, cellId, rows);
    const change = { version: version + 1, id, edit };
    const by = await record(trx, cellId, request, { title, kind, rows, change }).catch((cause: Error) => {
      // The id was used for a change of another cell.
      const { code, constraint } = cause as { code?: string; constraint?: string };
      if (code === '23505' && constraint?.includes('id'))
        throw new Problem('edit.idTaken', { id }, { cause });
      throw cause;
    });
    return { made: { cell, version: version + 1, change, ...steps }, writtenBy: by };
  });
  if (writtenBy) keepCell(db, cellId, { writtenBy, stored: { cell: made.cell, version: made.version } });
  return made;
}

/** Notes a change, gives the cell its new version and tells those who listen; the transaction that wrote it. */
async function record(
  trx: Knex.Transaction,
  cellId: string,
  { id, who, desk }: ChangeRequest,
  { title, kind, rows, change }: Pick<Step, 'title' | 'kind' | 'rows'> & { change: MadeChange },
): Promise<string> {
  const { version } = change;
  const whole = JSON.stringify({ cell: cellId, version, change } satisfies CellNotice);
  const notice =
    Buffer.byteLength(whole) <= mostNoticed
      ? whole
      : JSON.stringify({ cell: cellId, version } satisfies CellNotice);
  const edit = JSON.stringify(change.edit);
  // One statement for all of it: each costs a way to the database and back.
  const { rows: written } = await trx.raw<{ rows: { by: string }[] }>(
    `with ended as (
       update change set state = 'gone' where cell_id = :cell and state = 'undone' and :kind = 'edit' and who in (:who, '${everybody}')
     ), noted as (
       insert into change (cell_id, version, id, who, desk, title, kind, state, rows, edit)
       values (:cell, :version, :id, :who, :desk, :title, :kind, 'done', :rows, :edit)
     ), written as (
       update cell set version = :version where id = :cell returning xmin::text as by
     )
     select by, pg_notify('${cellChannel}', :notice) from written`,
    { cell: cellId, version, id, who, desk, title, kind, rows: JSON.stringify(rows), edit, notice },
  );
  return written[0]!.by;
}

/**
 * The cell after a list of row changes; checked, because undo does not pass through applyEdit. Only columns that differ
 * are taken.
 */
function withRows(cell: Cell, changes: readonly RowChange[]): Cell {
  const whole = toRows(cell);
  const rows = Object.fromEntries(
    tables.map((table) => [table, new Map(rowsIn(whole, table).map((row) => [row.id, row]))]),
  );
  for (const { table, id, before, after } of changes) {
    const now = rows[table]!.get(id);
    if (!after) rows[table]!.delete(id);
    else if (before && now) rows[table]!.set(id, { ...now, ...differing(before, after) });
    else rows[table]!.set(id, after);
  }
  const lists = Object.fromEntries(Object.entries(rows).map(([table, byId]) => [table, [...byId.values()]]));
  return parseInput(Cell, fromTables(lists), 'cell');
}

const differing = (before: object, after: object): object =>
  Object.fromEntries(
    Object.entries(after).filter(
      ([column, value]) =>
        JSON.stringify((before as Record<string, unknown>)[column]) !== JSON.stringify(value),
    ),
  );

/** The state after, with the devices of the state before wherever they are equal. */
function sharing(before: Cell, after: Cell): Cell {
  const known = new Map(before.devices.map((d) => [d.id, d]));
  const same = (device: Cell['devices'][number]) => {
    const old = known.get(device.id);
    return old && JSON.stringify(old) === JSON.stringify(device) ? old : device;
  };
  return { ...after, devices: after.devices.map(same) };
}

async function writeRows(
  trx: Knex.Transaction,
  cellId: string,
  changes: readonly RowChange[],
): Promise<void> {
  const key = (table: string, id: string) => (table === 'cell' ? { id } : { cell_id: cellId, id });
  const byTable = new Map<string, RowChange[]>();
  for (const change of changes) byTable.set(change.table, [...(byTable.get(change.table) ?? []), change]);
  // A pasted table adds and removes thousands of rows at once: as few statements as there are tables.
  for (const table of [...tables].reverse()) {
    const gone = (byTable.get(table) ?? []).filter((c) => !c.after);
    if (gone.length)
      await trx(table)
        .where({ cell_id: cellId })
        .whereRaw('id = any(?)', [gone.map((c) => c.id)])
        .delete();
  }
  for (const table of tables) {
    const own = byTable.get(table) ?? [];
    for (const { id, before, after } of own)
      if (before && after)
        await trx(table)
          .where(key(table, id))
          .update(storedRow(differing(before, after)));
    const added = own.filter((c) => !c.before);
    const stored: Record<string, unknown>[] = added.map((c) => ({ ...storedRow(c.after!), cell_id: cellId }));
    if (stored.length) await trx.batchInsert(table, stored, 500);
  }
}
