import { execFileSync } from 'node:child_process';
import { mkdtempSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { zipSync } from 'fflate';
import { expect, test } from 'vitest';
import { readWorkbook, writeWorkbook } from './workbook.js';

const rows = [
  ['name', 'address'],
  ['Käse, "reif"', '40.3'],
  ['=1+1', '-10'],
];

test('what was written is read back, text as text', async () => {
  expect(await readWorkbook(await writeWorkbook('a/b:c', rows))).toEqual(rows);
});

test('another reader finds the same cells, and no formula (Python’s zipfile on ECMA-376 parts)', async () => {
  const file = join(mkdtempSync(join(tmpdir(), 'fk-')), 'x.xlsx');
  writeFileSync(file, await writeWorkbook('fields', rows));
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
])('%s is no workbook', async (_says, bytes) => {
  await expect(readWorkbook(bytes)).rejects.toMatchObject({ code: 'file.notAWorkbook' });
});

test('a small file that unpacks to 60 MB is refused before it is unpacked', async () => {
  const bomb = zipSync({ 'xl/workbook.xml': new Uint8Array(60 * 1024 * 1024) });
  expect(bomb.length).toBeLessThan(200_000);
  await expect(readWorkbook(bomb)).rejects.toMatchObject({ code: 'file.tooLarge' });
});
