import { Problem } from '@fadenkreuz/core';
import ExcelJS from 'exceljs';
import { unzipSync } from 'fflate';

/** Tables as workbooks (Office Open XML, ECMA-376). */

export const maxWorkbookBytes = 2 * 1024 * 1024;
/** What a workbook may unpack to: a small file can be packed a thousandfold. */
const maxUnpackedBytes = 48 * 1024 * 1024;
const maxRows = 4001;

/** A workbook with one sheet: the first row as headings that stay in view, all cells as text. */
export async function writeWorkbook(title: string, rows: string[][]): Promise<Uint8Array> {
  const workbook = new ExcelJS.Workbook();
  // ECMA-376, 18.2.19: no sheet name has more than 31 characters, or any of these.
  const sheet = workbook.addWorksheet(title.replace(/[\\/*?:[\]]/g, '_').slice(0, 31), {
    views: [{ state: 'frozen', ySplit: 1 }],
  });
  sheet.addRows(rows);
  sheet.getRow(1).font = { bold: true };
  sheet.columns.forEach((column, i) => {
    column.width = Math.min(40, Math.max(8, ...rows.map((row) => (row[i] ?? '').length + 2)));
    column.numFmt = '@';
  });
  return new Uint8Array(await workbook.xlsx.writeBuffer());
}

/** The cells of the first sheet that has any, as they are shown. Throws `file.notAWorkbook` and `file.tooLarge`. */
export async function readWorkbook(bytes: Uint8Array): Promise<string[][]> {
  try {
    let unpacked = 0;
    let isWorkbook = false;
    unzipSync(bytes, {
      filter: ({ name, originalSize }) => {
        unpacked += originalSize;
        isWorkbook ||= name === 'xl/workbook.xml';
        return false;
      },
    });
    if (unpacked > maxUnpackedBytes)
      throw new Problem('file.tooLarge', { bytes: unpacked, limit: maxUnpackedBytes });
    if (!isWorkbook) throw new Error('it has no sheets');
    const workbook = new ExcelJS.Workbook();
    await workbook.xlsx.load(
      bytes.buffer.slice(bytes.byteOffset, bytes.byteOffset + bytes.length) as ArrayBuffer,
    );
    const sheet = workbook.worksheets.find((s) => s.actualRowCount > 0);
    const rows: string[][] = [];
    for (let r = 1; sheet && r <= Math.min(sheet.rowCount, maxRows); r += 1) {
      const row = sheet.getRow(r);
      rows.push(
        Array.from({ length: Math.min(row.cellCount, 64) }, (_, c) => row.getCell(c + 1).text.trim()),
      );
    }
    return rows;
  } catch (cause) {
    if (cause instanceof Problem) throw cause;
    throw new Problem('file.notAWorkbook', { reason: (cause as Error).message.slice(0, 120) }, { cause });
  }
}
