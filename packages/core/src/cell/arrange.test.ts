import fc from 'fast-check';
import { expect, test } from 'vitest';
import { applyEdit, type Edit } from './edits/edit.js';
import { Field } from '../layout/field.js';
import { withFields } from './testCell.js';
import {
  alignFields,
  duplicateFields,
  insertField,
  moveFields,
  packFields,
  reserveGap,
  resizeField,
} from './arrange.js';
import { codecOf } from '../layout/codec.js';
import { overlapsIn } from '../layout/placement.js';
import { signalsOf } from '../layout/signals.js';

const field = (name: string, type: Field['type'], at: number, bits: number) =>
  Field.parse({ id: name, name, type, at, bits });
const layout = () => [
  field('a', 'BOOL', 0, 1),
  field('b', 'UINT', 16, 16),
  field('c', 'BITS', 33, 3),
  field('d', 'REAL', 64, 32),
];
let ids = 0;
const newId = () => `n${(ids += 1)}`;

/** The feedback image after an edit, as name → first bit. */
function after(fields: Field[], make: (image: ReturnType<typeof imageOf>) => Edit, size = 40) {
  const cell = withFields(fields, { size });
  return imageOf(applyEdit(cell, make(imageOf(cell))));
}
const imageOf = (cell: ReturnType<typeof withFields>) => cell.devices[0]!.links[0]!.feedback;
const places = (image: ReturnType<typeof imageOf>) =>
  Object.fromEntries(image.fields.map((f) => [f.name, f.at]));

test('insert pushes what begins there or behind, in whole bytes', () => {
  const added = field('x', 'BITS', 16, 3);
  expect(places(after(layout(), (i) => insertField(i, added, true)))).toEqual({
    a: 0,
    x: 16,
    b: 24,
    c: 41,
    d: 72,
  });
  expect(places(after(layout(), (i) => insertField(i, added, false)))).toEqual({
    a: 0,
    x: 16,
    b: 16,
    c: 33,
    d: 64,
  });
});

test('move with and without pushing', () => {
  expect(places(after(layout(), (i) => moveFields(i, ['b'], 8, true)))).toEqual({
    a: 0,
    b: 24,
    c: 41,
    d: 72,
  });
  expect(places(after(layout(), (i) => moveFields(i, ['b', 'd'], 16, false)))).toEqual({
    a: 0,
    b: 32,
    c: 33,
    d: 80,
  });
});

test('resize changes the type with the length, and pushes', () => {
  const image = after(layout(), (i) => resizeField(i, i.fields[1]!, 32, true));
  expect(places(image)).toEqual({ a: 0, b: 16, c: 49, d: 80 });
  expect(image.fields.find((f) => f.name === 'b')).toMatchObject({ type: 'UDINT', bits: 32 });
});

test('duplicate counts names up, by themselves or by a pattern', () => {
  const channel = [field('level_1', 'UINT', 0, 16), field('ok_1', 'BOOL', 16, 1)];
  const image = after(channel, (i) => duplicateFields(i, ['level_1', 'ok_1'], 3, '', newId));
  expect(places(image)).toMatchObject({ level_2: 24, ok_2: 40, level_4: 72, ok_4: 88 });
  const named = after([field('level', 'UINT', 0, 16)], (i) =>
    duplicateFields(i, ['level'], 2, 'level_##', newId),
  );
  expect(places(named)).toEqual({ level: 0, level_02: 16, level_03: 32 });
  const crowded = [field('v1', 'BOOL', 0, 1), field('v2', 'BOOL', 9, 1)];
  expect(Object.keys(places(after(crowded, (i) => duplicateFields(i, ['v1'], 1, '', newId))))).toEqual([
    'v1',
    'v2',
    'v3',
  ]);
});

test('pack, align, reserve', () => {
  expect(places(after(layout(), packFields))).toEqual({ a: 0, b: 8, c: 24, d: 32 });
  expect(places(after(layout(), (i) => alignFields(i, 32)))).toEqual({ a: 0, b: 16, c: 40, d: 64 });
  expect(places(after(layout(), (i) => reserveGap(i, 16, 16)))).toEqual({ a: 0, b: 32, c: 49, d: 80 });
});

test('a repeated field takes all its room', () => {
  const array = Field.parse({ ...field('v', 'UINT', 8, 16), array: { count: 3, stride: 32 } });
  expect(places(after([array, field('w', 'UINT', 200, 16)], packFields))).toEqual({ v: 0, w: 80 });
});

test('whatever is done to a layout, its values can still be written and read, and nothing overlaps that did not', () => {
  const layouts = fc.array(
    fc.tuple(
      fc.constantFrom<[Field['type'], number]>(
        ['BOOL', 1],
        ['UINT', 16],
        ['BITS', 5],
        ['DINT', 32],
        ['REAL', 32],
      ),
      fc.integer({ min: 0, max: 12 }),
    ),
    { minLength: 2, maxLength: 9 },
  );
  const operations = fc.constantFrom<(i: ReturnType<typeof imageOf>) => Edit>(
    packFields,
    (i) => alignFields(i, 16),
    (i) => reserveGap(i, i.fields[1]!.at, 8),
    (i) => moveFields(i, [i.fields[0]!.id], 8, true),
    (i) => insertField(i, field('extra', 'UINT', i.fields.at(-1)!.at, 16), true),
    (i) => duplicateFields(i, [i.fields.at(-1)!.id], 1, '', newId),
    (i) => ({ edit: 'image.set', image: i.id, set: { order: 'big' } }),
    (i) => ({ edit: 'image.set', image: i.id, set: { swapped: true } }),
  );
  fc.assert(
    fc.property(layouts, operations, (parts, operation) => {
      let at = 0;
      const fields = parts.map(([[type, bits], gap], n) => {
        at = type === 'BOOL' || type === 'BITS' ? at + gap : Math.ceil((at + gap) / 8) * 8;
        const made = field(`f${n}`, type, at, bits);
        at += bits;
        return made;
      });
      const image = after(fields, operation, 200);
      if (image.order !== 'big') expect(overlapsIn(signalsOf(image))).toEqual([]);
      const codec = codecOf(image);
      const view = new DataView(new ArrayBuffer(200));
      const values = codec.signals.map((s, i) =>
        s.bits === 1 ? i % 2 === 0 : s.type === 'REAL' ? 0.5 * i : (i * 7) % 32,
      );
      if (overlapsIn(codec.signals).length > 0) return;
      values.forEach((value, i) => codec.setValue(i, value));
      codec.encode(view);
      codec.decode(view);
      expect(codec.signals.map((_, i) => codec.valueAt(i))).toEqual(values);
    }),
    { numRuns: 400 },
  );
});
