import { describe, expect, test } from 'vitest';
import { Parameter } from '../../devices/parameter.js';
import { testDevice } from '../../cell/testCell.js';
import { placeText, readPlace } from '../../tables/parameterPlace.js';
import { describerOf } from './edsOfDevice.js';
import { readEds } from './readEds.js';
import { writeEds } from './writeEds.js';
import { parametersOf } from './edsParameters.js';

const again = (parameters: Parameter[]) => {
  const { describer, defects } = readEds(writeEds(describerOf(testDevice({}, { parameters }))));
  expect(defects).toEqual([]);
  let n = 0;
  return parametersOf(describer, () => `p${(n += 1)}`);
};
const parameter = (part: object): Parameter =>
  Parameter.parse({
    ...{ id: 'p1', code: '1', name: 'Ramp', type: 'UINT', bits: 16, place: readPlace('class 15 instance 1') },
    ...part,
  });

describe('parameters entered by hand leave as a data sheet and come back', () => {
  test.each([
    ['a plain one', {}],
    [
      'scaled, with limits and an initial value',
      {
        scale: { factor: '1/10', offset: '0' },
        limits: { minimum: '0.5', maximum: '60' },
        initial: '10',
        unit: 's',
      },
    ],
    [
      'a factor below 0 turns the ends round',
      {
        scale: { factor: '-2', offset: '0' },
        limits: { minimum: '-20', maximum: '10' },
      },
    ],
    [
      'an offset',
      { scale: { factor: '1/2', offset: '-40' }, limits: { minimum: '-40', maximum: '60' }, unit: '°C' },
    ],
    [
      'read only, with texts',
      {
        access: 'read',
        labels: [
          { value: 0, text: 'off' },
          { value: 1, text: 'on, at "once"' },
        ],
      },
    ],
    ['floating', { type: 'REAL', bits: 32, initial: '1.5' }],
    ['raw bytes', { type: 'BYTES', bits: 48 }],
    ['under a heading', { group: 'Motor', note: 'Page 12' }],
    ['an attribute of another object', { place: readPlace('class 100 instance 1 attribute 5') }],
  ] as const)('%s', (_says, part) => expect(again([parameter(part)])).toEqual([parameter(part)]));

  test('the number of an instance is that of the parameter; others take the free ones', () => {
    const list = [
      parameter({ place: readPlace('class 100 instance 1 attribute 5') }),
      parameter({ id: 'p2', place: readPlace('class 15 instance 1') }),
      parameter({ id: 'p3', place: readPlace('class 15 instance 3') }),
    ];
    expect(again(list).map((p) => [p.code, placeText(p.place)])).toEqual([
      ['1', 'class 15 instance 1 attribute 1'],
      ['2', 'class 100 instance 1 attribute 5'],
      ['3', 'class 15 instance 3 attribute 1'],
    ]);
  });

  test('what CIP cannot reach is left to the describer of our own', () => {
    expect(
      again([parameter({ place: readPlace('holding 4') }), parameter({ id: 'p2', place: null })]),
    ).toEqual([]);
  });
});
