import { bytes, struct, u16, u16be, u32, u32be, u8, type Part } from '../bytes/struct.js';
import { Reader } from '../bytes/reader.js';
import { identityAttributes } from './objects/identity.js';

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
/** Where the eight bytes of the sender context begin. */
export const contextAt = 12;

export interface EncapsulationFrame {
  command: number;
  session: number;
  status: number;
  /** Eight bytes that the answer brings back unchanged. */
  context: Uint8Array;
  options: number;
  data: Uint8Array;
}

/** The bytes of one frame, header first. Written in place, for this is done for every request. */
export function encodeFrame(frame: EncapsulationFrame): Uint8Array {
  const { data } = frame;
  const whole = new Uint8Array(headerBytes + data.length);
  const view = new DataView(whole.buffer);
  view.setUint16(0, frame.command, true);
  view.setUint16(2, data.length, true);
  view.setUint32(4, frame.session, true);
  view.setUint32(8, frame.status, true);
  whole.set(frame.context, contextAt);
  view.setUint32(20, frame.options, true);
  whole.set(data, headerBytes);
  return whole;
}

/** A frame to send with a fresh, empty context. */
export function request(
  command: number,
  session: number,
  data: Uint8Array = new Uint8Array(),
): EncapsulationFrame {
  return { command, session, status: 0, context: new Uint8Array(8), options: 0, data };
}

/**
 * Takes the first whole frame off the bytes that a stream has brought so far. No frame while it is still arriving.
 * A frame cannot be longer than 24 + 65535 bytes, so `held` stays bounded.
 */
export function takeFrame(held: Uint8Array): { frame?: EncapsulationFrame; rest: Uint8Array } {
  if (held.length < headerBytes) return { rest: held };
  const view = new DataView(held.buffer, held.byteOffset, held.byteLength);
  const end = headerBytes + view.getUint16(2, true);
  if (held.length < end) return { rest: held };
  const frame = {
    command: view.getUint16(0, true),
    session: view.getUint32(4, true),
    status: view.getUint32(8, true),
    context: held.slice(contextAt, contextAt + 8),
    options: view.getUint32(20, true),
    data: held.slice(headerBytes, end),
  };
  return { frame, rest: held.subarray(end) };
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

/** Body of RegisterSession: protocol version 1, no options (Vol. 2, 2-4.4). */
export const registerSession = struct({ version: u16, options: u16 });

/** The connected address item: the connection id (Vol. 2, 2-6.2.2). */
export const connectedAddress = u32;

/** AF_INET in network order, as in a socket address item (Vol. 2, 2-6.3.5). */
export const socketAddress = struct({ family: u16be, port: u16be, address: u32be, zero: bytes(8) });

/** Bytes of a socket address item that names where packets of a direction go. */
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

/** 192.168.40.21 → the number whose bytes in network order are 192, 168, 40, 21. */
export const addressNumber = (dotted: string): number =>
  dotted.split('.').reduce((sum, part) => sum * 256 + Number(part), 0);

/** The other way round. */
export const dottedAddress = (address: number): string =>
  [24, 16, 8, 0].map((shift) => (address >>> shift) & 0xff).join('.');

/**
 * The multicast group that a device at an address sends to (Vol. 2, 3-5.3): 239.192.1.0 + 32 × (host − 1), with ten bits of the
 * host's number in its subnet.
 */
export function multicastGroup(address: number, mask: number): string {
  const host = (address & ~mask & 0x3ff) >>> 0;
  return dottedAddress((0xefc0_0100 + (((host - 1) & 0x3ff) << 5)) >>> 0);
}
