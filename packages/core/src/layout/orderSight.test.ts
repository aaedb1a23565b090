import { describe, expect, test } from 'vitest';
import { testCell, testImage } from '../cell/testCell.js';
import { causesOf } from '../trouble/causes.js';
import { doubtfulValues } from '../trouble/doubtful.js';
import type { AddressScene } from './address.js';
import { Field } from './field.js';
import { numberSight } from './numberSight.js';
import { orderDoubt, valueInOrders } from './orderSight.js';
import { readout } from './readout.js';
import { bothSides } from './address.js';
import { signalsOf } from './signals.js';

const field = (part: object) => Field.parse({ id: 'f', name: 'weight', at: 0, ...part });
const doubtOf = (part: object, bytes: number[]) => {
  const image = testImage({ size: 8, fields: [field(part)] });
  return orderDoubt(
    image,
    signalsOf(image)[0]!,
    Uint8Array.from({ length: 8 }, (_, i) => bytes[i] ?? 0),
  );
};
const kilograms = { type: 'UDINT', bits: 32, scale: { factor: '1/1000', offset: '0' }, unit: 'kg' };

describe('a value that makes no sense names the byte order that would', () => {
  test.each([
    // 2 g, its bytes sent the big end first, read the little first: 16#02000000 g.
    ['no limits, nothing in the low half', kilograms, [0, 0, 0, 2], '33554.432 kg', 'big', '0.002 kg'],
    [
      'far outside its limits',
      { ...kilograms, limits: { minimum: '0', maximum: '60' } },
      [0, 0, 0x30, 0x39],
      '959447.040 kg',
      'big',
      '12.345 kg',
    ],
    // IEEE 754 binary32: 21.5 is 16#41AC0000; its words exchanged 16#41AC × 2^-149 = 2.355863e-41.
    [
      'a float that is no measurement',
      { type: 'REAL', bits: 32, unit: '°C' },
      [0xac, 0x41, 0, 0],
      '2.355863e-41 °C',
      'bigSwapped',
      '?',
    ],
    ['not a number', { type: 'REAL', bits: 32 }, [0x3f, 0x80, 0xff, 0xff], 'NaN', 'big', '?'],
  ])('%s', (_title, part, bytes, now, order, text) => {
    const doubt = doubtOf(part, bytes);
    expect(doubt?.now.text).toBe(now);
    if (text !== '?') expect(doubt?.better).toMatchObject({ order, text });
    expect(doubt?.better.plausible).toBe(true);
  });

  test.each([
    ['within its limits', { ...kilograms, limits: { minimum: '0', maximum: '60' } }, [0x39, 0x30, 0, 0]],
    ['a little outside', { ...kilograms, limits: { minimum: '0', maximum: '10' } }, [0x39, 0x30, 0, 0]],
    ['zero', kilograms, []],
    ['a byte has no order', { type: 'USINT', bits: 8, limits: { minimum: '0', maximum: '1' } }, [200]],
    [
      'no other order helps',
      { type: 'UINT', bits: 16, limits: { minimum: '0', maximum: '1' } },
      [0x77, 0x77],
    ],
    [
      'its special number',
      { ...kilograms, specials: [{ value: 0x0200_0000, means: 'no reading' }] },
      [0, 0, 0, 2],
    ],
  ])('nothing is doubted: %s', (_title, part, bytes) => expect(doubtOf(part, bytes)).toBeUndefined());

  test('the bench names it as a cause, with the cure', () => {
    const image = testImage({ size: 4, fields: [field(kilograms)] });
    const doubtful = doubtfulValues(image, Uint8Array.of(0, 0, 0, 2));
    expect(doubtful).toMatchObject([{ field: 'weight', order: 'big' }]);
    const [cause] = causesOf(
      { protocol: 'ethernet-ip', state: 'open', lately: {}, indicators: [], together: {} } as never,
      doubtful,
    );
    expect(cause).toMatchObject({ title: 'The bytes of a value come in another order' });
    expect(cause!.evidence[0]).toBe('weight: it reads 33554.432 kg; read big it would be 0.002 kg');
  });

  test('every order of four bytes, worked by hand', () => {
    const image = testImage({ size: 4, fields: [field({ type: 'UDINT', bits: 32 })] });
    const values = valueInOrders(image, signalsOf(image)[0]!, Uint8Array.of(0x0a, 0x0b, 0x0c, 0x0d));
    expect(Object.fromEntries(values.map((v) => [v.order, v.text]))).toEqual({
      little: String(0x0d0c0b0a),
      big: String(0x0a0b0c0d),
      bigSwapped: String(0x0c0d0a0b),
      littleSwapped: String(0x0b0a0d0c),
    });
  });
});

