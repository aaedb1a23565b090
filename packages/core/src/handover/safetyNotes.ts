import type { Cell, Device } from '../cell/model.js';
import type { Field } from '../layout/field.js';
import type { Image } from '../layout/image.js';
import { factsOfRole } from '../layout/role.js';
import { statusMeaning } from '../safety/meaning.js';
import { feedbackOf, placedBits, signalAt } from '../safety/placement.js';

/** What stands on every signal of a safety function that goes over a standard protocol, in code and in lists. */
export const statusOnly = 'status only over a standard protocol: no safety function';

const isSafety = (device: Device, { safety, role, bitRoles }: Field): boolean =>
  device.kind === 'safety controller' ||
  safety ||
  [role, ...bitRoles.map((b) => b.role)].some((one) => one && factsOfRole(one.is).safety);

/** What the status bits in a field mean, by the network of their safety controller. */
function meanings(device: Device, image: Image, field: Field): string[] {
  if (!device.safety || image !== feedbackOf(device)) return [];
  return placedBits(device).flatMap(({ status }) => {
    const place = signalAt(status, image);
    if (place?.signal.of !== field.id) return [];
    const bit = field.bits > 1 ? `bit ${place.bit}: ` : '';
    return [`${bit}1 when ${statusMeaning(device.safety!, status)}`];
  });
}

/** The cell with these notes at its fields, for whoever writes it down; it is not stored. */
export function withSafetyNotes(cell: Cell): Cell {
  const noted = <I extends Image>(device: Device, image: I): I => ({
    ...image,
    // What is computed from them is no more than they are.
    ...('derived' in image && device.kind === 'safety controller'
      ? {
          derived: image.derived.map((d) => ({
            ...d,
            note: [statusOnly, d.note].filter(Boolean).join('; '),
          })),
        }
      : {}),
    fields: image.fields.map((field) => {
      if (!isSafety(device, field)) return field;
      const note = [statusOnly, ...meanings(device, image, field), field.note].filter(Boolean).join('; ');
      return { ...field, note };
    }),
  });
  const devices = cell.devices.map((device) => {
    const any = device.links.some((l) =>
      [l.command, l.feedback].some((image) => image.fields.some((field) => isSafety(device, field))),
    );
    if (!any) return device;
    const links = device.links.map((link) => ({
      ...link,
      command: noted(device, link.command),
      feedback: noted(device, link.feedback),
    }));
    return { ...device, links };
  });
  return { ...cell, devices };
}
