import { bytes, struct, u16, u32, u8, type Part } from '../../bytes/struct.js';
import { Writer } from '../../bytes/writer.js';
import type { Reader } from '../../bytes/reader.js';

/** Connection Manager: Forward_Open and Forward_Close, CIP Vol. 1, 3-5.5. */

export type ConnectionType = 'null' | 'multicast' | 'point-to-point';
const connectionTypes: ConnectionType[] = ['null', 'multicast', 'point-to-point'];

/** Network connection parameters, Vol. 1, 3-5.5.1.1: 16 bits in Forward_Open, 32 bits in Large_Forward_Open. */
export interface NetworkParameters {
  type: ConnectionType;
  /** 0 low, 1 high, 2 scheduled, 3 urgent. */
  priority: number;
  variable: boolean;
  redundantOwner: boolean;
  /** Bytes of a packet, with sequence count and run/idle header. */
  size: number;
}

/** The largest size that the 16-bit form can say. */
export const maxSmallSize = 0x1ff;

const parameters = (wide: boolean): Part<NetworkParameters> => {
  const [sizeMask, flagShift, word] = wide ? [0xffff, 16, u32] : [0x1ff, 0, u16];
  return {
    read: (r) => {
      const value = word.read(r);
      const flags = value >>> flagShift;
      return {
        type: connectionTypes[(flags >> 13) & 3] ?? 'null',
        priority: (flags >> 10) & 3,
        variable: ((flags >> 9) & 1) === 1,
        redundantOwner: ((flags >> 15) & 1) === 1,
        size: value & sizeMask,
      };
    },
    write: (w, p) => {
      const flags =
        (connectionTypes.indexOf(p.type) << 13) |
        (p.priority << 10) |
        (Number(p.variable) << 9) |
        (Number(p.redundantOwner) << 15);
      word.write(w, ((flags << flagShift) | p.size) >>> 0);
    },
  };
};

/** Names one connection for good: serial number with vendor and serial number of the originator. */
const triad = { connectionSerial: u16, originatorVendor: u16, originatorSerial: u32 };

/** Path size in words, then the path; Forward_Close has a reserved byte between the two. */
const pathWithSize = (reserved: boolean): Part<Uint8Array> => ({
  read: (r: Reader) => {
    const words = r.u8();
    if (reserved) r.u8();
    return r.take(words * 2).slice();
  },
  write: (w: Writer, path) => {
    w.u8(path.length / 2);
    if (reserved) w.u8(0);
    w.put(path);
  },
});

const forwardOpenShape = (wide: boolean) =>
  struct({
    priorityTick: u8,
    timeoutTicks: u8,
    toTargetId: u32,
    toOriginatorId: u32,
    ...triad,
    timeoutMultiplier: u8,
    reserved: bytes(3),
    toTargetRpi: u32,
    toTarget: parameters(wide),
    toOriginatorRpi: u32,
    toOriginator: parameters(wide),
    transport: u8,
    path: pathWithSize(false),
  });

/** Body of Forward_Open; RPIs in µs. */
export const forwardOpen = forwardOpenShape(false);
/** Body of Large_Forward_Open. */
export const largeForwardOpen = forwardOpenShape(true);
export type ForwardOpen = typeof forwardOpen extends Part<infer T> ? T : never;

/** Body of a successful answer: the ids to use and the packet intervals that will be kept, in µs. */
export const forwardOpened = struct({
  toTargetId: u32,
  toOriginatorId: u32,
  ...triad,
  toTargetApi: u32,
  toOriginatorApi: u32,
  applicationWords: u8,
  reserved: u8,
});

/** Body of a refusal. */
export const forwardRefused = struct({ ...triad, remainingPath: u8, reserved: u8 });

/** Body of Forward_Close. */
export const forwardClose = struct({
  priorityTick: u8,
  timeoutTicks: u8,
  ...triad,
  path: pathWithSize(true),
});

/** Body of the answer to a successful Forward_Close. */
export const forwardClosed = struct({ ...triad, applicationWords: u8, reserved: u8 });

/** What makes a producer send (Vol. 1, 3-4.4.3). */
export type Trigger = 'cyclic' | 'change-of-state' | 'application';
const triggers: Trigger[] = ['cyclic', 'change-of-state', 'application'];

/**
 * Transport class and trigger, one byte: bit 7 the target is server, bits 4 to 6 the trigger, bits 0 to 3 the class.
 */
export const transportOf = (code: number): { class: number; trigger: Trigger | undefined } => ({
  class: code & 0x0f,
  trigger: triggers[(code >> 4) & 7],
});
/** Transport class 1: the originator is client, the trigger is its wish for both directions. */
export const class1 = (trigger: Trigger): number => 0x01 | (triggers.indexOf(trigger) << 4);
/** Transport class 3: connected explicit messages, the target is server, triggered by the application. */
export const class3 = 0xa3;

/** The multiplier code: 0 means 4, each step doubles, up to 7 for 512 (Vol. 1, 3-5.5.1.4). */
export const multiplierCode = (multiplier: number): number => Math.log2(multiplier) - 2;
export const greatestMultiplierCode = 7;
export const multiplierOf = (code: number): number => 4 << Math.min(code, greatestMultiplierCode);
