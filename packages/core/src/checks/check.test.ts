import { describe, expect, test } from 'vitest';
import { applyEdit, readEdit } from '../cell/edits/edit.js';
import { Field } from '../layout/field.js';
import { demoDescription, testCell, testDevice, withFields } from '../cell/testCell.js';
import { check } from './check.js';
import { sizeReading } from '../protocols/sizeReading.js';

const field = (id: string, at: number, bits = 16) =>
  Field.parse({ id, name: id, type: bits === 16 ? 'UINT' : 'BITS', at, bits });
const codes = (cell: Parameters<typeof check>[0]) => check(cell).map((f) => f.code);

/** The climate module's own assemblies: 8 bytes of command (instance 120), 12 of feedback (instance 110). */
const climate = (commandSize: number, feedbackSize: number, instance = 120) => {
  const device = testDevice({ description: demoDescription('climate_io_u1'), kind: 'process I/O' });
  const link = structuredClone(device.links[0]!);
  Object.assign(link.command, { size: commandSize, instance });
  link.feedback.size = feedbackSize;
  return testCell([{ ...device, links: [link] }]);
};

describe('findings', () => {
  test('a cell in order has none', () => expect(check(testCell())).toEqual([]));

  test('overlap names both fields and the bits', () => {
    const [finding] = check(withFields([field('a', 0), field('b', 12, 8)]));
    expect(finding).toMatchObject({
      code: 'field.overlap',
      severity: 'error',
      place: { image: 'i2', field: 'b' },
    });
    expect(finding?.facts).toMatchObject({ first: 'a', second: 'b', fromBit: 12, toBit: 15 });
  });

  test('a field past the end, at its last byte', () => {
    const [finding] = check(withFields([field('a', 80)], { size: 10 }));
    expect(finding).toMatchObject({ code: 'field.pastEnd', facts: { endsAtByte: 11, size: 10 } });
    expect(codes(withFields([field('a', 64)], { size: 10 }))).toEqual([]);
  });

  test('a name twice in one image, whatever its capitals', () => {
    const twice = [field('a', 0), { ...field('b', 16), name: 'A' }];
    expect(codes(withFields(twice))).toEqual(['field.nameTwice']);
  });

  test.each([
    [8, 11, []],
    [16, 11, ['image.notWholeElements']],
    [16, 10, []],
    [32, 10, ['image.notWholeElements']],
    [32, 12, []],
  ] as const)('%i-bit elements and %i bytes', (elementBits, size, expected) => {
    const cell = withFields([], { size });
    expect(codes({ ...cell, controller: { ...cell.controller, elementBits } })).toEqual(expected);
  });

  test('names and addresses used twice, also by the controller', () => {
    expect(codes(testCell([testDevice({ name: 'PLC_c1', address: '192.168.40.1' })]))).toEqual([
      'device.nameTwice',
      'address.twice',
      'device.nameSaysNothing',
    ]);
  });

  test.each([
    ['192.168.41.21', '192.168.40.0/24', ['address.outsideSubnet']],
    ['192.168.41.21', '192.168.40.0/23', []],
    ['192.168.40.255', '192.168.40.0/24', ['address.reserved']],
    ['192.168.40.0', '192.168.40.0/24', ['address.reserved']],
    ['192.168.40.255', '192.168.40.0/23', []],
  ])('%s in %s (prefixes of RFC 4632)', (address, subnet, expected) => {
    const cell = testCell([testDevice({ address })]);
    expect(codes({ ...cell, network: { ...cell.network, subnet } })).toEqual(expected);
  });

  test('two images in one byte of the controller’s area', () => {
    const second = testDevice({ id: 'd2', name: 'pump_m2', address: '192.168.40.22' });
    const link = structuredClone(second.links[0]!);
    link.id = 'l2';
    Object.assign(link.command, { id: 'i3', start: 7 });
    Object.assign(link.feedback, { id: 'i4', start: 12 });
    expect(
      check(testCell([testDevice(), { ...second, links: [link] }])).map((f) => [f.code, f.facts]),
    ).toEqual([
      [
        'image.areaOverlap',
        { first: 'pump_m1 command', second: 'pump_m2 command', direction: 'output', byte: 7 },
      ],
    ]);
  });

  test('a name that code cannot use, and a safety device on a standard protocol, are notices', () => {
    expect(
      check(testCell([testDevice({ name: 'Pumpe 1', kind: 'safety controller' })])).map((f) => [
        f.code,
        f.severity,
      ]),
    ).toEqual([
      ['device.nameNoIdentifier', 'notice'],
      ['safety.statusOnly', 'notice'],
    ]);
  });
});

