import {
  greatestMultiplierCode,
  maxSmallSize,
  transportOf,
  type ForwardOpen,
  type NetworkParameters,
  type Trigger,
} from './connectionManager.js';
import { wrappedSize, type RealTimeFormat } from './ioPacket.js';
import { classes } from './messageRouter.js';
import { decodePath, inhibitTime, inOrder, logicalOf, type ElectronicKey, type Segment } from './path.js';
import { extendedStatus as extended } from './status.js';

/** What a connection is for (CIP Vol. 1, 3-6.4). */
export type ConnectionKind = 'exclusive-owner' | 'input-only' | 'listen-only' | 'explicit';

/** A connection point of a target. */
export interface ConnectionPoint {
  instance: number;
  use: 'command' | 'feedback' | 'configuration' | 'input-only' | 'listen-only';
  /** Bytes of application data. */
  size: number;
}

/** A connection as it stands, as far as others depend on it. */
export interface StandingConnection {
  kind: ConnectionKind;
  request: ForwardOpen;
  feedback?: ConnectionPoint | undefined;
}

/** What a target is, when it judges a request to open. */
export interface TargetFacts {
  identity: ElectronicKey;
  points: readonly ConnectionPoint[];
  commandFormat: RealTimeFormat;
  feedbackFormat: RealTimeFormat;
  /** µs */
  shortestRpi: number;
  /** Packet intervals are kept in steps of this many µs. */
  rpiStep: number;
  maxConnections: number;
  /** Somebody who holds no connection here owns the outputs. */
  ownedByOther?: boolean;
  connections: readonly StandingConnection[];
}

/** An opening that is accepted. */
export interface Opening {
  kind: ConnectionKind;
  /** Where data from the originator go; undefined for a heartbeat and for explicit messages. */
  command: ConnectionPoint | undefined;
  feedback: ConnectionPoint | undefined;
  configuration: Uint8Array;
  commandFormat: RealTimeFormat;
  feedbackFormat: RealTimeFormat;
  trigger: Trigger;
  multicast: boolean;
  /** Actual packet intervals, µs. */
  toTargetApi: number;
  toOriginatorApi: number;
  /** Least time between two packets that a change of state sends, µs. */
  inhibitUs: number;
}

export type Verdict = { opening: Opening } | { refusal: number[] };

type Triad = Pick<ForwardOpen, 'connectionSerial' | 'originatorVendor' | 'originatorSerial'>;
export const triadOf = ({ connectionSerial, originatorVendor, originatorSerial }: Triad): Triad => ({
  connectionSerial,
  originatorVendor,
  originatorSerial,
});
export const sameTriad = (a: Triad, b: Triad): boolean =>
  a.connectionSerial === b.connectionSerial &&
  a.originatorVendor === b.originatorVendor &&
  a.originatorSerial === b.originatorSerial;

const noConfiguration = new Uint8Array();
/** Bytes of an explicit message over a class 3 connection. */
const explicitSizes = { minimum: 8, maximum: 4096 };
const longestRpi = 100_000_000;

/**
 * Whether a target takes a Forward_Open, and as what; in the order in which the Connection Manager looks (CIP Vol. 1,
 * 3-5.5.1 and table 3-5.33): known connection, transport, path and key, application paths, sizes, owner, time,
 * resources.
 */
export function judgeOpening(target: TargetFacts, request: ForwardOpen, large: boolean): Verdict {
  const { route, path } = splitRoute(decodePath(request.path));
  const refuse = (...refusal: number[]): Verdict => ({ refusal });
  if (target.connections.some((c) => sameTriad(c.request, request))) return refuse(extended.connectionInUse);
  const transport = transportOf(request.transport);
  if (transport.class !== 1 && transport.class !== 3) return refuse(extended.transportNotSupported);
  if (transport.class === 1 && transport.trigger !== 'cyclic' && transport.trigger !== 'change-of-state')
    return refuse(extended.transportNotSupported);
  if (request.timeoutMultiplier > greatestMultiplierCode) return refuse(extended.invalidTimeoutMultiplier);
  const astray = routeRefusal(route);
  if (astray !== undefined) return refuse(astray);
  if (!inOrder(path)) return refuse(extended.invalidSegment);
  if (path.some((s) => s.segment === 'unknown' || s.segment === 'port' || s.segment === 'symbol'))
    return refuse(extended.invalidSegment);
  const mismatch = keyMismatch(path, target.identity);
  if (mismatch !== undefined) return refuse(mismatch);
  if (target.connections.length >= target.maxConnections) return refuse(extended.outOfConnections);
  return transport.class === 3
    ? judgeExplicit(target, request, path)
    : judgeCyclic(target, request, path, transport.trigger!, large);
}

