import { expect, test } from 'vitest';
import { asText, tableCsv } from './csv.js';

/** What a spreadsheet takes for a formula: OWASP, CSV injection (from memory). */
test.each([
  ["-2+3+cmd|' /C calc'!A0", true],
  ['=1+1', true],
  ['@SUM(A1)', true],
  ['+31 phone', true],
  ['\t=1', true],
  ['-10', false],
  ['-0.5', false],
  ['+3', false],
  ['1/100', false],
  ['-1/3', false],
  ['3e-5', false],
  ['brush_belt_m1', false],
])('%s is a formula: %j', (text, marked) => expect(asText(text)).toBe(marked ? `'${text}` : text));

test('all is quoted, so that no sign parts a cell anywhere', () =>
  expect(tableCsv([['a;b', 'c"d', '-1']])).toBe('"a;b","c""d","-1"\r\n'));
