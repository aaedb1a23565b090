/**
 * For tests: the values of structured text with their types, and how one becomes another: no conversion but those that
 * are written (IEC 61131-3:2013, 6.6.2.5.2).
 */
export type Scalar = boolean | bigint | number | string;
export type Value = Scalar | Value[] | { [name: string]: Value };

export const widths: Readonly<Record<string, number>> = {
  ...{ BYTE: 8, WORD: 16, DWORD: 32, LWORD: 64, SINT: 8, INT: 16, DINT: 32, LINT: 64 },
  ...{ USINT: 8, UINT: 16, UDINT: 32, ULINT: 64 },
};
const signed = new Set(['SINT', 'INT', 'DINT', 'LINT']);
export const bitStrings = new Set(['BYTE', 'WORD', 'DWORD', 'LWORD']);
const reals = new Set(['REAL', 'LREAL']);
export const parts: Readonly<Record<string, string>> = {
  X: 'BOOL',
  B: 'BYTE',
  W: 'WORD',
  D: 'DWORD',
  L: 'LWORD',
};

export type Type =
  | { kind: 'elementary'; name: string }
  | { kind: 'array'; from: number[]; to: number[]; of: Type }
  | { kind: 'struct'; name: string; members: Map<string, Type> };

/** A value with its type; literals have one of their own until they meet a typed value. */
export interface Typed {
  value: Scalar;
  type: string;
}

export const elementary = (name: string): Type => ({ kind: 'elementary', name });

const scratch = new DataView(new ArrayBuffer(8));
/** A conversion of table 22 to 27. REAL to whole numbers rounds to the nearest, halves to even (IEC 60559). */
export function converted(from: string, to: string, value: Scalar): Scalar {
  if (from === 'BYTE' && to === 'CHAR') return String.fromCharCode(Number(value));
  if (from === 'CHAR' && to === 'BYTE') return BigInt(String(value).charCodeAt(0));
  if (from === 'STRING' && to === 'CHAR') return String(value)[0] ?? '\0';
  if (from === 'CHAR' && to === 'STRING') return value;
  if (from === 'DWORD' && to === 'REAL') return (scratch.setUint32(0, Number(value)), scratch.getFloat32(0));
  if (from === 'LWORD' && to === 'LREAL')
    return (scratch.setBigUint64(0, value as bigint), scratch.getFloat64(0));
  if (from === 'REAL' && to === 'DWORD')
    return (scratch.setFloat32(0, value as number), BigInt(scratch.getUint32(0)));
  if (from === 'LREAL' && to === 'LWORD')
    return (scratch.setFloat64(0, value as number), scratch.getBigUint64(0));
  if (reals.has(to)) return Number(value);
  const width = widths[to];
  if (width === undefined || typeof value === 'string') throw new Error(`no conversion ${from}_TO_${to}`);
  const whole = typeof value === 'number' ? toNearest(value) : BigInt(value);
  return signed.has(to) ? BigInt.asIntN(width, whole) : BigInt.asUintN(width, whole);
}

function toNearest(value: number): bigint {
  const below = Math.floor(value);
  const rest = value - below;
  return BigInt(rest > 0.5 || (rest === 0.5 && below % 2 !== 0) ? below + 1 : below);
}

/** The standard on-delay timer (table 46). */
export const timer: Type = {
  kind: 'struct',
  name: 'TON',
  members: new Map([
    ['IN', elementary('BOOL')],
    ['Q', elementary('BOOL')],
    ['ET', elementary('TIME')],
    ['begun', elementary('LREAL')],
  ]),
};

/** Whether a literal may stand where a type is wanted. */
export function fits(literal: string, type: string): boolean {
  if (literal === 'whole') return type in widths || type === 'time';
  if (literal === 'hex') return bitStrings.has(type) || type in widths;
  return literal === 'real' && reals.has(type);
}
const literals = new Set(['whole', 'hex', 'real']);

