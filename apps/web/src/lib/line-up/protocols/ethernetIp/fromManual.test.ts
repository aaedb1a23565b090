import { readFileSync } from 'node:fs';
import { readCellFile, readManualLine } from '@fadenkreuz/core';
import { expect, test } from 'vitest';
import { initial, linkFrom, withLine } from './fromManual.js';

const cell = readCellFile(
  readFileSync(new URL('../../../../../../../demo/ripening-store-3.json', import.meta.url), 'utf8'),
);
const ids = () => {
  let n = 0;
  return () => `id${(n += 1)}`;
};
const entry = { ...initial(), commandCount: 3, feedbackCount: 5 };

test.each([
  [1, 3, 5],
  [2, 6, 10],
  [4, 12, 20],
])('sizes counted in units of %i bytes', (unitBytes, command, feedback) => {
  const link = linkFrom(cell, { ...entry, unitBytes }, ids());
  expect([link.command.size, link.feedback.size]).toEqual([command, feedback]);
});

test('what is no size stays none, for the model to refuse', () => {
  expect(linkFrom(cell, { ...entry, commandCount: -1 }, ids()).command.size).toBe(-2);
  expect(linkFrom(cell, { ...entry, commandCount: NaN }, ids()).command.size).toBeNaN();
});

test.each([
  // Four bytes are two of the 16-bit elements that the form counts in; 7 bytes are no whole number of them.
  [
    'input 131 size 7, output 141 size 6, 32-bit, RPI 8',
    2,
    { commandCount: 12, feedbackCount: 14, updateMs: 8 },
  ],
  ['T->O 101 7 bytes O->T 102 4 bytes configuration 7', 1, { commandCount: 4, feedbackCount: 7 }],
  [
    'output 141 size 6 bytes',
    2,
    { commandInstance: 141, commandCount: 3, feedbackInstance: 101, feedbackCount: 5 },
  ],
])('the entries after the line %s', (line, unitBytes, wanted) =>
  expect(withLine(entry, readManualLine(line)!)).toMatchObject({ unitBytes, ...wanted }),
);
