import { execFileSync } from 'node:child_process';
import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { byteOrders, Field, type ByteOrder } from './field.js';
import { testImage, testSignal } from '../cell/testCell.js';
import { codecOf, compileCodec } from './codec.js';
import { fieldTypes, goesAnywhere, limitsOf, readsOf, type FieldType, type Value } from './fieldTypes.js';
import { decimal } from './ratio.js';
import { signalsOf, type Signal } from './signals.js';
import { rawOf, readingOf } from './valueChain.js';
import { runs } from '../testRuns.js';

const size = 40;

/** Any type at any place that it may have, in any byte order. */
const placed: fc.Arbitrary<Signal> = fc
  .record({
    type: fc.constantFrom(...(Object.keys(fieldTypes) as FieldType[])),
    at: fc.integer({ min: 0, max: 120 }),
    length: fc.integer({ min: 1, max: 64 }),
    order: fc.constantFrom(...byteOrders),
    prefix: fc.constantFrom(0 as const, 8 as const, 16 as const),
    encoding: fc.constantFrom('ascii' as const, 'utf-8' as const),
  })
  .map(({ type, at, length, order, prefix, encoding }) => {
    const own: Partial<Record<FieldType, number>> = {
      BITS: length,
      BCD: 4 * Math.ceil(length / 4),
      STRING: 8 * (length % 20) + 24,
      BYTES: 8 * (length % 20) + 8,
    };
    const bits = fieldTypes[type].bits ?? own[type]!;
    const text = type === 'STRING' ? { prefix, encoding, pad: 0 } : null;
    return testSignal({ type, at: goesAnywhere(type) ? at : at - (at % 8), bits, text }, order);
  });

function valueFor(signal: Signal): fc.Arbitrary<Value> {
  const { minimum, maximum } = limitsOf(signal.type, Math.min(64, signal.bits));
  switch (readsOf(signal)) {
    case 'boolean':
      return fc.boolean();
    case 'float':
      return signal.bits === 32 ? fc.float({ noNaN: true }) : fc.double({ noNaN: true });
    case 'text': {
      const room = (signal.bits - signal.text!.prefix) / 8;
      const unit = signal.text!.encoding === 'ascii' ? ('grapheme-ascii' as const) : ('grapheme' as const);
      return fc.string({ unit, maxLength: room }).filter((t) => new TextEncoder().encode(t).length <= room);
    }
    case 'bytes':
      return fc
        .uint8Array({ minLength: signal.bits / 8, maxLength: signal.bits / 8 })
        .map((bytes) => [...bytes].map((b) => b.toString(16).toUpperCase().padStart(2, '0')).join(' '));
    default:
      return signal.bits > 32
        ? fc.bigInt({ min: BigInt(minimum), max: BigInt(maximum) })
        : fc.integer({ min: Number(minimum), max: Number(maximum) });
  }
}

const placedWithValue = placed.chain((signal) => valueFor(signal).map((value) => ({ signal, value })));
const background = fc.uint8Array({ minLength: size, maxLength: size });

