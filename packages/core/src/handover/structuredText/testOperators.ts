/** For tests: operators and functions of structured text (IEC 61131-3:2013, tables 28 to 34), those that we write. */
import { widths, bitStrings, type Typed, converted, fits, shared } from './testValues.js';

export function combined(operator: string, a: Typed, b: Typed): Typed {
  const type = shared(a, b);
  const [x, y] = [a.value as never, b.value as never] as [number, number];
  switch (operator) {
    case 'AND':
    case 'OR':
    case 'XOR': {
      if (type !== 'BOOL' && !bitStrings.has(type)) throw new Error(`${operator} of ${type}`);
      const [p, q] = [BigInt(x), BigInt(y)];
      const bits = operator === 'AND' ? p & q : operator === 'OR' ? p | q : p ^ q;
      return { value: type === 'BOOL' ? bits === 1n : bits, type };
    }
    case '=':
      return { value: x === y, type: 'BOOL' };
    case '<>':
      return { value: x !== y, type: 'BOOL' };
    case '<':
      return { value: x < y, type: 'BOOL' };
    case '<=':
      return { value: x <= y, type: 'BOOL' };
    case '>':
      return { value: x > y, type: 'BOOL' };
    case '>=':
      return { value: x >= y, type: 'BOOL' };
  }
  if (bitStrings.has(type) || type === 'BOOL') throw new Error(`${operator} of ${type}`);
  const of = { '+': () => x + y, '-': () => x - y, '*': () => x * y, '/': () => x / y }[operator]!;
  return { value: of(), type };
}

export function call(name: string, given: readonly Typed[]): Typed {
  const [first, second, third] = given as [Typed, Typed, Typed];
  const numbers = () => given.reduce((type, g) => shared({ value: 0, type }, g), first.type);
  const ordered = [...given].sort((a, b) => (a.value < b.value ? -1 : a.value > b.value ? 1 : 0));
  switch (name) {
    case 'SHL':
    case 'SHR': {
      const width = widths[first.type];
      if (!width || !bitStrings.has(first.type)) throw new Error(`${name} of ${first.type}`);
      const places = second.value as bigint;
      const bits = first.value as bigint;
      return {
        value: BigInt.asUintN(width, name === 'SHL' ? bits << places : bits >> places),
        type: first.type,
      };
    }
    case 'SEL':
      if (first.type !== 'BOOL') throw new Error(`SEL by ${first.type}`);
      return { value: (first.value ? third : second).value, type: shared(second, third) };
    case 'ABS':
      return { value: Math.abs(Number(first.value)), type: first.type };
    case 'EXPT':
      return { value: Number(first.value) ** Number(second.value), type: shared(first, second) };
    case 'MIN':
      return { value: ordered[0]!.value, type: numbers() };
    case 'MAX':
      return { value: ordered.at(-1)!.value, type: numbers() };
    case 'LIMIT': {
      const type = numbers();
      const value =
        second.value < first.value ? first.value : second.value > third.value ? third.value : second.value;
      return { value, type };
    }
    case 'LEN':
      return { value: BigInt(String(first.value).length), type: 'INT' };
    case 'CONCAT':
      return { value: given.map((g) => String(g.value)).join(''), type: 'STRING' };
    case 'MID': {
      const start = Number(third.value) - 1;
      return { value: String(first.value).slice(start, start + Number(second.value)), type: 'STRING' };
    }
    case 'LREAL_TRUNC_LINT':
      return { value: BigInt(Math.trunc(first.value as number)), type: 'LINT' };
  }
  const bcd = /^([A-Z]+)_BCD_TO_([A-Z]+)$/.exec(name);
  if (bcd) return { value: BigInt((first.value as bigint).toString(16)), type: bcd[2]! };
  const toBcd = /^([A-Z]+)_TO_BCD_([A-Z]+)$/.exec(name);
  if (toBcd) return { value: BigInt(`0x${first.value}`), type: toBcd[2]! };
  const [, from, to] = /^([A-Z]+)_TO_([A-Z]+)$/.exec(name) ?? [];
  if (!from || !to) throw new Error(`no function ${name}`);
  if (first.type !== from && !fits(first.type, from)) throw new Error(`${name} of ${first.type}`);
  return { value: converted(from, to, first.value), type: to };
}
