import { identifierOf, Problem, tableCsv } from '@fadenkreuz/core';
import { writeWorkbook } from './writeWorkbook.js';

const forms: Record<string, { type: string; write: (title: string, rows: string[][]) => BodyInit }> = {
  csv: { type: 'text/csv; charset=utf-8', write: (_, rows) => tableCsv(rows) },
  xlsx: {
    type: 'application/vnd.openxmlformats-officedocument.spreadsheetml.sheet',
    write: (title, rows) => writeWorkbook(title, rows) as Uint8Array<ArrayBuffer>,
  },
};

/** A table as a file to be saved, `csv` or `xlsx`. Throws `cell.unknown` for another form. */
export function tableFile(form: string, title: string, rows: string[][]): Response {
  const known = Object.hasOwn(forms, form) ? forms[form] : undefined;
  if (!known) throw new Problem('cell.unknown', { cell: `file ${form}` });
  return new Response(known.write(title, rows), {
    headers: {
      'content-type': known.type,
      'content-disposition': `attachment; filename="${identifierOf(title)}.${form}"`,
    },
  });
}
