import { readFileSync } from 'node:fs';
import { readCellFile } from '@fadenkreuz/core';
import { expect, test } from 'vitest';
import { initial, linkFrom, runOf } from './fromManual.js';
import { stretchText } from './registers.js';

const cell = readCellFile(
  readFileSync(new URL('../../../../../../../demo/ripening-store-3.json', import.meta.url), 'utf8'),
);
const ids = () => {
  let n = 0;
  return () => `id${(n += 1)}`;
};

test('a device of registers has a block for each side, high byte first', () =>
  expect(
    linkFrom(
      cell,
      {
        command: { table: 'holding', start: '100', count: 3 },
        feedback: { table: 'input', start: '200', count: 5 },
        updateMs: 20,
      },
      ids(),
    ),
  ).toMatchObject({
    protocol: 'modbus-tcp',
    command: { size: 6, order: 'big' },
    feedback: { size: 10, order: 'big' },
    blocks: [
      { direction: 'command', table: 'holding', start: 100, count: 3, poll: 20_000 },
      { direction: 'feedback', table: 'input', start: 200, count: 5, poll: 20_000 },
    ],
  }));

test('bits are eight in a byte and have no order; what is not written has no block', () =>
  expect(
    linkFrom(
      cell,
      {
        command: { table: 'holding', start: '0', count: 0 },
        feedback: { table: 'discrete', start: '100017', count: 12 },
        updateMs: 50,
      },
      ids(),
    ),
  ).toMatchObject({
    command: { size: 0 },
    feedback: { size: 2, order: null },
    blocks: [{ direction: 'feedback', table: 'discrete', start: 16, count: 12, poll: 50_000 }],
  }));

// References count from 1, and their first digit is the table (common practice, no source).
test.each([
  ['holding', '405001', 2, 'holding', 5000, '405001 to 405002'],
  ['holding', '300101', 1, 'input', 100, '300101 to 300101'],
  ['input', '0x1388', 10, 'input', 5000, '305001 to 305010'],
  ['holding', '5000', 1, 'holding', 5000, '405001 to 405001'],
  ['coils', '00011', 3, 'coils', 10, '000011 to 000013'],
] as const)('of the %s the start %s', (table, start, count, meant, address, shown) => {
  const run = runOf({ table, start, count });
  expect(run).toEqual({ table: meant, start: address, count });
  expect(stretchText(run)).toBe(shown);
});

test('what is no register stays none, for the model to refuse', () => {
  expect(runOf({ table: 'holding', start: 'abc', count: 1 }).start).toBeNaN();
  const { blocks } = linkFrom(
    cell,
    { ...initial(), command: { table: 'holding', start: '0', count: NaN } },
    ids(),
  );
  expect(blocks[0]!.count).toBeNaN();
});
