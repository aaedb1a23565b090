import { pageData } from '$lib/server/pageData.js';
import { loadCell } from '$lib/server/repository/cells.js';
import { undoState } from '$lib/server/repository/changes.js';
import { getServices } from '$lib/server/services.js';

export const load = async ({ params }) => {
  const { db } = getServices();
  const stored = await pageData(async () => ({
    ...(await loadCell(db, params.cell)),
    ...(await undoState(db, params.cell)),
  }));
  return { stored };
};
