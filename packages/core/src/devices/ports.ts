import { z } from 'zod';
import { int, name, printable } from '../entries/entries.js';
import { ByteOrder } from '../layout/field.js';

/**
 * The device at a port of an IO-Link master, as it is planned. Its process data are fields of the master's images, its
 * parameters stand among the master's, at places behind the port.
 */
export const PortDevice = z.strictObject({
  port: int(1, 255),
  name,
  /**
   * What it says it is, by its direct parameters (IO-Link interface specification V1.1.3, annex B.1; from memory); 0:
   * not known.
   */
  vendorId: int(0, 0xffff).default(0),
  deviceId: int(0, 0xff_ffff).default(0),
  productName: printable(64).default(''),
  /** Bytes of process data, seen from the master. */
  inputBytes: int(0, 32).default(0),
  outputBytes: int(0, 32).default(0),
});

/** A number that rises from port to port: that of port 1, and how far apart they are. */
export const ByPort = z.strictObject({ first: int(0, 0xffff), step: int(0, 0xffff).default(1) });

/** How a request goes through a master to the device at a port; makers do it differently, so it is data. */
export const PortRequests = z.discriminatedUnion('by', [
  /** A service of an object: its data are index (2 bytes), subindex (1 byte) and, to write, the value. */
  z.strictObject({
    by: z.literal('service'),
    class: int(0, 0xffff),
    instance: ByPort,
    /** Null: the path ends at the instance. */
    attribute: int(0, 0xffff).nullable().default(null),
    read: int(1, 0x7f),
    write: int(1, 0x7f),
    /** Of the index. */
    order: ByteOrder.default('little'),
  }),
  /**
   * Holding registers: to `request` go what is wanted (0 nothing, 1 read, 2 write), index, subindex, bytes, and the
   * value; at `answer` stand the state (0 idle, 1 busy, 2 done, 3 refused), the error, bytes, and the value.
   */
  z.strictObject({ by: z.literal('registers'), request: ByPort, answer: ByPort }),
]);

/** What is the same for all ports of a master. */
export const PortRules = z.strictObject({
  requests: PortRequests.nullable().default(null),
  /** The first byte of the process data of a port in the feedback image, and in the command image; null: not known. */
  input: ByPort.nullable().default(null),
  output: ByPort.nullable().default(null),
});

export type PortRules = z.infer<typeof PortRules>;
export type PortDevice = z.infer<typeof PortDevice>;
export type PortRequests = z.infer<typeof PortRequests>;

/** The number of a port out of those that rise from port to port. */
export const atPort = ({ first, step }: z.infer<typeof ByPort>, port: number): number =>
  first + step * (port - 1);

/** The largest value that a request to a port carries, bytes (IO-Link, ISDU; from memory). */
export const longestPortValue = 232;

/** Registers of a mailbox in front of the value, on each side. */
export const mailboxHead = { request: 4, answer: 3 } as const;
export const mailboxWants = { nothing: 0, read: 1, write: 2 } as const;
export const mailboxStates = { idle: 0, busy: 1, done: 2, refused: 3 } as const;
