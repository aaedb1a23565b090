import { protocolOf } from '../protocols/list.js';
import { carried, carriedFields, type Carried, type Fate } from '../cell/carried.js';
import type { Direction, Image } from '../layout/image.js';
import type { Link } from '../cell/link.js';
import type { Device } from '../cell/model.js';
import type { Parameter } from '../devices/parameter.js';
import { placeText } from '../tables/parameterPlace.js';

/** What happens to the signals of a device when another describer takes its place. */
export interface Replacement {
  device: Device;
  /** Names of fields, and of parameters: kept as they are, at another place or of another type, gone, and new. */
  fields: { of: Direction | 'parameters'; name: string; what: Fate }[];
}

const sameParameter = (a: Parameter, b: Parameter) =>
  a.bits === b.bits && a.type === b.type && placeText(a.place) === placeText(b.place);

/** A parameter that has moved is planned to be what it was, and is for the same. */
const withPlan =
  ({ parameters }: Pick<Device['description'], 'parameters'>) =>
  (now: Parameter): Parameter => {
    const own = parameters.find((p) => p.id === now.id);
    return own ? { ...now, planned: now.planned ?? own.planned, role: now.role ?? own.role } : now;
  };

/**
 * A device made anew from a describer in the place of another: name, designation, address, what it serves, timing and
 * the places in the controller stay; so do fields with the same name, place and type, with all that was entered for
 * them. Ids of what stays are kept, so that whatever refers to them still does.
 */
export function replacement(old: Device, fresh: Device): Replacement {
  const fields: Replacement['fields'] = [];
  const note = <T>(of: Replacement['fields'][number]['of'], { parts, fates }: Carried<T>): T[] => {
    fields.push(...fates.map((fate) => ({ of, ...fate })));
    return parts;
  };
  const image = <I extends Image>(before: I | undefined, after: I): I => {
    if (!before) return after;
    const own = note(after.direction, carriedFields(before, after));
    return { ...after, id: before.id, start: before.start, fields: own };
  };
  const links = fresh.links.map((link, i) => {
    const before = old.links[i];
    if (!before) return link;
    const timed = before.protocol === link.protocol;
    return {
      ...link,
      id: before.id,
      reaction: before.reaction,
      ...(timed ? { ...protocolOf(before).timing(before), onLoss: before.onLoss } : {}),
      command: image(before.command, link.command),
      feedback: image(before.feedback, link.feedback),
    } as Link;
  });
  const [known, says] = [old.description, fresh.description];
  // A describer that knows of no parameters takes none away that somebody entered; the same holds for places of
  // choice, lights and limits.
  const behindPorts = known.parameters.filter(({ place }) => place?.way === 'port');
  const own = known.parameters.filter((p) => !behindPorts.includes(p));
  const parameters =
    says.parameters.length > 0
      ? [
          ...note('parameters', carried(own, says.parameters, sameParameter)).map(withPlan(known)),
          ...behindPorts,
        ]
      : known.parameters;
  // What is plugged in at the ports of a master is plugged into the next one.
  const ports = known.ports.length > 0 ? known.ports : says.ports;
  const portRules = says.portRules ?? known.portRules;
  const chosen = says.chosen.length > 0 ? says.chosen : known.chosen;
  const lights = says.lights.length > 0 ? says.lights : known.lights;
  const limits = {
    connections: says.limits.connections ?? known.limits.connections,
    packets: says.limits.packets ?? known.limits.packets,
    update: says.limits.update ?? known.limits.update,
  };
  const { id, name, designation, serves, address, factoryAddress, mac, serialNumber, simulated } = old;
  const kind = fresh.kind === 'other' ? old.kind : fresh.kind;
  return {
    device: {
      ...fresh,
      ...{ id, name, designation, serves, address, factoryAddress, mac, serialNumber, kind, simulated },
      description: { ...says, parameters, ports, portRules, chosen, lights, limits },
      links,
    },
    fields,
  };
}
