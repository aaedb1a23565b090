import type { Link, LinkOf } from '@fadenkreuz/core';

/** What of a link stands in the table that all protocols share, and in its images. */
export type CommonEntries =
  | 'id'
  | 'protocol'
  | 'connection'
  | 'onLoss'
  | 'elements'
  | 'reaction'
  | 'command'
  | 'feedback';

/** Rows of the tables of one protocol, by table. */
export type OwnRows = Record<string, { id: string }[]>;

/**
 * How the entries that only one protocol has are kept: in tables of its own, the first of which has a row for each
 * link.
 */
export interface LinkTable<P extends Link['protocol']> {
  protocol: P;
  tables: readonly string[];
  toRows(link: LinkOf<P>): OwnRows;
  /** The entries again, in the order of the schema, out of all rows of these tables. */
  fromRows(rows: OwnRows): (linkId: string) => Omit<LinkOf<P>, CommonEntries>;
}

/** The row of a link in a list. */
export function rowOf<R extends { id: string }>(
  rows: readonly { id: string }[] | undefined,
): (id: string) => R {
  const byId = new Map((rows ?? []).map((row) => [row.id, row]));
  return (id) => byId.get(id) as R;
}
