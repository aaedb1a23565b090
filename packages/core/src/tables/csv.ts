import Papa from 'papaparse';

/** Numbers and ratios as they are written: -2.5, 1/100, 3e-5. They are no formulas, whatever they begin with. */
const number = /^[+-]?\d+([.,]\d+)?(e[+-]?\d+)?(\/\d+)?$/i;

/** A text that a spreadsheet would take for a formula is marked as text (OWASP, CSV injection). */
export const asText = (text: string): string =>
  /^[=+\-@\t\r]/.test(text) && !number.test(text) ? `'${text}` : text;

/** A table as CSV (RFC 4180), titles first. All is quoted: in some countries a semicolon parts the cells. */
export const tableCsv = (rows: readonly (readonly string[])[]): string =>
  Papa.unparse(
    rows.map((row) => row.map(asText)),
    { newline: '\r\n', quotes: true },
  ) + '\r\n';