describe('what is this number?', () => {
  const level = {
    name: 'level',
    type: 'UINT',
    at: 16,
    bits: 16,
    scale: { factor: '1/200', offset: '0' },
    unit: '%',
  };
  const scene = (part: object, image: object = {}): AddressScene => ({
    controller: { ...testCell().controller },
    notations: [],
    device: { name: 'tank_b1' },
    image: testImage({ size: 8, order: null, fields: [field({ ...level, ...part })], ...image }),
  });
  const told = (own: AddressScene) => {
    const { readings, likely } = numberSight(14000n, own, 2);
    return {
      values: Object.fromEntries(readings.map((r) => [r.order, r.value?.text])),
      likely: readings[likely.index]!.order,
      reason: likely.reason,
    };
  };

  test('14000 on a level is 70 %, and what it would be the other way round', () => {
    const { values, likely, reason } = told(scene({ order: 'little' }));
    // 14000 is 16#36B0; turned round 16#B036 = 45110.
    expect(values).toEqual({ little: '70.000 %', big: '225.550 %' });
    expect(likely).toBe('little');
    expect(reason).toBe('level is 70.000 %: level states little.');
  });

  test('the order of its neighbours, where neither field nor image says one', () => {
    const neighbour = field({ id: 'n', name: 'n', type: 'INT', at: 32, bits: 16, order: 'big' });
    const own = scene({}, { fields: [field(level), neighbour] });
    expect(told(own)).toMatchObject({
      likely: 'big',
      reason: expect.stringContaining('neighbours state big'),
    });
  });

  test('only an order that gives a value within the limits is likely', () => {
    const own = scene({ order: 'big', limits: { minimum: '0', maximum: '100' } });
    // Laid big end first, a big-endian field reads 70 %; laid little end first 225.55 %.
    expect(told(own)).toMatchObject({ likely: 'big', values: { little: '225.550 %', big: '70.000 %' } });
    const other = scene({ order: 'little', limits: { minimum: '100', maximum: '300' } });
    expect(told(other)).toMatchObject({
      likely: 'big',
      reason: expect.stringContaining('outside its limits'),
    });
  });
});

test('margins and readout agree on what bit 8 of a register is', () => {
  const bit = field({ name: 'valid', type: 'BOOL', at: 0, bits: 1 });
  const image = testImage({ size: 4, fields: [bit] });
  const scene: AddressScene = {
    controller: { ...testCell().controller, elementOrder: 'big' },
    notations: [],
    device: { name: 'hub_g2' },
    image,
    runs: [{ table: 'input', start: 1000, count: 2, at: 0 }],
  };
  const signal = signalsOf(image)[0]!;
  const name = (at: number) => bothSides(scene, at).device.text;
  const titles = readout(image, signal, Uint8Array.of(1, 0, 0, 0), name).map((s) => s.title);
  // Modbus Application Protocol V1.1b3, 4.2: the first byte of a register on the wire is its high one.
  expect(name(0)).toBe('301001 · bit 8');
  expect(titles).toContain('301001 · bit 8');
  expect(bothSides(scene, 0).controller.text).toBe('fb[0].%X8');
});
