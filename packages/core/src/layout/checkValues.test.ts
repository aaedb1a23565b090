import { describe, expect, test } from 'vitest';
import { Field } from './field.js';
import { testCell, testImage, testSignal } from '../cell/testCell.js';
import { bothSides, writeAddress, notationsOf, type AddressScene } from './address.js';
import { bitOfAddress } from './readAddress.js';
import { compileCodec } from './codec.js';
import { numberSight, numberTyped } from './numberSight.js';
import { inRadix } from './radix.js';
import { readout } from './readout.js';
import { signalsOf } from './signals.js';
import { shortText } from './valueChain.js';

/** Values from standards and from common practice, each with its source. */

const scene = (part: Parameters<typeof testImage>[0], controller = {}): AddressScene => ({
  controller: { ...testCell().controller, ...controller },
  notations: [],
  device: { name: 'd' },
  image: testImage(part),
});
const notation = (id: string) => notationsOf(testCell()).find((n) => n.id === id)!;
const numbering = (id: string, before = 0) => ({
  notation: id,
  before,
  slot: 2,
  subslot: 1,
  signals: [],
  blocks: [],
});

describe('register numbers', () => {
  // Modbus convention: reference 400001 is holding register 0 (the Modbus Application Protocol V1.1b3, 4.4, counts from
  // 0 on the wire and from 1 in the data model; the leading 4 is common practice).
  test.each([
    ['holding-6', 0, '400001'],
    ['holding-6', 5000, '405001'],
    ['holding-6', 3000, '403001'],
    ['holding-5', 0, '40001'],
    ['input-6', 0, '300001'],
    ['register-1', 0, 'register 1'],
    ['register-0', 3000, 'register 3000'],
    ['register-hex', 3000, 'register 16#0BB8'],
  ])('%s: register %i is %s', (id, register, text) => {
    const own = scene({ size: 4, numbering: numbering(id, register) });
    expect(writeAddress(notation(id), own, 0, true)).toBe(text);
    expect(bitOfAddress(text, own)).toBe(0);
  });

  // Modbus Application Protocol V1.1b3, 4.2: 16#1234 is sent 16#12 first. Bit 0 of a register is in its second byte.
  test('bit 0 of a register lies in its second byte', () => {
    const own = scene({ size: 4, numbering: numbering('register-0', 40) });
    expect(bitOfAddress('register 41 bit 0', own)).toBe(24);
    expect(writeAddress(notation('register-0'), own, 24)).toBe('register 41 · bit 0');
    expect(bitOfAddress('register 41 bit 15', own)).toBe(23);
  });

  test('five digits end at 9999 registers', () => {
    const own = scene({ size: 4, numbering: numbering('holding-5', 9999) });
    expect(writeAddress(notation('holding-5'), own, 0)).toBeUndefined();
  });
});

describe('points, signals, words, slots', () => {
  // Common practice, no source: points count from 1.
  test('point 12 is bit 11', () => {
    const own = scene({ size: 4, numbering: numbering('point') });
    expect(bothSides(own, 11).device.text).toBe('point 12');
    expect(bitOfAddress('point 12', own)).toBe(11);
  });

  // Common practice of robots with numbered signals, no source: signal 217 is the first of a range that starts at point
  // 12.
  test('signal 217 ↔ point 12 ↔ bit 11', () => {
    const signals = [
      { first: 217, count: 8, point: 12 },
      { first: 401, count: 4, point: 1 },
    ];
    const own = scene({ size: 4, numbering: { ...numbering('signal'), signals } });
    expect(bothSides(own, 11).device.text).toBe('signal 217');
    expect(bothSides(own, 18).device.text).toBe('signal 224');
    expect(bothSides(own, 3).device.text).toBe('signal 404');
    expect(bothSides(own, 5).device.text).toBe('byte 0 · bit 5');
    expect(bitOfAddress('signal 217', own)).toBe(11);
    expect(bitOfAddress('404', own)).toBe(3);
    expect(() => bitOfAddress('signal 225', own)).toThrow(/outside/);
  });

  test('a manual’s word 40 is the first word of the block', () => {
    const own = scene({ size: 8, numbering: numbering('word', 40) });
    expect(bothSides(own, 20).device.text).toBe('word 41 · bit 4');
    expect(bitOfAddress('word 41.4', own)).toBe(20);
    expect(bitOfAddress('41.4', own)).toBe(20);
  });

  test('words of a big-endian image have their low bits in the second byte', () => {
    const own = scene({ size: 8, order: 'big', numbering: numbering('word') });
    expect(bothSides(own, 8).device.text).toBe('word 0 · bit 0');
    expect(bitOfAddress('word 0 bit 15', own)).toBe(7);
  });

  test('slot and subslot', () => {
    const own = scene({ size: 8, numbering: numbering('slot') });
    expect(bothSides(own, 20).device.text).toBe('slot 2.1 · byte 2 · bit 4');
    expect(bitOfAddress('slot 2.1 byte 2 bit 4', own)).toBe(20);
  });
});

