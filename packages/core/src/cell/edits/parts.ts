import { Problem } from '../../messages/problem.js';
import type { Field } from '../../layout/field.js';
import type { Image } from '../../layout/image.js';
import { reachOf } from '../../layout/signals.js';
import { imageById } from '../find.js';
import type { Link } from '../link.js';
import type { Cell, Device } from '../model.js';
import type { Draft } from './editKind.js';

/** The cell with one device changed; the others stay the same values. */
export const withDevice = (cell: Cell, deviceId: string, change: (device: Device) => unknown): Draft => ({
  ...cell,
  devices: cell.devices.map((d) => (d.id === deviceId ? change(d) : d)),
});

/** The cell with devices added. Throws `edit.idTaken`. */
export function withDevices(cell: Cell, devices: readonly Device[]): Draft {
  const taken = devices.find((device) => cell.devices.some((d) => d.id === device.id));
  if (taken) throw new Problem('edit.idTaken', { id: taken.id });
  return { ...cell, devices: [...cell.devices, ...devices] };
}

/** The cell with some links changed; devices of which no link changes stay the same values. */
export function withLinks(cell: Cell, change: (link: Link) => unknown): Draft {
  return {
    ...cell,
    devices: cell.devices.map((device) => {
      const links = device.links.map(change);
      return links.every((link, i) => link === device.links[i]) ? device : { ...device, links };
    }),
  };
}

/** The cell with one link changed. Throws `edit.unknown`. */
export function withLink(cell: Cell, linkId: string, change: (link: Link) => unknown): Draft {
  const known = cell.devices.some((d) => d.links.some((l) => l.id === linkId));
  if (!known) throw new Problem('edit.unknown', { what: 'link', id: linkId });
  return withLinks(cell, (link) => (link.id === linkId ? change(link) : link));
}

/** The cell with one image changed. Throws `edit.unknown`. */
export function withImage(cell: Cell, imageId: string, change: (image: Image) => unknown): Draft {
  imageById(cell, imageId);
  return withLinks(cell, (link) => {
    if (link.command.id === imageId) return { ...link, command: change(link.command) };
    if (link.feedback.id === imageId) return { ...link, feedback: change(link.feedback) };
    return link;
  });
}

/** The field with this id; throws `edit.unknown`. */
export function fieldById(image: Image, fieldId: string): Field {
  const field = image.fields.find((f) => f.id === fieldId);
  if (!field) throw new Problem('edit.unknown', { what: 'field', id: fieldId });
  return field;
}

/** How a title calls a field; what is gone has no name. */
export const fieldName = (cell: Cell, imageId: string, fieldId: string): string =>
  imageById(cell, imageId).image.fields.find((f) => f.id === fieldId)?.name ?? 'a field';

/** Throws `edit.fieldPastEnd` for the first of these fields that does not lie inside the image. */
export function refuseOutside(image: Image, fields: readonly Field[] = image.fields): void {
  const outside = fields.find((f) => reachOf(image, f) > image.size * 8);
  if (outside)
    throw new Problem('edit.fieldPastEnd', {
      field: outside.name,
      endsAtBit: reachOf(image, outside) - 1,
      imageBits: image.size * 8 - 1,
    });
}

/** The same for all images of a device. */
export const refuseDeviceOutside = (device: Device): void => {
  for (const link of device.links) for (const image of [link.command, link.feedback]) refuseOutside(image);
};

/** A list with some of its entries replaced, some gone, and new ones behind the others. */
export function arranged<T extends { id: string }>(
  present: readonly T[],
  entered: ReadonlyMap<string, T>,
  removed: readonly string[],
): T[] {
  const gone = new Set(removed);
  const known = new Set(present.map((p) => p.id));
  return [
    ...present.filter((p) => !gone.has(p.id)).map((p) => entered.get(p.id) ?? p),
    ...[...entered.values()].filter((p) => !known.has(p.id)),
  ];
}

/** Fields whose group has gone stand alone. */
export function keptTogether(image: Image): Image {
  const known = new Set<string | null>(image.groups.map((g) => g.id));
  return {
    ...image,
    fields: image.fields.map((f) => (f.group && !known.has(f.group) ? { ...f, group: null } : f)),
  };
}
