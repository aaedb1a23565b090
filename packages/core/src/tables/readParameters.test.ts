import fc from 'fast-check';
import { readFileSync } from 'node:fs';
import { describe, expect, test } from 'vitest';
import { access, Parameter } from '../devices/parameter.js';

import { tableCsv } from './csv.js';
import { tableCells } from './guessReading.js';
import { placeText, readPlace } from './parameterPlace.js';
import { parameterTable } from './parameterTable.js';
import { guessParameters, readParameters, type ParameterReading } from './readParameters.js';

const read = (text: string, change: Partial<ParameterReading> = {}) => {
  const rows = tableCells(text);
  let n = 0;
  return readParameters(rows, { ...guessParameters(rows), ...change }, () => `p${(n += 1)}`);
};
const one = (text: string, change?: Partial<ParameterReading>) => {
  const { parameters, bad } = read(text, change);
  expect([parameters.length, bad]).toEqual([1, []]);
  return parameters[0]!;
};

describe('a place as people write it', () => {
  // Common practice, no source.
  test.each([
    ['class 16#64 instance 1 attribute 5', { way: 'attribute', class: 100, instance: 1, attribute: 5 }],
    ['class 0x64, instance 1, attribute 5', { way: 'attribute', class: 100, instance: 1, attribute: 5 }],
    ['Class 100 Instance 1 Attribute 05h', { way: 'attribute', class: 100, instance: 1, attribute: 5 }],
    // The Parameter object and its value (CIP Vol. 1, 5-14).
    ['class 15 instance 7', { way: 'attribute', class: 15, instance: 7, attribute: 1 }],
    ['holding 40', { way: 'register', table: 'holding', start: 40 }],
    ['index 16#60FF', { way: 'index', index: 0x60ff, subindex: 0 }],
    ['index 24 subindex 3', { way: 'index', index: 24, subindex: 3 }],
    ['slot 1 subslot 2 index 100 byte 4', { way: 'record', slot: 1, subslot: 2, index: 100, at: 4 }],
  ] as const)('%s', (text, place) => {
    expect(readPlace(text)).toEqual(place);
    expect(readPlace(placeText(place))).toEqual(place);
  });
  test.each([
    '',
    'class 100',
    'instance',
    'instance 7',
    'class 100 instance 7',
    'instance x',
    'holding 70000',
    'holding 1 instance 2',
    'index 1 index 2',
  ])('"%s" is none', (text) => expect(readPlace(text)).toBeUndefined());
});

