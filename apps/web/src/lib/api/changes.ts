import { Edit, type Cell } from '@fadenkreuz/core';
import { z } from 'zod';

/** What browser and server say to each other about changes of a cell; parsed on both sides. */

const head = {
  id: z.uuid(),
  /** The version that the person saw, changes of the same desk aside. */
  madeOn: z.number().int().positive(),
  /** The version that this desk has in full: what came after it is told with the answer. */
  known: z.number().int().positive(),
  /** Whose change it is; each takes back his own. */
  person: z.string().min(1).max(80),
  /** The browser window. */
  desk: z.string().min(1).max(80),
};
export const EditRequest = z.strictObject({ ...head, edit: Edit });
export const StepRequest = z.strictObject(head);
export type ChangeHead = z.infer<typeof StepRequest>;

/** A change as those hear of it who have the version before. */
export const Change = z.object({
  version: z.number().int().positive(),
  id: z.string(),
  /** Absent in the answer to the desk that made it. */
  edit: z.custom<Edit>((value) => typeof value === 'object' && value !== null).optional(),
});
export type Change = z.infer<typeof Change>;

const steps = { undo: z.string().nullable(), redo: z.string().nullable() };

/**
 * The answer to a change: all that came after the version that the desk knew, itself last. `whole`: too much to be
 * told, load the cell.
 */
export const ChangeAnswer = z.object({
  version: z.number().int().positive(),
  changes: z.array(Change),
  whole: z.boolean(),
  ...steps,
});
export type ChangeAnswer = z.infer<typeof ChangeAnswer>;

/** A cell as it is stored, and what undo and redo would do for the one who asks. */
export const Stored = z.object({
  cell: z.custom<Cell>((value) => typeof value === 'object' && value !== null && 'devices' in value),
  version: z.number().int().positive(),
  ...steps,
});
export type Stored = z.infer<typeof Stored>;
