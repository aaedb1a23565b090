import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import demo from '@fadenkreuz/demo/ripening-store-3.json' with { type: 'json' };
import { readCellFile } from '../cell/cellFile.js';
import { deviceKinds } from '../devices/kinds.js';
import { classOf, namingTrouble, nextName, patternTrouble } from './naming.js';

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

describe('the name of the next device', () => {
  const cell = readCellFile(JSON.stringify(demo));

  test.each(deviceKinds)('%s: made as the pattern says, and free', (kind) => {
    const name = nextName(cell, kind);
    expect(namingTrouble(cell.naming, { name, designation: '' })).toBeUndefined();
    expect(cell.devices.map((d) => d.name)).not.toContain(name);
  });

  test('its letter is that of the kind in the plan, its number the next of that letter', () => {
    // The plan has M1, a drive, and M2, a soft starter.
    expect(nextName(cell, 'variable-speed drive')).toBe('drive_m3');
    const other = cell.devices.map((d) => (d.kind === 'weigher' ? { ...d, designation: '=RS3+U1-W7' } : d));
    expect(nextName({ ...cell, devices: other }, 'weigher')).toBe('scale_w8');
  });

  test('without a pattern, without a number, and where the name is taken', () => {
    expect(nextName({ naming: { pattern: '', longest: 32 }, devices: [] }, 'robot')).toBe('robot_r1');
    const numberless = { pattern: '{Words}', longest: 32 };
    expect(nextName({ naming: numberless, devices: [] }, 'robot')).toBe('Robot');
    const named = [{ ...cell.devices[0]!, name: 'Robot', designation: '' }];
    expect(nextName({ naming: numberless, devices: named }, 'robot')).toBe('Robot2');
  });
});

describe('a pattern never takes long', () => {
  test.each([7, 12, 30])('%i times anything, and a name of 64 letters', (count) => {
    const pattern = '{text}'.repeat(count);
    const trouble = (name: string) =>
      namingTrouble({ pattern: `${pattern}!`, longest: 64 }, { name, designation: '' });
    expect(trouble('a'.repeat(64))).toMatch(/not made as/);
    expect(trouble(`${'a'.repeat(63)}!`)).toBeUndefined();
  });

  test('it matches as a regular expression would', () => {
    const pieces = { '{words}': '[a-z]+(?:_[a-z]+)*', '{word}': '[a-z]+', '{Words}': '(?:[A-Z][a-z]+)+' };
    const more = {
      '{class}': '[A-Za-z]{1,3}',
      '{number}': '[0-9]+',
      '{text}': '.+',
      _: '_',
      b: 'b',
      '1': '1',
    };
    const known: Record<string, string> = { ...pieces, ...more };
    const part = fc.constantFrom(...Object.keys(known));
    fc.assert(
      fc.property(
        fc.array(part, { minLength: 1, maxLength: 5 }),
        fc.stringMatching(/^[ab1_B]{1,10}$/),
        (parts, name) => {
          const wanted = new RegExp(`^${parts.map((p) => known[p]).join('')}$`).test(name);
          const trouble = namingTrouble({ pattern: parts.join(''), longest: 64 }, { name, designation: '' });
          expect(trouble === undefined).toBe(wanted);
        },
      ),
      { numRuns: 2000 },
    );
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
