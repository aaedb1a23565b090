import { itemTypes } from './encapsulation.js';

/**
 * Class 1 packets on UDP: a sequenced address item and a connected data item (CIP Vol. 2, 2-6.2 and 3-4.3), always in
 * this order, so every part has a fixed place. A hot path: thousands of packets a second are written in place and read
 * without a copy (bench/cyclic).
 */

/** How application data are wrapped (Vol. 1, 3-6.1): a run/idle word before them, nothing, or no data at all. */
export type RealTimeFormat = 'run-idle' | 'modeless' | 'heartbeat';

/** Bytes that a class 1 packet has before the application data. */
const sequenceBytes = 2;
const runIdleBytes = 4;

/** Bytes of a whole packet with application data of a size. */
export const packetSize = (format: RealTimeFormat, size: number): number =>
  at.data + wrappedSize(format, size);

/** Bytes of the connected data item for application data of a size. */
export const wrappedSize = (format: RealTimeFormat, size: number): number =>
  sequenceBytes + (format === 'run-idle' ? runIdleBytes : 0) + (format === 'heartbeat' ? 0 : size);

const at = { addressType: 2, connectionId: 6, sequence: 10, dataType: 14, dataLength: 16, data: 18 } as const;

/** The connection id of a packet, before anything else is known of it; undefined when it is no class 1 packet. */
export function connectionIdOf(message: Uint8Array): number | undefined {
  if (message.length < at.data || message[0] !== 2 || message[1] !== 0) return undefined;
  if (message[at.addressType] !== 0x02 || message[at.addressType + 1] !== 0x80) return undefined;
  return u32(message, at.connectionId);
}

const u16 = (bytes: Uint8Array, from: number) => bytes[from]! | (bytes[from + 1]! << 8);
const u32 = (bytes: Uint8Array, from: number) => (u16(bytes, from) | (u16(bytes, from + 2) << 16)) >>> 0;
function putU16(bytes: Uint8Array, to: number, value: number): void {
  bytes[to] = value;
  bytes[to + 1] = value >>> 8;
}
function putU32(bytes: Uint8Array, to: number, value: number): void {
  putU16(bytes, to, value);
  putU16(bytes, to + 2, value >>> 16);
}

/**
 * The packets that one side of a connection sends: one buffer, written anew for each, which holds the counts as well.
 */
export class OutgoingPacket {
  private readonly dataFrom: number;

  /** `bytes`: zeros, of `packetSize`. */
  constructor(
    connectionId: number,
    private readonly format: RealTimeFormat,
    private readonly size: number,
    private readonly bytes: Uint8Array = new Uint8Array(packetSize(format, size)),
  ) {
    putU16(bytes, 0, 2);
    putU16(bytes, at.addressType, itemTypes.sequencedAddress);
    putU16(bytes, at.addressType + 2, 8);
    putU32(bytes, at.connectionId, connectionId);
    putU16(bytes, at.dataType, itemTypes.connectedData);
    putU16(bytes, at.dataLength, wrappedSize(format, size));
    this.dataFrom = bytes.length - (format === 'heartbeat' ? 0 : size);
  }

  /** Puts in what is to be sent next. `fresh` says whether the data are new; the count of data rises only then. */
  next(data: Uint8Array, run: boolean, fresh = true): Uint8Array {
    const { bytes, format, size, dataFrom } = this;
    putU32(bytes, at.sequence, u32(bytes, at.sequence) + 1);
    if (fresh) putU16(bytes, at.data, u16(bytes, at.data) + 1);
    if (format === 'run-idle') putU32(bytes, at.data + sequenceBytes, run ? 1 : 0);
    if (format !== 'heartbeat') for (let i = 0; i < size; i += 1) bytes[dataFrom + i] = data[i]!;
    return bytes;
  }
}

/** What a packet carried, without its data: those stay in the message, from `dataFrom` on. */
export interface PacketHead {
  /** Counts every packet of the connection; 32 bits. */
  packetSequence: number;
  /** Counts new data; 16 bits (CIP Vol. 1, 3-4.1). */
  dataSequence: number;
  /** Undefined in a format without a run/idle word. */
  run: boolean | undefined;
  dataFrom: number;
}

/**
 * Reads a packet of a connection whose format and size are known. Undefined when it is cut off, too long, or of
 * another size: it is then no packet of this connection. The result is used again for the next packet.
 */
export function readPacket(
  message: Uint8Array,
  format: RealTimeFormat,
  size: number,
): Readonly<PacketHead> | undefined {
  const item = wrappedSize(format, size);
  if (connectionIdOf(message) === undefined || message.length !== at.data + item) return undefined;
  if (u16(message, at.dataType) !== itemTypes.connectedData || u16(message, at.dataLength) !== item)
    return undefined;
  head.packetSequence = u32(message, at.sequence);
  head.dataSequence = u16(message, at.data);
  head.run = format === 'run-idle' ? (message[at.data + sequenceBytes]! & 1) === 1 : undefined;
  head.dataFrom = message.length - (format === 'heartbeat' ? 0 : size);
  return head;
}

/** The one head that `readPacket` gives out: what it says stands until the next packet is read. */
const head: PacketHead = { packetSequence: 0, dataSequence: 0, run: undefined, dataFrom: 0 };

/**
 * Whether `next` comes after `last` in a count of 32 bits that runs over (Vol. 2, 3-4.2: a packet whose difference,
 * as a signed number, is not positive is dropped).
 */
export const isNewer = (next: number, last: number): boolean => ((next - last) | 0) > 0;
