import { Problem } from '../messages/problem.js';
import type { Image } from '../layout/image.js';
import type { Link } from './link.js';
import type { Exchange } from './exchange.js';
import type { MachineRow } from './machineRow.js';
import type { Cell, Device } from './model.js';

/** An image with the device and the link that it belongs to. */
export interface ImagePlace {
  device: Device;
  link: Link;
  image: Image;
}

/** Both images of a link, command first. */
export const imagesOf = (link: Link): [Image, Image] => [link.command, link.feedback];

/** Every image of the cell, in the order of the line-up. */
export const allImages = (cell: Cell): ImagePlace[] =>
  cell.devices.flatMap((device) =>
    device.links.flatMap((link) => imagesOf(link).map((image) => ({ device, link, image }))),
  );

/** The image with this id; throws `edit.unknown`. */
export function imageById(cell: Cell, id: string): ImagePlace {
  for (const device of cell.devices)
    for (const link of device.links)
      for (const image of imagesOf(link)) if (image.id === id) return { device, link, image };
  throw new Problem('edit.unknown', { what: 'image', id });
}

/** The device with this id; throws `edit.unknown`. */
export function deviceById(cell: Cell, id: string): Device {
  const device = cell.devices.find((d) => d.id === id);
  if (!device) throw new Problem('edit.unknown', { what: 'device', id });
  return device;
}

/** The line of the machine with this id; throws `edit.unknown`. */
export function machineRowById(cell: Cell, id: string): MachineRow {
  const row = cell.machine.find((r) => r.id === id);
  if (!row) throw new Problem('edit.unknown', { what: 'line of the machine', id });
  return row;
}

/** The exchange with this id; throws `edit.unknown`. */
export function exchangeById(cell: Cell, id: string): Exchange {
  const exchange = cell.exchanges.find((e) => e.id === id);
  if (!exchange) throw new Problem('edit.unknown', { what: 'exchange', id });
  return exchange;
}
