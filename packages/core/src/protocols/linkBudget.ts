import { portShare, wireBytes } from './frames.js';
import type { LinkBase } from './link.js';
import { protocolOf } from './list.js';
import type { Stream } from './protocol.js';

/** What one direction of a link asks of the network. */
export interface DirectionBudget {
  /**
   * Payload of its longest packet behind UDP or TCP, bytes, and that packet on the wire with all headers and the gap.
   */
  payload: number;
  wire: number;
  packetsPerSecond: number;
  /** On the wire. */
  bytesPerSecond: number;
  /** Share of the port in this direction. */
  share: number;
}

export interface LinkBudget {
  /** Controller → device. */
  command: DirectionBudget;
  /** Device → controller. */
  feedback: DirectionBudget;
  packetsPerSecond: number;
  /**
   * From a change at the device until a command that answers it has come back, without what the device itself takes,
   * ms.
   */
  reaction: { typical: number; worst: number };
  /** Until a side calls the link lost after the last packet, ms. */
  lossNoticed: number;
}

/** The rate that shares are counted in where nothing else is said, Mbit/s: what most devices have. */
const usualPort = 100;

/**
 * What a link costs and how quick it is. `cycleMs` is the controller's program cycle, `mbits` the rate of the ports.
 * Links that ask at a poll time send a question and get an answer each; acknowledgements that travel alone come on top.
 *
 * Worst reaction: the change just misses a feedback packet, that packet just misses the start of a cycle, its answer
 * just misses a command packet; typically half of each wait, and the cycle itself.
 */
export function linkBudget(link: LinkBase, cycleMs: number, mbits: number = usualPort): LinkBudget {
  const protocol = protocolOf(link);
  const { command, feedback, transport } = protocol.budget(link);
  const direction = (streams: readonly Stream[]): DirectionBudget => {
    const payload = Math.max(0, ...streams.map((s) => s.payload));
    const sum = (of: (stream: Stream) => number) => streams.reduce((total, s) => total + of(s), 0);
    const bytesPerSecond = sum((s) => wireBytes(s.payload, transport) * s.perSecond);
    return {
      payload,
      wire: wireBytes(payload, transport),
      packetsPerSecond: sum((s) => s.perSecond),
      bytesPerSecond,
      share: portShare(bytesPerSecond, mbits),
    };
  };
  const { commandMs: out, feedbackMs: back, lossMs } = protocol.times(link);
  const [toDevice, toController] = [direction(command), direction(feedback)];
  return {
    command: toDevice,
    feedback: toController,
    packetsPerSecond: toDevice.packetsPerSecond + toController.packetsPerSecond,
    reaction: { typical: back / 2 + cycleMs / 2 + cycleMs + out / 2, worst: back + cycleMs + cycleMs + out },
    lossNoticed: lossMs,
  };
}

/** Update times are chosen in steps of this, ms: common practice, no source. */
const stepMs = 10;

/**
 * The longest update time, the same both ways and at least one step, with which a reaction comes in `wantedMs` at the
 * worst; undefined when the cycle alone takes longer.
 */
export function longestUpdate(wantedMs: number, cycleMs: number): number | undefined {
  const each = (wantedMs - 2 * cycleMs) / 2;
  if (each <= 0) return undefined;
  return each < stepMs ? each : Math.floor(each / stepMs) * stepMs;
}

/** Losses of one packet in so many make a longer update time worth a try; common practice, no source. */
const lossesThatCount = 0.005;

/**
 * A longer update time for a link that drops packets, ms: one step of 10 ms, two where more than one packet in twenty
 * is lost (common practice, no source). Undefined while next to nothing is lost.
 */
export function longerUpdate(updateMs: number, lostShare: number): number | undefined {
  if (lostShare < lossesThatCount) return undefined;
  return Math.ceil((updateMs + (lostShare > 0.05 ? 2 * stepMs : stepMs)) / stepMs) * stepMs;
}
