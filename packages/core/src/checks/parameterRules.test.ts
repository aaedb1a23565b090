import { describe, expect, test } from 'vitest';
import { Field } from '../layout/field.js';
import type { Link } from '../cell/link.js';
import { Parameter } from '../devices/parameter.js';
import { testCell, testDevice, testLink } from '../cell/testCell.js';
import { readPlace } from '../tables/parameterPlace.js';
import { check } from './check.js';

const parameter = (part: object): Parameter =>
  Parameter.parse({ id: 'p1', name: 'ramp', type: 'UINT', bits: 16, ...part });
const cellWith = (parameters: Parameter[], link: Link = testLink('ethernet-ip')) =>
  testCell([testDevice({ links: [link] }, { parameters })]);
const codes = (...of: Parameters<typeof cellWith>) =>
  check(cellWith(...of))
    .filter((f) => /parameter/i.test(f.code))
    .map((f) => f.code);
const tenths = { factor: '1/10', offset: '0' };
const limits = (minimum: string | null, maximum: string | null) => ({ limits: { minimum, maximum } });

test.each<[string, object, string[]]>([
  ['nothing said', {}, []],
  ['within the limits', { ...limits('0', '650'), initial: '650' }, []],
  ['above the greatest', { ...limits('0', '650'), initial: '651' }, ['parameter.value']],
  ['below the least', { ...limits('1', null), initial: '0' }, ['parameter.value']],
  ['ends turned round', limits('10', '9'), ['parameter.value']],
  ['the last that 16 bits hold', limits('0', '65535'), []],
  ['one more', limits('0', '65536'), ['parameter.value']],
  ['a tenth of it with a factor', { ...limits('0', '6553.5'), scale: tenths }, []],
  ['a hundredth of it with that factor', { ...limits('0', '6.55'), scale: tenths }, ['parameter.value']],
  ['a decimal without a factor', { initial: '1.5' }, ['parameter.value']],
  ['the same of a REAL', { initial: '1.5', type: 'REAL', bits: 32 }, []],
  ['below 0 without a sign', limits('-1', '1'), ['parameter.value']],
  ['with one', { ...limits('-1', '1'), type: 'INT' }, []],
])('a value: %s', (_says, part, expected) => expect(codes([parameter(part)])).toEqual(expected));

describe('places', () => {
  const at = (id: string, text: string) => parameter({ id, name: id, place: readPlace(text) });

  test('two at one place, and the nearest that are not', () => {
    const [a, b] = ['class 100 instance 1 attribute 5', 'class 100 instance 1 attribute 6'];
    expect(codes([at('p1', a), at('p2', b)])).toEqual([]);
    expect(codes([at('p1', a), at('p2', a)])).toEqual(['parameter.placeTwice']);
    expect(codes([parameter({}), parameter({ id: 'p2' })])).toEqual([]);
  });

  test.each<[string, Link['protocol'], string[]]>([
    ['class 15 instance 4', 'ethernet-ip', []],
    ['holding 4', 'ethernet-ip', ['parameter.placeUnreached']],
    ['holding 4', 'modbus-tcp', []],
    ['slot 1 index 4', 'profinet', []],
    ['class 15 instance 4', 'profinet', ['parameter.placeUnreached']],
    ['index 16#6083', 'ethernet-ip', []],
  ])('%s over %s', (place, protocol, expected) =>
    expect(codes([at('p1', place)], testLink(protocol))).toEqual(expected),
  );
});

test('a decimal point said by a parameter that is not there', () => {
  const field = Field.parse({
    ...{ id: 'f', name: 'weight', type: 'UINT', at: 0, bits: 16 },
    decimals: { way: 'parameter', parameter: 'P12', places: 1 },
  });
  const { feedback } = testDevice().links[0]!;
  const link = testLink('ethernet-ip', { feedback: { ...feedback, fields: [field] } });
  expect(codes([parameter({ code: 'p12' })], link)).toEqual([]);
  expect(codes([parameter({ code: 'P13' })], link)).toEqual(['field.parameterUnknown']);
  // Of a device whose parameters nobody has entered nothing can be said.
  expect(codes([], link)).toEqual([]);
});
