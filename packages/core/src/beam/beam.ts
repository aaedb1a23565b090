import { RoleImage } from '../devices/byRoles/roleImage.js';
import type { Setting } from '../devices/byRoles/commands.js';
import type { Device } from '../cell/model.js';
import type { Link } from '../cell/link.js';
import type { Role } from '../layout/role.js';
import { firstOpen, type Ring } from '../trouble/ring.js';
import { chainsOf, type Chain } from './chains.js';
import type { BeamScene } from './conditions.js';
import { ownRing, type Quantities } from './ownConditions.js';

/** What is known of a device at one moment. */
export interface Moment {
  command: Uint8Array;
  feedback: Uint8Array;
  open: boolean;
  runs: boolean;
  setting: (role: Role, number?: number) => Setting | undefined;
  /** Values by `device.role` or `device.field`, for conditions of somebody's own. */
  quantity: Quantities;
}

/** One action and its conditions, as they are now. */
export interface Beam {
  action: string;
  rings: readonly Ring[];
  /** The ring that stops it; undefined: nothing that is known does. */
  stopsAt: Ring | undefined;
  /** Somebody asks for it: what stops it is more than that nothing was commanded. */
  asked: boolean;
}

/** The images of a link by role; made once for a layout. */
const scenes = new WeakMap<Link, Pick<BeamScene, 'command' | 'feedback'>>();
function imagesByRole(link: Link): Pick<BeamScene, 'command' | 'feedback'> {
  const known = scenes.get(link);
  if (known) return known;
  const made = { command: new RoleImage(link.command), feedback: new RoleImage(link.feedback) };
  scenes.set(link, made);
  return made;
}

/**
 * What stops a device: for each thing that it is made to do, the conditions in the order in which one looks, and the
 * first that does not hold. Of the first link that has roles; empty where none has.
 */
export function beamsOf(device: Device, link: Link, moment: Moment): Beam[] {
  const images = imagesByRole(link);
  if (images.command.roles.length + images.feedback.roles.length === 0) return [];
  images.command.take(moment.command);
  images.feedback.take(moment.feedback);
  const scene = { ...images, open: moment.open, runs: moment.runs, setting: moment.setting };
  return chainsOf(device.kind).map((chain) => beamOf(chain, device, scene, moment.quantity));
}

function beamOf(chain: Chain, { beam }: Device, scene: BeamScene, quantity: Quantities): Beam {
  const left = new Set(beam.leftOut);
  const own = (before: string | null) =>
    beam.own.filter((c) => c.action === chain.action && c.before === before).map((c) => ownRing(c, quantity));
  const rings = [
    ...chain.conditions.flatMap((condition): Ring[] => {
      const look = left.has(condition.id) ? undefined : condition.look(scene);
      return [...own(condition.id), ...(look ? [{ id: condition.id, title: condition.title, ...look }] : [])];
    }),
    ...own(null),
  ];
  return { action: chain.action, rings, stopsAt: firstOpen(rings), asked: !rings.some((ring) => ring.idle) };
}

/** What can be left out of a chain, or stand behind a condition of somebody's own. */
export const conditionsOf = (
  device: Pick<Device, 'kind'>,
): { action: string; conditions: { id: string; title: string }[] }[] =>
  chainsOf(device.kind).map(({ action, conditions }) => ({
    action,
    conditions: conditions.map(({ id, title }) => ({ id, title })),
  }));
