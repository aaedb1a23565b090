import type { Refusal } from '../../devices/refusal.js';
import { Problem } from '../../messages/problem.js';
import { exceptionOf } from './refusals.js';
import {
  decodeAsk,
  encodeAnswer,
  encodeException,
  exceptions,
  functionOf,
  limits,
  maxPduBytes,
  meiIdentification,
  type IdentificationObject,
} from './pdu.js';

/** What a Modbus server serves. A read says undefined where the device has no such place, a write why it is refused. */
export interface ModbusMemory {
  readBits(kind: 'coils' | 'inputs', start: number, count: number): boolean[] | undefined;
  readRegisters(kind: 'holding' | 'inputs', start: number, count: number): number[] | undefined;
  writeBits(start: number, bits: readonly boolean[]): Refusal | undefined;
  writeRegisters(start: number, registers: readonly number[]): Refusal | undefined;
  /** Basic objects 0 to 2 (vendor, product code, revision), and more where there are some. */
  identification: readonly IdentificationObject[];
}

/** Thrown inside, sent as an exception. */
class Exception extends Error {
  constructor(readonly exception: number) {
    super(`exception ${exception}`);
  }
}

const refuseUnless = (condition: boolean, exception: number): void => {
  if (!condition) throw new Exception(exception);
};
function found<T>(value: T | undefined): T {
  if (value === undefined) throw new Exception(exceptions.illegalAddress);
  return value;
}
function taken(refusal: Refusal | undefined): void {
  if (refusal) throw new Exception(exceptionOf(refusal));
}
const between = (count: number, maximum: number) =>
  refuseUnless(count >= 1 && count <= maximum, exceptions.illegalValue);
/** Addresses end at 65535 (clause 4.4); a run may not go past it. */
const inside = (start: number, count: number) =>
  refuseUnless(start + count <= 0x10000, exceptions.illegalAddress);

/**
 * The answer to one question, in the order of checks that the state diagrams of clause 6 show: function, count,
 * address, then the work. Never throws: what cannot be done becomes an exception.
 */
export function serve(memory: ModbusMemory, pdu: Uint8Array): Uint8Array {
  const code = pdu[0] ?? 0;
  try {
    return answerTo(memory, pdu);
  } catch (error) {
    if (error instanceof Exception) return encodeException(code, error.exception);
    if (error instanceof Problem) return encodeException(code, exceptions.illegalValue);
    return encodeException(code, exceptions.deviceFailure);
  }
}

function answerTo(memory: ModbusMemory, pdu: Uint8Array): Uint8Array {
  const name = functionOf(pdu);
  switch (name) {
    case 'readCoils':
    case 'readDiscreteInputs': {
      const { start, count } = decodeAsk(name, pdu);
      between(count, limits.readBits);
      inside(start, count);
      const kind = name === 'readCoils' ? 'coils' : 'inputs';
      return encodeAnswer(name, { bits: found(memory.readBits(kind, start, count)) });
    }
    case 'readHoldingRegisters':
    case 'readInputRegisters': {
      const { start, count } = decodeAsk(name, pdu);
      between(count, limits.readRegisters);
      inside(start, count);
      const kind = name === 'readHoldingRegisters' ? 'holding' : 'inputs';
      return encodeAnswer(name, { registers: found(memory.readRegisters(kind, start, count)) });
    }
    case 'writeCoil': {
      const { start, on } = decodeAsk(name, pdu);
      taken(memory.writeBits(start, [on]));
      return encodeAnswer(name, { start, on });
    }
    case 'writeRegister': {
      const { start, value } = decodeAsk(name, pdu);
      taken(memory.writeRegisters(start, [value]));
      return encodeAnswer(name, { start, value });
    }
    case 'writeCoils': {
      const { start, count, bits } = decodeAsk(name, pdu);
      between(count, limits.writeBits);
      refuseUnless(bits.length === Math.ceil(count / 8) * 8, exceptions.illegalValue);
      inside(start, count);
      taken(memory.writeBits(start, bits.slice(0, count)));
      return encodeAnswer(name, { start, count });
    }
    case 'writeRegisters': {
      const { start, count, registers } = decodeAsk(name, pdu);
      between(count, limits.writeRegisters);
      refuseUnless(registers.length === count, exceptions.illegalValue);
      inside(start, count);
      taken(memory.writeRegisters(start, registers));
      return encodeAnswer(name, { start, count });
    }
    case 'maskWriteRegister': {
      const { start, and, or } = decodeAsk(name, pdu);
      const [value] = found(memory.readRegisters('holding', start, 1));
      // Result = (value AND and) OR (or AND NOT and), clause 6.16.
      const masked = (value! & and) | (or & ~and & 0xffff);
      taken(memory.writeRegisters(start, [masked]));
      return encodeAnswer(name, { start, and, or });
    }
    case 'exchangeRegisters': {
      const { start, count, writeStart, writeCount, registers } = decodeAsk(name, pdu);
      between(count, limits.readRegisters);
      between(writeCount, limits.exchangeWriteRegisters);
      refuseUnless(registers.length === writeCount, exceptions.illegalValue);
      inside(start, count);
      inside(writeStart, writeCount);
      // What is to be read must be there before anything is written; the write comes first (clause 6.17).
      found(memory.readRegisters('holding', start, count));
      taken(memory.writeRegisters(writeStart, registers));
      return encodeAnswer(name, { registers: found(memory.readRegisters('holding', start, count)) });
    }
    case 'readIdentification':
      return identificationAnswer(memory, pdu);
    case undefined:
      throw new Exception(exceptions.illegalFunction);
  }
}

/** Last object of the basic, regular and extended category (clause 6.21). */
const lastOfCategory: Record<number, number> = { 1: 0x02, 2: 0x7f, 3: 0xff };

function identificationAnswer({ identification }: ModbusMemory, pdu: Uint8Array): Uint8Array {
  const { mei, category, object } = decodeAsk('readIdentification', pdu);
  refuseUnless(mei === meiIdentification, exceptions.illegalFunction);
  const extended = identification.some((o) => o.id > 0x7f);
  const regular = identification.some((o) => o.id > 0x02);
  // Streams of the highest category that there is, and single objects (bit 7).
  const conformity = 0x80 | (extended ? 3 : regular ? 2 : 1);
  const answer = (objects: IdentificationObject[], next: number) =>
    encodeAnswer('readIdentification', {
      mei,
      category,
      conformity,
      more: next ? 0xff : 0,
      next,
      objects,
    });
  if (category === 4) {
    const single = identification.find((o) => o.id === object);
    return answer([found(single)], 0);
  }
  const last = lastOfCategory[category];
  if (last === undefined) throw new Exception(exceptions.illegalValue);
  const inCategory = [...identification].filter((o) => o.id <= last).sort((a, b) => a.id - b.id);
  // An object that is not there starts the stream from the beginning (clause 6.21).
  const from = inCategory.findIndex((o) => o.id === object);
  const taken: IdentificationObject[] = [];
  let bytes = 7;
  for (const next of inCategory.slice(Math.max(0, from))) {
    bytes += 2 + next.text.length;
    if (bytes > maxPduBytes) return answer(taken, next.id);
    taken.push(next);
  }
  return answer(taken, 0);
}
