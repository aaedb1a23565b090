import { asText } from '$lib/desk/cellTransport.js';
import { pageData } from '$lib/server/pageData.js';
import { loadCell } from '$lib/server/repository/cells.js';
import { undoState } from '$lib/server/repository/changes.js';
import { getServices } from '$lib/server/services.js';

export const load = async ({ params }) => {
  const { db } = getServices();
  return pageData(async () => {
    const [{ cell, version }, steps] = await Promise.all([
      loadCell(db, params.cell),
      undoState(db, params.cell),
    ]);
    return { stored: { cell: asText(cell), version, ...steps } };
  });
};
