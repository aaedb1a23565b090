import ipaddr from 'ipaddr.js';
import { addressPlus } from '../bytes/ipv4.js';
import { patterned } from '../entries/countUp.js';
import { protocolOf } from '../protocols/list.js';
import { allImages } from './find.js';
import type { Direction, Image } from '../layout/image.js';
import type { Link } from './link.js';
import { Device, type Cell } from './model.js';
import { parseInput } from '../entries/parse.js';

/** What copies of a device are to be called. Patterns have # for the number; empty ones count the original up. */
export interface CopyPlan {
  count: number;
  namePattern: string;
  designationPattern: string;
  /** Number of the first copy where a pattern is used. */
  first: number;
  /** From one copy's address to the next. */
  addressStep: number;
}

/** Copies that have not been added yet, and what stands in their way. */
export interface Copies {
  devices: Device[];
  collisions: {
    device: string;
    what: 'name' | 'designation' | 'address' | 'subnet';
    value: string;
    with: string;
  }[];
}

/**
 * Copies of a device: names, designations and addresses counted up, their images behind all others in the controller's
 * areas, new ids throughout. Nothing is written; `collisions` says what the cell has already. Throws `input.invalid`
 * when a counted name or address is none.
 */
export function copiesOf(cell: Cell, original: Device, plan: CopyPlan, newId: () => string): Copies {
  const free = { command: firstFree(cell, 'command'), feedback: firstFree(cell, 'feedback') };
  const devices = Array.from({ length: plan.count }, (_, i) => {
    const by = i + 1;
    const named = {
      ...renewed(original, free, newId),
      name: patterned(original.name, plan.namePattern, by, plan.first),
      designation: original.designation
        ? patterned(original.designation, plan.designationPattern, by, plan.first)
        : '',
      address: addressPlus(original.address, by * plan.addressStep),
      // A nameplate belongs to one device alone.
      mac: '',
      serialNumber: null,
    };
    return parseInput(Device, named, `copy ${by}`);
  });
  return { devices, collisions: collisionsOf(cell, devices) };
}

/** A device with new ids throughout, its images at the next free places; `free` moves on behind them. */
function renewed(original: Device, free: Record<Direction, number>, newId: () => string): Device {
  const links = original.links.map((link) => {
    const command = moved(link.command, free.command, newId);
    const feedback = moved(link.feedback, free.feedback, newId);
    free.command += link.command.size;
    free.feedback += link.feedback.size;
    return { ...(protocolOf(link).renewed(link, newId) as Link), command, feedback };
  });
  const parameters = original.description.parameters.map((p) => ({ ...p, id: newId() }));
  // Who approved the original has not seen the copy.
  const safety = original.safety && { ...original.safety, approval: null };
  return { ...original, id: newId(), description: { ...original.description, parameters }, safety, links };
}

/** A device with new ids throughout, its images behind all others of the cell. */
export const allRenewed = (cell: Cell, device: Device, newId: () => string): Device =>
  renewed(device, { command: firstFree(cell, 'command'), feedback: firstFree(cell, 'feedback') }, newId);

function collisionsOf(cell: Cell, devices: readonly Device[]): Copies['collisions'] {
  const network = ipaddr.IPv4.parseCIDR(cell.network.subnet);
  const taken = [cell.controller, ...cell.devices];
  return devices.flatMap((device, i) => {
    const others = [...taken, ...devices.slice(0, i)];
    const clashes = (['name', 'designation', 'address'] as const).flatMap((what) => {
      const value = device[what];
      const other = value && others.find((o) => o[what].toLowerCase() === value.toLowerCase());
      return other ? [{ device: device.name, what, value, with: other.name }] : [];
    });
    const inside = ipaddr.IPv4.parse(device.address).match(network);
    return inside
      ? clashes
      : [
          ...clashes,
          { device: device.name, what: 'subnet' as const, value: device.address, with: cell.network.subnet },
        ];
  });
}

/** New ids for an image and all in it, with every reference kept. */
function moved<I extends Image>(image: I, start: number, newId: () => string): I {
  const ids = new Map<string, string>();
  for (const part of [...image.groups, ...image.fields]) ids.set(part.id, newId());
  const renamed = (id: string) => ids.get(id) ?? id;
  return {
    ...image,
    id: newId(),
    start,
    groups: image.groups.map((g) => ({ ...g, id: renamed(g.id), parent: g.parent && renamed(g.parent) })),
    fields: image.fields.map((f) => ({
      ...f,
      id: renamed(f.id),
      group: f.group && renamed(f.group),
      sign: f.sign?.way === 'bit' ? { ...f.sign, field: renamed(f.sign.field) } : f.sign,
      decimals:
        f.decimals?.way === 'field' ? { ...f.decimals, field: renamed(f.decimals.field) } : f.decimals,
    })),
    ...(image.direction === 'feedback' ? { derived: image.derived.map((d) => ({ ...d, id: newId() })) } : {}),
  };
}

/** The first even byte behind all images of a direction. */
export function firstFree(cell: Cell, direction: 'command' | 'feedback'): number {
  const end = allImages(cell)
    .filter(({ image }) => image.direction === direction)
    .reduce((maximum, { image }) => Math.max(maximum, image.start + image.size), 0);
  return end + (end % 2);
}
