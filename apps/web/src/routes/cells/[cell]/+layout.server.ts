import { asText } from '../../../lib/desk/cellTransport.js';
import { pageData } from '../../../lib/server/pageData.js';
import { personOf } from '../../../lib/server/person.js';
import { cellLines, loadCell } from '../../../lib/server/repository/cells.js';
import { undoState } from '../../../lib/server/repository/changes.js';
import { getServices } from '../../../lib/server/services.js';

export const load = async ({ params, cookies }) => {
  const { db } = getServices();
  const person = personOf(cookies);
  return pageData(async () => {
    const [{ cell, version }, steps, lines] = await Promise.all([
      loadCell(db, params.cell),
      undoState(db, params.cell, person),
      cellLines(db),
    ]);
    /** The others, for the find box. */
    const others = lines.flatMap(({ id, name, subnet }) =>
      id === params.cell ? [] : [{ id, name, subnet }],
    );
    return { person, others, stored: { cell: asText(cell), version, ...steps } };
  });
};
