import type { Device } from '../cell/model.js';
import { RoleImage } from '../devices/byRoles/roleImage.js';
import { quantitiesOf } from '../devices/surroundings.js';
import { identifierOf } from '../entries/identifiers.js';

const known = new WeakMap<Device['links'], { reads: readonly string[]; shows: readonly string[] }>();

/** What lines of the machine may name of a device: what it shows and is told, by role and by field. */
export function namesOf({ links }: Pick<Device, 'links'>): {
  reads: readonly string[];
  shows: readonly string[];
} {
  const found = known.get(links);
  if (found) return found;
  const [link] = links;
  const shows = link ? new RoleImage(link.feedback).names : [];
  const names = { shows, reads: link ? [...new Set([...shows, ...new RoleImage(link.command).names])] : [] };
  known.set(links, names);
  return names;
}

/** What lines of the machine may give to a device: what acts on its kind, and what it shows. */
export const actedOn = ({
  kind,
  links,
  safety,
}: Pick<Device, 'kind' | 'links' | 'safety'>): readonly string[] => [
  ...new Set([
    ...quantitiesOf({ kind, safety }).map(({ name }) => identifierOf(name)),
    ...namesOf({ links }).shows,
  ]),
];
