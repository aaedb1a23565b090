import {
  derivedOf,
  imagesOf,
  type Cell,
  type Device,
  type Direction,
  type Image,
  type Link,
  type Notation,
} from '@fadenkreuz/core';
import { toField, toFieldRow, type FieldRow } from './fieldRow.js';

/**
 * A cell as rows, and rows as a cell. Row types and column names stay in this folder. `position` keeps the order of
 * lists.
 */
interface DeviceRow {
  id: string;
  position: number;
  name: string;
  designation: string;
  kind: Device['kind'];
  maker: string;
  serves: string;
  address: string;
  vendor: number;
  device_type: number;
  product_code: number;
  major_revision: number;
  minor_revision: number;
  product_name: string;
  stand_in: Device['standIn'];
  order_selectable: boolean;
}

interface LinkRow {
  id: string;
  device_id: string;
  position: number;
  protocol: Link['protocol'];
  connection: Link['connection'];
  command_rpi: number;
  feedback_rpi: number;
  timeout_multiplier: Link['timeoutMultiplier'];
  on_loss: Link['onLoss'];
  configuration_instance: number;
  configuration_data: string;
}

interface ImageRow {
  id: string;
  link_id: string;
  direction: Direction;
  instance: number;
  size: number;
  start: number;
  byte_order: Image['order'];
  swapped: boolean;
  numbering: Image['numbering'];
}

interface GroupRow {
  id: string;
  image_id: string;
  position: number;
  name: string;
  count: number;
  stride: number;
  parent_id: string | null;
  first: number;
}

interface DerivedRow {
  id: string;
  image_id: string;
  position: number;
  name: string;
  expression: string;
  uncertainty: string;
  unit: string;
  note: string;
}

interface NotationRow {
  id: string;
  position: number;
  title: string;
  side: Notation['side'];
  pattern: string;
  /** A number, `element` or `field`. */
  unit_bits: string;
  order: Notation['order'];
  counts: Notation['counts'];
  from: Notation['from'];
  first: number;
  first_bit: number;
  last: number | null;
  ranges: boolean;
}

interface CellRow {
  id: string;
  name: string;
  designation: string;
  controller_name: string;
  controller_designation: string;
  controller_address: string;
  controller_element_bits: Cell['controller']['elementBits'];
  controller_element_order: Cell['controller']['elementOrder'];
  controller_notation: string;
  subnet: string;
  gateway: string | null;
}

export interface Rows {
  cell: CellRow[];
  device: DeviceRow[];
  link: LinkRow[];
  image: ImageRow[];
  field_group: GroupRow[];
  field: FieldRow[];
  derived: DerivedRow[];
  notation: NotationRow[];
}

/** Parents before children: the order to insert in. */
export const tables = [
  'cell',
  'notation',
  'device',
  'link',
  'image',
  'field_group',
  'field',
  'derived',
] as const satisfies (keyof Rows)[];
export type Table = (typeof tables)[number];

export function toRows(cell: Cell): Rows {
  const rows: Rows = {
    cell: [],
    notation: [],
    device: [],
    link: [],
    image: [],
    field_group: [],
    field: [],
    derived: [],
  };
  const { controller, network } = cell;
  rows.cell.push({
    id: cell.id,
    name: cell.name,
    designation: cell.designation,
    controller_name: controller.name,
    controller_designation: controller.designation,
    controller_address: controller.address,
    controller_element_bits: controller.elementBits,
    controller_element_order: controller.elementOrder,
    controller_notation: controller.notation,
    subnet: network.subnet,
    gateway: network.gateway,
  });
  cell.notations.forEach(({ unitBits, firstBit, ...rest }, position) =>
    rows.notation.push({ position, unit_bits: String(unitBits), first_bit: firstBit, ...rest }),
  );
  cell.devices.forEach((device, position) => {
    const { id, name, designation, kind, maker, serves, address, identity } = device;
    rows.device.push({
      id,
      position,
      name,
      designation,
      kind,
      maker,
      serves,
      address,
      vendor: identity.vendor,
      device_type: identity.deviceType,
      product_code: identity.productCode,
      major_revision: identity.majorRevision,
      minor_revision: identity.minorRevision,
      product_name: identity.productName,
      stand_in: device.standIn,
      order_selectable: device.orderSelectable,
    });
    device.links.forEach((link, i) => pushLink(rows, link, device.id, i));
  });
  return rows;
}

function pushLink(rows: Rows, link: Link, deviceId: string, position: number): void {
  rows.link.push({
    id: link.id,
    device_id: deviceId,
    position,
    protocol: link.protocol,
    connection: link.connection,
    command_rpi: link.commandRpi,
    feedback_rpi: link.feedbackRpi,
    timeout_multiplier: link.timeoutMultiplier,
    on_loss: link.onLoss,
    configuration_instance: link.configuration.instance,
    configuration_data: link.configuration.data,
  });
  for (const image of imagesOf(link)) pushImage(rows, image, link.id);
}

function pushImage(rows: Rows, image: Image, linkId: string): void {
  const { id, direction, instance, size, start, order, swapped, numbering } = image;
  rows.image.push({
    id,
    link_id: linkId,
    direction,
    instance,
    size,
    start,
    byte_order: order,
    swapped,
    numbering,
  });
  image.groups.forEach(({ parent, ...group }, position) =>
    rows.field_group.push({ image_id: id, position, parent_id: parent, ...group }),
  );
  image.fields.forEach((field, position) => rows.field.push(toFieldRow(field, id, position)));
  derivedOf(image).forEach((derived, position) => rows.derived.push({ image_id: id, position, ...derived }));
}

