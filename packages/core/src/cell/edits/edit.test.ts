import { describe, expect, test } from 'vitest';
import { applyEdit, editTitle, type Edit } from './edit.js';
import { Field } from '../../layout/field.js';
import { checkedAfter } from '../model.js';
import { testCell, testDevice, withFields } from '../testCell.js';

const field = (id: string, at: number, bits = 16) =>
  Field.parse({ id, name: id, type: bits === 16 ? 'UINT' : 'BITS', at, bits });
const feedbackOf = (cell: ReturnType<typeof testCell>) => cell.devices[0]!.links[0]!.feedback;

describe('edits', () => {
  test('leave the cell that they were made on as it was', () => {
    const before = withFields([field('a', 0)]);
    const copy = structuredClone(before);
    const after = applyEdit(before, { edit: 'field.set', image: 'i2', field: 'a', set: { at: 32 } });
    expect(feedbackOf(after).fields[0]?.at).toBe(32);
    expect(before).toEqual(copy);
  });

  test('every kind of edit does what it says', () => {
    let cell = testCell();
    const edits: Edit[] = [
      { edit: 'cell.set', set: { name: 'Store' } },
      { edit: 'controller.set', set: { elementBits: 32 } },
      { edit: 'network.set', set: { gateway: '192.168.40.254' } },
      { edit: 'device.add', device: { ...testDevice({ id: 'd2', name: 'pump_m2' }), links: [] } },
      { edit: 'device.set', device: 'd2', set: { address: '192.168.40.22' } },
      { edit: 'link.set', link: 'l1', set: { feedbackRpi: 50_000 } },
      { edit: 'image.set', image: 'i2', set: { size: 16 } },
      { edit: 'field.add', image: 'i2', field: field('a', 112) },
    ];
    for (const edit of edits) cell = applyEdit(cell, edit);
    expect(cell).toMatchObject({
      name: 'Store',
      controller: { elementBits: 32 },
      network: { gateway: '192.168.40.254' },
    });
    expect(cell.devices[1]).toMatchObject({ name: 'pump_m2', address: '192.168.40.22' });
    expect(cell.devices[0]!.links[0]).toMatchObject({
      feedbackRpi: 50_000,
      feedback: { size: 16, fields: [{ at: 112 }] },
    });
    cell = applyEdit(cell, { edit: 'field.remove', image: 'i2', field: 'a' });
    cell = applyEdit(cell, { edit: 'device.remove', device: 'd2' });
    expect(feedbackOf(cell).fields).toEqual([]);
    expect(cell.devices).toHaveLength(1);
  });

  test('a cell moves to another subnet with every host number kept, what stands elsewhere stays', () => {
    const cell = testCell([
      testDevice(),
      testDevice({ id: 'd9', name: 'far', address: '10.1.0.9', links: [] }),
    ]);
    const ranges = [{ id: 'r1', first: '192.168.40.30', last: '192.168.40.39', kind: null, title: '' }];
    const planned = applyEdit(cell, {
      ...{ edit: 'network.set', set: { gateway: '192.168.40.254', ranges, further: ['10.1.0.0/24'] } },
    });
    const moved = applyEdit(planned, { edit: 'network.move', subnet: '172.16.8.0/22' });
    expect(moved.controller.address).toBe(cell.controller.address.replace('192.168.40', '172.16.8'));
    expect(moved.network).toMatchObject({
      ...{ subnet: '172.16.8.0/22', gateway: '172.16.8.254', further: ['10.1.0.0/24'] },
      ranges: [{ first: '172.16.8.30', last: '172.16.8.39' }],
    });
    expect(moved.devices.map((d) => d.address)).toEqual(['172.16.8.21', '10.1.0.9']);
    expect(() => applyEdit(planned, { edit: 'network.move', subnet: '172.16.8.0/28' })).toThrow(
      expect.objectContaining({ code: 'network.tooSmall' }) as Error,
    );
  });

  test.each<[string, Edit, string]>([
    ['a field past the end', { edit: 'field.add', image: 'i2', field: field('x', 88) }, 'edit.fieldPastEnd'],
    [
      'a field moved past the end',
      { edit: 'field.set', image: 'i2', field: 'a', set: { at: 96 } },
      'edit.fieldPastEnd',
    ],
    [
      'a bit before the beginning',
      { edit: 'field.set', image: 'i2', field: 'a', set: { at: -1 } },
      'input.invalid',
    ],
    ['a negative size', { edit: 'image.set', image: 'i2', set: { size: -1 } }, 'input.invalid'],
    ['not a number', { edit: 'image.set', image: 'i2', set: { size: NaN } }, 'input.invalid'],
    [
      'a length that the type does not have',
      { edit: 'field.set', image: 'i2', field: 'a', set: { bits: 12 } },
      'input.invalid',
    ],
    [
      'an unknown key',
      { edit: 'field.set', image: 'i2', field: 'a', set: { colour: 'red' } as object },
      'input.invalid',
    ],
    ['an unknown field', { edit: 'field.remove', image: 'i2', field: 'zz' }, 'edit.unknown'],
    ['an unknown image', { edit: 'image.set', image: 'zz', set: { size: 1 } }, 'edit.unknown'],
    ['an unknown device', { edit: 'device.remove', device: 'zz' }, 'edit.unknown'],
    ['an id that is taken', { edit: 'device.add', device: testDevice() }, 'edit.idTaken'],
    ['a field id that is taken', { edit: 'field.add', image: 'i2', field: field('a', 32) }, 'input.invalid'],
    [
      'a rational with denominator 0',
      {
        edit: 'field.set',
        image: 'i2',
        field: 'a',
        set: { scale: { factor: '1/0', offset: '0' } },
      },
      'input.invalid',
    ],
  ])('%s is refused', (_says, edit, code) => {
    expect(() => applyEdit(withFields([field('a', 0)]), edit)).toThrow(
      expect.objectContaining({ code }) as Error,
    );
  });

  test('an image made smaller keeps its fields; the checks point at them', () => {
    const cell = applyEdit(withFields([field('a', 80)]), {
      edit: 'image.set',
      image: 'i2',
      set: { size: 4 },
    });
    expect(feedbackOf(cell).fields).toHaveLength(1);
  });

  test('a set changes nothing that it does not name', () => {
    const cell = applyEdit(withFields([field('a', 0)]), {
      edit: 'device.set',
      device: 'd1',
      set: { name: 'other' },
    });
    expect(cell.devices[0]).toEqual({ ...withFields([field('a', 0)]).devices[0], name: 'other' });
  });

  test('what an edit makes is refused where it takes the id of another part, also of a device that did not change', () => {
    const other = testDevice({ id: 'd2', name: 'pump_m2', address: '192.168.40.22' });
    const cell = testCell([testDevice(), { ...other, links: [] }]);
    const [first, second] = cell.devices;
    const doubled = [first, { ...second!, id: first!.id }];
    expect(() => checkedAfter(cell, { ...cell, devices: doubled })).toThrow(/id d1 a second time/);
    const taken = [
      { ...first!, name: 'x' },
      { ...second!, links: first!.links },
    ];
    expect(() => checkedAfter(cell, { ...cell, devices: taken })).toThrow(/a second time/);
    const twin = [first, { ...second!, name: 'y' }, { ...second!, name: 'z' }];
    expect(() => checkedAfter(cell, { ...cell, devices: twin })).toThrow(/id d2 a second time/);
  });

  test('titles say what undo would take back', () => {
    const cell = withFields([field('a', 0)]);
    expect(editTitle(cell, { edit: 'field.set', image: 'i2', field: 'a', set: { at: 16 } })).toBe('place a');
    expect(editTitle(cell, { edit: 'device.remove', device: 'd1' })).toBe('remove pump_m1');
  });
});
