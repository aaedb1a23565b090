import {
  imagesOf,
  type Cell,
  type Device,
  type Direction,
  type Field,
  type Label,
  type Link,
} from '@fadenkreuz/core';

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
}

interface FieldRow {
  id: string;
  image_id: string;
  position: number;
  name: string;
  type: Field['type'];
  at: number;
  bits: number;
  scale_numerator: number | null;
  scale_denominator: number | null;
  scale_offset: number | null;
  unit: string;
  labels: Label[];
  note: string;
}

interface CellRow {
  id: string;
  name: string;
  designation: string;
  controller_name: string;
  controller_designation: string;
  controller_address: string;
  controller_element_bits: Cell['controller']['elementBits'];
  subnet: string;
  gateway: string | null;
}

export interface Rows {
  cell: CellRow[];
  device: DeviceRow[];
  link: LinkRow[];
  image: ImageRow[];
  field: FieldRow[];
}

/** Parents before children: the order to insert in. */
export const tables = ['cell', 'device', 'link', 'image', 'field'] as const satisfies (keyof Rows)[];
export type Table = (typeof tables)[number];

export function toRows(cell: Cell): Rows {
  const rows: Rows = { cell: [], device: [], link: [], image: [], field: [] };
  const { controller, network } = cell;
  rows.cell.push({
    id: cell.id,
    name: cell.name,
    designation: cell.designation,
    controller_name: controller.name,
    controller_designation: controller.designation,
    controller_address: controller.address,
    controller_element_bits: controller.elementBits,
    subnet: network.subnet,
    gateway: network.gateway,
  });
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
  for (const { id, direction, instance, size, start, fields } of imagesOf(link)) {
    rows.image.push({ id, link_id: link.id, direction, instance, size, start });
    fields.forEach((field, place) =>
      rows.field.push({
        id: field.id,
        image_id: id,
        position: place,
        name: field.name,
        type: field.type,
        at: field.at,
        bits: field.bits,
        scale_numerator: field.scale?.numerator ?? null,
        scale_denominator: field.scale?.denominator ?? null,
        scale_offset: field.scale?.offset ?? null,
        unit: field.unit,
        labels: field.labels,
        note: field.note,
      }),
    );
  }
}

/** Lists in any order; the result is as the schema orders it. */
export function fromRows(rows: Rows): Cell {
  const cell = rows.cell[0]!;
  const byPosition = <T extends { position: number }>(list: T[]) =>
    [...list].sort((a, b) => a.position - b.position);
  const fieldsOf = grouped(byPosition(rows.field), (f) => f.image_id);
  const imagesByLink = grouped(rows.image, (i) => i.link_id);
  const linksOf = grouped(byPosition(rows.link), (l) => l.device_id);
  const image = <D extends Direction>(linkId: string, direction: D) => {
    const { id, instance, size, start } = imagesByLink.get(linkId)!.find((i) => i.direction === direction)!;
    return { id, instance, size, start, fields: (fieldsOf.get(id) ?? []).map(toField), direction };
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
    },
    network: { subnet: cell.subnet, gateway: cell.gateway },
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
      links: (linksOf.get(d.id) ?? []).map((l) => ({
        id: l.id,
        protocol: l.protocol,
        connection: l.connection,
        commandRpi: l.command_rpi,
        feedbackRpi: l.feedback_rpi,
        timeoutMultiplier: l.timeout_multiplier,
        onLoss: l.on_loss,
        configuration: { instance: l.configuration_instance, data: l.configuration_data },
        command: image(l.id, 'command'),
        feedback: image(l.id, 'feedback'),
      })),
    })),
  };
}

const toField = (row: FieldRow): Field => ({
  id: row.id,
  name: row.name,
  type: row.type,
  at: row.at,
  bits: row.bits,
  scale:
    row.scale_numerator === null
      ? null
      : { numerator: row.scale_numerator, denominator: row.scale_denominator!, offset: row.scale_offset! },
  unit: row.unit,
  // jsonb does not keep the order of keys, and rows are compared as text.
  labels: row.labels.map(({ value, text }) => ({ value, text })),
  note: row.note,
});

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
  'labels' in row ? { ...row, labels: JSON.stringify(row.labels) } : { ...row };
