import type { Exact } from '../shared/exact.js';
import type { DescribedBase } from '../shared/described.js';

/** What is known of a kind of device from an electronic data sheet. Sizes in bits, times in µs. */
export interface Eds extends DescribedBase {
  source: 'eds';
  file: FileFacts;
  device: DeviceFacts;
  parameters: DescribedParameter[];
  assemblies: DescribedAssembly[];
  connections: DescribedConnection[];
  groups: DescribedGroup[];
  ports: DescribedPort[];
  capacity: Capacity;
}

export interface FileFacts {
  text: string;
  /** As written: month-day-year and hour:minute:second. */
  createDate: string;
  createTime: string;
  modifiedDate: string;
  modifiedTime: string;
  revision: string;
  homeUrl: string;
}

export interface DeviceFacts {
  vendor: number;
  vendorName: string;
  deviceType: number;
  deviceTypeName: string;
  productCode: number;
  majorRevision: number;
  minorRevision: number;
  productName: string;
  /** Order number. */
  catalog: string;
  /** Class1, Class2 … of Device Classification: what networks it belongs to. */
  classification: string[];
}

/** Of a scaling, the number itself or the parameter that holds it. */
export interface Scaling {
  multiplier: number;
  divider: number;
  base: number;
  offset: number;
  multiplierLink: number | null;
  dividerLink: number | null;
  baseLink: number | null;
  offsetLink: number | null;
}

export interface DescribedParameter {
  number: number;
  /** Where its value is: an encoded path as hex pairs, or a text that names a place. */
  path: string;
  /**
   * Bits of attribute 4 of the Parameter object: 1 settable links, 2 enumerated, 4 scaled, 16#10 read only, … (CIP Vol.
   * 1, 5-14).
   */
  descriptor: number;
  /** CIP data type code (Vol. 1, C-6.1). */
  dataType: number;
  /** Bytes. */
  size: number;
  name: string;
  unit: string;
  help: string;
  /** Of its raw number, signed as its type is; exact also beyond 2^53. */
  minimum: Exact | null;
  maximum: Exact | null;
  initial: Exact | null;
  /** What a text is at first. */
  initialText: string;
  scaling: Scaling;
  decimals: number;
  labels: { value: number; text: string }[];
}

/** Bits of attribute 4 of the Parameter object (CIP Vol. 1, 5-14.2.1.4; from memory). */
export const descriptorBits = { enumerated: 0x02, scaled: 0x04, readOnly: 0x10 } as const;

/** One member: a parameter, another assembly, a path; or bits that mean nothing. */
export interface AssemblyMember {
  /** Bits; null: as many as what it refers to has. */
  bits: number | null;
  refers:
    | { to: 'parameter'; number: number }
    | { to: 'assembly'; number: number }
    | { to: 'path'; path: string }
    | { to: 'nothing' };
}

export interface DescribedAssembly {
  number: number;
  name: string;
  /** Path to its data as hex pairs; empty where it is only a part of others. */
  path: string;
  /** Bytes; null: not stated, or said by a parameter. */
  size: number | null;
  descriptor: number;
  members: AssemblyMember[];
}

/** A number, or the parameter that holds it. */
export type Stated = { value: number } | { parameter: number } | null;
/** What the bytes of one direction are. */
export type Format = { assembly: number } | { parameter: number } | null;

export interface ConnectionDirection {
  rpi: Stated;
  /** Bytes. */
  size: Stated;
  format: Format;
}

export interface DescribedConnection {
  number: number;
  /** Bit mask of transports, triggers and kinds of connection. */
  triggers: number;
  /** Bit mask of sizes, formats, types and priorities. */
  parameters: number;
  /** Originator → target. */
  command: ConnectionDirection;
  /** Target → originator. */
  feedback: ConnectionDirection;
  /** Configuration that a proxy and that the target itself gets. */
  proxyConfiguration: Omit<ConnectionDirection, 'rpi'>;
  configuration: Omit<ConnectionDirection, 'rpi'>;
  name: string;
  help: string;
  /** Hex pairs. */
  path: string;
}

export interface DescribedGroup {
  number: number;
  name: string;
  parameters: number[];
}

export interface DescribedPort {
  number: number;
  type: string;
  name: string;
  path: string;
  port: number;
}

export interface Capacity {
  messageConnections: number | null;
  ioProducers: number | null;
  ioConsumers: number | null;
  cipConnections: number | null;
  /** What it can send and receive: direction, bytes, packets a second. */
  traffic: { number: number; direction: string; bytes: number; packets: number }[];
}
