import { Reader } from '../../bytes/reader.js';
import { written, type Writer } from '../../bytes/writer.js';
import { readPath, writePath, type Segment } from './path.js';

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

export const encodeRequest = (request: RouterRequest): Uint8Array =>
  written((to) => writeRequest(to, request));

/** A request as a part of a message. */
export function writeRequest(w: Writer, { service, path, data }: RouterRequest): void {
  w.u8(service);
  const words = w.written;
  w.u8(0);
  writePath(w, path);
  w.patch(words, (w.written - words - 1) / 2);
  w.put(data);
}

/** The request; its data are a view. Throws `bytes.short`. */
export const decodeRequest = (message: Uint8Array): RouterRequest =>
  readRequest(new Reader(message, 'CIP request'));

/** The same from a part of a message, up to its end. */
export function readRequest(r: Reader): RouterRequest {
  const service = r.u8();
  const words = r.u8();
  const path = readPath(r, r.at + 2 * words);
  return { service, path, data: r.rest() };
}

export const encodeResponse = (response: RouterResponse): Uint8Array =>
  written((to) => writeResponse(to, response));

/** A response as a part of a message. */
export function writeResponse(w: Writer, { service, status, extended, data }: RouterResponse): void {
  w.u8(service | replyBit);
  w.u8(0);
  w.u8(status);
  w.u8(extended.length);
  for (const word of extended) w.u16(word);
  w.put(data);
}

/** Bytes that a response has when it is written. */
export const responseBytes = ({ extended, data }: RouterResponse): number =>
  4 + 2 * extended.length + data.length;

const noWords: number[] = [];

/** The response; its data are a view. Throws `bytes.short`. */
export const decodeResponse = (message: Uint8Array): RouterResponse =>
  readResponse(new Reader(message, 'CIP response'));

/** The same from a part of a message, up to its end; with data of their own where the message will not stay. */
export function readResponse(r: Reader, copied = false): RouterResponse {
  const service = r.u8() & ~replyBit;
  r.u8();
  const status = r.u8();
  const words = r.u8();
  const extended = words === 0 ? noWords : Array.from({ length: words }, () => r.u16());
  return { service, status, extended, data: copied ? r.restCopied() : r.rest() };
}
