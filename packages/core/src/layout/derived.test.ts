import { describe, expect, test } from 'vitest';
import { Field } from './field.js';
import { Derived } from './image.js';
import { testImage } from '../cell/testCell.js';
import { codecOf } from './codec.js';
import { compileDerived, derivedReader, lightCurtainSpan } from './derived.js';
import { parseExpression } from './expression.js';

const valueOf = (text: string, names: Record<string, number | bigint | boolean> = {}) =>
  parseExpression(text).evaluate((name) => names[name]);

describe('the language of derived values', () => {
  test.each([
    ['1 + 2 * 3', 7],
    ['(1 + 2) * 3', 9],
    ['-a / 2', -2.5],
    ['a % 3', 2],
    ['a > 4 ? 10 : 20', 10],
    ['a == 5 && !b', 1],
    ['min(a, 3, 7) + max(1, a)', 8],
    ['round(-2.5) + abs(-1)', -2],
    ['bits(c)', 3],
    ['lowest(c) * 10 + highest(c)', 37],
    ['lowest(0) + highest(0)', -2],
    ['c & 8', 8],
    ['c | 1', 0xa9],
  ])('%s is %d', (text, value) => expect(valueOf(text, { a: 5, b: false, c: 0b1010_1000 })).toBe(value));

  test('64 bits are counted one by one', () => {
    expect(valueOf('bits(w) + highest(w)', { w: 0xffff_ffff_ffff_ffffn })).toBe(64 + 63);
    expect(valueOf('lowest(w)', { w: 1n << 63n })).toBe(63);
  });

  test('a name without a value makes no value', () => {
    expect(valueOf('a + 1')).toBeNaN();
    expect(valueOf('a > 1 ? 2 : 3')).toBeNaN();
    expect(valueOf('bits(a)')).toBeNaN();
  });

  test.each([
    ['1 +', /cannot|Expected|expression/i],
    ['', /single expression/],
    ['a = 3', /./],
    ['a.b', /single expression/],
    ['a["constructor"]', /single expression/],
    ['constructor(1)', /no function constructor/],
    ['toString()', /no function toString/],
    ['a.constructor.constructor("return 1")()', /function|single expression/],
    ['this', /single expression/],
    ['"text"', /no number/],
    ['[1, 2]', /single expression/],
    ['1; 2', /single expression/],
    ['bits(1, 2)', /takes 1 value/],
    ['a ** 2', /./],
    [`${'('.repeat(90)}1${')'.repeat(90)} ${'+ (1'.repeat(80)}${')'.repeat(80)}`, /deeply/],
  ])('%s is refused', (text, message) => {
    expect(() => valueOf(text, { a: 1 })).toThrow(message);
    expect(() => valueOf(text, { a: 1 })).toThrow(
      expect.objectContaining({ code: 'expression.wrong' }) as Error,
    );
  });
});

describe('a light curtain', () => {
  const pitch = 20;
  const beams = 16;
  const image = (normallyClosed: boolean) =>
    testImage({
      size: 2,
      fields: [Field.parse({ id: 'b', name: 'beams', type: 'BITS', at: 0, bits: beams, normallyClosed })],
      derived: lightCurtainSpan('beams', String(pitch), 'mm', () => `d${(ids += 1)}`).map((d) =>
        Derived.parse(d),
      ),
    });
  let ids = 0;
  const readings = (blocked: number, normallyClosed = false) => {
    const codec = codecOf(image(normallyClosed));
    const view = new DataView(new ArrayBuffer(2));
    view.setUint16(0, normallyClosed ? ~blocked & 0xffff : blocked, true);
    codec.decode(view);
    return Object.fromEntries(compileDerived(image(normallyClosed), codec)().map((r) => [r.derived.name, r]));
  };

  test('beams 3 to 5 blocked', () => {
    const { beams_size, beams_middle, beams_in_one_piece } = readings(0b11_1000);
    expect(beams_size).toMatchObject({ value: 60, uncertainty: 20, text: '60 ± 20 mm' });
    expect(beams_middle).toMatchObject({ value: 80, text: '80 ± 10 mm' });
    expect(beams_in_one_piece?.value).toBe(1);
    expect(readings(0b101)['beams_in_one_piece']?.value).toBe(0);
    expect(readings(0)['beams_size']?.text).toBe('0 mm');
  });

  test('normally closed: 1 is clear, and the span is the same', () =>
    expect(readings(0b11_1000, true)['beams_size']?.text).toBe('60 ± 20 mm'));

  // Geometry: beam i stands at i × pitch and is blocked by an object that covers that point.
  test('the true size and middle of every object lie within what is stated', () => {
    for (let bottom = 1; bottom < 200; bottom += 3.7)
      for (let size = 25; size < 90; size += 4.3) {
        const blocked = Array.from(
          { length: beams },
          (_, i) => i * pitch >= bottom && i * pitch <= bottom + size,
        );
        const { beams_size, beams_middle } = readings(
          blocked.reduce((sum, b, i) => (b ? sum | (1 << i) : sum), 0),
        );
        expect(Math.abs(beams_size!.value - size)).toBeLessThanOrEqual(beams_size!.uncertainty);
        expect(Math.abs(beams_middle!.value - (bottom + size / 2))).toBeLessThanOrEqual(
          beams_middle!.uncertainty,
        );
      }
  });
});

test('gross − tare = net, with a tolerance; a derived value may use those before it', () => {
  const field = (name: string, at: number) =>
    Field.parse({ id: name, name, type: 'UINT', at, bits: 16, decimals: { way: 'fixed', places: 2 } });
  const image = testImage({
    size: 6,
    fields: [field('gross', 0), field('tare', 16), field('net', 32)],
    derived: [
      Derived.parse({ id: '1', name: 'off', expression: 'abs(gross - tare - net)', unit: 'kg' }),
      Derived.parse({ id: '2', name: 'agrees', expression: 'off < 0.005' }),
    ],
  });
  const codec = codecOf(image);
  const run = compileDerived(image, codec);
  const weights = (gross: number, tare: number, net: number) => {
    const view = new DataView(new ArrayBuffer(6));
    codec.encodeNumbers(Float64Array.of(gross, tare, net), view);
    codec.decode(view);
    return run().map((r) => Number(r.value.toFixed(6)));
  };
  expect(weights(12.5, 2.5, 10)).toEqual([0, 1]);
  expect(weights(12.5, 2.5, 9.5)).toEqual([0.5, 0]);
});

test('a wrong expression has no value, and takes none from the others; too few bytes bring none', () => {
  const image = testImage({
    size: 2,
    fields: [Field.parse({ id: 'a', name: 'a', type: 'UINT', at: 0, bits: 16 })],
    derived: ['a +', 'a * 2'].map((expression, i) =>
      Derived.parse({ id: `${i}`, name: `d${i}`, expression }),
    ),
  });
  const read = derivedReader(image);
  expect(read(Uint8Array.of(21, 0)).map((r) => r.text)).toEqual(['no value', '42']);
  expect([read(undefined), read(Uint8Array.of(1))]).toEqual([[], []]);
});
