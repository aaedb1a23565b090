import { Cell, Fault } from '@fadenkreuz/core';
import { z } from 'zod';
import type { LinkReport } from '../bench/report.js';

export type { LinkReport as LinkStatus, TraceLine } from '../bench/report.js';

/** What the agent takes and tells: the one contract between it and the web server. */

export const StartBench = z.strictObject({ cell: Cell, version: z.number().int().nonnegative() });
export type StartBench = z.infer<typeof StartBench>;

/** Longest time that one arming lasts, s. */
export const longestArm = 600;
export const Arm = z.strictObject({
  seconds: z.number().int().min(1).max(longestArm),
  /** Names the browser that armed; when it goes, so does the permission. */
  holder: z.string().max(80).default(''),
});
export type Arm = z.infer<typeof Arm>;

const device = z.string().max(40);

export const Write = z.strictObject({
  device,
  /** Id of a signal: of a field, or of one element of a repeated field. */
  field: z.string().max(80),
  value: z.string().max(4000),
  /** The value stands only while writing is allowed; then it goes back to 0. */
  hold: z.boolean().default(false),
});
export type Write = z.infer<typeof Write>;

export const SetRun = z.strictObject({ run: z.boolean() });
export type SetRun = z.infer<typeof SetRun>;

export const Strike = z.strictObject({ device, fault: Fault });
/** Takes a fault away, by the key that the report gives it. */
export const Mend = z.strictObject({ device, key: z.string().max(80) });
export const TraceQuery = z.strictObject({ since: z.coerce.number().int().nonnegative().default(0) });
export const Gone = z.strictObject({ holder: z.string().min(1).max(80) });

/** The bench as it stands now; sent to listeners `statusPerSecond` times a second. */
export interface BenchStatus {
  bench: { cell: string; version: number; run: boolean } | null;
  /** ms that writing stays allowed; 0 when disarmed. */
  armedForMs: number;
  links: LinkReport[];
  /** Number of the last line of the trace. */
  lastTrace: number;
}

export const statusPerSecond = 10;
