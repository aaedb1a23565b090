import { z } from 'zod';
import { repetitionsOf } from '../layout/signals.js';
import { dottedQuad, id, int, macAddress, name, printable, text } from '../entries/entries.js';
import { deviceKinds } from '../devices/kinds.js';
import { Identity } from '../devices/identity.js';
import { parseInput } from '../entries/parse.js';
import { Problem } from '../messages/problem.js';
import { protocolOf } from '../protocols/list.js';
import { Description } from './description.js';
import { Link } from './link.js';
import { Exchange } from './exchange.js';
import { BeamChanges, plainBeam } from './beamChanges.js';
import { DriveTrain } from '../motion/driveTrain.js';
import { SafetyLogic } from '../safety/safetyLogic.js';
import { ParameterSet } from './parameterSet.js';
import { MachineRow } from './machineRow.js';
import { Network } from './network.js';
import { refuseTooLarge } from './size.js';
import { DirectCounting, Notation } from '../layout/notation.js';
import { Capacity, unknownCapacity } from '../devices/capacity.js';

/**
 * The model of a cell. These schemas are the one source of its types; a `Cell` is an immutable value. Sizes are bytes,
 * bit places count from 0 at bit 0 of byte 0, times are microseconds. Fields, images and notations stand in layout/,
 * links with their protocols, descriptions, parameters and lights in devices/, the network in network.ts.
 */

const maxDevices = 500;
const maxLinks = 8;
const maxSignals = 12_000;

export const Device = z.strictObject({
  id,
  name,
  /** IEC 81346 reference designation. */
  designation: printable(40).default(''),
  kind: z.enum(deviceKinds),
  maker: text,
  orderNumber: printable(60).default(''),
  /** The machine part that it moves or serves. */
  serves: text,
  address: dottedQuad,
  /** The address that it leaves the factory with; null where it has none, or where that is not known. */
  factoryAddress: dottedQuad.nullable().default(null),
  /** Of the one that stands there, as it was read from the wire. */
  mac: macAddress.default(''),
  serialNumber: int(0, 0xffff_ffff).nullable().default(null),
  /** The nameplate that is planned, and that the device is asked for when a link is opened. */
  identity: Identity,
  /** What it offers, as far as that is known. */
  description: Description,
  /** It is played on the bench, also where a real one can be reached at its address. */
  simulated: z.boolean().default(false),
  /** Whether the byte order of its images is a setting of the device. */
  orderSelectable: z.boolean().default(false),
  /** What somebody changed at the chains of what stops it. */
  beam: BeamChanges.default(plainBeam),
  /** What it turns, from motor to load; null: not said. */
  train: DriveTrain.nullable().default(null),
  /** What its status bits mean, where it is a safety controller; null: not said. */
  safety: SafetyLogic.nullable().default(null),
  links: z.array(Link).max(maxLinks),
});

export const Controller = z.strictObject({
  name,
  designation: printable(40).default(''),
  address: dottedQuad,
  /** Width of the elements in which the controller's program sees an image. */
  elementBits: z.union([z.literal(8), z.literal(16), z.literal(32), z.literal(64)]),
  /** Whether the low bits of an element come from its first byte (little) or from its last. */
  elementOrder: z.enum(['little', 'big']).default('little'),
  /** The notation in which its addresses are shown. */
  notation: id.default('element'),
  /** How it counts direct addresses; null: not chosen, and none are shown. */
  direct: DirectCounting.nullable().default(null),
  /** Time from one run of its program to the next, µs. */
  cycle: int(0, 10_000_000).default(10_000),
  limits: Capacity.default(unknownCapacity),
});

/** How the names of the cell's devices are made (lineup/naming.ts). */
export const Naming = z.strictObject({
  /** Such as {words}_{class}{number}; empty: any name will do. */
  pattern: printable(80).default(''),
  /** Most characters that the controller's program takes in a name. */
  longest: int(4, 64).default(32),
});

/** The parts of a cell, before what holds for it as a whole. */
export const cellShape = z.strictObject({
  id,
  name,
  designation: printable(40).default(''),
  controller: Controller,
  network: Network,
  naming: Naming.default({ pattern: '', longest: 32 }),
  /** Ways to write addresses that this cell adds to the standard ones. */
  notations: z.array(Notation).max(40).default([]),
  /** The machine around the devices, line by line in the order in which it is worked out. */
  machine: z.array(MachineRow).max(200).default([]),
  exchanges: z.array(Exchange).max(200).default([]),
  /** Sets of parameters that this cell adds to those of the kinds. */
  sets: z.array(ParameterSet).max(100).default([]),
  devices: z.array(Device).max(maxDevices),
});

/** The part of a device that nothing is known of before its manual, a describer or the wire says more. */
export const unknownNameplate = {
  orderNumber: '',
  factoryAddress: null,
  mac: '',
  serialNumber: null,
  beam: plainBeam,
  train: null,
  safety: null,
} satisfies Partial<z.infer<typeof Device>>;

