import { expect, test } from 'vitest';
import { z } from 'zod';
import { parseInput } from './parse.js';

const block = z.strictObject({
  start: z.int().min(0).max(65_535),
  name: z.string().min(1).max(8),
  table: z.enum(['holding', 'input']),
});
const Edit = z.strictObject({ set: z.strictObject({ blocks: z.array(block).max(2) }) });
const good = { start: 0, name: 'a', table: 'holding' };

test.each([
  [{ ...good, start: 70_000 }, 'start of block 1: is more than 65535.'],
  [{ ...good, start: -1 }, 'start of block 1: is less than 0.'],
  [{ ...good, start: 1.5 }, 'start of block 1: is not a whole number.'],
  [{ ...good, start: 'x' }, 'start of block 1: is not a number.'],
  [{ start: 0, table: 'input' }, 'name of block 1: is missing: a text is wanted.'],
  [{ ...good, name: '' }, 'name of block 1: is empty.'],
  [{ ...good, name: '123456789' }, 'name of block 1: is longer than 8 characters.'],
  [{ ...good, table: 'coils' }, 'table of block 1: is none of: holding, input.'],
  [{ ...good, unit: 1 }, 'block 1: has an entry that does not belong here: unit.'],
])('an edit with %o: %s', (entry, says) => {
  const parse = () => parseInput(Edit, { set: { blocks: [entry] } }, 'edit');
  expect(parse).toThrow(says);
});

test('a file says the path, which stands in it', () => {
  expect(() => parseInput(Edit, { set: { blocks: [{ ...good, start: 70_000 }] } }, 'cell file')).toThrow(
    'cell file set.blocks[0].start: is more than 65535.',
  );
});
