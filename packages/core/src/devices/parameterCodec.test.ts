import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { byteOrders } from '../layout/field.js';
import { Parameter } from './parameter.js';
import { ParameterCodec } from './parameterCodec.js';

const parameter = (more: Partial<Parameter> = {}): Parameter =>
  Parameter.parse({ id: 'p', name: 'speed', type: 'UINT', bits: 16, ...more });
const tenth = { factor: '1/10', offset: '0' };

describe('one decimal: common practice, no source', () => {
  const codec = new ParameterCodec(parameter({ scale: tenth, unit: 'rpm' }));
  test.each([
    [[0xe8, 0x03], '1000', '100.0', '100.0 rpm'],
    [[0x01, 0x00], '1', '0.1', '0.1 rpm'],
  ])('bytes %j: raw %s reads %s', (bytes, raw, value, text) => {
    expect(codec.read(Uint8Array.from(bytes))).toMatchObject({ raw, value, text });
    expect([...codec.written(value)]).toEqual(bytes);
  });

  test('what does not fit is refused with its range', () => {
    expect(() => codec.written('6553.6')).toThrow(expect.objectContaining({ code: 'value.doesNotFit' }));
    expect(() => codec.written('fast')).toThrow(expect.objectContaining({ code: 'value.notANumber' }));
    expect(() => codec.read(Uint8Array.of(1))).toThrow(expect.objectContaining({ code: 'parameter.size' }));
  });
});

test('places that another parameter says, with a scale of its own besides', () => {
  expect(new ParameterCodec(parameter(), 2).read(Uint8Array.of(0x39, 0x30)).value).toBe('123.45');
  expect(new ParameterCodec(parameter({ scale: tenth }), 1).written('1.25')).toEqual(Uint8Array.of(125, 0));
});

/** High word first is usual, others are the maker's choice (common practice, no source). */
test('four bytes are two registers of 16 bits, in each order', () => {
  const place = { way: 'register', table: 'holding', start: 7 } as const;
  const orders = {
    null: '01 02 03 04',
    bigSwapped: '03 04 01 02',
    little: '04 03 02 01',
    littleSwapped: '02 01 04 03',
  };
  for (const [order, hex] of Object.entries(orders)) {
    const codec = new ParameterCodec(
      parameter({ type: 'UDINT', bits: 32, place, order: order === 'null' ? null : (order as 'little') }),
    );
    expect([order, Buffer.from(codec.written('16#01020304')).toString('hex')]).toEqual([
      order,
      hex.replaceAll(' ', ''),
    ]);
  }
});

test('labels, texts and raw bytes', () => {
  const labelled = parameter({ labels: [{ value: 2, text: 'network' }] });
  expect(new ParameterCodec(labelled).written('network')).toEqual(Uint8Array.of(2, 0));
  expect(new ParameterCodec(labelled).read(Uint8Array.of(2, 0)).text).toBe('2 · network');
  const text = new ParameterCodec(parameter({ type: 'STRING', bits: 48 }));
  expect(text.read(text.written('LIFT')).value).toBe('LIFT');
  const bytes = new ParameterCodec(parameter({ type: 'BYTES', bits: 24 }));
  expect(bytes.read(Uint8Array.of(1, 2, 0xff)).raw).toBe('01 02 FF');
});

test('the text of any raw number leads back to the same bytes', () => {
  const sizes = { SINT: 8, USINT: 8, INT: 16, UINT: 16, DINT: 32, UDINT: 32, LINT: 64, ULINT: 64 } as const;
  fc.assert(
    fc.property(
      fc.constantFrom(...(Object.keys(sizes) as (keyof typeof sizes)[])),
      fc.constantFrom(null, ...byteOrders),
      fc.constantFrom('1', '1/10', '1/1000', '-1/8', '5'),
      fc.integer({ min: 0, max: 4 }),
      fc.bigInt({ min: 0n, max: (1n << 64n) - 1n }),
      (type, order, factor, places, seed) => {
        const bits = sizes[type];
        const codec = new ParameterCodec(
          parameter({ type, bits, order, scale: { factor, offset: '0' } }),
          places,
        );
        const bytes = Uint8Array.from({ length: bits / 8 }, (_, i) =>
          Number((seed >> BigInt(8 * i)) & 0xffn),
        );
        expect(codec.written(codec.read(bytes).value)).toEqual(bytes);
      },
    ),
  );
});
