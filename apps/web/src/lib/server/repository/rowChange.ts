import type { Cell, Device } from '@fadenkreuz/core';
import { deviceRows, headRows, rowsIn, tables, type Rows } from './rows.js';

type Row = Record<string, unknown> & { id: string };

/** One row that differs between two states of a cell; `before` is absent when it is new, `after` when it goes. */
export interface RowChange {
  table: string;
  id: string;
  before: Row | null;
  after: Row | null;
}

/** What differs from one state of the rows to another. */
function diffRows(before: Rows, after: Rows): RowChange[] {
  return tables.flatMap((table) => {
    const was = new Map(rowsIn(before, table).map((row) => [row.id, row]));
    const is = new Map(rowsIn(after, table).map((row) => [row.id, row]));
    const changes: RowChange[] = [];
    for (const [id, row] of is) {
      const old = was.get(id) ?? null;
      if (JSON.stringify(old) !== JSON.stringify(row)) changes.push({ table, id, before: old, after: row });
    }
    for (const [id, row] of was) if (!is.has(id)) changes.push({ table, id, before: row, after: null });
    return changes;
  });
}

const placed = (cell: Cell) => new Map(cell.devices.map((device, at) => [device.id, { device, at }]));
type Placed = { device: Device; at: number } | undefined;
const rowsAt = (place: Placed): Rows | undefined => place && deviceRows(place.device, place.at);

/**
 * What an edit has changed, in the order in which it can be written. Only parts that are other values are looked at: an
 * edit leaves what it does not touch as it was.
 */
export function cellChanges(before: Cell, after: Cell): RowChange[] {
  const head = diffRows(headRows(before), headRows(after));
  const [was, is] = [placed(before), placed(after)];
  const ids = new Set([...was.keys(), ...is.keys()]);
  const none = headRows({
    ...before,
    notations: [],
    machine: [],
    exchanges: [],
    network: { ...before.network, ranges: [] },
  });
  none.cell = [];
  const devices = [...ids].flatMap((id) => {
    const [old, now] = [was.get(id), is.get(id)];
    if (old && now && old.device === now.device) return old.at === now.at ? [] : [moved(old, now)];
    return diffRows(rowsAt(old) ?? none, rowsAt(now) ?? none);
  });
  const order = new Map(tables.map((table, i) => [table, i]));
  return [...head, ...devices].sort((a, b) => order.get(a.table)! - order.get(b.table)!);
}

/** A device that is the same at another place in the line-up. */
function moved(old: NonNullable<Placed>, now: NonNullable<Placed>): RowChange {
  const description = { ...old.device.description, parameters: [] };
  const [before] = rowsIn(deviceRows({ ...old.device, description, links: [] }, old.at), 'device');
  return { table: 'device', id: old.device.id, before: before!, after: { ...before!, position: now.at } };
}

/** The change that takes this one back. */
export const inverse = (changes: readonly RowChange[]): RowChange[] =>
  changes.map(({ before, after, ...rest }) => ({ ...rest, before: after, after: before }));

/** A row as the driver takes it: it would read a bare array as an array of PostgreSQL, not as JSON. */
export const storedRow = (row: object): Record<string, unknown> =>
  Object.fromEntries(
    Object.entries(row).map(([column, value]: [string, unknown]) => [
      column,
      value !== null && typeof value === 'object' ? JSON.stringify(value) : value,
    ]),
  );
