import { z } from 'zod';
import { id, printable, text } from '../entries/entries.js';

/**
 * A condition that somebody added to a chain: it holds while its expression is not 0. What the expression names is a
 * role or a field of a device of the cell, as in the machine: `wheel_turner_r1.part_present`.
 */
export const OwnCondition = z.strictObject({
  id,
  action: printable(40),
  /** The condition of the chain that it stands before; null: at its end. */
  before: printable(60).nullable().default(null),
  title: printable(60).min(1, 'is empty'),
  expression: printable(400).min(1, 'is empty'),
  /** What to do where it does not hold. */
  cure: text,
});
export type OwnCondition = z.infer<typeof OwnCondition>;

/** What somebody changed at the chains of a device. */
export const BeamChanges = z.strictObject({
  /** Ids of conditions that are not asked here. */
  leftOut: z.array(printable(60)).max(60).default([]),
  own: z.array(OwnCondition).max(60).default([]),
});
export type BeamChanges = z.infer<typeof BeamChanges>;
export const plainBeam: BeamChanges = { leftOut: [], own: [] };