describe('tables as manuals have them; common practice, no source', () => {
  test('headings between the rows, ranges with units, references, texts where a value should be', () => {
    const csv = readFileSync(
      new URL('../../../../demo/tables/brine_pump_m2_parameters.csv', import.meta.url),
      'utf8',
    );
    const { parameters, bad } = read(csv);
    expect(bad).toEqual([]);
    expect(
      parameters.map((p) => [p.code, p.group, placeText(p.place), p.type, p.scale?.factor ?? '', p.unit]),
    ).toEqual([
      ['P1', 'Starting', 'holding 100', 'UINT', '1/10', 's'],
      ['P2', 'Starting', 'holding 101', 'UINT', '', '%'],
      ['P3', 'Starting', 'holding 102', 'UINT', '', ''],
      ['P4', 'Stopping', 'holding 103', 'UINT', '1/10', 's'],
      ['P10', 'Motor', 'holding 109', 'UINT', '1/10', 'A'],
      ['P11', 'Motor', 'holding 110', 'UINT', '', ''],
      ['P12', 'Motor', 'holding 111', 'UDINT', '', ''],
      ['P13', 'Motor', 'holding 113', 'INT', '1/10', '°C'],
    ]);
    expect(parameters[0]).toMatchObject({ limits: { minimum: '0.5', maximum: '60.0' }, initial: '10.0' });
    expect(parameters[2]!.labels).toEqual([
      { value: 0, text: 'off' },
      { value: 1, text: 'on' },
    ]);
    expect([parameters[4]!.initial, parameters[6]!.access]).toEqual([null, 'read']);
  });

  test('values as they are written are not the raw numbers; with a factor column they are not touched', () => {
    // "1500 reads 150.0 rpm".
    expect(one('Name\tType\tDefault\nspeed\tINT\t150.0 rpm')).toMatchObject({
      scale: { factor: '1/10', offset: '0' },
      unit: 'rpm',
      initial: '150.0',
    });
    expect(one('Name\tType\tDefault\nspeed\tINT\t150.0 rpm', { pointAsWritten: false }).scale).toBeNull();
    expect(one('Name\tType\tFactor\tDefault\nspeed\tINT\t0.01\t150.0').scale?.factor).toBe('0.01');
    expect(one('Name\tType\tDefault\ngain\tREAL\t1.5').scale).toBeNull();
  });

  test.each([
    ['0 to 65535', 'UINT'],
    ['-1 to 100', 'INT'],
    ['0..100000', 'UDINT'],
    ['-10 - 10', 'INT'],
    ['−10…10', 'INT'],
    ['0 – 5000000000', 'ULINT'],
  ])('without a type, %s is held by %s', (range, type) => {
    expect(one(`Name;Range;Unit\nx;${range};s`).type).toBe(type);
  });

  test('numbers of objects, indexes and lengths in their columns', () => {
    expect(one('Name;Class;Inst;Attr;Type\nx;0x64;1;5;UDINT').place).toEqual(
      readPlace('class 100 instance 1 attribute 5'),
    );
    expect(one('Name;Index;Sub-index;Data type\nx;0x6083;0;U32').place).toEqual(readPlace('index 16#6083'));
    expect(one('Name;PNU;Subindex;Type\nx;840;2;UINT').place).toEqual(readPlace('pnu 840 subindex 2'));
    expect(one('Name;Port;Index;Type\nx;4;100;INT').place).toEqual(readPlace('port 4 index 100 subindex 0'));
    expect(one('Name;Instance;Length (bytes)\nx;4;4', { objectClass: 15 })).toMatchObject({
      ...{ bits: 32, type: 'UDINT' },
      place: { class: 15, instance: 4, attribute: 1 },
    });
    expect(one('Name;Type\nx;STRING[12]')).toMatchObject({ type: 'STRING', bits: 96 });
  });

  test('no class and no attribute is assumed: they are asked about', () => {
    const text = 'Name;Instance\nramp;4';
    expect(read(text).bad[0]?.reason).toBe('the class of instance 4 is not said; choose it above');
    const chosen = { ...guessParameters(tableCells(text)), objectClass: 100 };
    const { bad } = readParameters(tableCells(text), chosen, () => 'p');
    expect(bad[0]?.reason).toBe('the attribute of instance 4 of class 100 is not said; choose it above');
    expect(one(text, { objectClass: 100, attribute: 7 }).place).toEqual(
      readPlace('class 100 instance 4 attribute 7'),
    );
  });

  test('menu and number of a code, as a maker maps them onto one class', () => {
    const text = 'Code;Name\n6.10;ramp';
    const by = { objectClass: 101, instanceOf: 'menu', attributeOf: 'number' };
    expect(one(text, by).place).toEqual(readPlace('class 101 instance 6 attribute 10'));
    // Another maker counts all menus in one row of instances.
    const row = { objectClass: 0x64, instanceOf: 'menu * 100 + number', attribute: 1 };
    expect(one(text, row).place).toEqual(readPlace('class 100 instance 610 attribute 1'));
    const reading = { ...guessParameters(tableCells(text)), ...by, instanceOf: 'menu +' };
    expect(readParameters(tableCells(text), reading, () => 'p').bad).toHaveLength(1);
    const plain = { ...guessParameters(tableCells('Code;Name\nA;x')), ...by };
    expect(readParameters(tableCells('Code;Name\nA;x'), plain, () => 'p').bad[0]?.reason).toContain(
      'formula',
    );
  });

  test('a number that was typed stays as it is; object dictionaries are hex', () => {
    const texts = ['class 100 instance 1 attribute 5', 'index 100 subindex 2', 'index 16#6083 subindex 0'];
    for (const text of texts) expect(placeText(readPlace(text)!)).toBe(text);
  });

  test('group, code and name in one cell, and columns that were not understood', () => {
    const { parameters, bad, unused } = read(
      'Menu/Parameter/Name;Type;Colour;Empty\nMotor / 1-20 / power;UINT;red;\nramp up/down;INT;blue;',
    );
    expect(bad).toEqual([]);
    expect(parameters.map((p) => [p.group, p.code, p.name])).toEqual([
      ['Motor', '1-20', 'power'],
      ['', 'ramp up', 'down'],
    ]);
    expect(unused).toEqual(['Colour']);
  });

  test('rows that cannot be taken say why, and the others are taken', () => {
    const { parameters, bad } = read(
      'Name;Register;Type;Access;Min\na;1;UINT;rw;0\n;2;UINT;rw;0\nc;x1y;UINT;rw;0\nd;4;HUGE;rw;0\ne;5;UINT;maybe;0\nf;6;UINT;r;much',
    );
    expect(parameters.map((p) => p.name)).toEqual(['a']);
    expect(bad.map((b) => [b.row, b.reason])).toEqual([
      [3, 'it has no name'],
      [4, '"x1y" is no register'],
      [5, '"HUGE" is no known type'],
      [6, '"maybe" is no access: read-write, read or write'],
      [7, '"much" is no limit'],
    ]);
  });

  test('without headings the texts tell what a column is', () => {
    const rows = tableCells(
      'P1\tRamp up\t0.5 to 60.0 s\t10.0\tUINT\tof the motor\nP2\tRamp down\t0.5 to 60.0 s\t5.0\tUINT\tand back',
    );
    expect(guessParameters(rows)).toMatchObject({
      headed: false,
      columns: ['code', 'name', 'range', 'initial', 'type', 'note'],
    });
  });
});

