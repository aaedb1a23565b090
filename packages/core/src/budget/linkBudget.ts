import type { Link } from '../cell/link.js';
import { wrappedSize } from '../cip/ioPacket.js';
import { portShare, wireBytes } from './frames.js';

/** What one direction of a cyclic link asks of the network. */
export interface DirectionBudget {
  /** UDP payload of one packet, bytes. */
  payload: number;
  /** Bytes of one packet on the wire, with all headers and the gap. */
  wire: number;
  packetsPerSecond: number;
  /** Share of a port of 100 Mbit/s in this direction. */
  share: number;
}

export interface LinkBudget {
  command: DirectionBudget;
  feedback: DirectionBudget;
  packetsPerSecond: number;
  /** From a change at the device until a command that answers it has come back, without what the device itself takes, ms. */
  reaction: { typical: number; worst: number };
  /** Until a side calls the link lost after the last packet, ms. */
  lossNoticed: number;
}

/** Item count, sequenced address item and head of the data item of a class 1 packet (CIP Vol. 2, 2-6). */
const packetHead = 2 + 12 + 4;
/** The rate that shares are counted in, Mbit/s: what most devices have. */
const usualPort = 100;

/**
 * What a cyclic EtherNet/IP link costs and how quick it is; undefined for links that ask at a poll time. `cycleMs` is the
 * controller's program cycle.
 *
 * Worst reaction: the change just misses a feedback packet, that packet just misses the start of a cycle, its answer just misses a
 * command packet; typically half of each wait, and the cycle itself.
 */
export function linkBudget(link: Link, cycleMs: number): LinkBudget | undefined {
  if (link.protocol !== 'ethernet-ip' || link.connection.startsWith('polled')) return undefined;
  const owner = link.connection === 'exclusive-owner';
  const direction = (rpiUs: number, data: number): DirectionBudget => {
    const payload = packetHead + data;
    const packetsPerSecond = 1e6 / rpiUs;
    return {
      payload,
      wire: wireBytes(payload),
      packetsPerSecond,
      share: portShare(payload, packetsPerSecond, usualPort),
    };
  };
  const command = direction(
    link.commandRpi,
    // Who only listens sends an empty packet, so that the device knows that it is there.
    owner ? wrappedSize(link.commandFormat, link.command.size) : wrappedSize('heartbeat', 0),
  );
  const feedback = direction(link.feedbackRpi, wrappedSize(link.feedbackFormat, link.feedback.size));
  const [out, back] = [link.commandRpi / 1000, link.feedbackRpi / 1000];
  return {
    command,
    feedback,
    packetsPerSecond: command.packetsPerSecond + feedback.packetsPerSecond,
    reaction: { typical: back / 2 + cycleMs / 2 + cycleMs + out / 2, worst: back + cycleMs + cycleMs + out },
    lossNoticed: back * link.timeoutMultiplier,
  };
}

/** Update times are chosen in steps of this, ms: common practice, no source. */
const stepMs = 10;

/**
 * The longest update time, the same both ways and at least one step, with which a reaction comes in `wantedMs` at the worst; undefined
 * when the cycle alone takes longer.
 */
export function longestUpdate(wantedMs: number, cycleMs: number): number | undefined {
  const each = (wantedMs - 2 * cycleMs) / 2;
  if (each <= 0) return undefined;
  return each < stepMs ? each : Math.floor(each / stepMs) * stepMs;
}
