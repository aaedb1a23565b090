import { Reader } from '../bytes/reader.js';
import { Writer } from '../bytes/writer.js';
import { items, itemOf, itemTypes } from './encapsulation.js';

/** A class 1 packet on UDP: sequenced address item and connected data item (CIP Vol. 2, 2-6.2 and 3-4.3). */
export interface IoPacket {
  connectionId: number;
  /** Counts every packet of the connection; 32 bits. */
  packetSequence: number;
  /** Counts new data; 16 bits (CIP Vol. 1, 3-4.1). */
  dataSequence: number;
  /** Undefined in the modeless format, which has no run/idle header (Vol. 1, 3-6.1.4). */
  run: boolean | undefined;
  data: Uint8Array;
}

/** Bytes that a class 1 packet has before the application data. */
export const sequenceBytes = 2;
export const runIdleBytes = 4;

export function encodeIoPacket(packet: IoPacket): Uint8Array {
  const head = new Writer();
  head.u32(packet.connectionId);
  head.u32(packet.packetSequence);
  const body = new Writer();
  body.u16(packet.dataSequence);
  if (packet.run !== undefined) body.u32(packet.run ? 1 : 0);
  body.put(packet.data);
  const whole = new Writer();
  items.write(whole, [
    { type: itemTypes.sequencedAddress, data: head.done() },
    { type: itemTypes.connectedData, data: body.done() },
  ]);
  return whole.done();
}

/** The connection id of a packet, before anything else is known of it; undefined when it is no class 1 packet. */
export function connectionIdOf(message: Uint8Array): number | undefined {
  if (message.length < 18) return undefined;
  const view = new DataView(message.buffer, message.byteOffset, message.byteLength);
  return view.getUint16(2, true) === itemTypes.sequencedAddress ? view.getUint32(6, true) : undefined;
}

/** Throws `bytes.short` on a packet that is cut off. */
export function decodeIoPacket(message: Uint8Array, runIdleHeader: boolean): IoPacket {
  const list = items.read(new Reader(message, 'cyclic packet'));
  const head = new Reader(
    itemOf(list, itemTypes.sequencedAddress) ?? new Uint8Array(),
    'sequenced address item',
  );
  const body = new Reader(itemOf(list, itemTypes.connectedData) ?? new Uint8Array(), 'connected data item');
  return {
    connectionId: head.u32(),
    packetSequence: head.u32(),
    dataSequence: body.u16(),
    run: runIdleHeader ? (body.u32() & 1) === 1 : undefined,
    data: body.rest(),
  };
}

/**
 * Whether `next` comes after `last` in a count of 32 bits that runs over (Vol. 2, 3-4.2: a packet whose difference,
 * as a signed number, is not positive is dropped).
 */
export const isNewer = (next: number, last: number): boolean => ((next - last) | 0) > 0;
