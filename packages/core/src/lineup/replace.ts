import type { Field } from '../cell/field.js';
import type { Direction, Image } from '../cell/image.js';
import type { Device } from '../cell/model.js';
import type { Parameter } from '../cell/parameter.js';
import { placeText } from '../tables/parameterPlace.js';

/** What happens to the signals of a device when another describer takes its place. */
export interface Replacement {
  device: Device;
  /** Names of fields, and of parameters: kept as they are, at another place or of another type, gone, and new. */
  fields: { of: Direction | 'parameters'; name: string; what: 'kept' | 'moved' | 'gone' | 'new' }[];
}

const fits = (a: Field, b: Field) => a.at === b.at && a.bits === b.bits && a.type === b.type;
const sameParameter = (a: Parameter, b: Parameter) =>
  a.bits === b.bits && a.type === b.type && placeText(a.place) === placeText(b.place);

/**
 * A device made anew from a describer in the place of another: name, designation, address, what it serves, timing and the places in the
 * controller stay; so do fields with the same name, place and type, with all that was entered for them. Ids of what stays are kept, so
 * that whatever refers to them still does.
 */
export function replacement(old: Device, fresh: Device): Replacement {
  const fields: Replacement['fields'] = [];
  const carried = <T extends { id: string; name: string }>(
    of: Replacement['fields'][number]['of'],
    before: readonly T[],
    after: readonly T[],
    same: (own: T, now: T) => boolean,
  ): T[] => {
    const known = new Map(before.map((f) => [f.name.toLowerCase(), f]));
    const next = after.map((now) => {
      const own = known.get(now.name.toLowerCase());
      known.delete(now.name.toLowerCase());
      const what = own ? (same(own, now) ? 'kept' : 'moved') : 'new';
      fields.push({ of, name: now.name, what });
      if (!own) return now;
      return what === 'kept' ? own : { ...now, id: own.id };
    });
    for (const { name } of known.values()) fields.push({ of, name, what: 'gone' });
    return next;
  };
  const image = <I extends Image>(before: I | undefined, after: I): I => {
    if (!before) return after;
    const next = carried(after.direction, before.fields, after.fields, fits);
    const groups = new Set<string | null>(after.groups.map((g) => g.id));
    // The groups are those of the describer.
    const alone = next.map((f) => (groups.has(f.group) ? f : { ...f, group: null }));
    return { ...after, id: before.id, start: before.start, fields: alone };
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
  // A describer that knows of no parameters takes none away that somebody entered.
  const parameters =
    fresh.parameters.length > 0
      ? carried('parameters', old.parameters, fresh.parameters, sameParameter)
      : old.parameters;
  const { id, name, designation, serves, address, factoryAddress, mac, serialNumber } = old;
  const kind = fresh.kind === 'other' ? old.kind : fresh.kind;
  const standIn = fresh.standIn ?? old.standIn;
  return {
    device: {
      ...fresh,
      ...{ id, name, designation, serves, address, factoryAddress, mac, serialNumber, kind, standIn },
      parameters,
      lights: fresh.lights.length > 0 ? fresh.lights : old.lights,
      links,
    },
    fields,
  };
}
