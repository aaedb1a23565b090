import { Reader } from '../../bytes/reader.js';
import { Writer } from '../../bytes/writer.js';
import { decodePath, encodePath, type Segment } from './path.js';

/** Body of Unconnected_Send, a request with its way through other devices (CIP Vol. 1, 3-5.5.4). */
export interface UnconnectedSend {
  priorityTick: number;
  timeoutTicks: number;
  /** The request that travels inside. */
  message: Uint8Array;
  route: Segment[];
}

/** The bytes of the body; the message is padded to a whole word. */
export function encodeUnconnectedSend({
  priorityTick,
  timeoutTicks,
  message,
  route,
}: UnconnectedSend): Uint8Array {
  const w = new Writer();
  const path = encodePath(route);
  w.u8(priorityTick);
  w.u8(timeoutTicks);
  w.u16(message.length);
  w.put(message);
  if (message.length % 2) w.u8(0);
  w.u8(path.length / 2);
  w.u8(0);
  w.put(path);
  return w.done();
}

/** Throws `bytes.short` when it is cut off. */
export function decodeUnconnectedSend(body: Uint8Array): UnconnectedSend {
  const r = new Reader(body, 'Unconnected_Send');
  const priorityTick = r.u8();
  const timeoutTicks = r.u8();
  const size = r.u16();
  const message = r.take(size).slice();
  if (size % 2) r.u8();
  const words = r.u8();
  r.u8();
  return { priorityTick, timeoutTicks, message, route: decodePath(r.take(words * 2)) };
}
