import { strToU8, zipSync } from 'fflate';

/** Tables as workbooks (Office Open XML, ECMA-376): one sheet, its headings in view, all cells as text. */

const head = '<?xml version="1.0" encoding="UTF-8" standalone="yes"?>\n';
const main = 'http://schemas.openxmlformats.org/spreadsheetml/2006/main';
const office = 'http://schemas.openxmlformats.org/officeDocument/2006/relationships';
const packages = 'http://schemas.openxmlformats.org/package/2006';
const types = 'application/vnd.openxmlformats-officedocument.spreadsheetml';

const marks: Record<string, string> = { '&': '&amp;', '<': '&lt;', '>': '&gt;', '"': '&quot;' };
/** Characters that XML cannot hold are written as _x000B_, and what looks like that as _x005F_x000B_ (22.4.2.2). */
const escaped = (text: string): string =>
  text
    .replace(/_(?=x[0-9a-f]{4}_)/gi, '_x005F_')
    // eslint-disable-next-line no-control-regex
    .replace(/[\u0000-\u0008\u000b\u000c\u000e-\u001f\ufffe\uffff]/g, (c) => {
      const code = c.charCodeAt(0).toString(16).toUpperCase().padStart(4, '0');
      return `_x${code}_`;
    })
    .replace(/[&<>"]/g, (c) => marks[c]!);

/** 1 → A, 27 → AA. */
const letters = (column: number): string =>
  column > 26
    ? letters(Math.floor((column - 1) / 26)) + letters(((column - 1) % 26) + 1)
    : String.fromCharCode(64 + column);

export function writeWorkbook(title: string, rows: readonly (readonly string[])[]): Uint8Array {
  const texts = new Map<string, number>();
  const indexOf = (text: string): number => {
    const known = texts.get(text) ?? texts.size;
    texts.set(text, known);
    return known;
  };
  const columns = Math.max(1, ...rows.map((row) => row.length));
  const width = (c: number) => Math.min(40, Math.max(8, ...rows.map((row) => (row[c] ?? '').length + 2)));
  const lines = rows.map((row, r) => {
    const cells = row.map((text, c) =>
      text === ''
        ? ''
        : `<c r="${letters(c + 1)}${r + 1}" s="${r === 0 ? 1 : 2}" t="s"><v>${indexOf(text)}</v></c>`,
    );
    return `<row r="${r + 1}">${cells.join('')}</row>`;
  });
  const widths = Array.from(
    { length: columns },
    (_, c) => `<col min="${c + 1}" max="${c + 1}" width="${width(c)}" style="2" customWidth="1"/>`,
  );
  // 18.2.19: no sheet name has more than 31 characters, or any of these.
  const name = escaped(title.replace(/[\\/*?:[\]]/g, '_').slice(0, 31)) || 'table';
  const parts: Record<string, string> = {
    '[Content_Types].xml':
      `<Types xmlns="${packages}/content-types">` +
      '<Default Extension="rels" ContentType="application/vnd.openxmlformats-package.relationships+xml"/>' +
      '<Default Extension="xml" ContentType="application/xml"/>' +
      `<Override PartName="/xl/workbook.xml" ContentType="${types}.sheet.main+xml"/>` +
      `<Override PartName="/xl/worksheets/sheet1.xml" ContentType="${types}.worksheet+xml"/>` +
      `<Override PartName="/xl/styles.xml" ContentType="${types}.styles+xml"/>` +
      `<Override PartName="/xl/sharedStrings.xml" ContentType="${types}.sharedStrings+xml"/></Types>`,
    '_rels/.rels':
      `<Relationships xmlns="${packages}/relationships">` +
      `<Relationship Id="rId1" Type="${office}/officeDocument" Target="xl/workbook.xml"/></Relationships>`,
    'xl/workbook.xml':
      `<workbook xmlns="${main}" xmlns:r="${office}">` +
      `<sheets><sheet name="${name}" sheetId="1" r:id="rId1"/></sheets></workbook>`,
    'xl/_rels/workbook.xml.rels':
      `<Relationships xmlns="${packages}/relationships">` +
      `<Relationship Id="rId1" Type="${office}/worksheet" Target="worksheets/sheet1.xml"/>` +
      `<Relationship Id="rId2" Type="${office}/styles" Target="styles.xml"/>` +
      `<Relationship Id="rId3" Type="${office}/sharedStrings" Target="sharedStrings.xml"/></Relationships>`,
    // Format 49 is text (18.8.30): nothing that is typed into such a cell becomes a date or a formula.
    'xl/styles.xml':
      `<styleSheet xmlns="${main}">` +
      '<fonts count="2"><font><sz val="11"/></font>' +
      '<font><b/><sz val="11"/></font></fonts>' +
      '<fills count="2"><fill><patternFill patternType="none"/></fill><fill><patternFill patternType="gray125"/></fill></fills>' +
      '<borders count="1"><border><left/><right/><top/><bottom/><diagonal/></border></borders>' +
      '<cellStyleXfs count="1"><xf numFmtId="0" fontId="0" fillId="0" borderId="0"/></cellStyleXfs>' +
      '<cellXfs count="3"><xf numFmtId="0" fontId="0" fillId="0" borderId="0" xfId="0"/>' +
      '<xf numFmtId="49" fontId="1" fillId="0" borderId="0" xfId="0" applyNumberFormat="1" applyFont="1"/>' +
      '<xf numFmtId="49" fontId="0" fillId="0" borderId="0" xfId="0" applyNumberFormat="1"/></cellXfs></styleSheet>',
    'xl/worksheets/sheet1.xml':
      `<worksheet xmlns="${main}"><sheetViews><sheetView workbookViewId="0">` +
      '<pane ySplit="1" topLeftCell="A2" activePane="bottomLeft" state="frozen"/></sheetView></sheetViews>' +
      `<cols>${widths.join('')}</cols><sheetData>${lines.join('')}</sheetData></worksheet>`,
    'xl/sharedStrings.xml':
      `<sst xmlns="${main}" uniqueCount="${texts.size}">` +
      `${[...texts.keys()].map((text) => `<si><t xml:space="preserve">${escaped(text)}</t></si>`).join('')}</sst>`,
  };
  return zipSync(Object.fromEntries(Object.entries(parts).map(([file, xml]) => [file, strToU8(head + xml)])));
}
