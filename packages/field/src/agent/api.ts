import { Cell, type Finding } from '@fadenkreuz/core';
import { z } from 'zod';

/** What the agent takes and tells: the one contract between it and the web server. */

export const StartBench = z.strictObject({ cell: Cell, version: z.number().int().nonnegative() });
export type StartBench = z.infer<typeof StartBench>;

/** Longest time that one arming lasts, s. */
export const longestArm = 600;
export const Arm = z.strictObject({ seconds: z.number().int().min(1).max(longestArm) });
export type Arm = z.infer<typeof Arm>;

export const Write = z.strictObject({
  device: z.string().max(40),
  /** Id of a signal: of a field, or of one element of a repeated field. */
  field: z.string().max(80),
  value: z.string().max(4000),
});
export type Write = z.infer<typeof Write>;

export const SetRun = z.strictObject({ run: z.boolean() });
export type SetRun = z.infer<typeof SetRun>;

export interface LinkStatus {
  device: string;
  link: string;
  state: 'opening' | 'open' | 'refused' | 'unreachable' | 'timed-out' | 'closed' | 'no-stand-in';
  reason: Finding | null;
  /** ms since the last good packet. */
  ageMs: number | null;
  sent: number;
  received: number;
  lost: number;
  timeouts: number;
  reconnects: number;
  /** Times between packets, ms. */
  intervals: { p50: number; p99: number; p999: number } | null;
  /** Raw bytes, base64. */
  command: string;
  feedback: string;
}

/** The bench as it stands now; sent to listeners `statusPerSecond` times a second. */
export interface BenchStatus {
  bench: { cell: string; version: number; run: boolean } | null;
  /** ms that writing stays allowed; 0 when disarmed. */
  armedForMs: number;
  links: LinkStatus[];
}

export const statusPerSecond = 20;
