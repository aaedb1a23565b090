import { written, type Allocate, type Writer } from '../../bytes/writer.js';
import { bytes, struct, u16, u16be, u32, u32be, u8, type Part } from '../../bytes/struct.js';
import { Reader } from '../../bytes/reader.js';
import { addressNumber, dottedAddress } from '../../bytes/ipv4.js';
import { identityAttributes } from './objects/identity.js';

export { addressNumber, dottedAddress };

/** EtherNet/IP encapsulation, CIP Vol. 2 (EtherNet/IP adaptation), chapter 2. */

/** TCP and UDP port of explicit messages (IANA: EtherNet-IP-2). */
export const explicitPort = 44818;
/** UDP port of cyclic data (IANA: EtherNet-IP-1). */
export const ioPort = 2222;

/** Vol. 2, 2-3.2. */
export const commands = {
  nop: 0x0000,
  listServices: 0x0004,
  listIdentity: 0x0063,
  listInterfaces: 0x0064,
  registerSession: 0x0065,
  unRegisterSession: 0x0066,
  sendRRData: 0x006f,
  sendUnitData: 0x0070,
} as const;

/** Vol. 2, 2-3.4. */
export const encapsulationStatus = {
  success: 0x0000,
  unsupportedCommand: 0x0001,
  insufficientMemory: 0x0002,
  incorrectData: 0x0003,
  invalidSession: 0x0064,
  invalidLength: 0x0065,
  unsupportedRevision: 0x0069,
} as const;

/** Command, length, session, status, context, options: in a fixed place each (Vol. 2, 2-3.1). */
const headerBytes = 24;
const sessionAt = 4;
const contextAt = 12;
const nothing = new Uint8Array();

export interface EncapsulationFrame {
  command: number;
  session: number;
  status: number;
  /** The sender's context: eight bytes that the answer brings back unchanged, as two numbers, low one first. */
  contextLow: number;
  contextHigh: number;
  options: number;
  data: Uint8Array;
}

/** The bytes of one frame, header first. */
export const encodeFrame = (frame: EncapsulationFrame, allocate?: Allocate): Uint8Array =>
  written((to) => {
    writeHeader(to, frame, frame.data.length);
    to.put(frame.data);
  }, allocate);

function writeHeader(to: Writer, frame: Omit<EncapsulationFrame, 'data'>, dataBytes: number): void {
  to.u16(frame.command);
  to.u16(dataBytes);
  to.u32(frame.session);
  to.u32(frame.status);
  to.u32(frame.contextLow);
  to.u32(frame.contextHigh);
  to.u32(frame.options);
}

/** A frame to send with a fresh, empty context. */
export function request(
  command: number,
  session: number,
  data: Uint8Array = new Uint8Array(),
): EncapsulationFrame {
  return { command, session, status: 0, contextLow: 0, contextHigh: 0, options: 0, data };
}

/**
 * Takes the first whole frame off the bytes that a stream has brought so far. No frame while it is still arriving.
 * A frame cannot be longer than 24 + 65535 bytes, so `held` stays bounded. The frame's bytes are views of `held`.
 */
export function takeFrame(held: Uint8Array): { frame?: EncapsulationFrame; rest: Uint8Array } {
  if (held.length < headerBytes) return { rest: held };
  const r = new Reader(held, 'encapsulation header');
  const command = r.u16();
  const end = headerBytes + r.u16();
  if (held.length < end) return { rest: held };
  const frame = {
    command,
    session: r.u32(),
    status: r.u32(),
    contextLow: r.u32(),
    contextHigh: r.u32(),
    options: r.u32(),
    data: r.take(end - headerBytes),
  };
  return { frame, rest: end === held.length ? nothing : held.subarray(end) };
}

/** Common Packet Format item types, Vol. 2, 2-6.3. */
export const itemTypes = {
  nullAddress: 0x0000,
  identity: 0x000c,
  connectedAddress: 0x00a1,
  connectedData: 0x00b1,
  unconnectedData: 0x00b2,
  services: 0x0100,
  socketToTarget: 0x8000,
  socketToOriginator: 0x8001,
  sequencedAddress: 0x8002,
} as const;

export interface Item {
  type: number;
  data: Uint8Array;
}

/** More items than any message of the standard has; checked before the loop. */
const maxItems = 16;

/** Common Packet Format: a count, then type, length and bytes of each item (Vol. 2, 2-6.1). */
export const items: Part<Item[]> = {
  read: (r) => {
    const count = Math.min(r.u16(), maxItems);
    return Array.from({ length: count }, () => ({ type: r.u16(), data: r.take(r.u16()).slice() }));
  },
  write: (w, list) => {
    w.u16(list.length);
    for (const { type, data } of list) {
      w.u16(type);
      w.u16(data.length);
      w.put(data);
    }
  },
};

/** Body of SendRRData and SendUnitData: interface handle 0 (CIP), a timeout in seconds, items (Vol. 2, 2-4.7). */
export const rrData = struct({ interfaceHandle: u32, timeout: u16, items });

/**
 * The item of a type in the body of SendRRData or SendUnitData, to be read; undefined when there is none, or when the
 * interface is not CIP. Throws `bytes.short`. Nothing is collected: this is done for every request.
 */
