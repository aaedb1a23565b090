import { answer } from '../../../../../../lib/server/answer.js';
import { cellAt } from '../../../../../../lib/server/repository/changes.js';
import { getServices } from '../../../../../../lib/server/services.js';

/** The cell as it was in an earlier version. */
export const GET = ({ params }) =>
  answer(() => cellAt(getServices().db, params.cell, Number(params.version)));
