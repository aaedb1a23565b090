import type { Indicator } from '../devices/indicators.js';
import type { Finding } from '../messages/finding.js';

/** What can be seen of a link from the controller's side and at the device. Times in ms, shares from 0 to 1. */
export interface Symptoms {
  protocol: string;
  /** Each value is asked for: no packet comes by itself. */
  polled: boolean;
  state: 'opening' | 'open' | 'refused' | 'unreachable' | 'timed-out' | 'closed';
  reason: Finding | null;
  /** Interval that was agreed. */
  expectedMs: number | null;
  /** By how much this computer itself is late at most, in 99 of 100 cases. */
  ownLatenessMs: number;
  /** Silence after which the link is given up. */
  timeoutMs: number | null;
  /** Open links of this computer, and how many of them are held up just now. */
  together: { open: number; heldUp: number };
  /** Since the last good packet; since the device last said that its data are new. */
  ageMs: number | null;
  freshMs: number | null;
  /**
   * Of the last seconds: shares of packets that were lost, came after a later one, came twice, came well after a later
   * one; losses of the whole link; the interval that nine of ten stay below.
   */
  lately: {
    lost: number;
    late: number;
    doubled: number;
    overtaken: number;
    timeouts: number;
    interval: number | null;
  };
  /** What the last request beside the cyclic data met; null before the first. */
  probe: Probe | null;
  indicators: readonly Indicator[];
  /** Since its module light came on again after it had been dark; null when it never was. */
  restartedMs: number | null;
}

/** A request for the status of a device, asked every second beside the cyclic data. */
export interface Probe {
  /** How long the answer took; null when none came. */
  answerMs: number | null;
  /** Status word of the Identity object, when it was answered. */
  identityStatus: number | null;
  /** General status of CIP, or exception of Modbus, when it was refused. */
  refusal: number | null;
}

/** The status word of the Identity object in words (CIP Vol. 1, table 5-2.4; from memory). */
export function identityStatusText(status: number): string {
  const states: Record<number, string> = {
    0: 'self-test',
    1: 'firmware is being loaded',
    2: 'a connection has timed out',
    3: 'no connection is open',
    5: 'major fault',
    6: 'a connection runs',
    7: 'all connections idle',
  };
  const parts = [
    status & 1 ? 'owned by a controller' : 'owned by nobody',
    states[(status >> 4) & 0xf] ?? `state ${(status >> 4) & 0xf}`,
    ...(status & 0x0100 ? ['minor fault, can be reset'] : []),
    ...(status & 0x0200 ? ['minor fault'] : []),
    ...(status & 0x0400 ? ['major fault, can be reset'] : []),
    ...(status & 0x0800 ? ['major fault'] : []),
  ];
  return parts.join(', ');
}
