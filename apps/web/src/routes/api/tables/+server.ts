import { answer, boundedBytes } from '../../../lib/server/answer.js';
import { readFile } from '../../../lib/server/files/readFile.js';
import { maxWorkbookBytes } from '../../../lib/server/files/readWorkbook.js';

/** The cells of a workbook that was opened in the browser; nothing is stored. */
export const POST = ({ request }) =>
  answer(async () => ({ rows: await readFile('workbook', await boundedBytes(request, maxWorkbookBytes)) }));