/** An id that must be the only one of its kind in the cell, and where it stands in its device or in the cell. */
interface Claim {
  key: string;
  path: (string | number)[];
}

/** The ids that a device claims; devices never change, so what one claims is worked out once. */
const claimsOf = (() => {
  const known = new WeakMap<Device, { claims: Claim[]; keys: Set<string> }>();
  return (device: Device) => {
    const found = known.get(device);
    if (found) return found;
    const claims = deviceClaims(device);
    const result = { claims, keys: new Set(claims.map((c) => c.key)) };
    known.set(device, result);
    return result;
  };
})();

function deviceClaims(device: Device): Claim[] {
  const claims: Claim[] = [];
  const claim = (kind: string, id: string, path: (string | number)[]) =>
    void claims.push({ key: `${kind} ${id}`, path });
  claim('device', device.id, ['id']);
  device.description.parameters.forEach((parameter, p) =>
    claim('parameter', parameter.id, ['description', 'parameters', p, 'id']),
  );
  device.links.forEach((link, l) => {
    const at = ['links', l];
    claim('link', link.id, [...at, 'id']);
    for (const part of protocolOf(link).partIds?.(link) ?? [])
      claim(part.kind, part.id, [...at, ...part.path]);
    for (const side of ['command', 'feedback'] as const) {
      const image = link[side];
      claim('image', image.id, [...at, side, 'id']);
      image.fields.forEach((field, f) => claim('field', field.id, [...at, side, 'fields', f, 'id']));
      image.groups.forEach((group, g) => claim('group', group.id, [...at, side, 'groups', g, 'id']));
      if (image.direction === 'feedback')
        image.derived.forEach((value, v) => claim('derived', value.id, [...at, side, 'derived', v, 'id']));
    }
  });
  return claims;
}

/** The sides of a device whose fields repeat too often, with the reason. */
const repeatsTooOften = (device: Device): { path: (string | number)[]; message: string }[] =>
  device.links.flatMap((link, l) =>
    (['command', 'feedback'] as const)
      .filter((side) => repetitionsOf(link[side]) > maxSignals)
      .map((side) => ({
        path: ['links', l, side],
        message: `repeats its fields more than ${maxSignals} times`,
      })),
  );

/** What is wrong with the ids of a list, in its order. */
function claimedTwice(claims: readonly Claim[]): { path: (string | number)[]; message: string }[] {
  const seen = new Set<string>();
  return claims.flatMap(({ key, path }) => {
    if (seen.has(key)) return [{ path, message: `is the id ${key.split(' ').at(-1)} a second time` }];
    seen.add(key);
    return [];
  });
}
const headClaims = ({
  network,
  notations,
  machine,
  exchanges,
  sets,
}: Pick<z.infer<typeof cellShape>, 'network' | 'notations' | 'machine' | 'exchanges' | 'sets'>): Claim[] => [
  ...sets.map(({ id }, s) => ({ key: `set ${id}`, path: ['sets', s, 'id'] })),
  ...network.ranges.map(({ id }, r) => ({ key: `range ${id}`, path: ['network', 'ranges', r, 'id'] })),
  ...notations.map(({ id }, n) => ({ key: `notation ${id}`, path: ['notations', n, 'id'] })),
  ...machine.map(({ id }, m) => ({ key: `machine ${id}`, path: ['machine', m, 'id'] })),
  ...exchanges.map(({ id }, e) => ({ key: `exchange ${id}`, path: ['exchanges', e, 'id'] })),
  ...exchanges.flatMap(({ steps }, e) =>
    steps.map(({ id }, s) => ({ key: `step ${id}`, path: ['exchanges', e, 'steps', s, 'id'] })),
  ),
];

/** What holds for a cell as a whole: ids that are its own, and no more signals in an image than it can have. */
const wholeCell = (cell: z.infer<typeof cellShape>, context: z.RefinementCtx<unknown>) => {
  const devices = cell.devices.flatMap((device, d) =>
    claimsOf(device).claims.map(({ key, path }) => ({ key, path: ['devices', d, ...path] })),
  );
  const repeats = cell.devices.flatMap((device, d) =>
    repeatsTooOften(device).map(({ path, message }) => ({ path: ['devices', d, ...path], message })),
  );
  for (const { path, message } of [...claimedTwice([...headClaims(cell), ...devices]), ...repeats])
    context.addIssue({ code: 'custom', path, message });
};

export const Cell = cellShape.superRefine(wholeCell);

const headShape = cellShape.omit({ devices: true });
const deviceShape = Device.omit({ description: true, links: true });

const refuse = (where: string, reason: string): never => {
  throw new Problem('input.invalid', { where, reason });
};

/**
 * The state of a cell after an edit, checked: throws `input.invalid` with the place. Parts that are those of `before`
 * are known to be right and stay the same values; only what is new is looked at.
 */
