import type {
  Cause,
  Fault,
  Finding,
  Indicator,
  Probe,
  SideValue,
  Symptoms,
  TraceEvent,
} from '@fadenkreuz/core';
import type { Outputs } from '../standIns/standIn.js';
import type { LinkCounts, LinkState } from '../protocols/runningLink.js';

/**
 * What a device gets when writing is not allowed any more: zeros with the controller said to idle, what it got last, or
 * nothing at all, so that it does what it does when its connection is lost.
 */
export const afterArmChoices = ['idle', 'hold', 'release'] as const;
export type AfterArm = (typeof afterArmChoices)[number];

/** One link as it stands now. Times in ms. */
export interface LinkReport extends LinkCounts {
  device: string;
  link: string;
  state: LinkState | 'no-stand-in';
  reason: Finding | null;
  /** A real device is at the other end, and no stand-in. */
  real: boolean;
  /** It only reads, because nobody has allowed more. */
  reads: boolean;
  /** What a real device gets as soon as Arm allows it; empty for a stand-in, and where nothing is written. */
  sends: string;
  afterArm: AfterArm;
  /** Where the device is really reached. */
  address: string;
  /** Null where the protocol has none. */
  port: number | null;
  /** Since the last good packet; null before the first. */
  ageMs: number | null;
  /** Since the device last said that its data are new, and since they last differed. */
  freshMs: number | null;
  changedMs: number | null;
  /** Interval that was agreed, and those that were measured. */
  expectedMs: number | null;
  intervals: { p50: number; p99: number; p999: number } | null;
  lately: Symptoms['lately'];
  probe: Probe | null;
  /** Lights of the stand-in; of a real device those that somebody saw. */
  indicators: Indicator[];
  /** Since its module light came on again after it had been dark; null when it never was. */
  restartedMs: number | null;
  /** Faults that are injected at the stand-in, with the key that takes each away. */
  faults: { key: string; fault: Fault; title: string }[];
  /** What would explain what is seen, the best first. */
  causes: Cause[];
  /** What stops the device from what it is commanded to do; null where nothing that is known does, or it idles. */
  stops: { action: string; title: string; says: string } | null;
  /**
   * The device's own side, of a simulated one: its outputs, since when (ms since 1970), and what a person has it show;
   * null for a real device.
   */
  side: {
    outputs: Outputs['state'];
    since: number;
    held: { field: string; value: SideValue }[];
    /** What is done to it by hand, by quantity. */
    met: Record<string, number>;
    /** How fast what it drives goes, as one sees it there; null for what moves nothing. */
    moves: number | null;
  } | null;
  /** The command as the device has it, base64. */
  sideCommand: string;
  /** Raw bytes, base64. */
  command: string;
  feedback: string;
}

/** One line of the trace. */
export interface TraceLine {
  /** Counts from 1. */
  number: number;
  /** ms since 1970. */
  at: number;
  /** Id of the device; null for the bench as a whole. */
  device: string | null;
  event: TraceEvent;
}
