import type { Link } from '@fadenkreuz/core';
import { ethernetIpTable } from './ethernetIp.js';
import type { CommonEntries, LinkTable, OwnRows } from './linkTable.js';
import { modbusTcpTable } from './modbusTcp.js';
import { profinetTable } from './profinet.js';

/** Where the links of each protocol are kept. */
const linkTables = [ethernetIpTable, modbusTcpTable, profinetTable] as const;

/** Every table that only one protocol has, parents before children. */
export const ownTables: readonly string[] = linkTables.flatMap((t) => t.tables);

const tableOf = (protocol: string): LinkTable<Link['protocol']> =>
  linkTables.find((t) => t.protocol === protocol) as never;

/** The rows of what only the protocol of a link has. */
export const ownRowsOf = (link: Link): OwnRows => tableOf(link.protocol).toRows(link as never);

/** What only its protocol has of a link, out of all rows. */
export function ownEntriesFrom(
  rows: OwnRows,
): (protocol: string, linkId: string) => Omit<Link, CommonEntries> {
  const readers = new Map(linkTables.map((t) => [t.protocol as string, t.fromRows(rows)]));
  return (protocol, linkId) => readers.get(protocol)!(linkId) as Omit<Link, CommonEntries>;
}
