import Papa from 'papaparse';
import { expect, test } from 'vitest';
import { Field } from '../layout/field.js';
import { withFields } from '../cell/testCell.js';
import { identifierOf, uniqueIdentifiers } from '../entries/identifiers.js';
import { signalList } from './signalList.js';

test('a line a field, both sides, readable by a CSV reader (RFC 4180)', () => {
  const awkward = Field.parse({
    id: 'a',
    name: 'level, "full"',
    type: 'BOOL',
    at: 17,
    bits: 1,
    labels: [{ value: 1, text: 'full' }],
  });
  const formula = Field.parse({
    id: 'b',
    name: '=1+1',
    type: 'UINT',
    at: 32,
    bits: 16,
    scale: { factor: '1/10', offset: '0' },
    limits: { minimum: null, maximum: '50' },
    specials: [{ value: 65535, means: 'no reading' }],
  });
  const derived = [
    { id: 'v', name: 'twice', expression: 'n_1_1 * 2', uncertainty: '1', unit: 'mm', note: 'both sides' },
  ];
  const { data, errors } = Papa.parse<Record<string, string>>(
    signalList(withFields([formula, awkward], { derived })),
    {
      header: true,
      skipEmptyLines: true,
    },
  );
  expect(errors).toEqual([]);
  expect(data).toHaveLength(3);
  expect(data[0]).toMatchObject({
    device: 'pump_m1',
    signal: 'level, "full"',
    'controller address': 'fb[1].%X1',
    'direct address': '%IX2.1',
    'device byte': '2',
    'device bit': '1',
    labels: '1 = full',
  });
  expect(data[1]).toMatchObject({
    ...{
      signal: "'=1+1",
      factor: '1/10',
      minimum: '',
      maximum: '50',
      'special numbers': '65535 = no reading',
    },
  });
  expect(data[2]).toMatchObject({
    signal: 'twice',
    'computed from': 'n_1_1 * 2',
    uncertainty: '1',
    unit: 'mm',
  });
});

/**
 * IEC 61131-3:2013, 6.1.2: letters, digits, underscores; not first a digit, no two underscores in a row, no keyword.
 */
test.each([
  ['brush_belt_m1', 'brush_belt_m1'],
  ['Pumpe 1', 'Pumpe_1'],
  ['1st', 'n_1st'],
  ['a__b', 'a_b'],
  ['trailing_', 'trailing'],
  ['while', 'while_1'],
  ['Käse', 'Kaese'],
  ['№', 'No'],
  ['вентилятор', 'n_'],
  ['___', 'n_'],
])('%s becomes %s', (name, identifier) => {
  expect(identifierOf(name).replace(/_$/, '')).toBe(identifier.replace(/_$/, ''));
  expect(identifierOf(name)).toMatch(/^[A-Za-z_](?:_?[A-Za-z0-9])*$/);
});

test('identifiers that differ in capitals only are the same', () => {
  expect(uniqueIdentifiers(['Speed', 'speed', 'speed_2'])).toEqual(['Speed', 'speed_2', 'speed_2_2']);
});
