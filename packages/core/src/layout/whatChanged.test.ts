import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { testImage } from '../cell/testCell.js';
import { Field } from './field.js';
import { whatChanged, type HeldBytes } from './whatChanged.js';

const image = (size: number, fields: object[] = []) =>
  testImage({ size, fields: fields.map((f) => Field.parse(f)) });

/** States of an image, each written by `write` for its number. */
const states = (count: number, size: number, write: (view: DataView, i: number) => void): HeldBytes[] =>
  Array.from({ length: count }, (_, i) => {
    const bytes = new Uint8Array(size);
    write(new DataView(bytes.buffer), i);
    return { at: 1000 + i * 16, bytes };
  });
const brief = (size: number, held: HeldBytes[], fields: object[] = []) =>
  whatChanged(image(size, fields), held).map(({ at, bits, readings: [likely] }) =>
    `${at >> 3}.${at & 7} ${bits}${likely ? ` ${likely.type} ${bits === 8 ? '' : likely.order}` : ''}`.trim(),
  );

describe('what changed in an image', () => {
  test('nothing, with one state or with equal ones', () => {
    expect(whatChanged(image(4), [])).toEqual([]);
    expect(
      whatChanged(
        image(4),
        states(3, 4, () => undefined),
      ),
    ).toEqual([]);
  });

  test('flags of one byte that come and go one at a time are bits, with how often and when', () => {
    const order = [0, 1, 2, 3, 4, 5];
    const held = states(13, 2, (view, i) => view.setUint8(1, i % 2 === 1 ? 1 << order[(i - 1) / 2]! : 0));
    expect(brief(2, held)).toEqual(order.map((bit) => `1.${bit} 1`));
    expect(whatChanged(image(2), held)[2]).toMatchObject({
      ...{ times: 2, first: 1000 + 5 * 16, last: 1000 + 6 * 16, before: [0], after: [0], readings: [] },
    });
  });

  test.each<[string, string, (view: DataView, i: number) => void]>([
    ['a word set once', '2.0 16 UINT little', (v, i) => v.setUint16(2, i ? 1500 : 0, true)],
    ['a word high byte first', '2.0 16 UINT big', (v, i) => v.setUint16(2, i * 70, false)],
    [
      'a word around zero',
      '4.0 16 INT little',
      (v, i) => v.setInt16(4, Math.round(900 * Math.sin(i / 9)), true),
    ],
    ['a double word set once', '4.0 32 UDINT little', (v, i) => v.setUint32(4, i ? 123_456 : 0, true)],
    ['a double word, high byte first', '4.0 32 UDINT big', (v, i) => v.setUint32(4, i * 9_999, false)],
    ['a small negative double word', '4.0 32 DINT little', (v, i) => v.setInt32(4, i ? -5 - i : 0, true)],
    ['a float', '8.0 32 REAL little', (v, i) => v.setFloat32(8, 12.5 + i / 7, true)],
    ['a byte', '3.0 8 USINT', (v, i) => v.setUint8(3, (i * 7) & 0xff)],
  ])('%s is %s', (_, found, write) => expect(brief(12, states(60, 12, write))).toEqual([found]));

  test('two words that move at the same time are two', () =>
    expect(
      brief(
        4,
        states(80, 4, (view, i) => {
          view.setUint16(0, i * 40, true);
          view.setUint16(2, 300 + Math.round(60 * Math.sin(i / 5)), true);
        }),
      ),
    ).toEqual(['0.0 16 UINT little', '2.0 16 UINT little']));

  test('what is laid out is said by its name, and its bits are not said again', () => {
    const fields = [
      { id: 's', name: 'speed', type: 'UINT', at: 0, bits: 16 },
      { id: 'r', name: 'ready', type: 'BOOL', at: 16, bits: 1 },
      { id: 'q', name: 'quiet', type: 'BOOL', at: 18, bits: 1 },
    ];
    const held = states(5, 4, (view, i) => {
      view.setUint16(0, i * 300, true);
      view.setUint8(2, i > 2 ? 3 : 0);
    });
    const places = whatChanged(image(4, fields), held);
    expect(places.map((p) => p.signal?.name ?? `free ${p.at}`)).toEqual(['speed', 'ready', 'free 17']);
    expect(places[0]).toMatchObject({ times: 4, before: [0, 0], after: [0xb0, 0x04] });
  });
});

test('in layouts that it has not seen nearly all flags and numbers are found, each at its place', () => {
  let wanted = 0;
  let found = 0;
  const number = fc.record({
    bits: fc.constantFrom(16, 32),
    little: fc.boolean(),
    top: fc.integer({ min: 200, max: 30_000 }),
    period: fc.integer({ min: 7, max: 60 }),
  });
  fc.assert(
    fc.property(
      fc.array(number, { minLength: 1, maxLength: 5 }),
      fc.array(fc.integer({ min: 0, max: 15 }), { minLength: 1, maxLength: 6 }),
      (numbers, flags) => {
        const own = [...new Set(flags)];
        const held = states(240, 32, (view, i) => {
          own.forEach((bit, k) => {
            const on = Math.floor(i / (11 + 6 * k)) % 2;
            view.setUint8(bit >> 3, view.getUint8(bit >> 3) | (on << (bit & 7)));
          });
          numbers.forEach(({ bits, little, top, period }, k) => {
            const share = 0.5 - 0.5 * Math.cos(i / period);
            const value = Math.round(top * share * (bits === 32 ? 100 : 1));
            if (bits === 32) view.setUint32(4 + k * 4, value, little);
            else view.setUint16(4 + k * 4, value, little);
          });
        });
        const places = brief(32, held);
        const right = [
          ...own.map((bit) => `${bit >> 3}.${bit & 7} 1`),
          ...numbers.map(
            ({ bits, little }, k) =>
              `${4 + k * 4}.0 ${bits} ${bits === 32 ? 'UDINT' : 'UINT'} ${little ? 'little' : 'big'}`,
          ),
        ];
        wanted += right.length;
        found += right.filter((one) => places.includes(one)).length;
      },
    ),
    { numRuns: 300, seed: 20 },
  );
  expect(wanted).toBeGreaterThan(1500);
  expect(found / wanted).toBeGreaterThan(0.95);
});
