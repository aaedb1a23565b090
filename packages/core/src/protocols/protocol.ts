import type { ZodObject, ZodType } from 'zod';
import type { DescriptionOf, ConnectionPoint } from '../devices/description.js';
import type { Fault } from '../devices/fault.js';
import type { ParameterPlace } from '../devices/parameter.js';
import type { ElementForm } from '../layout/elementForm.js';
import type { Direction } from '../layout/image.js';
import type { RegisterRun, RunAge } from '../layout/registerRuns.js';
import type { EditRequest, Finding } from '../messages/finding.js';
import type { CauseRule } from './cause.js';
import type { FramePart } from './frameParts.js';
import type { Transport } from './frames.js';
import type { LinkBase, LinkTimes } from './link.js';

/** What a rule sees of the device that a link belongs to. */
export interface LinkedDevice {
  id: string;
  name: string;
  description: DescriptionOf;
}

/**
 * A link with its device, and what the device is described to offer over this protocol; null where that is not known.
 */
export interface LinkPlace<L extends LinkBase, O extends { protocol: string }> {
  device: LinkedDevice;
  link: L;
  offer: O | null;
}

/** One check of a single link. */
export type LinkRule<L extends LinkBase, O extends { protocol: string }> = (
  place: LinkPlace<L, O>,
) => Finding[];

/** Packets of one size. */
export interface Stream {
  /** Behind UDP, TCP or Ethernet, bytes. */
  payload: number;
  perSecond: number;
}

/** What a link sends, by direction. */
export interface Streams {
  command: Stream[];
  feedback: Stream[];
  transport: Transport;
}

/** A way to open a link. */
export interface ConnectionKind {
  title: string;
  /** Whether packets come by themselves; false: each value is asked for. */
  cyclic: boolean;
  /** What the outputs do on loss where the way itself decides it, and why. */
  onLoss?: { does: 'drop' | 'hold'; why: string };
}

/** What is known of a link when a device is made by hand. */
export interface NewLink {
  id: string;
  command: LinkBase['command'];
  feedback: LinkBase['feedback'];
  /** Update time of both directions, µs. */
  update: number;
}

/**
 * A protocol as the core knows it: what a link of it is, what it costs, what is checked, what may be wrong. Its bytes
 * stand in the same folder; its sockets are a Driver of the field package. The list of them is list.ts; no code
 * elsewhere asks for the name of one.
 */
export interface Protocol<
  L extends LinkBase = LinkBase,
  O extends { protocol: string } = { protocol: string },
> {
  id: L['protocol'];
  title: string;
  /** Schemas of a link, and of what a device offers over this protocol. */
  link: ZodType<L> & Pick<ZodObject, 'shape'>;
  offer: ZodType<O>;
  connections: Readonly<Record<L['connection'], ConnectionKind>>;
  /**
   * What the place of an image in the device is called: `assembly instance 100`, `registers`; empty where there is only
   * one.
   */
  placeOf: (link: L, direction: Direction) => string;
  times: (link: L) => LinkTimes;
  /** What changes of a link when it is to have this update time, µs. */
  withUpdate: (link: L, us: number) => Partial<L>;
  /** Its entries about time, which stay when another device takes the place of the one that it reaches. */
  timing: (link: L) => Partial<L>;
  budget: (link: L) => Streams;
  /** A link with the defaults of the protocol; the model checks it when it becomes a part of the cell. */
  create: (entry: NewLink) => L;
  /** The link with ids of its own throughout, but for its images. */
  renewed: (link: L, newId: () => string) => L;
  /** Ids of parts that only this protocol has, with their paths. */
  partIds?: (link: L) => { kind: string; id: string; path: (string | number)[] }[];
  /** The described point that an image exchanges; undefined where the description has none for it. */
  pointFor: (link: L, direction: Direction, description: DescriptionOf) => ConnectionPoint | undefined;
  /** The described points that an image can exchange instead, where its number chooses one. */
  choices?: (link: L, direction: Direction, description: DescriptionOf) => ConnectionPoint[];
  /**
   * What the device offers as far as a link says it, for a device that was made by hand; the layout stays that of the
   * images.
   */
  pointsOf: (link: L) => ConnectionPoint[];
  /** What it offers beside them, for a device of which nothing else is known than this link. */
  offerOf: (link: L) => O;
  /**
   * The link as one over which nothing goes to the device that it would act on: for real devices, before a person has
   * allowed more. The same link where it is none that writes; undefined: there is no such way.
   */
  reading: (link: L, description: DescriptionOf) => L | undefined;
  /** What a device gets as soon as the link is open, in words. */
  sends: (link: L) => string;
  /** The runs of registers that an image is made of; undefined: it is made of none. */
  runs?: (link: L, direction: Direction) => readonly RegisterRun[];
  /** What of a feedback image is worked out from the ages of its runs; undefined: nothing. */
  ages?: (link: L) => readonly RunAge[];
  /** How the controller sees the bytes of its links as elements, where that is not as it sees those of others. */
  elements?: Partial<ElementForm>;
  /** The profile (beam/stations.ts) that the whole control word of a drive follows, where that is not CiA 402. */
  controlWord?: string;
  /** Configuration data that the device gets with the link. */
  configuration?: (link: L) => Uint8Array;
  rules: readonly LinkRule<L, O>[];
  causes: readonly CauseRule[];
  /** What can be injected at a simulated device that offers this, with default settings. */
  faults: (offer: O) => readonly Fault[];
  parameterPlaces: readonly ParameterPlace['way'][];
  /** A message of it, from the controller or an answer, part by part. */
  explain?: (frame: Uint8Array, answer: boolean) => FramePart[];
  /** Whether its devices answer a scan, and can be given an address over the wire. */
  scan: { answers: boolean; setsAddress: boolean };
}

/** The edit that sets some entries of a link, typed by its protocol. */
export const setLink = <L extends LinkBase>(link: L, set: Partial<L>): EditRequest => ({
  edit: 'link.set',
  link: link.id,
  set,
});

/** A link whose protocol is not looked at, for code that only hands it on. */
export type AnyProtocol = Protocol<LinkBase, { protocol: string }>;

/** Forgets what links a protocol has: who keeps it only hands them back. */
export const sealed = <L extends LinkBase, O extends { protocol: string }>(
  protocol: Protocol<L, O>,
): AnyProtocol => protocol as unknown as AnyProtocol;