/** The way to a device, and what is meant there. */
function splitRoute(segments: readonly Segment[]): { route: Segment[]; path: Segment[] } {
  const own = segments.findIndex((s) => s.segment !== 'port');
  const at = own < 0 ? segments.length : own;
  return { route: segments.slice(0, at), path: segments.slice(at) };
}

/**
 * Why a device that leads nowhere else cannot follow a route, as an extended status: it may only name its own place
 * (port 1, link 0) or nothing; undefined when it can.
 */
export function routeRefusal(route: readonly Segment[]): number | undefined {
  for (const hop of route) {
    if (hop.segment !== 'port' || hop.port !== 1) return extended.portNotAvailable;
    if (hop.link.length !== 1 || hop.link[0] !== 0) return extended.linkAddressNotValid;
  }
  return undefined;
}

/** Electronic key, Vol. 1, C-1.4.2: zero means any; bit 7 of the major revision lets a newer minor one stand in. */
function keyMismatch(path: readonly Segment[], own: ElectronicKey): number | undefined {
  const key = path.flatMap((s) => (s.segment === 'key' ? [s.key] : []))[0];
  if (!key) return undefined;
  const differs = (asked: number, has: number) => asked !== 0 && asked !== has;
  if (differs(key.vendor, own.vendor) || differs(key.productCode, own.productCode))
    return extended.vendorOrProductMismatch;
  if (differs(key.deviceType, own.deviceType)) return extended.deviceTypeMismatch;
  if (differs(key.majorRevision & 0x7f, own.majorRevision)) return extended.revisionMismatch;
  const compatible = (key.majorRevision & 0x80) !== 0;
  const older = compatible
    ? key.minorRevision > own.minorRevision
    : differs(key.minorRevision, own.minorRevision);
  return older ? extended.revisionMismatch : undefined;
}

/** Class 3 goes to the Message Router, class 2, instance 1. */
function judgeExplicit(target: TargetFacts, request: ForwardOpen, path: readonly Segment[]): Verdict {
  if (logicalOf(path, 'class') !== classes.messageRouter || logicalOf(path, 'instance') !== 1)
    return { refusal: [extended.invalidConfigurationPath] };
  const sizes = [request.toTarget.size, request.toOriginator.size];
  if (sizes.some((s) => s < explicitSizes.minimum || s > explicitSizes.maximum))
    return { refusal: [extended.invalidConnectionSize] };
  if (request.toTarget.type !== 'point-to-point') return { refusal: [extended.invalidToTargetType] };
  if (request.toOriginator.type !== 'point-to-point') return { refusal: [extended.invalidToOriginatorType] };
  const times = intervals(target, request);
  if (!times) return { refusal: [extended.rpiNotSupported] };
  return {
    opening: {
      kind: 'explicit',
      command: undefined,
      feedback: undefined,
      configuration: noConfiguration,
      commandFormat: 'modeless',
      feedbackFormat: 'modeless',
      trigger: 'application',
      multicast: false,
      inhibitUs: 0,
      ...times,
    },
  };
}

