import { execFileSync } from 'node:child_process';
import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { encodeFrame, takeFrame } from './frame.js';
import {
  decodeAnswer,
  decodeAsk,
  encodeAnswer,
  encodeAsk,
  encodeException,
  functionOf,
  functions,
  packBits,
  type FunctionName,
} from './pdu.js';
import { readPlan } from './readPlan.js';
import { serve, type ModbusMemory } from './serve.js';

const bytesOf = (hex: string) =>
  Uint8Array.from(hex.replace(/\s/g, '').match(/../g)!, (pair) => parseInt(pair, 16));
const hexOf = (bytes: Uint8Array) => Buffer.from(bytes).toString('hex').toUpperCase();
const bits = (...bytes: number[]) =>
  bytes.flatMap((b) => Array.from({ length: 8 }, (_, i) => ((b >> i) & 1) === 1));

/**
 * The worked examples of the Modbus Application Protocol Specification V1.1b3, clauses 6.1 to 6.17 and 6.21 (from
 * memory).
 */
const examples: [FunctionName, string, object, string, object][] = [
  ['readCoils', '01 0013 0013', { start: 19, count: 19 }, '01 03 CD6B05', { bits: bits(0xcd, 0x6b, 0x05) }],
  [
    'readDiscreteInputs',
    '02 00C4 0016',
    { start: 196, count: 22 },
    '02 03 ACDB35',
    { bits: bits(0xac, 0xdb, 0x35) },
  ],
  [
    'readHoldingRegisters',
    '03 006B 0003',
    { start: 107, count: 3 },
    '03 06 022B 0000 0064',
    { registers: [555, 0, 100] },
  ],
  ['readInputRegisters', '04 0008 0001', { start: 8, count: 1 }, '04 02 000A', { registers: [10] }],
  ['writeCoil', '05 00AC FF00', { start: 172, on: true }, '05 00AC FF00', { start: 172, on: true }],
  ['writeRegister', '06 0001 0003', { start: 1, value: 3 }, '06 0001 0003', { start: 1, value: 3 }],
  [
    'writeCoils',
    '0F 0013 000A 02 CD01',
    { start: 19, count: 10, bits: bits(0xcd, 0x01) },
    '0F 0013 000A',
    { start: 19, count: 10 },
  ],
  [
    'writeRegisters',
    '10 0001 0002 04 000A 0102',
    { start: 1, count: 2, registers: [10, 258] },
    '10 0001 0002',
    { start: 1, count: 2 },
  ],
  [
    'maskWriteRegister',
    '16 0004 00F2 0025',
    { start: 4, and: 0xf2, or: 0x25 },
    '16 0004 00F2 0025',
    { start: 4, and: 0xf2, or: 0x25 },
  ],
  [
    'exchangeRegisters',
    '17 0003 0006 000E 0003 06 00FF 00FF 00FF',
    { start: 3, count: 6, writeStart: 14, writeCount: 3, registers: [255, 255, 255] },
    '17 0C 00FE 0ACD 0001 0003 000D 00FF',
    { registers: [0xfe, 0xacd, 1, 3, 0xd, 0xff] },
  ],
  [
    'readIdentification',
    '2B 0E 01 00',
    { mei: 14, category: 1, object: 0 },
    `2B 0E 01 01 00 00 03 00 16 ${hexOf(Buffer.from('Company identification'))} 01 0F ${hexOf(Buffer.from('Product code XX'))} 02 05 ${hexOf(Buffer.from('V2.11'))}`,
    {
      ...{ mei: 14, category: 1, conformity: 1, more: 0, next: 0 },
      objects: [
        { id: 0, text: 'Company identification' },
        { id: 1, text: 'Product code XX' },
        { id: 2, text: 'V2.11' },
      ],
    },
  ],
];

describe.each(examples)('%s', (name, askHex, ask, answerHex, answer) => {
  test('the question of the specification, both ways', () => {
    expect(functionOf(bytesOf(askHex))).toBe(name);
    expect(decodeAsk(name, bytesOf(askHex))).toEqual(ask);
    expect(hexOf(encodeAsk(name, ask as never))).toBe(hexOf(bytesOf(askHex)));
  });
  test('its answer, both ways; cut off anywhere it is refused', () => {
    expect(decodeAnswer(name, bytesOf(answerHex))).toEqual(answer);
    expect(hexOf(encodeAnswer(name, answer as never))).toBe(hexOf(bytesOf(answerHex)));
    for (let end = 1; end < bytesOf(answerHex).length; end += 1)
      expect(() => decodeAnswer(name, bytesOf(answerHex).subarray(0, end))).toThrow();
  });
});

