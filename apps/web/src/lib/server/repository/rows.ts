import {
  imagesOf,
  Slot,
  type AddressRange,
  type Block,
  type Cell,
  type Device,
  type Link,
  type Notation,
} from '@fadenkreuz/core';
import { toParameter, toParameterRow, type ParameterRow } from './parameterRow.js';
import { byPosition, grouped } from './rowOrder.js';
import { imagesOfRows, pushImageRows, type ImageRows } from './imageRows.js';

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
  order_number: string;
  factory_address: string | null;
  mac: string;
  /** bigint in the database: a serial number has 32 bits without a sign. */
  serial_number: string | null;
  most_connections: number | null;
  most_packets: number | null;
  lights: Device['lights'];
}

interface AddressRangeRow extends AddressRange {
  position: number;
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
  to_controller: Link['toController'];
  trigger: Link['trigger'];
  command_format: Link['commandFormat'];
  feedback_format: Link['feedbackFormat'];
  unit: number;
  port: number;
  slots: Link['slots'];
}

interface BlockRow extends Block {
  link_id: string;
  position: number;
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
  further_subnets: string[];
  rate: Cell['network']['rate'];
  naming_pattern: string;
  naming_longest: number;
  controller_cycle: number;
  controller_connections: number | null;
  controller_packets: number | null;
}

export interface Rows extends ImageRows {
  cell: CellRow[];
  address_range: AddressRangeRow[];
  device: DeviceRow[];
  parameter: ParameterRow[];
  link: LinkRow[];
  block: BlockRow[];
  notation: NotationRow[];
}

/** Parents before children: the order to insert in. */
export const tables = [
  'cell',
  'address_range',
  'notation',
  'device',
  'parameter',
  'link',
  'block',
  'image',
  'field_group',
  'field',
  'derived',
] as const satisfies (keyof Rows)[];
export type Table = (typeof tables)[number];

export function toRows(cell: Cell): Rows {
  const rows: Rows = {
    cell: [],
    address_range: [],
    notation: [],
    device: [],
    parameter: [],
    link: [],
    block: [],
    image: [],
    field_group: [],
    field: [],
    derived: [],
  };
  const { controller, network, naming } = cell;
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
    further_subnets: network.further,
    rate: network.rate,
    naming_pattern: naming.pattern,
    naming_longest: naming.longest,
    controller_cycle: controller.cycle,
    controller_connections: controller.limits.connections,
    controller_packets: controller.limits.packets,
  });
  network.ranges.forEach((range, position) => rows.address_range.push({ position, ...range }));
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
      order_number: device.orderNumber,
      factory_address: device.factoryAddress,
      mac: device.mac,
      serial_number: device.serialNumber === null ? null : String(device.serialNumber),
      most_connections: device.limits.connections,
      most_packets: device.limits.packets,
      lights: device.lights,
    });
    device.parameters.forEach((p, i) => rows.parameter.push(toParameterRow(p, device.id, i)));
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
    to_controller: link.toController,
    trigger: link.trigger,
    command_format: link.commandFormat,
    feedback_format: link.feedbackFormat,
    unit: link.unit,
    port: link.port,
    slots: link.slots,
  });
  link.blocks.forEach((block, i) => rows.block.push({ ...block, link_id: link.id, position: i }));
  for (const image of imagesOf(link)) pushImageRows(rows, image, link.id);
}

/** Lists in any order; the result is as the schema orders it. */
export function fromRows(rows: Rows): Cell {
  const cell = rows.cell[0]!;
  const imagesFrom = imagesOfRows(rows);
  const parametersOf = grouped(byPosition(rows.parameter), (p) => p.device_id);
  const linksOf = grouped(byPosition(rows.link), (l) => l.device_id);
  const blocksOf = grouped(byPosition(rows.block), (b) => b.link_id);
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
      cycle: cell.controller_cycle,
      limits: { connections: cell.controller_connections, packets: cell.controller_packets },
    },
    network: {
      subnet: cell.subnet,
      further: cell.further_subnets,
      gateway: cell.gateway,
      ranges: byPosition(rows.address_range).map(({ id, first, last, kind, title }) => ({
        id,
        first,
        last,
        kind,
        title,
      })),
      rate: cell.rate,
    },
    naming: { pattern: cell.naming_pattern, longest: cell.naming_longest },
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
      orderNumber: d.order_number,
      serves: d.serves,
      address: d.address,
      factoryAddress: d.factory_address,
      mac: d.mac,
      serialNumber: d.serial_number == null ? null : Number(d.serial_number),
      limits: { connections: d.most_connections, packets: d.most_packets },
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
      parameters: (parametersOf.get(d.id) ?? []).map(toParameter),
      lights: d.lights,
      links: (linksOf.get(d.id) ?? []).map((l) => ({
        id: l.id,
        protocol: l.protocol,
        connection: l.connection,
        commandRpi: l.command_rpi,
        feedbackRpi: l.feedback_rpi,
        timeoutMultiplier: l.timeout_multiplier,
        onLoss: l.on_loss,
        toController: l.to_controller,
        trigger: l.trigger,
        commandFormat: l.command_format,
        feedbackFormat: l.feedback_format,
        configuration: { instance: l.configuration_instance, data: l.configuration_data },
        unit: l.unit,
        port: l.port,
        blocks: (blocksOf.get(l.id) ?? []).map((b) => ({
          id: b.id,
          name: b.name,
          direction: b.direction,
          table: b.table,
          start: b.start,
          count: b.count,
          poll: b.poll,
          at: b.at,
          fresh: b.fresh,
          age: b.age,
        })),
        // The database keeps the entries of such a value in an order of its own.
        slots: (l.slots ?? []).map((slot) => Slot.parse(slot)),
        ...imagesFrom(l.id),
      })),
    })),
  };
}

/** The column is text; only numbers and the two words are ever written. */
const unitBitsOf = (text: string) =>
  (text === 'element' || text === 'field' ? text : Number(text)) as Notation['unitBits'];

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
