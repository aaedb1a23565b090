import { Reader } from '../bytes/reader.js';
import { Writer } from '../bytes/writer.js';
import { decodePath, encodePath, type Segment } from './path.js';

/** Message Router request and response, CIP Vol. 1, 2-4. */

/** Common services, Vol. 1, appendix A; and those of the Connection Manager, 3-5.5. */
export const services = {
  getAttributesAll: 0x01,
  getAttributeList: 0x03,
  setAttributeList: 0x04,
  reset: 0x05,
  multipleServicePacket: 0x0a,
  getAttributeSingle: 0x0e,
  setAttributeSingle: 0x10,
  getEnumString: 0x4b,
  forwardClose: 0x4e,
  unconnectedSend: 0x52,
  forwardOpen: 0x54,
  largeForwardOpen: 0x5b,
} as const;

/** Object classes, Vol. 1, chapter 5. */
export const classes = {
  identity: 0x01,
  messageRouter: 0x02,
  assembly: 0x04,
  connectionManager: 0x06,
  parameter: 0x0f,
  motorData: 0x28,
  controlSupervisor: 0x29,
  acDcDrive: 0x2a,
  tcpIpInterface: 0xf5,
  ethernetLink: 0xf6,
} as const;

/** What is asked of an object. */
export interface RouterRequest {
  service: number;
  path: Segment[];
  data: Uint8Array;
}

/** What an object answers. */
export interface RouterResponse {
  service: number;
  /** General status, Vol. 1, appendix B. */
  status: number;
  /** Extended status, 16-bit words. */
  extended: number[];
  data: Uint8Array;
}

const replyBit = 0x80;

export function encodeRequest({ service, path, data }: RouterRequest): Uint8Array {
  const w = new Writer();
  const encoded = encodePath(path);
  w.u8(service);
  w.u8(encoded.length / 2);
  w.put(encoded);
  w.put(data);
  return w.done();
}

export function decodeRequest(message: Uint8Array): RouterRequest {
  const r = new Reader(message, 'CIP request');
  const service = r.u8();
  const path = decodePath(r.take(r.u8() * 2));
  return { service, path, data: r.rest().slice() };
}

export function encodeResponse({ service, status, extended, data }: RouterResponse): Uint8Array {
  const w = new Writer();
  w.u8(service | replyBit);
  w.u8(0);
  w.u8(status);
  w.u8(extended.length);
  for (const word of extended) w.u16(word);
  w.put(data);
  return w.done();
}

export function decodeResponse(message: Uint8Array): RouterResponse {
  const r = new Reader(message, 'CIP response');
  const service = r.u8() & ~replyBit;
  r.u8();
  const status = r.u8();
  const extended = Array.from({ length: r.u8() }, () => r.u16());
  return { service, status, extended, data: r.rest().slice() };
}
