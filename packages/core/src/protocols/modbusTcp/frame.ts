import { Reader } from '../../bytes/reader.js';
import { written, type Allocate } from '../../bytes/writer.js';
import { Problem } from '../../messages/problem.js';
import { maxPduBytes } from './pdu.js';

/** Modbus over TCP (Modbus Messaging on TCP/IP Implementation Guide V1.0b, 3.1.3): the MBAP header and its rules. */

/** TCP port (IANA: mbap). */
export const modbusPort = 502;

const headerBytes = 7;
const nothing = new Uint8Array();

export interface ModbusFrame {
  /** Chosen by the client; the answer brings it back. */
  transaction: number;
  /** 0 or 255 for the device itself, else the one behind a gateway (Implementation Guide, 4.4.2.5). */
  unit: number;
  pdu: Uint8Array;
}

/** The bytes of one frame. */
export const encodeFrame = ({ transaction, unit, pdu }: ModbusFrame, allocate?: Allocate): Uint8Array =>
  written((to) => {
    to.u16be(transaction);
    to.u16be(0);
    to.u16be(pdu.length + 1);
    to.u8(unit);
    to.put(pdu);
  }, allocate);

/**
 * Cuts the first frame from a stream: undefined while it is still arriving. Throws `modbus.notModbus` when the bytes
 * cannot be the start of one: the stream has no mark to find the next by, so the connection must be closed. The frame's
 * bytes are a view of `held`.
 */
export function takeFrame(held: Uint8Array): { frame: ModbusFrame | undefined; rest: Uint8Array } {
  if (held.length < headerBytes) return { frame: undefined, rest: held };
  const r = new Reader(held, 'MBAP header');
  const transaction = r.u16be();
  const protocol = r.u16be();
  const length = r.u16be();
  if (protocol !== 0) throw new Problem('modbus.notModbus', { reason: `protocol identifier ${protocol}` });
  if (length < 2 || length > maxPduBytes + 1)
    throw new Problem('modbus.notModbus', { reason: `a length of ${length} bytes` });
  const end = headerBytes - 1 + length;
  if (held.length < end) return { frame: undefined, rest: held };
  const frame = { transaction, unit: held[6]!, pdu: held.subarray(headerBytes, end) };
  return { frame, rest: end === held.length ? nothing : held.subarray(end) };
}