/** The type that two operands share. Throws where IEC 61131-3 would want a conversion. */
export function shared(a: Typed, b: Typed): string {
  if (a.type === b.type) return a.type;
  if (literals.has(a.type) && fits(a.type, b.type)) return b.type;
  if (literals.has(b.type) && fits(b.type, a.type)) return a.type;
  if (literals.has(a.type) && literals.has(b.type)) return a.type;
  throw new Error(`${a.type} meets ${b.type}`);
}

export function assignable(value: Typed, type: string): Scalar {
  if (value.type !== type && !fits(value.type, type)) throw new Error(`${value.type} is put into ${type}`);
  const width = widths[type];
  if (width === undefined || typeof value.value !== 'bigint') return value.value;
  return signed.has(type) ? BigInt.asIntN(width, value.value) : BigInt.asUintN(width, value.value);
}

export function literalOf(token: string): Typed | undefined {
  if (token === 'TRUE' || token === 'FALSE') return { value: token === 'TRUE', type: 'BOOL' };
  if (token.startsWith("'")) return { value: token.slice(1, -1).replace(/\$(.)/g, '$1'), type: 'STRING' };
  const [, count, unit] = /^T#(\d+)(ms|s|h)$/.exec(token) ?? [];
  if (count) return { value: BigInt(count) * { ms: 1n, s: 1000n, h: 3_600_000n }[unit!]!, type: 'TIME' };
  const [, type, hex] = /^(?:([A-Z]+)#)?(?:16#([0-9A-F]+)|[\d.]+(?:E[-+]?\d+)?)$/.exec(token) ?? [];
  if (hex) return { value: BigInt(`0x${hex}`), type: type ?? 'hex' };
  if (!/^(?:[A-Z]+#)?\d/.test(token)) return undefined;
  const digits = token.replace(/^[A-Z]+#/, '');
  return /[.E]/.test(digits)
    ? { value: Number(digits), type: type ?? 'real' }
    : { value: BigInt(digits), type: type ?? 'whole' };
}

/** A variable of a type as it is before anything is put into it. */
export function fresh(type: Type): Value {
  if (type.kind === 'struct')
    return Object.fromEntries([...type.members].map(([name, member]) => [name, fresh(member)]));
  if (type.kind === 'array')
    return Array.from({ length: type.from.reduce((n, f, d) => n * (type.to[d]! - f + 1), 1) }, () =>
      fresh(type.of),
    );
  if (type.name === 'BOOL') return false;
  if (type.name === 'STRING') return '';
  if (type.name === 'TIME') return 0n;
  if (reals.has(type.name)) return 0;
  if (!(type.name in widths)) throw new Error(`there is no type ${type.name}`);
  return 0n;
}

/** Every single value in it by its path: `channel[1].level`, `serial[3]`. */
export function flattened(type: Type, value: Value, path = ''): [string, Scalar][] {
  if (type.kind === 'struct')
    return [...type.members].flatMap(([name, member]) =>
      flattened(member, (value as Record<string, Value>)[name]!, path ? `${path}.${name}` : name),
    );
  if (type.kind === 'array')
    return (value as Value[]).flatMap((inner, i) => {
      const lengths = type.from.map((f, d) => type.to[d]! - f + 1);
      const indexes = lengths.map((length, d) => {
        const step = lengths.slice(d + 1).reduce((n, l) => n * l, 1);
        return type.from[d]! + (Math.floor(i / step) % length);
      });
      return flattened(type.of, inner, `${path}[${indexes.join(', ')}]`);
    });
  return [[path, value as Scalar]];
}

/** Puts single values into a structure by their paths. */
export function filled(type: Type, values: Readonly<Record<string, Scalar>>, path = ''): Value {
  if (type.kind === 'elementary') return values[path] ?? fresh(type);
  if (type.kind === 'struct')
    return Object.fromEntries(
      [...type.members].map(([name, member]) => [
        name,
        filled(member, values, path ? `${path}.${name}` : name),
      ]),
    );
  const paths = flattened(
    { ...type, of: elementary('BOOL') },
    fresh({ ...type, of: elementary('BOOL') }),
    path,
  );
  return paths.map(([inner]) => filled(type.of, values, inner));
}