function judgeCyclic(
  target: TargetFacts,
  request: ForwardOpen,
  path: readonly Segment[],
  trigger: Trigger,
  large: boolean,
): Verdict {
  const refuse = (...refusal: number[]): Verdict => ({ refusal });
  if (logicalOf(path, 'class') !== classes.assembly) return refuse(extended.invalidConfigurationPath);
  const [commandNumber, feedbackNumber] = path.flatMap((s) =>
    s.segment === 'logical' && s.type === 'connectionPoint' ? [s.value] : [],
  );
  const point = (instance: number | undefined, ...uses: ConnectionPoint['use'][]) =>
    target.points.find((p) => p.instance === instance && uses.includes(p.use));
  const configurationPoint = point(logicalOf(path, 'instance'), 'configuration');
  const command = point(commandNumber, 'command', 'input-only', 'listen-only');
  const feedback = point(feedbackNumber, 'feedback');
  if (!configurationPoint) return refuse(extended.invalidConfigurationPoint);
  if (!command) return refuse(extended.invalidToTargetPoint);
  if (!feedback) return refuse(extended.invalidToOriginatorPoint);
  const kind = command.use === 'command' ? 'exclusive-owner' : (command.use as ConnectionKind);

  if (!typeFits(request.toTarget, ['point-to-point'])) return refuse(extended.invalidToTargetType);
  if (!typeFits(request.toOriginator, ['point-to-point', 'multicast']))
    return refuse(extended.invalidToOriginatorType);
  if (!large && Math.max(request.toTarget.size, request.toOriginator.size) > maxSmallSize)
    return refuse(extended.invalidConnectionSize);
  const commandFormat = kind === 'exclusive-owner' ? target.commandFormat : 'heartbeat';
  // The second word is the size of the assembly in bytes.
  if (!sizeFits(request.toTarget, wrappedSize(commandFormat, command.size)))
    return refuse(extended.invalidToTargetSize, command.size);
  if (!sizeFits(request.toOriginator, wrappedSize(target.feedbackFormat, feedback.size)))
    return refuse(extended.invalidToOriginatorSize, feedback.size);
  const data = path.flatMap((s) => (s.segment === 'data' ? [s.data] : []))[0] ?? noConfiguration;
  if (data.length > 0 && data.length !== configurationPoint.size + (configurationPoint.size % 2))
    return refuse(extended.invalidConfigurationSize, configurationPoint.size);

  const others = target.connections.filter((c) => c.kind !== 'explicit');
  const owned = target.ownedByOther || others.some((c) => c.kind === 'exclusive-owner');
  if (kind === 'exclusive-owner' && owned) return refuse(extended.ownershipConflict);
  const heard = others.some((c) => c.kind !== 'listen-only' && c.feedback?.instance === feedback.instance);
  if (kind === 'listen-only' && !heard) return refuse(extended.notListening);
  const times = intervals(target, request);
  if (!times) return refuse(extended.rpiNotSupported);
  const inhibit = path.flatMap((s) =>
    s.segment === 'network' && s.kind === inhibitTime ? [s.data[0]! * 1000] : [],
  )[0];
  return {
    opening: {
      kind,
      command: kind === 'exclusive-owner' ? command : undefined,
      feedback,
      configuration: data,
      commandFormat,
      feedbackFormat: target.feedbackFormat,
      trigger,
      multicast: request.toOriginator.type === 'multicast',
      // Without a time of its own a producer waits a quarter of the interval (Vol. 1, 3-4.4.3.2).
      inhibitUs: inhibit ?? Math.floor(times.toOriginatorApi / 4),
      ...times,
    },
  };
}

const typeFits = ({ type }: NetworkParameters, known: readonly NetworkParameters['type'][]) =>
  known.includes(type);
/** A connection of variable size names the largest packet; the device then sends what it has. */
const sizeFits = ({ size, variable }: NetworkParameters, has: number) =>
  variable ? size >= has : size === has;

/** Actual packet intervals: what was asked for, rounded up to the steps that the target keeps. */
function intervals(target: TargetFacts, { toTargetRpi, toOriginatorRpi }: ForwardOpen) {
  if (Math.min(toTargetRpi, toOriginatorRpi) < target.shortestRpi) return undefined;
  if (Math.max(toTargetRpi, toOriginatorRpi) > longestRpi) return undefined;
  const kept = (rpi: number) => Math.ceil(rpi / target.rpiStep) * target.rpiStep;
  return { toTargetApi: kept(toTargetRpi), toOriginatorApi: kept(toOriginatorRpi) };
}