describe('elements of a controller', () => {
  // Arithmetic.
  test.each([
    [392, 16, 195],
    [20, 32, 4],
    [16, 64, 1],
    [3, 8, 2],
  ])('%i bytes end in %i-bit element %i', (size, elementBits, last) =>
    expect(bothSides(scene({ size }, { elementBits }), size * 8 - 1).controller.elementText).toBe(
      `fb[${last}]`,
    ),
  );

  test('big-endian elements have bit 0 in their last byte', () => {
    const own = scene({ size: 8 }, { elementBits: 32, elementOrder: 'big' });
    expect(bothSides(own, 24).controller.text).toBe('fb[0].%X0');
    expect(bitOfAddress('fb[0].%X31', own)).toBe(7);
  });

  test('what a gateway swaps lies in the other byte of the controller’s word', () => {
    const own = scene({ size: 5, swapped: true });
    expect(bothSides(own, 0)).toMatchObject({
      controller: { text: 'fb[0].%X8' },
      device: { text: 'byte 0 · bit 0' },
    });
    expect(bitOfAddress('fb[0].%X8', own)).toBe(0);
    // An odd last byte has no partner.
    expect(bothSides(own, 33).controller.direct).toBe('%IX4.1');
  });

  test('a path by name', () => {
    const fields = [
      Field.parse({ id: 's', name: 'status word', type: 'WORD', at: 16, bits: 16 }),
      Field.parse({ id: 'b', name: 'ready', type: 'BOOL', at: 3, bits: 1 }),
    ];
    const own = scene({ size: 5, fields }, { notation: 'path' });
    expect(bothSides(own, 26).controller.text).toBe('d.fb.status_word.%X10');
    expect(bothSides(own, 3).controller.text).toBe('d.fb.ready');
    expect(bothSides(own, 40 - 1).controller.text).toBe('fb[2].%X7');
    expect(bitOfAddress('d.fb.status_word.%X10', own)).toBe(26);
    expect(bitOfAddress('D.FB.Ready', own)).toBe(3);
    expect(() => bitOfAddress('d.fb.ready.%X1', own)).toThrow(/no such bit/);
  });

  test('a notation of the cell’s own, as data', () => {
    const own: AddressScene = {
      ...scene({ size: 4, numbering: numbering('mine') }),
      notations: [
        {
          ...notation('word'),
          ...{
            id: 'mine',
            title: 'rows',
            pattern: 'row {unit:hex}/{bit}',
            first: 16,
            firstBit: 1,
            order: 'big',
          },
        },
      ],
    };
    expect(bothSides(own, 24).device.text).toBe('row 0011/1');
    expect(bitOfAddress('row 0011/16', own)).toBe(23);
  });
});

