import { z } from 'zod';
import { id, printable, text } from '../entries/entries.js';

/**
 * A set of a person's own: values of parameters in an order, with the reason for them. Parameters are said by code or
 * name, so that it fits all devices that have them; one may come twice, as a key that opens others and closes again.
 */
export const ParameterSet = z.strictObject({
  id,
  title: printable(60).min(1, 'is empty'),
  reason: text,
  steps: z
    .array(
      z.strictObject({
        /** Code or name of the parameter. */
        parameter: printable(80).min(1, 'is empty'),
        /** As it is typed: a number in the unit of the parameter, or a label. */
        to: printable(80).min(1, 'is empty'),
      }),
    )
    .min(1, 'has no step')
    .max(60),
});
export type ParameterSet = z.infer<typeof ParameterSet>;