export function checkedAfter(before: Cell, draft: Record<keyof Cell, unknown>): Cell {
  const { devices: draftDevices, ...draftHead } = draft;
  const sameHead = Object.entries(draftHead).every(([key, value]) => before[key as keyof Cell] === value);
  const head = sameHead ? before : parseInput(headShape, draftHead, 'cell');
  if (!sameHead)
    for (const { path, message } of claimedTwice(headClaims(head))) refuse(`cell ${path.join('.')}`, message);
  const kept = (['controller', 'network', 'notations', 'machine', 'exchanges', 'sets'] as const).filter(
    (part) => draft[part] === before[part],
  );
  const devices = checkedDevices(before, draftDevices);
  return { ...head, ...Object.fromEntries(kept.map((part) => [part, before[part]])), devices };
}

function checkedDevices(before: Cell, draft: unknown): Device[] {
  if (draft === before.devices) return before.devices;
  if (!Array.isArray(draft)) return refuse('cell devices', 'is no list');
  if (draft.length > maxDevices) refuse('cell devices', `has more than ${maxDevices} entries`);
  const known = new Set<unknown>(before.devices);
  const own = new Map(before.devices.map((d) => [d.id, d]));
  const devices = draft.map((device: unknown, d) =>
    known.has(device) ? (device as Device) : checkedDevice(device, own, `cell devices[${d}]`),
  );
  for (const { path, message } of claimedTwice(
    devices.map(({ id }, d) => ({ key: `device ${id}`, path: [`devices[${d}]`, 'id'] })),
  ))
    refuse(`cell ${path.join('.')}`, message);
  devices.forEach((device, d) => {
    if (!known.has(device)) refuseClaims(device, own.get(device.id), devices, `cell devices[${d}]`);
  });
  refuseTooLarge(devices);
  return devices;
}

function checkedDevice(draft: unknown, own: ReadonlyMap<string, Device>, where: string): Device {
  if (typeof draft !== 'object' || draft === null) return refuse(where, 'is no device');
  const { description, links, ...rest } = draft as Record<string, unknown>;
  const plain = parseInput(deviceShape, rest, where);
  const old = own.get(plain.id);
  if (!Array.isArray(links) || links.length > maxLinks)
    return refuse(`${where} links`, `is no list of at most ${maxLinks} links`);
  const knownLinks = new Set<unknown>(old?.links);
  // In the order of the schema, as a file has them.
  return Object.fromEntries(
    Object.entries({
      ...plain,
      description: checkedDescription(description, old?.description, `${where} description`),
      links: links.map((link: unknown, l) =>
        knownLinks.has(link) ? link : parseInput(Link, link, `${where}.links[${l}]`),
      ),
    }).sort(([a], [b]) => deviceKeys.indexOf(a) - deviceKeys.indexOf(b)),
  ) as Device;
}
const deviceKeys = Object.keys(Device.shape);

/** Parts that are values of the description before are known to be right: a drive has thousands of parameters. */
function checkedDescription(draft: unknown, old: Description | undefined, where: string): Description {
  if (old && draft === old) return old;
  if (typeof draft !== 'object' || draft === null) return refuse(where, 'is no description');
  const { shape } = Description;
  const parts = draft as Partial<Record<keyof Description, unknown>>;
  const foreign = Object.keys(parts).find((key) => !Object.hasOwn(shape, key));
  if (foreign !== undefined) refuse(where, `has no ${foreign}`);
  return Object.fromEntries(
    (Object.keys(shape) as (keyof Description)[]).map((key) => [
      key,
      old && parts[key] === old[key] ? old[key] : parseInput(shape[key], parts[key], `${where} ${key}`),
    ]),
  ) as Description;
}

/** `before` is the device as it was: what was its own then is taken by nobody else, but for those who claim it anew. */
function refuseClaims(
  device: Device,
  before: Device | undefined,
  all: readonly Device[],
  where: string,
): void {
  const { claims } = claimsOf(device);
  const [twice] = [...claimedTwice(claims), ...repeatsTooOften(device)];
  if (twice) refuse(`${where} ${twice.path.join('.')}`, twice.message);
  const own = before && claimsOf(before).keys;
  const anew = own ? claims.filter(({ key }) => !own.has(key)) : claims;
  if (anew.length === 0) return;
  for (const other of all) {
    const { keys } = other === device ? { keys: undefined } : claimsOf(other);
    const taken = keys && anew.find(({ key }) => keys.has(key));
    if (taken)
      refuse(`${where} ${taken.path.join('.')}`, `is the id ${taken.key.split(' ').at(-1)} a second time`);
  }
}

export type Device = z.infer<typeof Device>;
export type Controller = z.infer<typeof Controller>;
export type Naming = z.infer<typeof Naming>;
export type Cell = z.infer<typeof Cell>;
