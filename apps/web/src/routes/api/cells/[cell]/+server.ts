import { Problem } from '@fadenkreuz/core';
import type { Stored } from '../../../../lib/api/changes.js';
import { answer } from '../../../../lib/server/answer.js';
import { personOf } from '../../../../lib/server/person.js';
import { deleteCell, loadCell } from '../../../../lib/server/repository/cells.js';
import { undoState } from '../../../../lib/server/repository/changes.js';
import { getServices } from '../../../../lib/server/services.js';

export const GET = ({ params, cookies }) =>
  answer(async (): Promise<Stored> => {
    const { db } = getServices();
    const { cell, version } = await loadCell(db, params.cell);
    return { cell, version, ...(await undoState(db, params.cell, personOf(cookies))) };
  });

/** Deletes it so that it can be restored; the one that the bench runs is not. */
export const DELETE = ({ params }) =>
  answer(async () => {
    const { db, bench } = getServices();
    if (await bench.runs(params.cell)) {
      const { cell } = await loadCell(db, params.cell);
      throw new Problem('cell.onBench', { cell: cell.name });
    }
    await deleteCell(db, params.cell);
    return {};
  });