describe('numbers that are asked about', () => {
  const own = scene({
    size: 4,
    fields: [
      Field.parse({
        id: 'b',
        name: 'fault',
        type: 'BOOL',
        at: 1,
        bits: 1,
        labels: [{ value: 1, text: 'has a fault' }],
      }),
    ],
  });
  const bitsIn = (value: bigint, order: string) =>
    numberSight(value, own, 0)
      .readings.find((r) => r.order === order)!
      .setBits.map((b) => [b.sides.device.byte, b.sides.device.bit]);

  // Common practice, no source: 1280 is bits 0 and 2 of the other byte; 2304 bits 0 and 3, 2560 bits 1 and 3.
  test.each([
    [1280n, [0, 2]],
    [2304n, [0, 3]],
    [2560n, [1, 3]],
  ])('%i: little-endian in the second byte, swapped in the first', (value, bits) => {
    expect(bitsIn(value, 'little')).toEqual(bits.map((b) => [1, b]));
    expect(bitsIn(value, 'big')).toEqual(bits.map((b) => [0, b]));
  });

  test('the order whose set bits have names is likely, and says why', () => {
    const sight = numberSight(512n, own, 0);
    expect(sight.readings[sight.likely.index]).toMatchObject({ order: 'big' });
    expect(sight.readings[sight.likely.index]!.setBits[0]).toMatchObject({
      signal: 'fault',
      means: 'has a fault',
    });
    expect(sight.likely.reason).toContain('1 of 1 set bits are named');
    expect(numberSight(0n, own, 0).likely.reason).toMatch(/No bit is set/);
  });

  test.each([
    ['1280', 1280n],
    ['16#0500', 1280n],
    ['0x0500', 1280n],
    ['2#0000_0101_0000_0000', 1280n],
    ['0b101', 5n],
    ['-2', -2n],
    ['1 280', 1280n],
    ['12.5', undefined],
    ['0xZZ', undefined],
    ['99999999999999999999', undefined],
    ['', undefined],
  ])('typed %s', (text, value) => expect(numberTyped(text)).toBe(value));

  test('a negative number has the bits of two’s complement', () =>
    expect(numberSight(-2n, own, 0).readings[0]!.bytes).toEqual([0xfe, 0xff]));
});