test('pymodbus reads the same questions (a second implementation)', () => {
  const script = `
import sys, json
try:
    from pymodbus.factory import ServerDecoder
except ImportError:
    from pymodbus.pdu import DecodePDU
    ServerDecoder = lambda: DecodePDU(True)
decoder = ServerDecoder()
for line in json.loads(sys.argv[1]):
    pdu = decoder.decode(bytes.fromhex(line))
    print(pdu.function_code, getattr(pdu, 'address', getattr(pdu, 'read_address', getattr(pdu, 'object_id', None))))`;
  const printed = execFileSync(
    '/usr/bin/python3',
    [
      '-W',
      'ignore',
      '-c',
      script,
      JSON.stringify(examples.map(([name, , ask]) => hexOf(encodeAsk(name, ask as never)))),
    ],
    {
      encoding: 'utf8',
    },
  );
  expect(printed.trim().split('\n')).toEqual(
    examples.map(([name, , ask]) => {
      const { start = 0 } = ask as { start?: number };
      return `${functions[name].code} ${start}`;
    }),
  );
});

describe('frames', () => {
  const frame = { transaction: 0x1234, unit: 255, pdu: bytesOf('03 006B 0003') };

  // Modbus Messaging on TCP/IP Implementation Guide V1.0b, 3.1.3: transaction, protocol 0, length, unit.
  test('a header of seven bytes before the message', () =>
    expect(hexOf(encodeFrame(frame))).toBe('123400000006FF03006B0003'));

  test('however the stream is cut, the same frames come out', () => {
    const stream = Buffer.concat([encodeFrame(frame), encodeFrame({ ...frame, transaction: 7, unit: 0 })]);
    fc.assert(
      fc.property(fc.array(fc.integer({ min: 1, max: 9 }), { minLength: 1, maxLength: 30 }), (cuts) => {
        let held = new Uint8Array(0);
        const got: number[] = [];
        let at = 0;
        for (const cut of [...cuts, stream.length]) {
          held = Uint8Array.from([...held, ...stream.subarray(at, at + cut)]);
          at += cut;
          for (let next = takeFrame(held); ; next = takeFrame(held)) {
            held = next.rest as Uint8Array<ArrayBuffer>;
            if (!next.frame) break;
            got.push(next.frame.transaction, next.frame.unit);
          }
        }
        expect(got).toEqual([0x1234, 255, 7, 0]);
      }),
    );
  });

  test.each([
    ['another protocol', '0001 0001 0006 01 03 0000 0001'],
    ['no function', '0001 0000 0001 01'],
    ['longer than a message can be', '0001 0000 0100 01 03 0000'],
  ])('%s is no Modbus', (_says, hex) =>
    expect(() => takeFrame(bytesOf(hex))).toThrow(
      expect.objectContaining({ code: 'modbus.notModbus' }) as Error,
    ),
  );
});

/** 32 places of each kind, from 100 on. */
function memory(): ModbusMemory & { registers: number[]; coils: boolean[] } {
  const registers = Array.from({ length: 32 }, (_, i) => i);
  const coils = Array.from({ length: 32 }, (_, i) => i % 3 === 0);
  const cut = <T>(all: T[], start: number, count: number) =>
    start >= 100 && start + count <= 132 ? all.slice(start - 100, start - 100 + count) : undefined;
  return {
    registers,
    coils,
    readBits: (_kind, start, count) => cut(coils, start, count),
    readRegisters: (_kind, start, count) => cut(registers, start, count),
    writeBits: (start, values) => {
      if (!cut(coils, start, values.length)) return 'absent';
      coils.splice(start - 100, values.length, ...values);
      return undefined;
    },
    writeRegisters: (start, values) => {
      if (!cut(registers, start, values.length)) return 'absent';
      if (values.includes(0xffff)) return 'range';
      if (values.includes(0xfffe)) return 'state';
      registers.splice(start - 100, values.length, ...values);
      return undefined;
    },
    identification: [
      { id: 0, text: 'Gratweg' },
      { id: 1, text: 'GP2' },
      { id: 2, text: '1.4' },
      { id: 0x80, text: 'x'.repeat(240) },
      { id: 0x81, text: 'y'.repeat(100) },
    ],
  };
}

