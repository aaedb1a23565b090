import type { RowChange } from './rowChange.js';

/** A change by somebody else that an edit may meet. */
export interface OtherChange {
  title: string;
  rows: RowChange[];
}

/** The place in a list follows from what else is in it; a description that was made by hand follows from the links. */
const follows = (table: string, column: string) =>
  column === 'position' || (table === 'description' && column === 'points');

const changedColumns = ({ table, before, after }: RowChange): string[] =>
  before && after
    ? Object.keys(after).filter(
        (column) =>
          !follows(table, column) && JSON.stringify(before[column]) !== JSON.stringify(after[column]),
      )
    : [];

const keyOf = ({ table, id }: RowChange) => `${table} ${id}`;

/** The name of what a row stands for, as far as the row says it. */
const nameOf = ({ before, after, table }: RowChange): string => {
  const { name } = { ...before, ...after } as { name?: unknown };
  return typeof name === 'string' ? name : `the ${table.replaceAll('_', ' ')}`;
};

/**
 * Where an edit meets what others changed since it was made: the same column of the same row, or a row that is gone on
 * one side and changed on the other. Everything else can stand beside each other.
 */
export function conflictOf(
  own: readonly RowChange[],
  others: readonly OtherChange[],
): { what: string; by: string } | undefined {
  const mine = new Map(own.map((change) => [keyOf(change), change]));
  for (const { title, rows } of others)
    for (const theirs of rows) {
      const change = mine.get(keyOf(theirs));
      if (!change) continue;
      const columns = new Set(changedColumns(change));
      const shared = changedColumns(theirs).filter((column) => columns.has(column));
      if (shared.length > 0)
        return { what: `${shared.join(', ').replaceAll('_', ' ')} of ${nameOf(change)}`, by: title };
      const goes = change.after === null && theirs.after !== null && changedColumns(theirs).length > 0;
      if (goes) return { what: nameOf(change), by: title };
    }
  return undefined;
}
