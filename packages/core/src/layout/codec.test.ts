import { describe, expect, test } from 'vitest';
import { testSignal } from '../cell/testCell.js';
import { compileCodec } from './codec.js';
import { limitsOf, type FieldType, type Value } from './fieldTypes.js';

const field = (type: FieldType, at: number, bits: number) => testSignal({ name: `f${at}`, type, at, bits });
const view = (...bytes: number[]) => new DataView(Uint8Array.from(bytes).buffer);

/** Bytes from IEEE 754-2019, table 3.3 (format parameters), worked by hand; and from C's float.h limits. */
const ieee754: [string, FieldType, number[], number][] = [
  ['one, binary32: exponent 127', 'REAL', [0x00, 0x00, 0x80, 0x3f], 1],
  ['minus two, binary32', 'REAL', [0x00, 0x00, 0x00, 0xc0], -2],
  ['largest binary32, FLT_MAX', 'REAL', [0xff, 0xff, 0x7f, 0x7f], 3.4028234663852886e38],
  ['smallest normal binary32, FLT_MIN', 'REAL', [0x00, 0x00, 0x80, 0x00], 1.1754943508222875e-38],
  ['smallest subnormal binary32', 'REAL', [0x01, 0x00, 0x00, 0x00], 1.401298464324817e-45],
  ['infinity, binary32', 'REAL', [0x00, 0x00, 0x80, 0x7f], Infinity],
  ['one, binary64: exponent 1023', 'LREAL', [0, 0, 0, 0, 0, 0, 0xf0, 0x3f], 1],
  ['largest binary64, DBL_MAX', 'LREAL', [255, 255, 255, 255, 255, 255, 0xef, 0x7f], Number.MAX_VALUE],
  ['0.1, binary64', 'LREAL', [0x9a, 0x99, 0x99, 0x99, 0x99, 0x99, 0xb9, 0x3f], 0.1],
];

/** IEC 61131-3:2013, table 10: ranges of the integer types. */
const iec61131: [FieldType, number, Value, Value][] = [
  ['SINT', 8, -128, 127],
  ['INT', 16, -32_768, 32_767],
  ['DINT', 32, -2_147_483_648, 2_147_483_647],
  ['LINT', 64, -9_223_372_036_854_775_808n, 9_223_372_036_854_775_807n],
  ['USINT', 8, 0, 255],
  ['UINT', 16, 0, 65_535],
  ['UDINT', 32, 0, 4_294_967_295],
  ['ULINT', 64, 0n, 18_446_744_073_709_551_615n],
  ['BYTE', 8, 0, 255],
  ['WORD', 16, 0, 65_535],
  ['DWORD', 32, 0, 4_294_967_295],
  ['LWORD', 64, 0n, 18_446_744_073_709_551_615n],
];

describe('numbers of the standards, both ways', () => {
  test.each(ieee754)('%s', (_says, type, bytes, value) => {
    const codec = compileCodec([field(type, 0, bytes.length * 8)]);
    codec.decode(view(...bytes));
    expect(codec.valueAt(0)).toBe(value);
    const written = view(...bytes.map(() => 0xaa));
    codec.setValue(0, value);
    codec.encode(written);
    expect([...new Uint8Array(written.buffer)]).toEqual(bytes);
  });

  test.each(iec61131)('%s holds its range and nothing more', (type, bits, minimum, maximum) => {
    expect(limitsOf(type, bits)).toEqual({ minimum, maximum });
    const codec = compileCodec([field(type, 0, bits)]);
    const bytes = new DataView(new ArrayBuffer(bits / 8));
    for (const value of [minimum, maximum]) {
      codec.setValue(0, value);
      codec.encode(bytes);
      codec.decode(bytes);
      expect(codec.valueAt(0)).toBe(value);
    }
    expect(() => codec.setValue(0, BigInt(maximum as bigint) + 1n)).toThrow(/does not fit/);
    expect(() => codec.setValue(0, BigInt(minimum as bigint) - 1n)).toThrow(/does not fit/);
    expect(() => codec.setValue(0, 0.5)).toThrow(/does not fit/);
  });

  test('two’s complement of −2 in 16 bits is 16#FFFE (little-endian FE FF)', () => {
    const codec = compileCodec([field('INT', 0, 16)]);
    codec.decode(view(0xfe, 0xff));
    expect(codec.valueAt(0)).toBe(-2);
  });
});

test('a value that was put in is there before it is written', () => {
  const codec = compileCodec([field('SINT', 0, 8), field('LINT', 8, 64)]);
  codec.setValue(0, -95);
  codec.setValue(1, -1n);
  expect([codec.valueAt(0), codec.numberAt(0), codec.valueAt(1)]).toEqual([-95, -95, -1n]);
});

describe('bits', () => {
  test('a group across a byte border: bits 6 to 9 of 16#0280 are 1010', () => {
    const codec = compileCodec([field('BITS', 6, 4)]);
    codec.decode(view(0x80, 0x02));
    expect(codec.valueAt(0)).toBe(0b1010);
  });

  test.each([
    [33, 0x1_2345_6789n],
    [53, 0x1f_ffff_ffff_ffffn],
    [64, 0xfedc_ba98_7654_3210n],
  ])('a group of %i bits that starts at bit 5 keeps every bit', (bits, value) => {
    const codec = compileCodec([field('BITS', 5, bits)]);
    const bytes = new DataView(new ArrayBuffer(10));
    codec.setValue(0, value);
    codec.encode(bytes);
    const whole = [...new Uint8Array(bytes.buffer)].reduceRight((sum, b) => (sum << 8n) | BigInt(b), 0n);
    expect(whole).toBe(value << 5n);
    codec.decode(bytes);
    expect(codec.valueAt(0)).toBe(value);
  });

  test('bits without a field stay as they are', () => {
    const codec = compileCodec([field('BOOL', 3, 1), field('USINT', 8, 8)]);
    const bytes = view(0b1010_0001, 0x55, 0x77);
    codec.setValue(0, true);
    codec.setValue(1, 0);
    codec.encode(bytes);
    expect([...new Uint8Array(bytes.buffer)]).toEqual([0b1010_1001, 0x00, 0x77]);
  });

  test('decode says which fields changed', () => {
    const codec = compileCodec([field('BOOL', 0, 1), field('UINT', 8, 16)]);
    expect(codec.decodeChanges(view(1, 0, 0))).toBe(1);
    expect([...codec.changed]).toEqual([1, 0]);
    expect(codec.decodeChanges(view(1, 0, 1))).toBe(1);
    expect([...codec.changed]).toEqual([0, 1]);
    expect(codec.decodeChanges(view(1, 0, 1))).toBe(0);
  });

  test('an image may begin anywhere in a buffer', () => {
    const codec = compileCodec([field('BOOL', 3, 1)]);
    codec.decode(view(0, 0, 0b1000), 2);
    expect(codec.valueAt(0)).toBe(true);
  });
});
