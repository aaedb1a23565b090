import { describe, expect, test } from 'vitest';
import { applyEdit, readEdit } from '../cell/edits/edit.js';
import { Field } from '../layout/field.js';
import { Derived, type FeedbackImage } from '../layout/image.js';
import type { Cell, Device } from '../cell/model.js';
import { withFields } from '../cell/testCell.js';
import { check } from './check.js';

type Part = Partial<Field> & Pick<Field, 'type' | 'at' | 'bits'>;
const field = (name: string, part: Part) => Field.parse({ id: name, name, ...part });
const word = (name: string, at: number, part: Partial<Field> = {}) =>
  field(name, { type: 'UINT', at, bits: 16, ...part });

/** A cell with these fields in its feedback (or command) image; image and device entries where given. */
function cellOf(
  fields: Field[],
  {
    size = 40,
    direction = 'feedback' as 'command' | 'feedback',
    image = {} as Partial<FeedbackImage>,
    device = {} as Partial<Device>,
  } = {},
): Cell {
  const cell = withFields(fields, { direction, size });
  return {
    ...cell,
    devices: cell.devices.map((d) => ({
      ...d,
      ...device,
      links: d.links.map((l) => ({ ...l, [direction]: { ...l[direction], ...image } })),
    })),
  };
}
const codes = (cell: Cell) => check(cell).map((f) => f.code);

