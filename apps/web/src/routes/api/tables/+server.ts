import { answer, boundedBytes } from '../../../lib/server/answer.js';
import { maxWorkbookBytes, readWorkbook } from '../../../lib/server/workbook/readWorkbook.js';

/** The cells of a workbook that was opened in the browser; nothing is stored. */
export const POST = ({ request }) =>
  answer(async () => ({ rows: readWorkbook(await boundedBytes(request, maxWorkbookBytes)) }));