describe('a server', () => {
  // Clause 6: the state diagrams say in which order function, count and address are looked at; clause 7 the codes.
  test.each([
    ['an unknown function', '63', 'E301'],
    ['no registers', '03 0064 0000', '8303'],
    ['126 registers', '03 0064 007E', '8303'],
    ['2001 bits', '01 0064 07D1', '8103'],
    ['before the first', '03 0063 0001', '8302'],
    ['past the last', '03 0064 0021', '8302'],
    ['past 65535', '03 FFFF 0002', '8302'],
    ['a coil that is half on', '05 0064 FF01', '8503'],
    ['a value outside its limits (common practice)', '06 0064 FFFF', '8603'],
    ['a value that its state does not allow', '10 0064 0001 02 FFFE', '9004'],
    ['fewer registers than announced', '10 0064 0002 02 0001', '9003'],
    ['a question that is cut off', '03 00', '8303'],
    ['nothing at all', '', '8001'],
    ['another MEI type', '2B 0D 01 00', 'AB01'],
    ['a category that there is not', '2B 0E 05 00', 'AB03'],
    ['a single object that there is not', '2B 0E 04 44', 'AB02'],
  ])('%s', (_says, ask, answer) =>
    expect(hexOf(serve(memory(), ask ? bytesOf(ask) : new Uint8Array(0)))).toBe(answer),
  );

  test('writes and reads back', () => {
    const own = memory();
    expect(hexOf(serve(own, bytesOf('10 0064 0002 04 000A 0102')))).toBe('1000640002');
    expect(hexOf(serve(own, bytesOf('03 0064 0003')))).toBe('0306000A01020002');
    expect(hexOf(serve(own, bytesOf('05 0065 FF00')))).toBe('050065FF00');
    expect(own.coils.slice(0, 3)).toEqual([true, true, false]);
    expect(hexOf(serve(own, bytesOf('0F 0064 000A 02 CD01')))).toBe('0F0064000A');
    expect(hexOf(serve(own, bytesOf('01 0064 000A')))).toBe('0102CD01');
  });

  // Clause 6.16: 16#12 with AND 16#F2 and OR 16#25 becomes 16#17.
  test('masks a register as the example does', () => {
    const own = memory();
    own.registers[4] = 0x12;
    serve(own, bytesOf('16 0068 00F2 0025'));
    expect(own.registers[4]).toBe(0x17);
  });

  test('exchanges: what is read was written before, and nothing is written when the rest cannot be read', () => {
    const own = memory();
    expect(hexOf(serve(own, bytesOf('17 0064 0002 0064 0001 02 BEEF')))).toBe('1704BEEF0001');
    expect(hexOf(serve(own, bytesOf('17 0000 0002 0064 0001 02 0000')))).toBe('9702');
    expect(own.registers[0]).toBe(0xbeef);
  });

  test('identification: category by category, in as many answers as it takes', () => {
    const first = decodeAnswer('readIdentification', serve(memory(), bytesOf('2B 0E 01 00')));
    expect(first).toMatchObject({ conformity: 0x83, more: 0 });
    expect(first.objects.map((o) => o.id)).toEqual([0, 1, 2]);
    const all: number[] = [];
    let next = 0;
    for (let n = 0; n < 9; n += 1) {
      const pdu = serve(memory(), Uint8Array.of(0x2b, 0x0e, 3, next));
      expect(pdu.length).toBeLessThanOrEqual(253);
      const part = decodeAnswer('readIdentification', pdu);
      all.push(...part.objects.map((o) => o.id));
      if (!part.more) break;
      next = part.next;
    }
    expect(all).toEqual([0, 1, 2, 0x80, 0x81]);
  });

  test('whatever comes, one answer goes, never longer than a message', () => {
    fc.assert(
      fc.property(fc.uint8Array({ minLength: 1, maxLength: 253 }), (pdu) => {
        const answer = serve(memory(), pdu);
        expect(answer.length).toBeGreaterThan(0);
        expect(answer.length).toBeLessThanOrEqual(253);
        expect([pdu[0], pdu[0]! | 0x80]).toContain(answer[0]);
      }),
    );
  });
});

test('an exception is a refusal with a meaning and a cure; another function is no answer', () => {
  const refused = () => decodeAnswer('readHoldingRegisters', encodeException(3, 2));
  expect(refused).toThrow('exception 2');
  expect(refused).toThrow(expect.objectContaining({ code: 'modbus.refused' }) as Error);
  expect(() => decodeAnswer('readHoldingRegisters', bytesOf('04 02 000A'))).toThrow(
    expect.objectContaining({ code: 'modbus.otherFunction' }) as Error,
  );
});

describe('the plan of reading', () => {
  test('neighbours together, gaps never, long runs in parts', () => {
    const places = [
      { start: 10, count: 2 },
      { start: 0, count: 4 },
      { start: 4, count: 1 },
      { start: 11, count: 3 },
      { start: 100, count: 300 },
      { start: 7, count: 0 },
    ];
    expect(readPlan(places, 125)).toEqual([
      { start: 0, count: 5 },
      { start: 10, count: 4 },
      { start: 100, count: 125 },
      { start: 225, count: 125 },
      { start: 350, count: 50 },
    ]);
  });

  test('every place is read once, and nothing else', () => {
    const blocks = fc.array(
      fc.record({ start: fc.integer({ min: 0, max: 400 }), count: fc.integer({ min: 0, max: 200 }) }),
    );
    fc.assert(
      fc.property(blocks, fc.integer({ min: 1, max: 125 }), (places, maximum) => {
        const numbers = (list: { start: number; count: number }[]) =>
          list.flatMap(({ start, count }) => Array.from({ length: count }, (_, i) => start + i));
        const plan = readPlan(places, maximum);
        expect(plan.every((b) => b.count >= 1 && b.count <= maximum)).toBe(true);
        expect(numbers(plan)).toEqual([...new Set(numbers(places))].sort((a, b) => a - b));
      }),
    );
  });
});

test('packed bits begin in bit 0 of the first byte', () =>
  expect([...packBits([true, false, false, true, false, false, false, false, true])]).toEqual([0b1001, 1]));