describe('decode(encode(v)) = v', () => {
  test('for every type, order and place; bits of others stay as they are', () => {
    fc.assert(
      fc.property(placedWithValue, background, fc.boolean(), ({ signal, value }, before, swapped) => {
        const codec = compileCodec([signal], swapped ? size : undefined);
        const bytes = Uint8Array.from(before);
        codec.decode(new DataView(bytes.buffer));
        codec.setValue(0, value);
        codec.encode(new DataView(bytes.buffer));
        const again = compileCodec([signal], swapped ? size : undefined);
        again.decode(new DataView(bytes.buffer));
        expect(again.valueAt(0)).toEqual(value);
        // Written once more over the bytes from before, the value that was there brings every bit back.
        const first = compileCodec([signal], swapped ? size : undefined);
        first.decode(new DataView(before.slice().buffer));
        first.encode(new DataView(bytes.buffer));
        expect(bytes).toEqual(before);
      }),
      { numRuns: runs(500) },
    );
  });

  test('for engineering values, with sign source, decimal point, factor and offset', () => {
    const chain = fc.record({
      type: fc.constantFrom(
        'USINT' as const,
        'UINT' as const,
        'INT' as const,
        'UDINT' as const,
        'DINT' as const,
      ),
      order: fc.constantFrom(...byteOrders),
      sign: fc.constantFrom(null, 'offset' as const, 'bit' as const, 'complement' as const),
      places: fc.integer({ min: 0, max: 4 }),
      factor: fc.constantFrom('1', '1/100', '0.002', '5/9', '-1/3', '25'),
      offset: fc.constantFrom('0', '-10', '-160/9'),
      share: fc.double({ min: 0, max: 1, noNaN: true }),
    });
    fc.assert(
      fc.property(chain, ({ type, order, sign, places, factor, offset, share }) => {
        const signed = type === 'INT' || type === 'DINT';
        // Plain bits of an odd width stand for the types that have none.
        const odd = sign === 'complement';
        const fields = [
          Field.parse({
            ...{
              id: 'v',
              name: 'v',
              type: odd ? 'BITS' : type,
              at: 16,
              bits: fieldTypes[type].bits - (odd ? 3 : 0),
            },
            sign: odd
              ? { way: 'complement' }
              : sign === 'offset' && !signed
                ? { way: 'offset' }
                : sign === 'bit' && !signed
                  ? { way: 'bit', field: 's', bit: 3, inverted: false }
                  : null,
            decimals: { way: 'field', field: 'd' },
            scale: { factor, offset },
          }),
          Field.parse({ id: 's', name: 's', type: 'BYTE', at: 64, bits: 8 }),
          Field.parse({ id: 'd', name: 'd', type: 'USINT', at: 72, bits: 8 }),
        ];
        const codec = codecOf(testImage({ size: 10, fields, order }));
        const index = codec.signals.findIndex((s) => s.id === 'v');
        codec.setValue(
          codec.signals.findIndex((s) => s.id === 'd'),
          places,
        );
        const { minimum, maximum } = limitsOf(odd ? 'BITS' : type, codec.signals[index]!.bits);
        codec.setValue(index, Math.round(Number(minimum) + share * (Number(maximum) - Number(minimum))));
        const bytes = new DataView(new ArrayBuffer(10));
        codec.encode(bytes);
        codec.decode(bytes);
        const reading = codec.readingAt(index);
        const back = rawOf(codec.signals[index]!, reading.value!, codec.aroundAt(index));
        expect(back.raw).toBe(codec.valueAt(index));
        // The text that is shown stands for this raw number and for no other.
        expect(rawOf(codec.signals[index]!, decimal(reading.text)!, codec.aroundAt(index)).raw).toBe(
          back.raw,
        );
        const written = Float64Array.from(codec.numbers);
        const copy = new DataView(new ArrayBuffer(10));
        codec.encodeNumbers(written, copy);
        expect(new Uint8Array(copy.buffer)).toEqual(new Uint8Array(bytes.buffer));
      }),
      { numRuns: runs(200) },
    );
  });

  test('what does not fit is refused by encodeNumbers, and nothing is written', () => {
    fc.assert(
      fc.property(fc.double({ min: 32_768, max: 1e12, noNaN: true }), fc.boolean(), (value, minus) => {
        const codec = compileCodec([testSignal({ type: 'INT', at: 0, bits: 16 })]);
        const view = new DataView(Uint8Array.of(0x55, 0xaa).buffer);
        codec.decode(view);
        const wanted = minus ? -value - 1 : value;
        expect(() => codec.encodeNumbers(Float64Array.of(wanted), view)).toThrow(/does not fit/);
        expect(view.getUint16(0)).toBe(0x55aa);
      }),
    );
  });
});

/** Whole types, as both other implementations know them. */
const wholeTypes = [
  'SINT',
  'INT',
  'DINT',
  'LINT',
  'USINT',
  'UINT',
  'UDINT',
  'ULINT',
  'REAL',
  'LREAL',
] as const;

