import { z } from 'zod';
import { repetitionsOf } from '../layout/signals.js';
import { dottedQuad, id, int, macAddress, name, printable, text } from '../entries/entries.js';
import { deviceKinds } from '../devices/kinds.js';
import { Identity } from '../devices/identity.js';
import { standIns } from '../devices/standIns.js';
import { protocolOf } from '../protocols/list.js';
import { Description } from './description.js';
import { Link } from './link.js';
import { Network } from './network.js';
import { Notation } from '../layout/notation.js';
import { LightMeaning } from '../devices/light.js';
import { Parameter } from '../devices/parameter.js';

/**
 * The model of a cell. These schemas are the one source of its types; a `Cell` is an immutable value. Sizes are bytes,
 * bit places count from 0 at bit 0 of byte 0, times are microseconds. Fields, images and notations stand in layout/,
 * links with their protocols, descriptions, parameters and lights in devices/, the network in network.ts.
 */

const maxDevices = 500;
const maxSignals = 12_000;
/** Of one device; drives have up to a thousand or two. */
export const maxParameters = 4000;

/** What a device or a controller can carry, as its manual says; null where that is not known. */
export const Limits = z.strictObject({
  /** Connections at a time. */
  connections: int(1, 10_000).nullable().default(null),
  /** Packets a second, sent and received. */
  packets: int(1, 10_000_000).nullable().default(null),
});
const noLimits = { connections: null, packets: null };

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
  limits: Limits.default(noLimits),
  /** The nameplate that is planned, and that the device is asked for when a link is opened. */
  identity: Identity,
  /** What it offers, as far as that is known. */
  description: Description,
  /** The behaviour that stands in for it on the bench; null while there is none. */
  standIn: z.enum(standIns).nullable().default(null),
  /** Whether the byte order of its images is a setting of the device. */
  orderSelectable: z.boolean().default(false),
  /** What is read and set by requests, beside the cyclic images. */
  parameters: z.array(Parameter).max(maxParameters).default([]),
  /** What its lights say in this revision, where its describer or its manual says more than the standard. */
  lights: z.array(LightMeaning).max(64).default([]),
  links: z.array(Link).max(8),
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
  /** Time from one run of its program to the next, µs. */
  cycle: int(0, 10_000_000).default(10_000),
  limits: Limits.default(noLimits),
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
  devices: z.array(Device).max(maxDevices),
});

/** The part of a device that nothing is known of before its manual, a describer or the wire says more. */
export const unknownNameplate = {
  orderNumber: '',
  factoryAddress: null,
  mac: '',
  serialNumber: null,
  limits: noLimits,
  parameters: [],
  lights: [],
} satisfies Partial<z.infer<typeof Device>>;

/** What holds for a cell as a whole: ids that are its own, and no more signals in an image than it can have. */
const wholeCell = (cell: z.infer<typeof cellShape>, context: z.RefinementCtx<unknown>) => {
  const seen = new Set<string>();
  const claim = (kind: string, value: string, path: () => (string | number)[]) => {
    const key = `${kind} ${value}`;
    if (seen.has(key))
      context.addIssue({ code: 'custom', path: path(), message: `is the id ${value} a second time` });
    seen.add(key);
  };
  cell.network.ranges.forEach((range, r) =>
    claim('address range', range.id, () => ['network', 'ranges', r, 'id']),
  );
  cell.notations.forEach((notation, n) => claim('notation', notation.id, () => ['notations', n, 'id']));
  cell.devices.forEach((device, d) => {
    claim('device', device.id, () => ['devices', d, 'id']);
    device.parameters.forEach((parameter, p) =>
      claim('parameter', parameter.id, () => ['devices', d, 'parameters', p, 'id']),
    );
    device.links.forEach((link, l) => {
      const at = ['devices', d, 'links', l];
      claim('link', link.id, () => [...at, 'id']);
      for (const part of protocolOf(link).partIds?.(link) ?? [])
        claim(part.kind, part.id, () => [...at, ...part.path]);
      for (const side of ['command', 'feedback'] as const) {
        const image = link[side];
        claim('image', image.id, () => [...at, side, 'id']);
        image.fields.forEach((field, f) => claim('field', field.id, () => [...at, side, 'fields', f, 'id']));
        image.groups.forEach((group, g) => claim('group', group.id, () => [...at, side, 'groups', g, 'id']));
        if (image.direction === 'feedback')
          image.derived.forEach((value, v) =>
            claim('derived', value.id, () => [...at, side, 'derived', v, 'id']),
          );
        if (repetitionsOf(image) > maxSignals)
          context.addIssue({
            code: 'custom',
            path: [...at, side],
            message: `repeats its fields more than ${maxSignals} times`,
          });
      }
    });
  });
};

export const Cell = cellShape.superRefine(wholeCell);

/**
 * A schema for the state of a cell after an edit: devices that are those of `before` are known to be right and stay the
 * same values; only what is new is looked at in all its parts.
 */
export const cellAfter = (before: z.infer<typeof cellShape>) => {
  const known = new Set<unknown>(before.devices);
  const device = z.unknown().transform((value, context): Device => {
    if (known.has(value)) return value as Device;
    const parsed = Device.safeParse(value);
    if (parsed.success) return parsed.data;
    for (const { message, path } of parsed.error.issues) context.addIssue({ code: 'custom', message, path });
    return z.NEVER;
  });
  return cellShape.extend({ devices: z.array(device).max(maxDevices) }).superRefine(wholeCell);
};

export type Device = z.infer<typeof Device>;
export type Controller = z.infer<typeof Controller>;
export type Naming = z.infer<typeof Naming>;
export type Cell = z.infer<typeof Cell>;
