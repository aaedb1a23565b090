import { Edit, parseInput } from '@fadenkreuz/core';
import { z } from 'zod';
import { answer, boundedJson } from './answer.js';
import { undoState, type ChangeRequest } from './repository/changes.js';
import type { StoredCell } from './repository/cells.js';
import { getServices, type Services } from './services.js';

const head = { id: z.uuid(), madeOn: z.number().int().positive() };
export const EditRequest = z.strictObject({ ...head, edit: Edit });
export const UndoRequest = z.strictObject(head);

/** There are no accounts yet: everybody at this computer is one user. */
const who = 'desk';

/** Runs one change and tells a running bench of the new design; answers with the cell and what undo would do. */
export function answerChange<S extends z.ZodType<{ id: string; madeOn: number }>>(
  request: Request,
  cellId: string,
  schema: S,
  make: (db: Services['db'], change: ChangeRequest, body: z.output<S>) => Promise<StoredCell>,
): Promise<Response> {
  return answer(async () => {
    const body = parseInput(schema, await boundedJson(request, 4 * 1024 * 1024), 'change');
    const { db, bench } = getServices();
    const stored = await make(db, { id: body.id, madeOn: body.madeOn, who }, body);
    await bench.changed(stored);
    return { ...stored, ...(await undoState(db, cellId)) };
  });
}
