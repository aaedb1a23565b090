import { answer } from '$lib/server/answer.js';
import { deleteCell, loadCell } from '$lib/server/repository/cells.js';
import { undoState } from '$lib/server/repository/changes.js';
import { getServices } from '$lib/server/services.js';

export const GET = ({ params }) =>
  answer(async () => {
    const { db } = getServices();
    return { ...(await loadCell(db, params.cell)), ...(await undoState(db, params.cell)) };
  });

export const DELETE = ({ params }) =>
  answer(async () => {
    await deleteCell(getServices().db, params.cell);
    return {};
  });
