import { answer } from '../../../../../lib/server/answer.js';
import { restoreCell } from '../../../../../lib/server/repository/cells.js';
import { getServices } from '../../../../../lib/server/services.js';

/** Brings a deleted cell back. */
export const POST = ({ params }) =>
  answer(async () => {
    await restoreCell(getServices().db, params.cell);
    return {};
  });
