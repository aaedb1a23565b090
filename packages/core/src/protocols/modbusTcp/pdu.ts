import { written } from '../../bytes/writer.js';
import { decode, struct, u16be, u8, type Part } from '../../bytes/struct.js';
import type { Reader } from '../../bytes/reader.js';
import { Problem } from '../../messages/problem.js';

/**
 * The messages of Modbus (Modbus Application Protocol Specification V1.1b3): one row a function, with its question and
 * its answer. Sizes are those of clause 4.1: a message has at most 253 bytes, function code included.
 */

export const maxPduBytes = 253;

/** Of each question, how much it may ask for (clause 6). */
export const limits = {
  readBits: 2000,
  readRegisters: 125,
  writeBits: 1968,
  writeRegisters: 123,
  exchangeWriteRegisters: 121,
} as const;

/** 16-bit registers to the end of a byte count that stands before them, high byte first (clause 4.2). */
const countedRegisters: Part<number[]> = {
  read: (from) => {
    const bytes = from.u8();
    if (bytes % 2 !== 0) throw new Problem('modbus.oddBytes', { bytes });
    const registers = new Array<number>(bytes / 2);
    for (let i = 0; i < registers.length; i += 1) registers[i] = from.u16be();
    return registers;
  },
  write: (to, registers) => {
    to.u8(registers.length * 2);
    for (const register of registers) to.u16be(register);
  },
};

/** Packed bits, the first in bit 0 of the first byte, with the count of bytes before them (clause 6.1). */
const countedBits: Part<boolean[]> = {
  read: (from) => unpackBits(from.take(from.u8())),
  write: (to, bits) => {
    const packed = packBits(bits);
    to.u8(packed.length);
    to.put(packed);
  },
};

export function packBits(bits: readonly boolean[]): Uint8Array {
  const packed = new Uint8Array(Math.ceil(bits.length / 8));
  bits.forEach((bit, i) => {
    if (bit) packed[i >> 3]! |= 1 << (i & 7);
  });
  return packed;
}

export const unpackBits = (packed: Uint8Array): boolean[] =>
  Array.from({ length: packed.length * 8 }, (_, i) => ((packed[i >> 3]! >> (i & 7)) & 1) === 1);

/** 16#FF00 for on, 16#0000 for off; anything else is refused (clause 6.5). */
const coil: Part<boolean> = {
  read: (from) => {
    const value = from.u16be();
    if (value !== 0xff00 && value !== 0) throw new Problem('modbus.noCoilValue', { value });
    return value === 0xff00;
  },
  write: (to, on) => to.u16be(on ? 0xff00 : 0),
};

const range = { start: u16be, count: u16be };

export interface IdentificationObject {
  id: number;
  text: string;
}

/** Objects with an id, a length and ASCII characters, and their count before them (clause 6.21). */
const identificationObjects: Part<IdentificationObject[]> = {
  read: (from: Reader) =>
    Array.from({ length: from.u8() }, () => ({
      id: from.u8(),
      text: String.fromCharCode(...from.take(from.u8())),
    })),
  write: (to, objects) => {
    to.u8(objects.length);
    for (const { id, text } of objects) {
      const characters = Uint8Array.from(text.slice(0, 255), (c) => c.charCodeAt(0) & 0x7f);
      to.u8(id);
      to.u8(characters.length);
      to.put(characters);
    }
  },
};

/** The functions that are spoken, by name: code, question, answer. */
export const functions = {
  readCoils: { code: 0x01, ask: struct(range), answer: struct({ bits: countedBits }) },
  readDiscreteInputs: { code: 0x02, ask: struct(range), answer: struct({ bits: countedBits }) },
  readHoldingRegisters: { code: 0x03, ask: struct(range), answer: struct({ registers: countedRegisters }) },
  readInputRegisters: { code: 0x04, ask: struct(range), answer: struct({ registers: countedRegisters }) },
  writeCoil: {
    code: 0x05,
    ask: struct({ start: u16be, on: coil }),
    answer: struct({ start: u16be, on: coil }),
  },
  writeRegister: {
    code: 0x06,
    ask: struct({ start: u16be, value: u16be }),
    answer: struct({ start: u16be, value: u16be }),
  },
  writeCoils: {
    code: 0x0f,
    ask: struct({ ...range, bits: countedBits }),
    answer: struct(range),
  },
  writeRegisters: {
    code: 0x10,
    ask: struct({ ...range, registers: countedRegisters }),
    answer: struct(range),
  },
  maskWriteRegister: {
    code: 0x16,
    ask: struct({ start: u16be, and: u16be, or: u16be }),
    answer: struct({ start: u16be, and: u16be, or: u16be }),
  },
  exchangeRegisters: {
    code: 0x17,
    ask: struct({
      start: u16be,
      count: u16be,
      writeStart: u16be,
      writeCount: u16be,
      registers: countedRegisters,
    }),
    answer: struct({ registers: countedRegisters }),
  },
  readIdentification: {
    code: 0x2b,
    // MEI type 14, clause 6.21; another type is another message.
    ask: struct({ mei: u8, category: u8, object: u8 }),
    answer: struct({
      mei: u8,
      category: u8,
      conformity: u8,
      more: u8,
      next: u8,
      objects: identificationObjects,
    }),
  },
} as const;

