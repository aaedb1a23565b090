import type { Description, Device, Found, Identity, Link, LinkBase, Parameter } from '@fadenkreuz/core';
import type {
  ConnectionPoint,
  DescribedParameter,
  DriveChange,
  DriveFacts,
  NetworkState,
} from '@fadenkreuz/core/devices';
import type { Cable } from '../wire/cable.js';
import type { Reach } from '../wire/reach.js';
import type { Schedule } from '../timing/schedule.js';
import type { Addressing } from '../addresses/addressing.js';
import type { End, LinkEnds } from './ends.js';
import type { ParameterAccess } from './parameterAccess.js';
import type { LinkContext, RunningLink } from './runningLink.js';

/** The controller's side of a protocol: what its links share. */
export interface Originator<L extends LinkBase = Link> {
  /** Takes what links from this own address need. Throws `standIn.cannotBind`. */
  open(localAddress: string): Promise<void>;
  /** A link, not started yet. */
  link(ends: LinkEnds<L>): RunningLink;
  /** Requests for single values beside that link; it opens with the first of them. */
  parameters(ends: LinkEnds<L>): ParameterAccess;
  /** The parameters that the device itself tells of; absent where the protocol has no such question. */
  listed?(ends: LinkEnds<L>, newId: () => string): Promise<Parameter[]>;
  close(): Promise<void>;
}

/** One point of a simulated device with the bytes that it shows or takes. */
export interface SimulatedPoint extends Pick<ConnectionPoint, 'number' | 'use' | 'size' | 'registers'> {
  bytes: Uint8Array;
}

/** What keeps a simulated device from acting as it should. */
export interface Trouble {
  /** By which each answer comes late. */
  slowMs: number;
  /** It has no time or resources for anybody. */
  busy: boolean;
  /** The same data again and again. */
  frozen: boolean;
  /** Another controller owns the outputs. */
  foreignOwner: boolean;
  /** A second device at the same address. */
  twin: boolean;
}

export const noTrouble: Trouble = {
  slowMs: 0,
  busy: false,
  frozen: false,
  foreignOwner: false,
  twin: false,
};

/** What stands behind the device side of a protocol; asked anew each time, so that it may change while it runs. */
export interface Simulated {
  schedule: Schedule;
  cable: Cable;
  description: Description;
  identity: () => Identity;
  /** Who makes it, in one line of ASCII; empty where that is not known. */
  maker: () => string;
  serialNumber: number;
  mac: Uint8Array;
  /** Its address settings, which outlast the server: a device that moves to another address is served anew. */
  addressing: Addressing;
  points: () => readonly SimulatedPoint[];
  /** Its parameters. */
  described: readonly DescribedParameter[];
  drive: { facts: () => DriveFacts; change: (part: DriveChange) => void } | undefined;
  /** How bad the fault is that it has. */
  health: () => 'good' | 'minor' | 'major';
  trouble: () => Trouble;
  /** Configuration data have come. */
  configure: (data: Uint8Array) => void;
  /** It is told to start anew, with the settings of the factory or with its own. */
  reset: (toFactory: boolean) => void;
}

/** A command as it stands: bytes of which point, and whether the controller's program runs. */
export interface Commanded {
  point: number;
  bytes: Uint8Array;
  run: boolean;
}

/** The device side of a protocol that listens. */
export interface Served {
  /** Where it really listens; another port than the standard's where that may not be bound. */
  end: End;
  /** What it is commanded at this moment; undefined while nobody owns its outputs. */
  command(now: number): Commanded | undefined;
  /** Its feedback may have changed. */
  changed(now: number): void;
  /** What it knows of its network, for its lights. */
  network: Partial<NetworkState>;
  /** What troubles it is another thing now. */
  troubled(): void;
  /** Ends what was agreed with controllers: the device is another one now, or starts anew. */
  drop(why: 'restarted' | 'changed' | 'disturbed'): void;
  close(): Promise<void>;
}

/** Addresses that a scan asks, and who may be asked. */
export interface ScanRange {
  /** As they are asked: in loopback on the bench. */
  addresses: readonly string[];
  /** Other ports than the standard's where devices may listen. */
  ports: readonly number[];
  reach: Reach;
  signal: AbortSignal;
  /** So many more addresses have been asked. */
  onAsked: (count: number) => void;
}

/**
 * A device that answered, before it is known how the plan would write its address; `key` tells answers of one device.
 */
export type Answered = { key: string; found: Omit<Found, 'address'> };

/** Settings that are given to a device over the wire. */
export interface AddressOrder {
  /** What it is to have, as the plan writes it, and where it will then be reached. */
  address: string;
  then: string;
  mask: string;
  gateway: string | null;
}

/**
 * A protocol on the wire: both sides of it. The list of them is list.ts; what a link is and what is checked stands with
 * the protocol of the same id in the core.
 */
export interface Driver<L extends LinkBase = Link> {
  protocol: L['protocol'];
  originator(context: LinkContext): Originator<L>;
  /** Where a device stands on the bench that is planned at this address, and where a real one is reached. */
  benchEnd(device: Device, address: string): End;
  realEnd(device: Device): End;
  /** Begins to listen for a simulated device. Rejects with the socket's error. */
  serve(device: Simulated, at: End): Promise<Served>;
  /** Ports beside the one of its end that a simulated device of it uses, by what they are for. */
  otherPorts?: Readonly<Record<string, number>>;
  /** Whether a simulated device has lights for its network as this protocol's standard has them. */
  networkLight: boolean;
  /** Looks for devices; ends by itself, or with the signal. An answer may come again with more in it. */
  scan?(range: ScanRange): AsyncIterable<Answered>;
  /** Gives a device that is reached at `at` its address for good; what was done, in words. Throws `address.notSet`. */
  setAddress?(at: string, order: AddressOrder, reach: Reach): Promise<string[]>;
  /** Has it keep the address that it has, and ask no server any more. Throws `address.notSet`. */
  stopAsking?(at: string, reach: Reach): Promise<void>;
}

/** A driver of whatever protocol: who keeps it only hands links back to it. */
export const anyDriver = <L extends LinkBase>(driver: Driver<L>): Driver => driver as unknown as Driver;
