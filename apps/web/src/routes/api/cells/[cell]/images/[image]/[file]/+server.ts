import { fieldTable, identifierOf, imageById, imageTitle, Problem, tableCsv } from '@fadenkreuz/core';
import { answer } from '$lib/server/answer.js';
import { withDatabase } from '$lib/server/database.js';
import { loadCell } from '$lib/server/repository/cells.js';
import { getServices } from '$lib/server/services.js';
import { writeWorkbook } from '$lib/server/workbook.js';

const forms: Record<string, { type: string; write: (title: string, rows: string[][]) => Promise<BodyInit> }> =
  {
    csv: { type: 'text/csv; charset=utf-8', write: (_, rows) => Promise.resolve(tableCsv(rows)) },
    xlsx: {
      type: 'application/vnd.openxmlformats-officedocument.spreadsheetml.sheet',
      write: async (title, rows) => (await writeWorkbook(title, rows)) as Uint8Array<ArrayBuffer>,
    },
  };

/** The fields of an image as a table: csv or xlsx. */
export const GET = async ({ params }) => {
  const form = forms[params.file];
  try {
    if (!form) throw new Problem('cell.unknown', { cell: `file ${params.file}` });
    const { cell } = await withDatabase(() => loadCell(getServices().db, params.cell));
    const { device, image } = imageById(cell, params.image);
    const title = imageTitle(device, image.direction);
    return new Response(await form.write(title, fieldTable(image)), {
      headers: {
        'content-type': form.type,
        'content-disposition': `attachment; filename="${identifierOf(title)}.${params.file}"`,
      },
    });
  } catch (error) {
    return answer(() => Promise.reject(error as Error));
  }
};