export type FunctionName = keyof typeof functions;
type PartOf<P> = P extends Part<infer T> ? T : never;
export type Ask<F extends FunctionName> = PartOf<(typeof functions)[F]['ask']>;
export type Answer<F extends FunctionName> = PartOf<(typeof functions)[F]['answer']>;

export const meiIdentification = 0x0e;

/** Clause 7. */
export const exceptions = {
  illegalFunction: 0x01,
  illegalAddress: 0x02,
  illegalValue: 0x03,
  deviceFailure: 0x04,
  acknowledge: 0x05,
  deviceBusy: 0x06,
  memoryParity: 0x08,
  gatewayPathUnavailable: 0x0a,
  gatewayTargetSilent: 0x0b,
} as const;

const nameByCode = new Map(
  (Object.entries(functions) as [FunctionName, { code: number }][]).map(([name, { code }]) => [code, name]),
);

/** The function that a message is of; undefined for one that is not spoken. */
export const functionOf = (pdu: Uint8Array): FunctionName | undefined => nameByCode.get(pdu[0] ?? 0);

const withCode = (code: number, part: Part<never>, rest: unknown): Uint8Array =>
  written((to) => {
    to.u8(code);
    part.write(to, rest as never);
  });

const partOf = <F extends FunctionName>(name: F, side: 'ask' | 'answer') =>
  functions[name][side] as unknown as Part<never>;

/** The bytes of a question. */
export const encodeAsk = <F extends FunctionName>(name: F, ask: Ask<F>): Uint8Array =>
  withCode(functions[name].code, partOf(name, 'ask'), ask);

/** The bytes of an answer. */
export const encodeAnswer = <F extends FunctionName>(name: F, answer: Answer<F>): Uint8Array =>
  withCode(functions[name].code, partOf(name, 'answer'), answer);

/** The bytes of an exception: the function code with its highest bit set, and the reason (clause 7). */
export const encodeException = (code: number, exception: number): Uint8Array =>
  Uint8Array.of(code | 0x80, exception);

/** A question that came. Throws `bytes.short` and `modbus.…` when it is none of this function. */
export const decodeAsk = <F extends FunctionName>(name: F, pdu: Uint8Array): Ask<F> =>
  decode(partOf(name, 'ask'), pdu, `Modbus question ${name}`, 1) as Ask<F>;

/**
 * The answer to a question of this function. Throws `modbus.refused` for an exception, `modbus.otherFunction` for the
 * answer to another question, `bytes.short` for one that is cut off.
 */
export function decodeAnswer<F extends FunctionName>(name: F, pdu: Uint8Array): Answer<F> {
  const { code } = functions[name];
  if (pdu[0] === (code | 0x80))
    throw new Problem('modbus.refused', { exception: pdu[1] ?? 0, ...exceptionWords(pdu[1] ?? 0) });
  if (pdu[0] !== code) throw new Problem('modbus.otherFunction', { asked: code, got: pdu[0] ?? 0 });
  return decode(partOf(name, 'answer'), pdu, `Modbus answer ${name}`, 1) as Answer<F>;
}

/** What an exception says, and where to look. */
export function exceptionWords(exception: number): { meaning: string; cure: string } {
  switch (exception) {
    case exceptions.illegalFunction:
      return {
        meaning: 'the device does not know this function',
        cure: 'Use another one that its manual names.',
      };
    case exceptions.illegalAddress:
      return {
        meaning: 'it has no such registers, or not so many in a row',
        cure:
          'Compare start and count with the manual, which may count from 1, or from 40001; ' +
          'some registers can only be read.',
      };
    case exceptions.illegalValue:
      return {
        meaning: 'it does not take this value or this count',
        cure: 'Compare the value with its limits.',
      };
    case exceptions.deviceBusy:
      return { meaning: 'it is busy', cure: 'Ask again later, or less often.' };
    case exceptions.gatewayPathUnavailable:
    case exceptions.gatewayTargetSilent:
      return {
        meaning: 'the gateway does not reach the device behind it',
        cure: 'Check the unit identifier, and the device behind the gateway.',
      };
    default:
      return {
        meaning: 'it failed while it worked on the question',
        cure: 'Look at the device’s own diagnosis; some values are taken only while it stands still, or behind a key.',
      };
  }
}
