import { papers, Problem } from '@fadenkreuz/core';
import { answer } from '../../../../../../lib/server/answer.js';
import { withDatabase } from '../../../../../../lib/server/database.js';
import { loadCell } from '../../../../../../lib/server/repository/cells.js';
import { getServices } from '../../../../../../lib/server/services.js';

export const GET = async ({ params }) => {
  const paper = papers.find(({ id }) => id === params.file);
  try {
    if (!paper) throw new Problem('cell.unknown', { cell: `file ${params.file}` });
    const { cell } = await withDatabase(() => loadCell(getServices().db, params.cell));
    return new Response(paper.write(cell), {
      headers: {
        'content-type': paper.type,
        'content-disposition': `attachment; filename="${paper.file(cell)}"`,
      },
    });
  } catch (error) {
    return answer(() => Promise.reject(error as Error));
  }
};