describe('against independent implementations', () => {
  test('Node’s Buffer methods read the same numbers', () => {
    const method: Record<(typeof wholeTypes)[number], [string, string]> = {
      SINT: ['readInt8', 'readInt8'],
      INT: ['readInt16LE', 'readInt16BE'],
      DINT: ['readInt32LE', 'readInt32BE'],
      LINT: ['readBigInt64LE', 'readBigInt64BE'],
      USINT: ['readUInt8', 'readUInt8'],
      UINT: ['readUInt16LE', 'readUInt16BE'],
      UDINT: ['readUInt32LE', 'readUInt32BE'],
      ULINT: ['readBigUInt64LE', 'readBigUInt64BE'],
      REAL: ['readFloatLE', 'readFloatBE'],
      LREAL: ['readDoubleLE', 'readDoubleBE'],
    };
    const swaps: Record<ByteOrder, (b: Buffer) => [Buffer, 0 | 1]> = {
      little: (b) => [b, 0],
      big: (b) => [b, 1],
      // Swapping the bytes of each word turns the word-swapped orders into plain ones.
      bigSwapped: (b) => [b.length > 1 ? Buffer.from(b).swap16() : b, 0],
      littleSwapped: (b) => [b.length > 1 ? Buffer.from(b).swap16() : b, 1],
    };
    fc.assert(
      fc.property(
        fc.constantFrom(...wholeTypes),
        fc.constantFrom(...byteOrders),
        fc.integer({ min: 0, max: 20 }),
        background,
        (type, order, byte, bytes) => {
          const bits = fieldTypes[type].bits;
          const codec = compileCodec([testSignal({ type, at: byte * 8, bits }, order)]);
          codec.decode(new DataView(bytes.buffer));
          const [own, big] = swaps[order](Buffer.from(bytes.subarray(byte, byte + bits / 8)));
          const read = own[method[type][big] as 'readInt8'].bind(own);
          expect(codec.valueAt(0)).toEqual(read(0));
        },
      ),
      { numRuns: runs(500) },
    );
  });

  test('Python’s struct reads the same numbers, and reads back what we write', () => {
    const letter = {
      SINT: 'b',
      INT: 'h',
      DINT: 'i',
      LINT: 'q',
      USINT: 'B',
      UINT: 'H',
      UDINT: 'I',
      ULINT: 'Q',
      REAL: 'f',
      LREAL: 'd',
    };
    const bytes = Uint8Array.from({ length: 512 }, (_, i) => (i * 73 + (i >> 3) * 19 + 7) & 0xff);
    const cases = wholeTypes.flatMap((type) =>
      (['little', 'big'] as const).flatMap((order) =>
        [0, 1, 3, 60, 121, 333].map((byte) => ({ type, order, byte })),
      ),
    );
    const script = `
import struct, sys, json
data = bytes.fromhex(sys.argv[1])
for code, offset in json.loads(sys.argv[2]):
    value = struct.unpack_from(code, data, offset)[0]
    print(value.hex() if isinstance(value, float) else value)`;
    const codes = cases.map(({ type, order, byte }) => [
      (order === 'little' ? '<' : '>') + letter[type],
      byte,
    ]);
    const run = (data: Uint8Array) =>
      execFileSync(
        '/usr/bin/python3',
        ['-c', script, Buffer.from(data).toString('hex'), JSON.stringify(codes)],
        {
          encoding: 'utf8',
        },
      )
        .trim()
        .split('\n');
    const theirs = run(bytes);
    cases.forEach(({ type, order, byte }, i) => {
      const codec = compileCodec([testSignal({ type, at: byte * 8, bits: fieldTypes[type].bits }, order)]);
      codec.decode(new DataView(bytes.buffer));
      const own = codec.valueAt(0);
      expect(typeof own === 'number' && readsOf({ type }) === 'float' ? hexFloat(own) : String(own)).toBe(
        theirs[i],
      );
    });
  });
});

/** A double as Python writes it with float.hex(). */
function hexFloat(value: number): string {
  if (Number.isNaN(value)) return 'nan';
  const view = new DataView(new ArrayBuffer(8));
  view.setFloat64(0, value);
  const high = view.getUint32(0);
  const exponent = (high >>> 20) & 0x7ff;
  const mantissa =
    (high & 0xfffff).toString(16).padStart(5, '0') + view.getUint32(4).toString(16).padStart(8, '0');
  const sign = high >>> 31 ? '-' : '';
  if (exponent === 0 && /^0+$/.test(mantissa)) return `${sign}0x0.0p+0`;
  const power = exponent === 0 ? -1022 : exponent - 1023;
  return `${sign}0x${exponent === 0 ? 0 : 1}.${mantissa}p${power < 0 ? '' : '+'}${power}`;
}

