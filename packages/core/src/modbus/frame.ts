import { encode, struct, u16be, u8, type Part } from '../bytes/struct.js';
import { Problem } from '../messages/problem.js';
import { maxPduBytes } from './pdu.js';

/** Modbus over TCP (Modbus Messaging on TCP/IP Implementation Guide V1.0b, 3.1.3): the MBAP header and its rules. */

/** TCP port (IANA: mbap). */
export const modbusPort = 502;

const headerBytes = 7;

export interface ModbusFrame {
  /** Chosen by the client; the answer brings it back. */
  transaction: number;
  /** 0 or 255 for the device itself, else the one behind a gateway (Implementation Guide, 4.4.2.5). */
  unit: number;
  pdu: Uint8Array;
}

const header = struct({ transaction: u16be, protocol: u16be, length: u16be, unit: u8 });

/** The bytes of one frame. */
export function encodeFrame({ transaction, unit, pdu }: ModbusFrame): Uint8Array {
  const head = encode(
    header as Part<{ transaction: number; protocol: number; length: number; unit: number }>,
    {
      transaction,
      protocol: 0,
      length: pdu.length + 1,
      unit,
    },
  );
  const whole = new Uint8Array(head.length + pdu.length);
  whole.set(head);
  whole.set(pdu, head.length);
  return whole;
}

/**
 * Cuts the first frame from a stream: undefined while it is still arriving. Throws `modbus.notModbus` when the bytes
 * cannot be the start of one: the stream has no mark to find the next by, so the connection must be closed.
 */
export function takeFrame(held: Uint8Array): { frame: ModbusFrame | undefined; rest: Uint8Array } {
  if (held.length < headerBytes) return { frame: undefined, rest: held };
  const view = new DataView(held.buffer, held.byteOffset, held.byteLength);
  const protocol = view.getUint16(2);
  const length = view.getUint16(4);
  if (protocol !== 0) throw new Problem('modbus.notModbus', { reason: `protocol identifier ${protocol}` });
  if (length < 2 || length > maxPduBytes + 1)
    throw new Problem('modbus.notModbus', { reason: `a length of ${length} bytes` });
  const end = headerBytes - 1 + length;
  if (held.length < end) return { frame: undefined, rest: held };
  const frame = { transaction: view.getUint16(0), unit: held[6]!, pdu: held.slice(headerBytes, end) };
  return { frame, rest: held.subarray(end) };
}
