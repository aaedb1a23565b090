import { z } from 'zod';
import { int, maxImageBytes, printable } from '../entries/entries.js';
import { readsOf } from '../layout/fieldTypes.js';
import type { Parameter } from './parameter.js';

/**
 * Places of a cyclic image that carry parameters of one's own choice: how many there are, and which parameters tell the
 * device what to carry.
 */
export const ChosenSlots = z
  .strictObject({
    use: z.enum(['command', 'feedback']),
    /** The connection point that has them. */
    point: int(0, 0xffff),
    /** First byte of the first one. */
    at: int(0, maxImageBytes - 1),
    /** Bytes of each. */
    size: z.union([z.literal(2), z.literal(4), z.literal(8)]),
    /** Codes of the parameters that say what stands in them, one for each, in their order. */
    selectors: z.array(printable(20).min(1)).min(1).max(64),
    /** By which number a parameter is chosen: the digits of its code, the instance or the register of its place. */
    by: z.enum(['code', 'instance', 'register']),
  })
  .refine(({ at, size, selectors }) => at + size * selectors.length <= maxImageBytes, 'ends past the image');
export type ChosenSlots = z.infer<typeof ChosenSlots>;

/** The number by which a parameter is chosen; undefined for one that has none. */
export function choiceNumber(
  { by }: Pick<ChosenSlots, 'by'>,
  { code, place }: Parameter,
): number | undefined {
  if (by === 'code') return /^\D*\d+$/.test(code) ? Number(code.replace(/^\D*/, '')) : undefined;
  if (by === 'instance') return place?.way === 'attribute' ? place.instance : undefined;
  return place?.way === 'register' ? place.start : undefined;
}

/** Whether a parameter may stand in such a place: its value fits, and it goes that way. */
export const canBeChosen = (slots: ChosenSlots, parameter: Parameter): boolean =>
  Math.ceil(parameter.bits / 8) <= slots.size &&
  readsOf(parameter) !== 'text' &&
  choiceNumber(slots, parameter) !== undefined &&
  parameter.role?.is !== 'device command' &&
  !slots.selectors.includes(parameter.code) &&
  parameter.access !== (slots.use === 'command' ? 'read' : 'write');
