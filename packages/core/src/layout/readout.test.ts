import { describe, expect, test } from 'vitest';
import type { Field } from './field.js';
import { testImage, testSignal } from '../cell/testCell.js';
import { readout } from './readout.js';
import { signalsOf } from './signals.js';
import { decimal } from './ratio.js';
import { decimalsOf, parseValue, rawOf, readingOf, shortText } from './valueChain.js';

const field = (part: Partial<Field> & Pick<Field, 'type' | 'at' | 'bits'>) =>
  testSignal({ id: 'f', name: 'speed', ...part });
/** The readout of one signal that is alone in its image. */
const alone = (signal: ReturnType<typeof field>, bytes: Uint8Array) => {
  const { of: _of, index: _index, ...own } = signal;
  const image = testImage({ size: 22, fields: [own] });
  return readout(image, signalsOf(image)[0]!, bytes);
};
const hertz = field({
  type: 'INT',
  at: 0,
  bits: 16,
  scale: { factor: '1/100', offset: '0' },
  unit: 'Hz',
});
const percent = field({
  type: 'UINT',
  at: 0,
  bits: 16,
  scale: { factor: '1/300', offset: '0' },
  unit: '%',
});
const celsius = field({
  type: 'UINT',
  at: 0,
  bits: 16,
  scale: { factor: '1/500', offset: '-10' },
  unit: '°C',
});

describe('readout', () => {
  test('a speed of 250 is 2.50 Hz', () => {
    const texts = alone(hertz, Uint8Array.of(0xfa, 0x00)).map((s) => `${s.title}: ${s.text}`);
    expect(texts).toEqual([
      'bytes 0–1: FA 00',
      'little first: 16#00FA',
      'as INT: 250',
      '× 1/100: 2.50',
      'with unit: 2.50 Hz',
    ]);
  });

  test('a bit with labels says what it means', () => {
    const tare = field({ type: 'BOOL', at: 124, bits: 1, labels: [{ value: 1, text: 'tare is applied' }] });
    const image = new Uint8Array(22);
    image[15] = 0x13;
    expect(alone(tare, image).map((s) => s.text)).toEqual(['13', '1', 'tare is applied']);
    expect(shortText(tare, true)).toBe('tare is applied');
  });

  test('a group across bytes shows its own bits', () => {
    const group = field({ type: 'BITS', at: 4, bits: 8 });
    expect(alone(group, Uint8Array.of(0xf0, 0x0a)).at(-1)?.text).toBe('175');
  });

  test('60 bits over nine bytes: every byte is in the ordered number', () => {
    const wide = field({ type: 'BITS', at: 5, bits: 60 });
    const steps = alone(wide, Uint8Array.of(0, 0, 0, 0, 0, 0, 0, 0, 1, 0));
    expect(steps.map((s) => s.text).slice(1)).toEqual([
      '16#010000000000000000',
      `2#1${'0'.repeat(59)}`,
      String(2n ** 59n),
    ]);
  });

  test('bytes that are not there end the readout', () => {
    expect(alone(hertz, Uint8Array.of(1))).toHaveLength(1);
  });
});

describe('scaling', () => {
  test.each([
    [hertz, 2],
    [celsius, 3],
    [percent, 3],
  ])('decimals tell neighbouring raw numbers apart', (f, decimals) => expect(decimalsOf(f)).toBe(decimals));

  test('write is the inverse of read for every raw number', () => {
    for (const f of [hertz, celsius, percent]) {
      const raws = Array.from({ length: 30_001 }, (_, raw) => raw);
      expect(raws.filter((raw) => rawOf(f, decimal(readingOf(f, raw).text)!).raw !== raw)).toEqual([]);
    }
  });

  test.each([
    ['2.5', 250],
    ['2,5', 250],
    ['-0.01', -1],
    ['16#00FA', 250],
    ['2#1010', 10],
  ])('typed %s is raw %i', (typed, raw) => expect(parseValue(hertz, typed)).toEqual({ raw }));

  test.each(['', 'fast', '1e999', '16#XYZ'])('typed "%s" is refused', (typed) =>
    expect(() => parseValue(hertz, typed)).toThrow(/no value/),
  );

  test('a bit takes 0, 1 and its labels, nothing else', () => {
    const bit = field({
      type: 'BOOL',
      at: 0,
      bits: 1,
      labels: [
        { value: 0, text: 'off' },
        { value: 1, text: 'on' },
      ],
    });
    expect(['1', 'on', 'ON', '0', 'off'].map((t) => parseValue(bit, t).raw)).toEqual([
      true,
      true,
      true,
      false,
      false,
    ]);
    expect(() => parseValue(bit, '2')).toThrow(/no value/);
  });

  test('64-bit numbers keep every digit', () => {
    const wide = field({ type: 'ULINT', at: 0, bits: 64 });
    expect(parseValue(wide, '18446744073709551615').raw).toBe(18_446_744_073_709_551_615n);
    expect(readingOf(wide, 18_446_744_073_709_551_615n).text).toBe('18446744073709551615');
  });
});
