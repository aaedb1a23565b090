import { hexText, Parts, type FramePart } from '../frameParts.js';
import { exceptionWords, functions } from './pdu.js';

/**
 * A message part by part (Modbus Messaging on TCP/IP Implementation Guide V1.0b, 3.1.3; of its function the Application
 * Protocol V1.1b3, 6): for whoever compares it with a manual.
 */
export function explainFrame(frame: Uint8Array, answer: boolean): FramePart[] {
  const parts = new Parts(frame);
  const word = (name: string, means?: (value: number) => string) => parts.number(2, name, means, 'big');
  word('transaction');
  word('protocol', (value) => (value === 0 ? 'Modbus' : hexText(value)));
  word('length', (bytes) => `${bytes} bytes follow`);
  parts.number(1, 'unit');
  const code = parts.number(1, 'function', functionText);
  if (code & 0x80) parts.number(1, 'exception', (value) => `${value}: ${exceptionWords(value).meaning}`);
  else if (answer ? reads.has(code) : false) {
    parts.number(1, 'byte count');
    parts.rest(code <= 2 ? 'bits' : 'registers', code <= 2 ? 'the first in bit 0' : 'high byte first');
  } else if (single.has(code)) {
    word('address', addressText);
    word('value', (value) =>
      code === functions.writeCoil.code ? (value === 0xff00 ? 'on' : 'off') : String(value),
    );
  } else if (reads.has(code) || several.has(code)) {
    word('first address', addressText);
    word('quantity');
    if (parts.left > 0) {
      parts.number(1, 'byte count');
      parts.rest('values', 'high byte first');
    }
  }
  parts.rest('data');
  return parts.list;
}

const codeOf = (...names: (keyof typeof functions)[]) =>
  new Set(names.map((name) => functions[name].code as number));
const reads = codeOf('readCoils', 'readDiscreteInputs', 'readHoldingRegisters', 'readInputRegisters');
const single = codeOf('writeCoil', 'writeRegister');
const several = codeOf('writeCoils', 'writeRegisters');

const addressText = (address: number) => `${address}, counted from 0`;
const functionText = (code: number): string => {
  const name = Object.entries(functions).find(([, { code: own }]) => own === (code & 0x7f))?.[0];
  const words = name?.replace(/([A-Z])/g, (letter) => ` ${letter.toLowerCase()}`) ?? hexText(code);
  return code & 0x80 ? `${words}, refused` : words;
};
