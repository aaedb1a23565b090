import { z } from 'zod';
import { parseInput } from '../entries/parse.js';
import { protocols } from '../protocols/list.js';
import { descriptionByHand } from './description.js';
import { formerKind, formerRole } from './formerStandIns.js';
import { Link } from './link.js';

/**
 * Cells and devices as earlier versions wrote them, brought to the form of today. What they are is checked afterwards,
 * as if it had just been written.
 */
type Loose = Record<string, unknown>;

const OldScale = z.strictObject({ numerator: z.number(), denominator: z.number(), offset: z.number() });

/** Version 1 wrote the factor of a scale as two numbers and its offset as a third. */
export function fromVersion1(cell: unknown): unknown {
  const upgraded = (value: unknown, key?: string): unknown => {
    if (key === 'scale' && value !== null) {
      const { numerator, denominator, offset } = parseInput(OldScale, value, 'scale');
      return { factor: `${numerator}/${denominator}`.replace(/\/1$/, ''), offset: String(offset) };
    }
    if (Array.isArray(value)) return value.map((entry) => upgraded(entry));
    if (value === null || typeof value !== 'object') return value;
    return Object.fromEntries(Object.entries(value).map(([k, entry]) => [k, upgraded(entry, k)]));
  };
  return upgraded(cell);
}

/** Version 2 gave every link the entries of all protocols, and devices no description of their own. */
export function fromVersion2(cell: unknown): unknown {
  if (!isObject(cell) || !Array.isArray(cell['devices'])) return cell;
  return { ...cell, devices: cell['devices'].map(deviceFromVersion2) };
}

/** Version 3 kept parameters, lights and limits beside the description. */
export function fromVersion3(cell: unknown): unknown {
  if (!isObject(cell) || !Array.isArray(cell['devices'])) return cell;
  return { ...cell, devices: cell['devices'].map(deviceFromVersion3) };
}

/** Version 4 named the product of the demo that a device acted as. */
export function fromVersion4(cell: unknown): unknown {
  if (!isObject(cell) || !Array.isArray(cell['devices'])) return cell;
  return { ...cell, devices: cell['devices'].map(deviceFromVersion4) };
}

/** One device of version 4, in a cell or in a describer: it acts by its kind and its roles now. */
export function deviceFromVersion4(old: unknown): unknown {
  if (!isObject(old) || !('standIn' in old)) return old;
  const { standIn, ...device } = old;
  const kind = device['kind'] === 'other' ? formerKind(standIn) : undefined;
  const withRoles = (part: unknown, use: unknown): unknown =>
    isObject(part) && Array.isArray(part['fields'])
      ? { ...part, fields: part['fields'].map((field) => withFormerRole(field, standIn, use)) }
      : part;
  const { description, links } = device;
  const points = isObject(description) && Array.isArray(description['points']) ? description['points'] : null;
  return {
    ...device,
    ...(kind ? { kind } : {}),
    ...(standIn === null ? {} : { simulated: true }),
    ...(points && isObject(description)
      ? { description: { ...description, points: points.map((p) => withRoles(p, isObject(p) && p['use'])) } }
      : {}),
    ...(Array.isArray(links)
      ? {
          links: links.map((link) =>
            isObject(link)
              ? {
                  ...link,
                  command: withRoles(link['command'], 'command'),
                  feedback: withRoles(link['feedback'], 'feedback'),
                }
              : link,
          ),
        }
      : {}),
  };
}

function withFormerRole(field: unknown, standIn: unknown, use: unknown): unknown {
  if (!isObject(field) || field['role']) return field;
  const role = formerRole(standIn, use, field['name']);
  return role ? { ...field, role } : field;
}

/** One device of version 3, in a cell or in a describer. */
export function deviceFromVersion3(old: unknown): unknown {
  const device = withNamedLimits(old);
  if (!isObject(device) || !isObject(device['description'])) return device;
  const { parameters, lights, limits, description, ...rest } = device;
  const said = Object.entries({ limits, parameters, lights }).filter(([, value]) => value !== undefined);
  return { ...rest, description: { ...(description as Loose), ...Object.fromEntries(said) } };
}

/** One device of version 2, in a cell or in a describer, as version 3 had it. */
export function deviceFromVersion2(old: unknown): unknown {
  const device = withNamedLimits(old);
  if (!isObject(device) || !Array.isArray(device['links'])) return device;
  const links = device['links'].map(linkFromVersion2);
  return { ...device, links, description: device['description'] ?? describedBefore(links) };
}

function linkFromVersion2(link: unknown): unknown {
  if (!isObject(link)) return link;
  const own = protocols.find((p) => p.id === link['protocol'])?.link.shape;
  // An unknown protocol is refused by the schema, with its place.
  if (!own) return link;
  const foreign = new Set(protocols.flatMap((p) => Object.keys(p.link.shape)).filter((key) => !(key in own)));
  return Object.fromEntries(Object.entries(link).filter(([key]) => !foreign.has(key)));
}

/** What was known of a device before it had a description: what was entered for its links. */
function describedBefore(links: unknown[]): unknown {
  const parsed = z.array(Link).safeParse(links);
  return descriptionByHand(parsed.success ? parsed.data : []);
}

/** Up to version 3 the limits of a value were called least and most. */
function withNamedLimits(value: unknown): unknown {
  if (Array.isArray(value)) return value.map(withNamedLimits);
  if (!isObject(value)) return value;
  return Object.fromEntries(
    Object.entries(value).map(([key, entry]) => {
      if (key !== 'limits' || !isObject(entry) || !('least' in entry || 'most' in entry))
        return [key, withNamedLimits(entry)];
      const { least, most, ...rest } = entry;
      return [key, { minimum: least, maximum: most, ...rest }];
    }),
  );
}

const isObject = (value: unknown): value is Loose =>
  typeof value === 'object' && value !== null && !Array.isArray(value);
