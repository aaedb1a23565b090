import { identifierOf, Problem, tableCsv } from '@fadenkreuz/core';
import { writeWorkbook } from './workbook.js';

const forms: Record<string, { type: string; write: (title: string, rows: string[][]) => Promise<BodyInit> }> =
  {
    csv: { type: 'text/csv; charset=utf-8', write: (_, rows) => Promise.resolve(tableCsv(rows)) },
    xlsx: {
      type: 'application/vnd.openxmlformats-officedocument.spreadsheetml.sheet',
      write: async (title, rows) => (await writeWorkbook(title, rows)) as Uint8Array<ArrayBuffer>,
    },
  };

/** A table as a file to be saved, `csv` or `xlsx`. Throws `cell.unknown` for another form. */
export async function tableFile(form: string, title: string, rows: string[][]): Promise<Response> {
  const known = Object.hasOwn(forms, form) ? forms[form] : undefined;
  if (!known) throw new Problem('cell.unknown', { cell: `file ${form}` });
  return new Response(await known.write(title, rows), {
    headers: {
      'content-type': known.type,
      'content-disposition': `attachment; filename="${identifierOf(title)}.${form}"`,
    },
  });
}