/** Each rule with a layout that it must find, and the nearest one that it must not. */
const cases: [string, string, Cell, Cell][] = [
  [
    'a value across two elements',
    'image.straddles',
    cellOf([word('a', 8)]),
    cellOf([word('a', 16), field('wide', { type: 'UDINT', at: 40, bits: 32 })]),
  ],
  [
    'odd byte under a word swap',
    'field.oddUnderSwap',
    cellOf([field('a', { type: 'UDINT', at: 24, bits: 32 })], { image: { swapped: true } }),
    cellOf(
      [field('a', { type: 'UDINT', at: 32, bits: 32 }), field('b', { type: 'USINT', at: 24, bits: 8 })],
      { image: { swapped: true } },
    ),
  ],
  [
    'halves apart',
    'field.halvesApart',
    cellOf([word('mass_low', 0), word('mass_high', 32)]),
    cellOf([word('mass_low', 0), word('mass_high', 16), word('flow', 48)]),
  ],
  [
    'order not stated',
    'image.orderNotStated',
    cellOf([word('a', 0)], { device: { orderSelectable: true } }),
    cellOf([word('a', 0)], { device: { orderSelectable: true }, image: { order: 'big' } }),
  ],
  [
    'sign from a field that is gone',
    'field.signNowhere',
    cellOf([word('a', 0, { sign: { way: 'bit', field: 'x', bit: 0, inverted: false } })]),
    cellOf([word('a', 0, { sign: { way: 'bit', field: 'b', bit: 3, inverted: false } }), word('b', 16)]),
  ],
  [
    'sign from a bit that the field lacks',
    'field.signNowhere',
    cellOf([word('a', 0, { sign: { way: 'bit', field: 'b', bit: 16, inverted: false } }), word('b', 16)]),
    cellOf([word('a', 0, { sign: { way: 'offset' } })]),
  ],
  [
    'a sign that nobody uses',
    'field.signUnused',
    cellOf([word('net', 0), field('net_negative', { type: 'BOOL', at: 16, bits: 1 })]),
    cellOf([word('net', 0), field('gross_negative', { type: 'BOOL', at: 16, bits: 1 })]),
  ],
  [
    'decimals from nowhere',
    'field.decimalsNowhere',
    cellOf([word('a', 0, { decimals: { way: 'field', field: 'x' } })]),
    cellOf([word('a', 0, { decimals: { way: 'field', field: 'b' } }), word('b', 16)]),
  ],
  [
    'unit missing',
    'field.unitMissing',
    cellOf([word('a', 0, { scale: { factor: '1/100', offset: '0' } })]),
    cellOf([word('a', 0, { scale: { factor: '1/100', offset: '0' }, unit: 'Hz' })]),
  ],
  [
    'limits that the type cannot reach',
    'field.limitsOutOfRange',
    cellOf([
      word('a', 0, {
        scale: { factor: '1/100', offset: '0' },
        unit: 'Hz',
        limits: { minimum: '0', maximum: '656' },
      }),
    ]),
    cellOf([
      word('a', 0, {
        scale: { factor: '1/100', offset: '0' },
        unit: 'Hz',
        limits: { minimum: '0', maximum: '655.35' },
      }),
    ]),
  ],
  [
    'a factor that leaves few steps',
    'field.coarseSteps',
    cellOf([
      word('a', 0, {
        scale: { factor: '10', offset: '0' },
        unit: 'Hz',
        limits: { minimum: '0', maximum: '100' },
      }),
    ]),
    cellOf([
      word('a', 0, {
        scale: { factor: '0.1', offset: '0' },
        unit: 'Hz',
        limits: { minimum: '0', maximum: '100' },
      }),
    ]),
  ],
  [
    'a factor finer than a REAL',
    'field.factorTooFine',
    cellOf([word('a', 0, { scale: { factor: '1/1000', offset: '100000' }, unit: 'mm' })]),
    cellOf([word('a', 0, { scale: { factor: '1/1000', offset: '1000' }, unit: 'mm' })]),
  ],
  [
    'a label outside the range',
    'field.labelOutside',
    cellOf([field('a', { type: 'BITS', at: 0, bits: 3, labels: [{ value: 8, text: 'x' }] })]),
    cellOf([field('a', { type: 'BITS', at: 0, bits: 3, labels: [{ value: 7, text: 'x' }] })]),
  ],
  [
    'a text for a bit that is not there',
    'field.labelOutside',
    cellOf([field('a', { type: 'BYTE', at: 0, bits: 8, bitLabels: [{ bit: 8, text: 'x' }] })]),
    cellOf([field('a', { type: 'BYTE', at: 0, bits: 8, bitLabels: [{ bit: 7, text: 'x' }] })]),
  ],
  [
    'a safety function commanded over a standard protocol',
    'field.safetyCommand',
    cellOf([field('stop', { type: 'BOOL', at: 0, bits: 1, safety: true })], { direction: 'command' }),
    cellOf([field('stopped', { type: 'BOOL', at: 0, bits: 1, safety: true })]),
  ],
  [
    'a range of signals that is counted from 0',
    'image.rangeBaseDoubtful',
    cellOf([], {
      size: 4,
      image: {
        numbering: {
          notation: 'signal',
          before: 0,
          slot: 0,
          subslot: 0,
          signals: [{ first: 217, count: 16, point: 18 }],
          blocks: [],
        },
      },
    }),
    cellOf([], {
      size: 4,
      image: {
        numbering: {
          notation: 'signal',
          before: 0,
          slot: 0,
          subslot: 0,
          signals: [{ first: 217, count: 16, point: 17 }],
          blocks: [],
        },
      },
    }),
  ],
  [
    'a range of signals that does not fit',
    'image.rangePastEnd',
    cellOf([], {
      size: 4,
      image: {
        numbering: {
          notation: 'signal',
          before: 0,
          slot: 0,
          subslot: 0,
          signals: [{ first: 1, count: 40, point: 1 }],
          blocks: [],
        },
      },
    }),
    cellOf([], {
      size: 4,
      image: {
        numbering: {
          notation: 'signal',
          before: 0,
          slot: 0,
          subslot: 0,
          signals: [{ first: 1, count: 32, point: 1 }],
          blocks: [],
        },
      },
    }),
  ],
  [
    'a notation that nobody describes',
    'image.notationUnknown',
    cellOf([], {
      image: { numbering: { notation: 'x', before: 0, slot: 0, subslot: 0, signals: [], blocks: [] } },
    }),
    cellOf([], {
      image: { numbering: { notation: 'word', before: 0, slot: 0, subslot: 0, signals: [], blocks: [] } },
    }),
  ],
  [
    'a derived value from a field that is gone',
    'derived.nameUnknown',
    cellOf([word('a', 0)], {
      image: { derived: [Derived.parse({ id: 'x', name: 'x', expression: 'a + b' })] },
    }),
    cellOf([word('a', 0)], {
      image: { derived: [Derived.parse({ id: 'x', name: 'x', expression: 'a + 1' })] },
    }),
  ],
  [
    'a derived value from one that comes later',
    'derived.nameUnknown',
    cellOf([word('a', 0)], {
      image: {
        derived: ['b', 'a'].map((e, i) => Derived.parse({ id: `x${i}`, name: i ? 'b' : 'c', expression: e })),
      },
    }),
    cellOf([word('a', 0)], {
      image: {
        derived: ['a', 'b'].map((e, i) => Derived.parse({ id: `x${i}`, name: i ? 'c' : 'b', expression: e })),
      },
    }),
  ],
  [
    'a derived value that cannot be read',
    'derived.wrong',
    cellOf([word('a', 0)], {
      image: { derived: [Derived.parse({ id: 'x', name: 'x', expression: 'a +' })] },
    }),
    cellOf([word('a', 0)], { image: { derived: [Derived.parse({ id: 'x', name: 'x', expression: 'a' })] } }),
  ],
];

