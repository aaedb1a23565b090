import { Reader } from '../../bytes/reader.js';
import { Problem } from '../../messages/problem.js';
import { written, type Writer } from '../../bytes/writer.js';

/**
 * Encoded paths (EPATH), padded form: CIP Vol. 1, appendix C-1.4. Logical segments for class, instance, member,
 * connection point and attribute with 8-, 16- and 32-bit values, the electronic key, simple data, symbols, ports and
 * network segments.
 */

const logicalTypes = ['class', 'instance', 'member', 'connectionPoint', 'attribute'] as const;
export type LogicalType = (typeof logicalTypes)[number];

export interface ElectronicKey {
  vendor: number;
  deviceType: number;
  productCode: number;
  /** Bit 7: the device may decide whether it can act as this revision. */
  majorRevision: number;
  minorRevision: number;
}

export type Segment =
  | { segment: 'logical'; type: LogicalType; value: number }
  | { segment: 'key'; key: ElectronicKey }
  | { segment: 'data'; data: Uint8Array }
  | { segment: 'symbol'; name: string }
  | { segment: 'port'; port: number; link: Uint8Array }
  /** `kind` 3 is the production inhibit time, one byte of ms (C-1.4.3). */
  | { segment: 'network'; kind: number; data: Uint8Array }
  | { segment: 'unknown'; bytes: Uint8Array };

const keySegment = 0x34;
/** Key format 4: vendor, type, code, revisions; 8 bytes. */
const keyFormat = 4;
const simpleData = 0x80;
const symbolData = 0x91;
/** Of the 5 bits of a network segment: its data have a length of their own, in words. */
const longNetwork = 0x10;

/** Kind of the network segment that carries the production inhibit time. */
export const inhibitTime = 3;

/** A logical segment, the shortest form that holds the value. */
export const logical = (type: LogicalType, value: number): Segment => ({ segment: 'logical', type, value });

/** The padded path of these segments; its length is a whole number of 16-bit words. */
export const encodePath = (segments: readonly Segment[]): Uint8Array =>
  written((to) => writePath(to, segments));

/** The same as a part of a message. */
export function writePath(w: Writer, segments: readonly Segment[]): void {
  for (const part of segments) {
    switch (part.segment) {
      case 'logical': {
        const type = 0x20 | (logicalTypes.indexOf(part.type) << 2);
        if (part.value <= 0xff) {
          w.u8(type);
          w.u8(part.value);
        } else if (part.value <= 0xffff) {
          w.u8(type | 1);
          w.u8(0);
          w.u16(part.value);
        } else {
          w.u8(type | 2);
          w.u8(0);
          w.u32(part.value);
        }
        break;
      }
      case 'key':
        w.u8(keySegment);
        w.u8(keyFormat);
        w.u16(part.key.vendor);
        w.u16(part.key.deviceType);
        w.u16(part.key.productCode);
        w.u8(part.key.majorRevision);
        w.u8(part.key.minorRevision);
        break;
      case 'data':
        w.u8(simpleData);
        w.u8(Math.ceil(part.data.length / 2));
        w.put(part.data);
        if (part.data.length % 2) w.u8(0);
        break;
      case 'symbol':
        w.u8(symbolData);
        w.u8(part.name.length);
        w.put(Uint8Array.from(part.name, (c) => c.charCodeAt(0)));
        if (part.name.length % 2) w.u8(0);
        break;
      case 'network':
        w.u8(0x40 | part.kind);
        if (part.kind & longNetwork) w.u8(part.data.length / 2);
        w.put(part.data);
        break;
      case 'port':
        w.u8(part.link.length > 1 ? part.port | 0x10 : part.port);
        if (part.link.length > 1) w.u8(part.link.length);
        w.put(part.link);
        if (part.link.length > 1 && part.link.length % 2) w.u8(0);
        break;
      case 'unknown':
        w.put(part.bytes);
    }
  }
}

/**
 * The segments of a padded path. A segment that is not known ends the reading and keeps all bytes that follow, so that
 * nothing is dropped. Throws `bytes.short` when a segment is cut off.
 */
export const decodePath = (path: Uint8Array): Segment[] => readPath(new Reader(path, 'path'), path.length);

/** The same for a path inside a message, up to place `end`. Throws `bytes.short` when the message ends before. */
export function readPath(r: Reader, end: number): Segment[] {
  r.need(end - r.at);
  const segments: Segment[] = [];
  while (r.at < end) {
    const start = r.at;
    const code = r.u8();
    const width = code & 3;
    if ((code & 0xe0) === 0x20 && code !== keySegment && width < 3 && (code >> 2) % 8 < logicalTypes.length) {
      if (width > 0) r.u8();
      const value = width === 0 ? r.u8() : width === 1 ? r.u16() : r.u32();
      segments.push({ segment: 'logical', type: logicalTypes[(code >> 2) % 8]!, value });
    } else if (code === keySegment && r.u8() === keyFormat) {
      segments.push({
        segment: 'key',
        key: {
          vendor: r.u16(),
          deviceType: r.u16(),
          productCode: r.u16(),
          majorRevision: r.u8(),
          minorRevision: r.u8(),
        },
      });
    } else if (code === simpleData) {
      segments.push({ segment: 'data', data: r.take(r.u8() * 2).slice() });
    } else if (code === symbolData) {
      const name = String.fromCharCode(...r.take(r.u8()));
      if (name.length % 2) r.u8();
      segments.push({ segment: 'symbol', name });
    } else if ((code & 0xe0) === 0x40) {
      const kind = code & 0x1f;
      segments.push({
        segment: 'network',
        kind,
        data: r.take(kind & longNetwork ? r.u8() * 2 : 1).slice(),
      });
    } else if ((code & 0xe0) === 0 && (code & 0x0f) !== 0x0f && code !== 0) {
      const long = (code & 0x10) !== 0;
      const link = r.take(long ? r.u8() : 1).slice();
      if (long && link.length % 2) r.u8();
      segments.push({ segment: 'port', port: code & 0x0f, link });
    } else {
      r.at = start;
      segments.push({ segment: 'unknown', bytes: r.take(end - r.at).slice() });
    }
  }
  // A segment that is longer than its path has taken bytes of what follows.
  if (r.at > end) throw new Problem('bytes.short', { what: 'path', need: r.at, have: end });
  return segments;
}

/**
 * Whether the logical segments come as an application path has them: class, then instance, then what lies in it (Vol.
 * 1, C-1.6). What comes after may come in any order.
 */
export function inOrder(segments: readonly Segment[]): boolean {
  let hasClass = false;
  let hasInstance = false;
  let further = false;
  for (const s of segments) {
    if (s.segment !== 'logical') continue;
    if (s.type === 'class') {
      if (hasInstance || further) return false;
      hasClass = true;
    } else if (!hasClass) return false;
    else if (s.type === 'instance') {
      if (further) return false;
      hasInstance = true;
    } else further = true;
  }
  return true;
}

/** The value of the first logical segment of a type. */
export function logicalOf(segments: readonly Segment[], type: LogicalType): number | undefined {
  for (const s of segments) if (s.segment === 'logical' && s.type === type) return s.value;
  return undefined;
}