describe('scales and orders', () => {
  const reads = (part: Partial<Field> & Pick<Field, 'type' | 'at' | 'bits'>, bytes: number[]) => {
    const codec = compileCodec([testSignal(part, part.order ?? 'little')]);
    codec.decode(new DataView(Uint8Array.from(bytes).buffer));
    return codec.textAt(0);
  };

  test('0.01 Hz a count: 6000 is 60 Hz', () =>
    expect(
      reads(
        { type: 'UINT', at: 0, bits: 16, scale: { factor: '0.01', offset: '0' }, unit: 'Hz' },
        [0x70, 0x17],
      ),
    ).toBe('60.00 Hz'));
  // UCUM: 1 mbar = 10^-3 bar.
  test('2000 mbar is 2 bar', () =>
    expect(
      reads(
        { type: 'UINT', at: 0, bits: 16, scale: { factor: '1/1000', offset: '0' }, unit: 'bar' },
        [0xd0, 0x07],
      ),
    ).toBe('2.000 bar'));
  // UCUM: [degF] = 5/9 K, offset -160/9 °C; 212 °F is 100 °C.
  test('212 °F is 100 °C exactly', () =>
    expect(
      reads(
        { type: 'INT', at: 0, bits: 16, scale: { factor: '5/9', offset: '-160/9' }, unit: 'Cel' },
        [212, 0],
      ),
    ).toBe('100.0 Cel'));
  test('1500 reads 150.0 with one decimal', () =>
    expect(
      reads(
        { type: 'INT', at: 0, bits: 16, decimals: { way: 'fixed', places: 1 }, unit: 'rpm' },
        [0xdc, 0x05],
      ),
    ).toBe('150.0 rpm'));

  // The four orders of 16#0A0B0C0D, as they stand at ByteOrder; names of the trade: DCBA, ABCD, CDAB, BADC.
  test.each([
    ['little', [0x0d, 0x0c, 0x0b, 0x0a]],
    ['big', [0x0a, 0x0b, 0x0c, 0x0d]],
    ['bigSwapped', [0x0c, 0x0d, 0x0a, 0x0b]],
    ['littleSwapped', [0x0b, 0x0a, 0x0d, 0x0c]],
  ] as const)('%s', (order, bytes) =>
    expect(reads({ type: 'UDINT', at: 0, bits: 32, order }, [...bytes])).toBe(String(0x0a0b0c0d)),
  );
  test.each([
    ['bigSwapped', [0x07, 0x08, 0x05, 0x06, 0x03, 0x04, 0x01, 0x02]],
    ['littleSwapped', [0x02, 0x01, 0x04, 0x03, 0x06, 0x05, 0x08, 0x07]],
  ] as const)('%s, 64 bits', (order, bytes) =>
    expect(reads({ type: 'ULINT', at: 0, bits: 64, order }, [...bytes])).toBe(String(0x0102_0304_0506_0708n)),
  );

  test('BCD: 16#1998 is 1998; a digit above 9 is none', () => {
    expect(reads({ type: 'BCD', at: 0, bits: 16 }, [0x98, 0x19])).toBe('1998');
    expect(reads({ type: 'BCD', at: 0, bits: 16 }, [0x9a, 0x19])).toBe('no BCD digit');
  });

  test('text with a count before it, and padded text', () => {
    const form = { prefix: 16, encoding: 'utf-8', pad: 0 } as const;
    expect(
      reads({ type: 'STRING', at: 0, bits: 64, text: form }, [3, 0, 0x4b, 0xc3, 0xa4, 0x78, 0x78, 0]),
    ).toBe('Kä');
    expect(
      reads(
        { type: 'STRING', at: 0, bits: 32, text: { prefix: 0, encoding: 'ascii', pad: 32 } },
        [0x4f, 0x4b, 32, 32],
      ),
    ).toBe('OK');
  });

  test('the same bits in another reading', () => {
    const word = testSignal({ type: 'UDINT', at: 0, bits: 32 });
    // IEEE 754: 16#3F800000 is 1.
    expect(
      (['signed', 'hex', 'binary', 'float', 'text'] as const).map((r) => inRadix(word, 0x3f80_0000, r)),
    ).toEqual([
      '1065353216',
      '16#3F800000',
      `2#${'00111111100000000000000000000000'}`,
      '1',
      `'··\u00b7?'`.replace('\u00b7', '·'),
    ]);
    expect(inRadix(testSignal({ type: 'UINT', at: 0, bits: 16 }), 65_535, 'signed')).toBe('-1');
  });

  test('the readout shows every step of a magnitude with a sign and a decimal point elsewhere', () => {
    const image = testImage({
      size: 8,
      order: 'big',
      fields: [
        Field.parse({
          id: 'w',
          name: 'net',
          type: 'UDINT',
          at: 0,
          bits: 32,
          sign: { way: 'bit', field: 's', bit: 5, inverted: false },
          decimals: { way: 'field', field: 'd' },
          unit: 'kg',
        }),
        Field.parse({ id: 's', name: 'status', type: 'WORD', at: 32, bits: 16 }),
        Field.parse({ id: 'd', name: 'places', type: 'USINT', at: 48, bits: 8 }),
      ],
    });
    const steps = readout(image, signalsOf(image)[0]!, Uint8Array.of(0, 0, 0x30, 0x39, 0, 0x20, 2, 0));
    expect(steps.map((s) => `${s.title}: ${s.text}`)).toEqual([
      'bytes 0–3: 00 00 30 39',
      'big first: 16#00003039',
      'as UDINT: 12345',
      'magnitude, sign from another bit: -12345',
      '2 decimals: -123.45',
      'with unit: -123.45 kg',
    ]);
  });

  test('bit labels of a status word', () => {
    const word = testSignal({
      type: 'WORD',
      at: 0,
      bits: 16,
      bitLabels: [
        { bit: 0, text: 'on' },
        { bit: 3, text: 'fault' },
      ],
    });
    expect(shortText(word, 0b1001)).toBe('9 · on, fault');
  });
});