describe.each(cases)('%s', (_says, code, wrong, right) => {
  test('is found, with a sentence and a cure', () => {
    const found = check(wrong).find((f) => f.code === code);
    expect(found?.says).toMatch(/\.$/);
    expect(found?.cure).toMatch(/\.$/);
  });
  test('is not found where it is not', () => expect(codes(right)).not.toContain(code));
});

describe('a base that was mistyped', () => {
  // A table that counts bytes from 1, taken as if it counted from 0: each field lies one byte too far back.
  const late = [word('a', 8), word('b', 24), field('c', { type: 'USINT', at: 40, bits: 8 })];

  test('is doubted when the last field is outside, and would be inside one byte further up', () => {
    const found = check(cellOf(late, { size: 5 })).find((f) => f.code === 'image.baseDoubtful');
    expect(found).toMatchObject({
      place: { field: 'c' },
      fix: { title: 'Move all fields forward by 1 byte' },
    });
  });

  test('is cured by one edit', () => {
    const cell = cellOf(late, { size: 5 });
    const doubted = check(cell).find((f) => f.code === 'image.baseDoubtful');
    const mended = applyEdit(cell, readEdit(doubted!.fix!.edit));
    expect(mended.devices[0]!.links[0]!.feedback.fields.map((f) => f.at)).toEqual([0, 16, 32]);
    expect(codes(mended)).toEqual(['image.notWholeElements']);
  });

  test('is not doubted when the first unit is in use, or moving would not help', () => {
    expect(codes(cellOf([word('z', 0), ...late.slice(1)], { size: 5 }))).not.toContain('image.baseDoubtful');
    expect(codes(cellOf(late, { size: 4 }))).not.toContain('image.baseDoubtful');
  });
});

test('every cure that a click makes takes its finding away', () => {
  for (const [, code, wrong] of cases) {
    const found = check(wrong).find((f) => f.code === code);
    if (found?.fix) expect(codes(applyEdit(wrong, readEdit(found.fix.edit)))).not.toContain(code);
  }
});

test('a repeated field is one finding, not one for each repetition', () => {
  const cell = cellOf([word('a', 8, { array: { count: 9, stride: 40 } })], { size: 20 });
  expect(codes(cell).filter((c) => c === 'field.pastEnd')).toHaveLength(1);
});
