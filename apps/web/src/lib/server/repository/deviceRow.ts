import type { Description, Device } from '@fadenkreuz/core';

/**
 * A device without its links and parameters as a row; what its describer says of its limits and lights stands in it
 * too.
 */
export interface DeviceRow {
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
  simulated: boolean;
  order_selectable: boolean;
  order_number: string;
  factory_address: string | null;
  mac: string;
  /** bigint in the database: a serial number has 32 bits without a sign. */
  serial_number: string | null;
  most_connections: number | null;
  most_packets: number | null;
  shortest_update: number | null;
  lights: Description['lights'];
  beam: Device['beam'];
  train: Device['train'];
  safety: Device['safety'];
}

/** The description of a device; the same id. */
export interface DescriptionRow {
  id: string;
  origin: Description['origin'];
  identity: Description['identity'];
  points: Description['points'];
  loss: Description['loss'];
  ports: Description['ports'];
  port_rules: Description['portRules'];
  chosen: Description['chosen'];
  offer: Description['offer'];
}

export const toDescriptionRow = ({ id, description }: Device): DescriptionRow => ({
  id,
  origin: description.origin,
  identity: description.identity,
  points: description.points,
  loss: description.loss,
  ports: description.ports,
  port_rules: description.portRules,
  chosen: description.chosen,
  offer: description.offer,
});

export function toDeviceRow(device: Device, position: number): DeviceRow {
  const { id, name, designation, kind, maker, serves, address, identity } = device;
  return {
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
    simulated: device.simulated,
    order_selectable: device.orderSelectable,
    order_number: device.orderNumber,
    factory_address: device.factoryAddress,
    mac: device.mac,
    serial_number: device.serialNumber === null ? null : String(device.serialNumber),
    most_connections: device.description.limits.connections,
    most_packets: device.description.limits.packets,
    shortest_update: device.description.limits.update,
    lights: device.description.lights,
    beam: device.beam,
    train: device.train,
    safety: device.safety,
  };
}

/** In the order of the schema: rows are compared as text. */
export const toDevice = (
  d: DeviceRow,
  { description, parameters, links }: Pick<Device, 'description' | 'links'> & Pick<Description, 'parameters'>,
): Device => ({
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
  identity: {
    vendor: d.vendor,
    deviceType: d.device_type,
    productCode: d.product_code,
    majorRevision: d.major_revision,
    minorRevision: d.minor_revision,
    productName: d.product_name,
  },
  description: {
    ...description,
    limits: {
      connections: d.most_connections,
      packets: d.most_packets,
      update: d.shortest_update ?? null,
    },
    parameters,
    lights: d.lights,
  },
  // A device that was taken away before there was such an entry has none.
  simulated: d.simulated ?? false,
  orderSelectable: d.order_selectable,
  beam: d.beam ?? { leftOut: [], own: [] },
  train: d.train ?? null,
  safety: d.safety ?? null,
  links,
});
