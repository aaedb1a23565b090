import type { Field } from '../cell/field.js';
import type { Image } from '../cell/image.js';
import type { Device } from '../cell/model.js';

/** What happens to the signals of a device when another describer takes its place. */
export interface Replacement {
  device: Device;
  /** By image, names of fields: kept as they are, at another place or of another type, gone, and new. */
  fields: { image: string; name: string; what: 'kept' | 'moved' | 'gone' | 'new' }[];
}

const fits = (a: Field, b: Field) => a.at === b.at && a.bits === b.bits && a.type === b.type;

/**
 * A device made anew from a describer in the place of another: name, designation, address, what it serves, timing and the places in the
 * controller stay; so do fields with the same name, place and type, with all that was entered for them. Ids of what stays are kept, so
 * that whatever refers to them still does.
 */
export function replacement(old: Device, fresh: Device): Replacement {
  const fields: Replacement['fields'] = [];
  const image = <I extends Image>(before: I | undefined, after: I): I => {
    if (!before) return after;
    const known = new Map(before.fields.map((f) => [f.name.toLowerCase(), f]));
    const next = after.fields.map((field) => {
      const own = known.get(field.name.toLowerCase());
      known.delete(field.name.toLowerCase());
      const what = own ? (fits(own, field) ? 'kept' : 'moved') : 'new';
      fields.push({ image: after.direction, name: field.name, what });
      if (!own) return field;
      return what === 'kept' ? { ...own, group: null } : { ...field, id: own.id };
    });
    for (const { name } of known.values()) fields.push({ image: after.direction, name, what: 'gone' });
    return { ...after, id: before.id, start: before.start, fields: next };
  };
  const links = fresh.links.map((link, i) => {
    const before = old.links[i];
    if (!before) return link;
    const timed = before.protocol === link.protocol;
    return {
      ...link,
      id: before.id,
      ...(timed
        ? {
            commandRpi: before.commandRpi,
            feedbackRpi: before.feedbackRpi,
            timeoutMultiplier: before.timeoutMultiplier,
            onLoss: before.onLoss,
          }
        : {}),
      command: image(before.command, link.command),
      feedback: image(before.feedback, link.feedback),
    };
  });
  const { id, name, designation, serves, address, factoryAddress, mac, serialNumber } = old;
  const kind = fresh.kind === 'other' ? old.kind : fresh.kind;
  const standIn = fresh.standIn ?? old.standIn;
  return {
    device: {
      ...fresh,
      ...{ id, name, designation, serves, address, factoryAddress, mac, serialNumber, kind, standIn },
      links,
    },
    fields,
  };
}