/** Lists in any order; the result is as the schema orders it. */
export function fromRows(rows: Rows): Cell {
  const cell = rows.cell[0]!;
  const byPosition = <T extends { position: number }>(list: T[]) =>
    [...list].sort((a, b) => a.position - b.position);
  const fieldsOf = grouped(byPosition(rows.field), (f) => f.image_id);
  const imagesByLink = grouped(rows.image, (i) => i.link_id);
  const groupsOf = grouped(byPosition(rows.field_group), (g) => g.image_id);
  const derivedIn = grouped(byPosition(rows.derived), (d) => d.image_id);
  const linksOf = grouped(byPosition(rows.link), (l) => l.device_id);
  const imageOf = (linkId: string, direction: Direction) => {
    const row = imagesByLink.get(linkId)!.find((i) => i.direction === direction)!;
    return {
      id: row.id,
      instance: row.instance,
      size: row.size,
      start: row.start,
      order: row.byte_order,
      swapped: row.swapped,
      numbering: row.numbering,
      groups: (groupsOf.get(row.id) ?? []).map(({ id, name, count, stride, parent_id, first }) => ({
        id,
        name,
        count,
        stride,
        parent: parent_id,
        first,
      })),
      fields: (fieldsOf.get(row.id) ?? []).map(toField),
    };
  };
  const commandOf = (linkId: string) => ({ ...imageOf(linkId, 'command'), direction: 'command' as const });
  const feedbackOf = (linkId: string) => {
    const image = imageOf(linkId, 'feedback');
    const derived = (derivedIn.get(image.id) ?? []).map(
      ({ id, name, expression, uncertainty, unit, note }) => ({
        id,
        name,
        expression,
        uncertainty,
        unit,
        note,
      }),
    );
    return { ...image, derived, direction: 'feedback' as const };
  };
  return {
    id: cell.id,
    name: cell.name,
    designation: cell.designation,
    controller: {
      name: cell.controller_name,
      designation: cell.controller_designation,
      address: cell.controller_address,
      elementBits: cell.controller_element_bits,
      elementOrder: cell.controller_element_order,
      notation: cell.controller_notation,
    },
    network: { subnet: cell.subnet, gateway: cell.gateway },
    notations: byPosition(rows.notation).map((n) => ({
      id: n.id,
      title: n.title,
      side: n.side,
      pattern: n.pattern,
      unitBits: unitBitsOf(n.unit_bits),
      order: n.order,
      counts: n.counts,
      from: n.from,
      first: n.first,
      firstBit: n.first_bit,
      last: n.last,
      ranges: n.ranges,
    })),
    devices: byPosition(rows.device).map((d) => ({
      id: d.id,
      name: d.name,
      designation: d.designation,
      kind: d.kind,
      maker: d.maker,
      serves: d.serves,
      address: d.address,
      identity: {
        vendor: d.vendor,
        deviceType: d.device_type,
        productCode: d.product_code,
        majorRevision: d.major_revision,
        minorRevision: d.minor_revision,
        productName: d.product_name,
      },
      standIn: d.stand_in,
      orderSelectable: d.order_selectable,
      links: (linksOf.get(d.id) ?? []).map((l) => ({
        id: l.id,
        protocol: l.protocol,
        connection: l.connection,
        commandRpi: l.command_rpi,
        feedbackRpi: l.feedback_rpi,
        timeoutMultiplier: l.timeout_multiplier,
        onLoss: l.on_loss,
        configuration: { instance: l.configuration_instance, data: l.configuration_data },
        command: commandOf(l.id),
        feedback: feedbackOf(l.id),
      })),
    })),
  };
}

/** The column is text; only numbers and the two words are ever written. */
const unitBitsOf = (text: string) =>
  (text === 'element' || text === 'field' ? text : Number(text)) as Notation['unitBits'];

function grouped<T>(list: readonly T[], keyOf: (item: T) => string): Map<string, T[]> {
  const groups = new Map<string, T[]>();
  for (const item of list) {
    const group = groups.get(keyOf(item));
    if (group) group.push(item);
    else groups.set(keyOf(item), [item]);
  }
  return groups;
}

type Row = Record<string, unknown> & { id: string };

/** One row that differs between two states of a cell; `before` is absent when it is new, `after` when it goes. */
export interface RowChange {
  table: Table;
  id: string;
  before: Row | null;
  after: Row | null;
}

/** What differs from one state of the rows to another. */
export function diffRows(before: Rows, after: Rows): RowChange[] {
  return tables.flatMap((table) => {
    const was = new Map((before[table] as unknown as Row[]).map((row) => [row.id, row]));
    const is = new Map((after[table] as unknown as Row[]).map((row) => [row.id, row]));
    const changes: RowChange[] = [];
    for (const [id, row] of is) {
      const old = was.get(id) ?? null;
      if (JSON.stringify(old) !== JSON.stringify(row)) changes.push({ table, id, before: old, after: row });
    }
    for (const [id, row] of was) if (!is.has(id)) changes.push({ table, id, before: row, after: null });
    return changes;
  });
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
