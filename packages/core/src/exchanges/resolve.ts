import type { Cell, Device } from '../cell/model.js';
import type { Link } from '../cell/link.js';
import { imagesOf } from '../cell/find.js';
import { codecOf } from '../layout/codec.js';
import type { Image } from '../layout/image.js';
import { rolePlaces } from '../layout/rolePlaces.js';
import { factsOfRole, roles, type Acting } from '../layout/role.js';
import type { Signal } from '../layout/signals.js';
import { readsOf } from '../layout/fieldTypes.js';
import type { Place } from '../cell/exchange.js';

/** A place as it lies in an image of the cell now. */
export interface Found {
  device: Device;
  link: Link;
  image: Image;
  signal: Signal;
  /** Of the signals of the image's codec. */
  index: number;
  bit: number | null;
  reads: 'bit' | 'number' | 'text';
  acts: Acting | undefined;
}

/** Where a place lies; undefined where the device, or what it should have, is not there. */
export function findPlace(cell: Pick<Cell, 'devices'>, place: Place): Found | undefined {
  const device = cell.devices.find((d) => d.id === place.device);
  if (!device) return undefined;
  for (const link of device.links) {
    const image = imagesOf(link).find((i) => i.direction === place.side)!;
    const at = indexOf(image, place);
    if (!at) continue;
    const signal = codecOf(image).signals[at.index]!;
    const reads = at.bit !== null || signal.bits === 1 ? 'bit' : plainReads(signal);
    return { device, link, image, signal, ...at, reads };
  }
  return undefined;
}

function indexOf(
  image: Image,
  { role, number, field, bit }: Place,
): { index: number; bit: number | null; acts: Acting | undefined } | undefined {
  if (role !== null)
    return rolePlaces(image)
      .get(role)
      ?.get(number ?? 1);
  const index = codecOf(image).signals.findIndex((s) => s.id === field);
  return index < 0 ? undefined : { index, bit, acts: undefined };
}

const plainReads = (signal: Signal): Found['reads'] => {
  const reads = readsOf(signal);
  return reads === 'text' || reads === 'bytes' ? 'text' : 'number';
};

/** A place in words: `start of brush_belt_m1`. */
export function placeText(cell: Pick<Cell, 'devices'>, place: Place): string {
  const device = cell.devices.find((d) => d.id === place.device)?.name ?? 'a device that is gone';
  return `${whatText(cell, place)} of ${device}`;
}
/** Without the device. */
export function whatText(cell: Pick<Cell, 'devices'>, place: Place): string {
  if (place.role !== null)
    return roles[place.role].title + (factsOfRole(place.role).numbered ? ` ${place.number ?? 1}` : '');
  const found = findPlace(cell, place);
  if (!found) return 'a field that is gone';
  return found.signal.name + (place.bit === null ? '' : `.%X${place.bit}`);
}
