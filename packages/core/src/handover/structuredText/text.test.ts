import { expect, test } from 'vitest';
import { literal, negated, real } from './text.js';

// IEC 61131-3:2013, 6.3.3, table 6 (from memory): $' is an apostrophe, $$ a dollar sign.
test.each([
  ['the scale is away', "'the scale is away'"],
  ["the drive's 5 $ fuse", "'the drive$'s 5 $$ fuse'"],
  ["'$'", "'$'$$$''"],
  ['', "''"],
])('%s as a literal', (text, written) => expect(literal(text)).toBe(written));

// 6.3.2, table 5 (from memory): a point in every REAL literal.
test.each([
  [2, '2.0'],
  [-0.5, '-0.5'],
  [1e21, '1.0E21'],
  [2.5e-7, '2.5E-7'],
])('%s as a REAL', (value, written) => expect(real(value)).toBe(written));

test('what is negated twice is as it was', () =>
  expect([negated('a'), negated(negated('a'))]).toEqual(['NOT a', 'a']));