export function itemIn(body: Uint8Array, type: number): Reader | undefined {
  const r = new Reader(body, 'encapsulated message');
  if (r.u32() !== 0) return undefined;
  r.u16();
  for (let count = Math.min(r.u16(), maxItems); count > 0; count -= 1) {
    const found = r.u16();
    const length = r.u16();
    if (found === type) {
      r.narrow(length);
      return r;
    }
    r.skip(length);
  }
  return undefined;
}

/** Whether the items of such a body are as many and as long as it says, and nothing stands behind them. */
export function holdsItsItems(body: Uint8Array): boolean {
  const r = new Reader(body, 'encapsulated message');
  if (r.left < 8) return false;
  r.skip(6);
  for (let count = r.u16(); count > 0; count -= 1) {
    if (r.left < 4) return false;
    r.u16();
    const length = r.u16();
    if (r.left < length) return false;
    r.skip(length);
  }
  return r.left === 0;
}

export interface MessageFrame extends Omit<EncapsulationFrame, 'data'> {
  /** The connection id of a connected message; undefined for an unconnected one. */
  connection: number | undefined;
  /** Items after the message, such as a socket address. */
  more: readonly Item[];
}

const noItems: readonly Item[] = [];

/** The head of a frame that carries a message, before its context and its session are known. */
export const messageFrame = ({
  command,
  session,
  contextLow,
  contextHigh,
  status = 0,
  options = 0,
  connection,
  more = noItems,
}: Pick<EncapsulationFrame, 'command' | 'session' | 'contextLow' | 'contextHigh'> &
  Partial<MessageFrame>): MessageFrame => ({
  command,
  session,
  status,
  contextLow,
  contextHigh,
  options,
  connection,
  more,
});

/**
 * A whole SendRRData or SendUnitData frame around the message that `write` puts down, in one go: its address item, its
 * data item, and what follows (Vol. 2, 2-4.7, 2-4.8, 2-6).
 */
export const encodeMessageFrame = (
  frame: MessageFrame,
  write: (to: Writer) => void,
  allocate?: Allocate,
): Uint8Array =>
  written((to) => {
    const { connection, more } = frame;
    writeHeader(to, frame, 0);
    to.u32(0);
    to.u16(0);
    to.u16(2 + more.length);
    to.u16(connection === undefined ? itemTypes.nullAddress : itemTypes.connectedAddress);
    to.u16(connection === undefined ? 0 : 4);
    if (connection !== undefined) to.u32(connection);
    to.u16(connection === undefined ? itemTypes.unconnectedData : itemTypes.connectedData);
    const lengthAt = to.written;
    to.u16(0);
    write(to);
    to.patchU16(lengthAt, to.written - lengthAt - 2);
    for (const { type, data } of more) {
      to.u16(type);
      to.u16(data.length);
      to.put(data);
    }
    to.patchU16(2, to.written - headerBytes);
  }, allocate);

/** A copy of a message frame, to be sent in another session and with another context (Vol. 2, 2-3.1). */
export function frameAgain(
  frame: Uint8Array,
  session: number,
  contextLow: number,
  allocate: Allocate,
): Uint8Array {
  const own = allocate(frame.length);
  for (let i = 0; i < frame.length; i += 1) own[i] = frame[i]!;
  for (let i = 0; i < 4; i += 1) {
    own[sessionAt + i] = session >>> (8 * i);
    own[contextAt + i] = contextLow >>> (8 * i);
  }
  return own;
}

/** Body of RegisterSession: protocol version 1, no options (Vol. 2, 2-4.4). */
export const registerSession = struct({ version: u16, options: u16 });

/** AF_INET in network order, as in a socket address item (Vol. 2, 2-6.3.5). */
export const socketAddress = struct({ family: u16be, port: u16be, address: u32be, zero: bytes(8) });

export const socketItemBytes = 16;

/** Entries of a socket address item that names where packets of a direction go. */
export const socketItem = (dotted: string, port: number) => ({
  family: 2,
  port,
  address: addressNumber(dotted),
  zero: new Uint8Array(8),
});

/** The identity item of a ListIdentity answer (Vol. 2, 2-4.2.3). */
export const identityItem = struct({
  version: u16,
  socket: socketAddress,
  ...identityAttributes,
  state: u8,
});

/** The service item of a ListServices answer (Vol. 2, 2-4.6). */
export const serviceItem = struct({ version: u16, capabilities: u16, name: bytes(16) });

/** Capability flags: CIP over TCP, and class 0 or 1 connections over UDP. */
export const serviceCapabilities = 0x0020 | 0x0100;

/** The first item of a type in a list of items. */
export const itemOf = (list: readonly Item[], type: number): Uint8Array | undefined =>
  list.find((item) => item.type === type)?.data;

/** The items that stand in a ListIdentity or ListServices answer. */
export const readItems = (data: Uint8Array): Item[] => items.read(new Reader(data, 'list of items'));

/**
 * The multicast group that a device at an address sends to (Vol. 2, 3-5.3): 239.192.1.0 + 32 × (host − 1), with ten
 * bits of the host's number in its subnet.
 */
export function multicastGroup(address: number, mask: number): string {
  const host = (address & ~mask & 0x3ff) >>> 0;
  return dottedAddress((0xefc0_0100 + (((host - 1) & 0x3ff) << 5)) >>> 0);
}
