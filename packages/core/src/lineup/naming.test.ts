import { describe, expect, test } from 'vitest';
import { classOf, namingTrouble, patternTrouble } from './naming.js';

const naming = { pattern: '{words}_{class}{number}', longest: 32 };

describe('a name against the pattern of the cell', () => {
  test.each([
    ['brush_belt_m1', '=RS3+U1-M1', undefined],
    ['brush_belt_m1', '', undefined],
    ['brush_belt_m01', '=RS3+U1-M1', undefined],
    ['brush_belt_m2', '=RS3+U1-M1', /number 2 is not the 1/],
    ['brush_belt_a1', '=RS3+U1-M1', /letter a is not the M/],
    ['Drive1', '=RS3+U1-M1', /not made as/],
    ['brush_belt', '=RS3+U1-M1', /not made as/],
  ])('%s, %s', (name, designation, why) => {
    const trouble = namingTrouble(naming, { name, designation });
    if (why) expect(trouble).toMatch(why);
    else expect(trouble).toBeUndefined();
  });

  test('without a pattern, or with a broken one, every name will do', () => {
    for (const pattern of ['', '{nonsense}', '{words'])
      expect(namingTrouble({ pattern, longest: 32 }, { name: 'X', designation: '' })).toBeUndefined();
  });
});

test.each([
  ['{words}_{class}{number}', undefined],
  ['{wrods}', /no piece/],
  ['{words', /partner/],
  ['words}', /partner/],
])('the pattern %s', (pattern, why) => {
  if (why) expect(patternTrouble(pattern)).toMatch(why);
  else expect(patternTrouble(pattern)).toBeUndefined();
});

// IEC 81346-1: = function, + location, - product; the class letters of 81346-2 with a number (from memory).
test.each([
  ['=RS3+U1-M1', { letters: 'M', number: '1' }],
  ['-QA12', { letters: 'QA', number: '12' }],
  ['brush', undefined],
])('the class of %s', (designation, expected) => expect(classOf(designation)).toEqual(expected));
