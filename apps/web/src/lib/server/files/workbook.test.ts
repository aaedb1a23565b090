import { execFileSync } from 'node:child_process';
import { mkdtempSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { strToU8, zipSync } from 'fflate';
import { expect, test } from 'vitest';
import { readWorkbook } from './readWorkbook.js';
import { writeWorkbook } from './writeWorkbook.js';

const rows = [
  ['name', 'address'],
  ['Käse, "reif"', '40.3'],
  ['=1+1', '-10'],
];

test('what was written is read back, text as text', () => {
  expect(readWorkbook(writeWorkbook('a/b:c', rows))).toEqual(rows);
  const odd = [
    ['a & b', '<c>', '"d"', 'line\nline'],
    ['', '', 'third'],
    ['\u000b', '_x000B_', 'ü 搬'],
  ];
  expect(readWorkbook(writeWorkbook('', odd))).toEqual([odd[0], odd[1], ['', '_x000B_', 'ü 搬']]);
  expect(readWorkbook(writeWorkbook('empty', []))).toEqual([]);
});

test('another reader finds the same cells, and no formula (Python’s zipfile on ECMA-376 parts)', () => {
  const file = join(mkdtempSync(join(tmpdir(), 'fk-')), 'x.xlsx');
  writeFileSync(file, writeWorkbook('fields', rows));
  const script = `
import zipfile, re, sys, html
z = zipfile.ZipFile(sys.argv[1])
shared = [html.unescape(''.join(re.findall(r'<t[^>]*>([^<]*)</t>', si))) for si in re.findall(r'<si>(.*?)</si>', z.read('xl/sharedStrings.xml').decode(), re.S)]
sheet = z.read('xl/worksheets/sheet1.xml').decode()
print('<f>' in sheet, [shared[int(v)] for v in re.findall(r't="s"[^>]*><v>(\\d+)</v>', sheet)])`;
  const printed = execFileSync('/usr/bin/python3', ['-c', script, file], { encoding: 'utf8' }).trim();
  expect(printed).toBe(`False ['name', 'address', 'Käse, "reif"', '40.3', '=1+1', '-10']`);
});

test.each([
  ['nothing', new Uint8Array(0)],
  ['text', new TextEncoder().encode('name,address')],
  ['a zip of something else', zipSync({ 'a.txt': new Uint8Array(10) })],
])('%s is no workbook', (_says, bytes) => {
  expect(() => readWorkbook(bytes)).toThrow(expect.objectContaining({ code: 'file.notAWorkbook' }) as Error);
});

/** A workbook by hand, after ECMA-376 (from memory): its sheet, and what cells share. */
const workbook = (sheet: string, shared = '', more: Record<string, Uint8Array> = {}) =>
  zipSync({
    'xl/workbook.xml': strToU8(
      '<x:workbook xmlns:x="m" xmlns:r="o"><x:sheets><x:sheet name="empty" r:id="a"/><x:sheet name="t" r:id="b"/></x:sheets></x:workbook>',
    ),
    'xl/_rels/workbook.xml.rels': strToU8(
      '<Relationships><Relationship Id="a" Target="worksheets/sheet2.xml"/><Relationship Id="b" Target="/xl/worksheets/sheet1.xml"/></Relationships>',
    ),
    'xl/worksheets/sheet2.xml': strToU8('<worksheet><sheetData/></worksheet>'),
    'xl/worksheets/sheet1.xml': strToU8(`<worksheet>${sheet}</worksheet>`),
    ...(shared ? { 'xl/sharedStrings.xml': strToU8(`<sst>${shared}</sst>`) } : {}),
    ...more,
  });

test.each<[string, string, string, string[][]]>([
  [
    'numbers as they are meant, booleans, errors, what a formula gave',
    '<sheetData><row r="1"><c r="A1"><v>0.10000000000000001</v></c><c r="B1" t="b"><v>1</v></c><c r="C1" t="e"><v>#N/A</v></c>' +
      '<c r="D1" t="str"><f>A1&amp;"x"</f><v>0.1x</v></c><c r="E1"><f>1+1</f><v>2</v></c></row></sheetData>',
    '',
    [['0.1', 'true', '#N/A', '0.1x', '2']],
  ],
  [
    'texts in runs, without how they are pronounced, and texts in their cells',
    '<sheetData><row><c t="s"><v>1</v></c><c t="inlineStr"><is><t> in </t></is></c><c t="s"><v>9</v></c></row></sheetData>',
    '<si><t>no</t></si><si><r><t>a </t></r><r><t>b</t></r><rPh><t>xx</t></rPh></si>',
    [['a b', 'in']],
  ],
  [
    'gaps between rows and cells',
    '<sheetData><row r="2"><c r="C2"><v>1</v></c></row><row r="4"><c r="A4"><v>2</v></c></row></sheetData>',
    '',
    [[], ['', '', '1'], [], ['2']],
  ],
  [
    'rows, columns and merges beyond any table',
    '<sheetData><row r="1"><c r="A1"><v>1</v></c><c r="XFD1"><v>2</v></c></row><row r="4000000000"><c r="A4000000000"><v>3</v></c></row></sheetData>' +
      '<mergeCells><mergeCell ref="A1:XFD1048576"/></mergeCells><dataValidations><dataValidation sqref="A1:XFD1048576"/></dataValidations>',
    '',
    [['1']],
  ],
])('%s', (_says, sheet, shared, cells) => expect(readWorkbook(workbook(sheet, shared))).toEqual(cells));

test.each([
  ['an entity that nobody declares', '<sheetData><row><c><v>&undefined;</v></c></row></sheetData>'],
  ['entities of its own', '<!DOCTYPE x [<!ENTITY a "b">]><sheetData/>'],
  ['an end that is missing', '<sheetData><row>'],
])('%s is refused at once', (_says, sheet) =>
  expect(() => readWorkbook(workbook(sheet))).toThrow(
    expect.objectContaining({ code: 'file.notAWorkbook' }) as Error,
  ),
);

test('a size that lies gets no more room than it says', () => {
  const honest = workbook('<sheetData/>', '', {
    'xl/worksheets/sheet3.xml': new Uint8Array(30 * 1024 * 1024),
  });
  const lying = Buffer.from(honest);
  // Of each entry the size before packing, in its own head and in the list at the end (APPNOTE 4.3.7 and 4.3.12).
  for (let at = 0; at + 30 < lying.length; at += 1) {
    const mark = lying.readUInt32LE(at);
    const size = mark === 0x04034b50 ? at + 22 : mark === 0x02014b50 ? at + 24 : undefined;
    if (size !== undefined && lying.readUInt32LE(size) === 30 * 1024 * 1024) lying.writeUInt32LE(10, size);
  }
  const before = process.memoryUsage().arrayBuffers;
  try {
    readWorkbook(lying);
  } catch (error) {
    expect(error).toMatchObject({ code: 'file.notAWorkbook' });
  }
  expect(process.memoryUsage().arrayBuffers - before).toBeLessThan(10 * 1024 * 1024);
});

test('a small file that unpacks to 60 MB is refused before it is unpacked', () => {
  const bomb = zipSync({ 'xl/workbook.xml': new Uint8Array(60 * 1024 * 1024) });
  expect(bomb.length).toBeLessThan(200_000);
  expect(() => readWorkbook(bomb)).toThrow(expect.objectContaining({ code: 'file.tooLarge' }) as Error);
});
