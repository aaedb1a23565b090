import { z } from 'zod';
import { int, maxImageBytes, printable } from '../entries/entries.js';
import { ByteOrder, Field, rolesOfFields } from '../layout/field.js';
import { Group } from '../layout/image.js';
import { Capacity, unknownCapacity } from './capacity.js';
import { ChosenSlots } from './chosenSlots.js';
import { Identity } from './identity.js';
import { LightMeaning } from './light.js';
import { maxParameters, Parameter } from './parameter.js';
import { PortDevice, PortRules } from './ports.js';
import { registerTables } from '../layout/registerTables.js';

/**
 * What one device of the cell offers, whatever was planned: it comes from a description file, a manual's table or the
 * hand, and the device keeps its own copy. Checks, stand-in, scan, replacement and proposals read it. What only one
 * protocol has stands in `offer`, whose schema that protocol brings (protocols/NAME/offer.ts).
 */

/** Where a description comes from. */
export const DescriptionOrigin = z.discriminatedUnion('from', [
  /** A description file: EDS, GSDML, IODD, with its own revision. */
  z.strictObject({
    from: z.literal('file'),
    format: printable(20),
    title: printable(120).default(''),
    revision: printable(40).default(''),
  }),
  /** A table of a manual, as a describer of our own keeps it. */
  z.strictObject({ from: z.literal('table'), title: printable(200).default('') }),
  /** Entered by hand: what was entered for its images is all that is known, so its points follow them. */
  z.strictObject({ from: z.literal('hand') }),
]);

/** What is sent to or taken from a connection point. */
export const pointUses = [
  'command',
  'feedback',
  'configuration',
  /** Takes the heartbeats of a controller that only reads, with or without another one that owns the outputs. */
  'input-only',
  'listen-only',
] as const;

/** One block of bytes that a device offers: an assembly, a run of registers, or the process data of its slots. */
export const ConnectionPoint = z.strictObject({
  /**
   * Assembly instance (CIP Vol. 1, 5-5); of registers and slots a number of our own. Unique among points of one use.
   */
  number: int(0, 0xffff),
  use: z.enum(pointUses),
  title: printable(64).default(''),
  /** Bytes. */
  size: int(0, maxImageBytes),
  /** Byte order of its fields where they name none; null: not stated. */
  order: ByteOrder.nullable().default(null),
  groups: z.array(Group).max(200).default([]),
  /** Null: what its bytes mean is not known. */
  fields: z.array(Field).max(4000).nullable().default(null),
  /** Where its bytes stand in the tables of a device of registers. */
  registers: z
    .strictObject({ table: z.enum(registerTables), start: int(0, 0xffff) })
    .nullable()
    .default(null),
});

/** What a device does with its outputs when the connection is lost. */
export const LossReaction = z.discriminatedUnion('by', [
  /** It always does the same. */
  z.strictObject({ by: z.literal('device'), does: z.enum(['drop', 'hold']) }),
  /** A bit of its configuration data says so: set it holds, clear it drops. */
  z.strictObject({
    by: z.literal('configuration'),
    /** Data that are shorter are no configuration of this device. */
    bytes: int(1, 400),
    holdBit: int(0, 3199),
  }),
]);

/** The parts of a description that all protocols share. */
export const descriptionParts = {
  origin: DescriptionOrigin,
  /** What it says it is; null: as it is planned. */
  identity: Identity.nullable().default(null),
  points: z.array(ConnectionPoint).max(256).default([]),
  loss: LossReaction.nullable().default(null),
  limits: Capacity.default(unknownCapacity),
  /** What is read and set by requests, beside the cyclic images. */
  parameters: z.array(Parameter).max(maxParameters).default([]),
  /** Of an IO-Link master: what is plugged in at its ports, and where its data stand. */
  ports: z.array(PortDevice).max(64).default([]),
  portRules: PortRules.nullable().default(null),
  /** Places of its images that carry parameters of one's own choice. */
  chosen: z.array(ChosenSlots).max(8).default([]),
  /** What its lights say in this revision, where a describer or the manual says more than the standard. */
  lights: z.array(LightMeaning).max(64).default([]),
};

/**
 * The part of a description that no behaviour and no wire says: it stays with the device when one of them describes it
 * anew.
 */
export const entered = ({
  limits,
  parameters,
  ports,
  portRules,
  chosen,
  lights,
}: EnteredParts): EnteredParts => ({ limits, parameters, ports, portRules, chosen, lights });
type EnteredParts = Pick<
  DescriptionOf,
  'limits' | 'parameters' | 'ports' | 'portRules' | 'chosen' | 'lights'
>;
/** The same while nothing was entered. */
export const nothingEntered: EnteredParts = {
  limits: unknownCapacity,
  parameters: [],
  ports: [],
  portRules: null,
  chosen: [],
  lights: [],
};

export type DescriptionOrigin = z.infer<typeof DescriptionOrigin>;
export type ConnectionPoint = z.infer<typeof ConnectionPoint>;
export type PointUse = (typeof pointUses)[number];
export type LossReaction = z.infer<typeof LossReaction>;

/** A description of whatever protocol; `Offer` is what only its protocol has. */
export interface DescriptionOf<Offer extends { protocol: string } = { protocol: string }> {
  origin: DescriptionOrigin;
  identity: Identity | null;
  points: ConnectionPoint[];
  loss: LossReaction | null;
  limits: Capacity;
  parameters: Parameter[];
  ports: PortDevice[];
  portRules: PortRules | null;
  chosen: ChosenSlots[];
  lights: LightMeaning[];
  offer: Offer | null;
}

/** Whether its layouts say what their fields are for: then the device acts by them, whatever is planned. */
export const saysRoles = ({ points }: Pick<DescriptionOf, 'points'>): boolean =>
  points.some(({ fields }) => fields !== null && rolesOfFields(fields).length > 0);

/** The points of one use. */
export const pointsFor = ({ points }: Pick<DescriptionOf, 'points'>, use: PointUse): ConnectionPoint[] =>
  points.filter((p) => p.use === use);

/**
 * What the outputs do on loss as far as the description says it, by the configuration data that the device gets;
 * undefined: it does not say.
 */
export function lossBy(loss: LossReaction | null, configuration: Uint8Array): 'drop' | 'hold' | undefined {
  if (!loss) return undefined;
  if (loss.by === 'device') return loss.does;
  if (configuration.length < loss.bytes) return undefined;
  return (configuration[loss.holdBit >> 3]! >> (loss.holdBit & 7)) & 1 ? 'hold' : 'drop';
}

/** How messages call a point: `assembly 20 (speed command)`, `holding registers from 3000`, `process data`. */
export const pointTitle = ({ number, title, registers, use }: ConnectionPoint): string => {
  const place = registers ? `${registers.table} registers from ${registers.start}` : `${use} point ${number}`;
  return title ? `${place} (${title})` : place;
};
