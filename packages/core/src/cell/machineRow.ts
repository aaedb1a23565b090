import { z } from 'zod';
import { id, printable, text } from '../entries/entries.js';

/**
 * A line of the machine around the devices: a quantity of its own (`wheel_on_scale`), or what acts on a device
 * (`wheel_scale_b1.load`), and the expression that gives it, anew in each step. What an expression names is a quantity,
 * a role or a field of a device (`rack_lift_a1.position_actual`), or `dt`, the seconds since the last step.
 */
export const MachineRow = z.strictObject({
  id,
  name: printable(130).min(1, 'is empty'),
  /** Empty: it stays as it begins. */
  expression: printable(400).default(''),
  unit: printable(16).default(''),
  /** What it is at first. */
  begins: z.number().default(0),
  note: text,
});
export type MachineRow = z.infer<typeof MachineRow>;
