import {
  Description,
  descriptionByHand,
  imagesOf,
  type Cell,
  type Device,
  type Link,
} from '@fadenkreuz/core';
import { fromHeadRows, toHeadRows, type HeadRows } from './cellRow.js';
import { toDescriptionRow, toDevice, toDeviceRow, type DescriptionRow, type DeviceRow } from './deviceRow.js';
import { imagesOfRows, pushImageRows, type ImageRows } from './imageRows.js';
import type { OwnRows } from './links/linkTable.js';
import { ownEntriesFrom, ownRowsOf, ownTables } from './links/list.js';
import { toParameter, toParameterRow, type ParameterRow } from './parameterRow.js';
import { byPosition, grouped } from './rowOrder.js';

/**
 * A cell as rows, and rows as a cell. Row types and column names stay in this folder. `position` keeps the order of
 * lists. What only one protocol has of a link stands in links/.
 */
interface LinkRow {
  id: string;
  device_id: string;
  position: number;
  protocol: Link['protocol'];
  connection: Link['connection'];
  on_loss: Link['onLoss'];
  element_bits: Link['elements']['bits'];
  element_order: Link['elements']['order'];
  reaction: number | null;
}

interface PartRows extends ImageRows {
  device: DeviceRow[];
  description: DescriptionRow[];
  parameter: ParameterRow[];
  link: LinkRow[];
}

/** Rows by table. */
export type Rows = HeadRows & PartRows & { own: OwnRows };

/** Parents before children: the order to insert in. */
export const tables: readonly string[] = [
  'cell',
  'address_range',
  'machine_line',
  'exchange',
  'exchange_step',
  'notation',
  'device',
  'description',
  'parameter',
  'link',
  ...ownTables,
  'image',
  'field_group',
  'field',
  'derived',
];

type AnyRow = { id: string } & Record<string, unknown>;

/** The rows of one table. */
export const rowsIn = (rows: Rows, table: string): AnyRow[] =>
  ((rows as unknown as OwnRows)[table] ?? rows.own[table] ?? []) as AnyRow[];

const noParts = (): PartRows & { own: OwnRows } => ({
  device: [],
  description: [],
  parameter: [],
  link: [],
  image: [],
  field_group: [],
  field: [],
  derived: [],
  own: {},
});
const noHead = (): HeadRows => ({
  ...{ cell: [], address_range: [], machine_line: [], notation: [] },
  ...{ exchange: [], exchange_step: [] },
});

export function toRows(cell: Cell): Rows {
  const rows: Rows = { ...toHeadRows(cell), ...noParts() };
  cell.devices.forEach((device, position) => pushDevice(rows, device, position));
  return rows;
}

/** The rows of the cell itself alone, and those of one device at its place. */
export const headRows = (cell: Cell): Rows => ({ ...toHeadRows(cell), ...noParts() });
export function deviceRows(device: Device, position: number): Rows {
  const rows: Rows = { ...noHead(), ...noParts() };
  pushDevice(rows, device, position);
  return rows;
}

function pushDevice(rows: Rows, device: Device, position: number): void {
  rows.device.push(toDeviceRow(device, position));
  rows.description.push(toDescriptionRow(device));
  device.description.parameters.forEach((p, i) => rows.parameter.push(toParameterRow(p, device.id, i)));
  device.links.forEach((link, i) => pushLink(rows, link, device.id, i));
}

function pushLink(rows: Rows, link: Link, deviceId: string, position: number): void {
  const { id, protocol, connection, onLoss, elements, reaction } = link;
  rows.link.push({
    ...{ id, device_id: deviceId, position, protocol, connection, on_loss: onLoss },
    ...{ element_bits: elements.bits, element_order: elements.order, reaction },
  });
  for (const [table, own] of Object.entries(ownRowsOf(link))) (rows.own[table] ??= []).push(...own);
  for (const image of imagesOf(link)) pushImageRows(rows, image, link.id);
}

/** All rows of a cell, by table, in any order. */
export const fromTables = (byTable: Record<string, { id: string }[]>): Cell =>
  fromRows({
    ...(byTable as unknown as HeadRows & PartRows),
    own: Object.fromEntries(ownTables.map((table) => [table, byTable[table] ?? []])),
  });

/** Lists in any order; the result is as the schema orders it. */
export function fromRows(rows: Rows): Cell {
  const imagesFrom = imagesOfRows(rows);
  const ownFrom = ownEntriesFrom(rows.own);
  const parametersOf = grouped(byPosition(rows.parameter), (p) => p.device_id);
  const linksOf = grouped(byPosition(rows.link), (l) => l.device_id);
  const described = new Map(rows.description.map((d) => [d.id, d]));
  const linkOf = ({ id, protocol, connection, on_loss, ...own }: LinkRow): Link =>
    ({
      ...{ id, protocol, connection, ...ownFrom(protocol, id), onLoss: on_loss },
      // A link that was taken away before there were such entries has none.
      elements: { bits: own.element_bits ?? null, order: own.element_order ?? null },
      reaction: own.reaction ?? null,
      ...imagesFrom(id),
    }) as Link;
  return {
    ...fromHeadRows(rows),
    devices: byPosition(rows.device).map((d) => {
      const links = (linksOf.get(d.id) ?? []).map(linkOf);
      const description = described.get(d.id);
      return toDevice(d, {
        // A device that was taken away before devices had descriptions comes back as one made by hand.
        description: description ? descriptionFrom(description) : descriptionByHand(links),
        parameters: (parametersOf.get(d.id) ?? []).map(toParameter),
        links,
      });
    }),
  };
}

/** Keys in the order of the schema: the log of changes does not keep it. */
const descriptionFrom = (row: DescriptionRow): Description => {
  const { origin, identity, points, loss, ports, port_rules, chosen, offer } = row;
  return Description.parse({
    ...{ origin, identity, points, loss, offer },
    ...{ ports: ports ?? [], portRules: port_rules ?? null, chosen: chosen ?? [] },
  });
};