const ratio = fc
  .tuple(fc.integer({ min: -30000, max: 30000 }), fc.constantFrom('', '.5', '/3'))
  .map(([n, tail]) => `${n}${tail}`);
const word = fc.stringMatching(/^[A-Za-zäöü][A-Za-z0-9()-]{0,5}( [A-Za-z0-9()-]{1,5})?[a-z0-9]$/);
const parameter = fc
  .record({
    code: fc.oneof(fc.constant(''), word),
    name: word,
    group: fc.oneof(fc.constant(''), word),
    place: fc.constantFrom(
      null,
      ...[
        'class 100 instance 1 attribute 5',
        'input 9',
        'index 24 subindex 3',
        'slot 1 subslot 1 index 2 byte 4',
      ].map((t) => readPlace(t)!),
    ),
    size: fc.constantFrom(
      ...([
        ['UINT', 16],
        ['REAL', 32],
        ['STRING', 80],
        ['BITS', 5],
        ['BOOL', 1],
        ['BYTES', 24],
      ] as const),
    ),
    order: fc.constantFrom(null, 'big' as const, 'bigSwapped' as const),
    access: fc.constantFrom(...access),
    scale: fc.option(fc.record({ factor: fc.constantFrom('1/10', '-2', '0.25'), offset: ratio })),
    unit: fc.constantFrom('', 's', '°C', 'm/s'),
    limits: fc.option(fc.record({ minimum: ratio, maximum: fc.option(ratio) })),
    initial: fc.option(ratio),
    labels: fc.uniqueArray(fc.record({ value: fc.integer({ min: -9, max: 99 }), text: word }), {
      maxLength: 3,
      selector: (l) => l.value,
    }),
    note: fc.oneof(fc.constant(''), word),
    role: fc.constantFrom(
      null,
      { is: 'acceleration' as const },
      { is: 'analogue input' as const, number: 2 },
    ),
    key: fc.constantFrom(null, { code: 'P2', raw: '19269' }),
  })
  .map(({ size: [type, bits], ...rest }, i = 0) => ({ id: `p${i}`, type, bits, ...rest }));

test('parameters leave as CSV and come back as they were', () => {
  fc.assert(
    fc.property(fc.array(parameter, { minLength: 1, maxLength: 6 }), (list) => {
      const parameters = list.map((p, i) => Parameter.parse({ ...p, id: `p${i + 1}` }));
      expect(read(tableCsv(parameterTable(parameters)))).toEqual({ parameters, bad: [], unused: [] });
    }),
    { numRuns: 100, seed: 8 },
  );
});
