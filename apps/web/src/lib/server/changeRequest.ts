import { parseInput } from '@fadenkreuz/core';
import type { z } from 'zod';
import type { Change, ChangeAnswer, ChangeHead } from '../api/changes.js';
import { answer, boundedJson } from './answer.js';
import { changesSince, type ChangeRequest, type Made } from './repository/changes.js';
import { getServices, type Services } from './services.js';

/** An image with a thousand fields pasted at once stays below this, bytes. */
const mostBytes = 4 * 1024 * 1024;

/**
 * Runs one change and tells a running bench of it; answers with what else the desk has not heard of, and what undo
 * would do.
 */
export function answerChange<S extends z.ZodType<ChangeHead>>(
  request: Request,
  cellId: string,
  schema: S,
  make: (db: Services['db'], change: ChangeRequest, body: z.output<S>) => Promise<Made>,
): Promise<Response> {
  return answer(async (): Promise<ChangeAnswer> => {
    const body = parseInput(schema, await boundedJson(request, mostBytes), 'change');
    const { id, madeOn, known, person, desk } = body;
    const { db, bench } = getServices();
    const made = await make(db, { id, madeOn, who: person, desk }, body);
    // The change is stored: nobody waits for the bench.
    void bench.changed(made);
    const { version, undo, redo } = made;
    const since = version - known > 1 ? await changesSince(db, cellId, known) : [];
    const own: Change = { version, id, ...('edit' in body ? {} : { edit: made.change.edit }) };
    const others = (since ?? []).filter((change) => change.version < version);
    return { version, changes: [...others, own], whole: since === undefined, undo, redo };
  });
}
