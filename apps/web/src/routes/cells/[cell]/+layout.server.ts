import { Problem } from '@fadenkreuz/core';
import { error } from '@sveltejs/kit';
import { withDatabase } from '$lib/server/database.js';
import { loadCell } from '$lib/server/repository/cells.js';
import { undoState } from '$lib/server/repository/changes.js';
import { getServices } from '$lib/server/services.js';

export const load = async ({ params }) => {
  const { db } = getServices();
  try {
    return await withDatabase(async () => ({
      stored: { ...(await loadCell(db, params.cell)), ...(await undoState(db, params.cell)) },
    }));
  } catch (problem) {
    if (!(problem instanceof Problem)) throw problem;
    error(problem.code === 'cell.unknown' ? 404 : 503, `${problem.message} ${problem.cure}`);
  }
};