test.each([
  ['Drive1', true],
  ['servo_axis_2', true],
  ['part_x1', true],
  ['m12', true],
  ['rack_lift_a1', false],
  ['brine_pump_m2', false],
  ['Förderband', false],
])('the name %s says nothing: %s', (name, expected) => {
  const codes = check(testCell([testDevice({ name })])).map((f) => f.code);
  expect(codes.includes('device.nameSaysNothing')).toBe(expected);
});

describe('a size in the wrong unit', () => {
  test.each([
    [4, 8, 2, '4 is the number of 16-bit elements'],
    [16, 8, 2, '8 bytes were taken for 16-bit elements'],
    [3, 12, 4, '3 is the number of 32-bit elements'],
    [48, 12, 4, '12 bytes were taken for 32-bit elements'],
  ])('%i planned, %i there: off by %i', (planned, actual, factor, reading) => {
    expect(sizeReading(planned, actual)).toMatchObject({ factor });
    expect(sizeReading(planned, actual)?.reading).toContain(reading);
  });

  test.each([
    [8, 8],
    [7, 8],
    [0, 0],
    [0, 8],
    [8, 0],
  ])('%i planned, %i there: no factor', (planned, actual) =>
    expect(sizeReading(planned, actual)).toBeUndefined(),
  );

  test('is found at the desk, in either direction', () => {
    expect(check(climate(8, 12))).toEqual([]);
    expect(check(climate(4, 12)).map((f) => [f.code, f.place.image])).toEqual([['image.sizeFactor', 'i1']]);
    expect(check(climate(8, 24)).map((f) => [f.code, f.place.image])).toEqual([['image.sizeFactor', 'i2']]);
    expect(check(climate(8, 14)).map((f) => f.code)).toEqual(['image.sizeDiffers']);
    expect(check(climate(8, 12, 121)).map((f) => f.code)).toEqual(['image.instanceUnknown']);
  });
});

test('sizes, areas and names are cured by the click that their findings offer', () => {
  const second = testDevice({ id: 'd2', name: 'pump_m2', address: '192.168.40.22' });
  const link = structuredClone(second.links[0]!);
  link.id = 'l2';
  Object.assign(link.command, { id: 'i3', start: 7 });
  Object.assign(link.feedback, { id: 'i4', start: 12 });
  const named = withFields([field('a', 0), { ...field('b', 16), name: 'A' }]);
  const cells = [
    climate(4, 12),
    climate(8, 14),
    testCell([testDevice(), { ...second, links: [link] }]),
    named,
  ];
  for (const cell of cells) {
    const [found] = check(cell);
    expect(check(applyEdit(cell, readEdit(found!.fix!.edit)))).toEqual([]);
  }
});

test('what is found of an image follows every edit that it hangs on', () => {
  const cell = withFields([field('a', 8)]);
  const straddles = (c: typeof cell) => codes(c).includes('image.straddles');
  expect(straddles(cell)).toBe(true);
  const bytes = applyEdit(cell, { edit: 'controller.set', set: { elementBits: 8 } });
  expect(check(bytes).find((f) => f.code === 'image.straddles')?.facts).toBeUndefined();
  const back = applyEdit(bytes, { edit: 'controller.set', set: { elementBits: 16 } });
  expect(straddles(back)).toBe(true);
  expect(straddles(applyEdit(back, { edit: 'field.set', image: 'i2', field: 'a', set: { at: 16 } }))).toBe(
    false,
  );
  const renamed = applyEdit(back, { edit: 'device.set', device: 'd1', set: { name: 'fan_m1' } });
  expect(check(renamed).find((f) => f.code === 'image.straddles')?.says).toContain('fan_m1');
});
