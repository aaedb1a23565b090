import { expect, test } from 'vitest';
import { compareImages } from '../layout/compare.js';
import { applyEdit } from './edits/edit.js';
import { copiesOf, type CopyPlan } from './copies.js';
import { countUp, patterned } from '../entries/countUp.js';
import { Field } from '../layout/field.js';
import { testCell, testDevice, withFields } from './testCell.js';

const plan = (part: Partial<CopyPlan> = {}): CopyPlan => ({
  count: 1,
  namePattern: '',
  designationPattern: '',
  first: 2,
  addressStep: 1,
  ...part,
});
const ids = () => {
  let n = 0;
  return () => `new${(n += 1)}`;
};

test.each([
  ['pump_m1', 1, 'pump_m2'],
  ['pump_m9', 1, 'pump_m10'],
  ['ch_09', 2, 'ch_11'],
  ['=A1-M1', 3, '=A1-M4'],
  ['pump', 1, 'pump_2'],
  ['v1_open', 1, 'v2_open'],
])('%s + %i is %s', (name, by, next) => expect(countUp(name, by)).toBe(next));

test('a pattern says where the number goes', () => {
  expect(patterned('x', 'brine_pump_m##', 1, 5)).toBe('brine_pump_m05');
  expect(patterned('x1', '', 2, 5)).toBe('x3');
});

test('copies count name, designation and address up, lie behind all images, and can be added', () => {
  const fields = [
    Field.parse({ id: 's', name: 'minus', type: 'BOOL', at: 16, bits: 1 }),
    Field.parse({
      ...{ id: 'w', name: 'w', type: 'UINT', at: 0, bits: 16 },
      sign: { way: 'bit', field: 's', bit: 0, inverted: false },
    }),
  ];
  const cell = withFields(fields);
  const original = cell.devices[0]!;
  const { devices, collisions } = copiesOf(cell, original, plan({ count: 3 }), ids());
  expect(collisions).toEqual([]);
  expect(devices.map((d) => [d.name, d.designation, d.address])).toEqual([
    ['pump_m2', '=A1-M2', '192.168.40.22'],
    ['pump_m3', '=A1-M3', '192.168.40.23'],
    ['pump_m4', '=A1-M4', '192.168.40.24'],
  ]);
  expect(devices.map((d) => d.links[0]!.feedback.start)).toEqual([12, 24, 36]);
  const copy = devices[0]!.links[0]!.feedback;
  expect(compareImages(original.links[0]!.feedback, copy).every((d) => d.kind === 'same')).toBe(true);
  expect(copy.fields[1]!.sign).toMatchObject({ field: copy.fields[0]!.id });
  expect(applyEdit(cell, { edit: 'device.copy', devices }).devices).toHaveLength(4);
});

test('collisions are named before anything is written', () => {
  const second = testDevice({
    id: 'd2',
    name: 'PUMP_m2',
    designation: '=A1-M7',
    address: '192.168.40.22',
    links: [],
  });
  const cell = testCell([testDevice(), second]);
  const { collisions } = copiesOf(cell, cell.devices[0]!, plan(), ids());
  expect(collisions.map((c) => [c.what, c.value, c.with])).toEqual([
    ['name', 'pump_m2', 'PUMP_m2'],
    ['address', '192.168.40.22', 'PUMP_m2'],
  ]);
  const far = copiesOf(cell, cell.devices[0]!, plan({ addressStep: 256 }), ids());
  expect(far.collisions.map((c) => c.what)).toContain('subnet');
  const same = copiesOf(
    cell,
    cell.devices[0]!,
    plan({ count: 2, addressStep: 0, namePattern: 'x_#' }),
    ids(),
  );
  expect(same.collisions.map((c) => c.what)).toContain('address');
});