test('repeated groups and arrays: each signal reads its own bits', () => {
  const image = testImage({
    size: 64,
    groups: [
      { id: 'p', name: 'port', count: 2, stride: 256, parent: null, first: 1 },
      { id: 'c', name: 'channel', count: 3, stride: 64, parent: 'p', first: 0 },
    ],
    fields: [
      Field.parse({
        id: 'l',
        name: 'level',
        type: 'UINT',
        at: 16,
        bits: 16,
        group: 'c',
        array: { count: 2, stride: 16 },
      }),
      Field.parse({ id: 'o', name: 'on', type: 'BOOL', at: 3, bits: 1, group: 'c' }),
    ],
  });
  const signals = signalsOf(image);
  expect(signals).toHaveLength(2 * 3 * 3);
  const named = Object.fromEntries(signals.map((s) => [s.name, s.at]));
  expect(named['port_1.channel_0.level[0]']).toBe(16);
  expect(named['port_2.channel_2.level[1]']).toBe(16 + 256 + 2 * 64 + 16);
  expect(named['port_2.channel_1.on']).toBe(3 + 256 + 64);
  const codec = codecOf(image);
  const view = new DataView(new ArrayBuffer(64));
  codec.signals.forEach((_, i) => codec.setValue(i, codec.signals[i]!.bits === 1 ? i % 2 === 0 : 1000 + i));
  codec.encode(view);
  codec.decode(view);
  codec.signals.forEach((s, i) => expect(codec.valueAt(i)).toBe(s.bits === 1 ? i % 2 === 0 : 1000 + i));
});

test('a signal that a repeated field takes its sign from is that of the same repetition', () => {
  const image = testImage({
    size: 8,
    groups: [{ id: 'c', name: 'ch', count: 2, stride: 32, parent: null, first: 1 }],
    fields: [
      Field.parse({
        id: 'w',
        name: 'w',
        type: 'UINT',
        at: 0,
        bits: 16,
        group: 'c',
        sign: { way: 'bit', field: 'n', bit: 0, inverted: false },
      }),
      Field.parse({ id: 'n', name: 'n', type: 'BOOL', at: 16, bits: 1, group: 'c' }),
    ],
  });
  const codec = codecOf(image);
  codec.decode(new DataView(Uint8Array.of(5, 0, 0, 0, 7, 0, 1, 0).buffer));
  const texts = codec.signals.map((s, i) => [s.name, codec.textAt(i)]);
  expect(texts).toContainEqual(['ch_1.w', '5']);
  expect(texts).toContainEqual(['ch_2.w', '-7']);
});

test('readings of a reading: specials, limits, normally closed', () => {
  const level = testSignal({
    type: 'UINT',
    at: 0,
    bits: 16,
    specials: [{ value: 65_535, means: 'no reading' }],
    limits: { minimum: '0', maximum: '100' },
    scale: { factor: '1/100', offset: '0' },
  });
  expect(readingOf(level, 65_535)).toMatchObject({ special: 'no reading', value: undefined });
  expect(readingOf(level, 12_000)).toMatchObject({ text: '120.00', beyond: 'above' });
  expect(() => rawOf(level, decimal('100.5')!)).toThrow(/limits/);
  const codec = compileCodec([level]);
  codec.decode(new DataView(Uint8Array.of(0xff, 0xff).buffer));
  expect(codec.numbers[0]).toBeNaN();
  const door = testSignal({ type: 'BOOL', at: 0, bits: 1, normallyClosed: true });
  expect([readingOf(door, true).acts, readingOf(door, false).acts]).toEqual([false, true]);
});

test('a special number is NaN among the numbers, and stays when the others are written', () => {
  const codec = compileCodec([
    testSignal({ type: 'INT', at: 0, bits: 16, specials: [{ value: -1, means: 'no reading' }] }),
    testSignal({ name: 'b', type: 'UINT', at: 16, bits: 16 }),
  ]);
  const view = new DataView(Uint8Array.of(0xff, 0xff, 1, 0).buffer);
  codec.decode(view);
  expect([...codec.numbers]).toEqual([NaN, 1]);
  const numbers = Float64Array.from(codec.numbers);
  numbers[1] = 7;
  codec.encodeNumbers(numbers, view);
  expect([...new Uint8Array(view.buffer)]).toEqual([0xff, 0xff, 7, 0]);
});
