/**
 * For tests: runs the FUNCTIONs of our structured text, so that the written code can be held against the codec. Knows
 * what IEC 61131-3:2013 says of the parts that we write: partial access (6.6.1.2), SHL, SHR and LIMIT (tables 30, 33),
 * type conversions (table 22: bit strings ↔ numbers bit by bit, REAL → integer to the nearest).
 */

type Scalar = boolean | bigint | number;
type Memory = Record<string, Record<string, Scalar>>;

const widths: Record<string, number> = {
  BYTE: 8,
  WORD: 16,
  DWORD: 32,
  LWORD: 64,
  SINT: 8,
  INT: 16,
  DINT: 32,
  LINT: 64,
  USINT: 8,
  UINT: 16,
  UDINT: 32,
  ULINT: 64,
};
const signed = new Set(['SINT', 'INT', 'DINT', 'LINT']);
const partWidths: Record<string, number> = { X: 1, B: 8, W: 16, D: 32, L: 64 };

function convert(from: string, to: string, value: Scalar): Scalar {
  const scratch = new DataView(new ArrayBuffer(8));
  if (from === 'DWORD' && to === 'REAL') return (scratch.setUint32(0, Number(value)), scratch.getFloat32(0));
  if (from === 'LWORD' && to === 'LREAL')
    return (scratch.setBigUint64(0, value as bigint), scratch.getFloat64(0));
  if (from === 'REAL' && to === 'DWORD')
    return (scratch.setFloat32(0, value as number), BigInt(scratch.getUint32(0)));
  if (from === 'LREAL' && to === 'LWORD')
    return (scratch.setFloat64(0, value as number), scratch.getBigUint64(0));
  if (to === 'REAL' || to === 'LREAL') return Number(value);
  const whole =
    typeof value === 'number' ? BigInt(Math.sign(value) * Math.round(Math.abs(value))) : BigInt(value);
  const width = widths[to];
  if (width === undefined) throw new Error(`no conversion ${from}_TO_${to}`);
  return signed.has(to) ? BigInt.asIntN(width, whole) : BigInt.asUintN(width, whole);
}

/** Widths of the members of the STRUCT with this name, as declared. */
function memberWidths(code: string, struct: string): Record<string, number> {
  const body = new RegExp(`${struct} : STRUCT\\n(.*?)END_STRUCT`, 's').exec(code)?.[1] ?? '';
  return Object.fromEntries(
    [...body.matchAll(/^ +(\w+) : (\w+);/gm)].map(([, name, type]) => [name, widths[type!] ?? 64]),
  );
}

/** Reads and computes one expression; a bit string is as wide as its conversion, element or declared member. */
function evaluate(
  text: string,
  memory: Memory,
  elementBits: number,
  members: Record<string, number> = {},
): Scalar {
  const tokens =
    text.match(/16#[0-9A-F]+|\d+\.\d+(?:E-?\d+)?|\d+|[A-Za-z_]\w*|%[XBWDL]\d+|>=|[-+*/(),.[\]<]/g) ?? [];
  let at = 0;
  const peek = () => tokens[at];
  const take = (wanted?: string) => {
    const token = tokens[at];
    if (token === undefined || (wanted !== undefined && token !== wanted))
      throw new Error(`${wanted} expected in ${text}`);
    at += 1;
    return token;
  };
  interface Typed {
    value: Scalar;
    width: number;
  }

  function primary(): Typed {
    const token = take();
    if (token === '(') {
      const inner = disjunction();
      take(')');
      return inner;
    }
    if (token === '-') return { ...primary(), value: -Number(primaryBefore()) };
    if (token.startsWith('16#')) return { value: BigInt(`0x${token.slice(3)}`), width: 64 };
    if (/^\d/.test(token)) return { value: token.includes('.') ? Number(token) : BigInt(token), width: 64 };
    if (peek() === '(') return call(token);
    if (peek() === '[') {
      take('[');
      const index = take();
      take(']');
      const element = memory[token]![index] as bigint;
      if (peek() !== '.') return { value: element, width: elementBits };
      take('.');
      const [, letter, place] = /^%([XBWDL])(\d+)$/.exec(take())!;
      const width = partWidths[letter!]!;
      const part = BigInt.asUintN(width, element >> BigInt(Number(place) * width));
      return { value: width === 1 ? part === 1n : part, width };
    }
    take('.');
    let member = take();
    if (peek() === '[') {
      take('[');
      member += `[${take()}]`;
      take(']');
      return { value: memory[token]![member]!, width: 8 };
    }
    return { value: memory[token]![member]!, width: members[member] ?? 64 };
  }
  const primaryBefore = () => Number(tokens[at - 1]);

  function call(name: string): Typed {
    take('(');
    const first = disjunction();
    const rest: Typed[] = [];
    while (peek() === ',') {
      take(',');
      rest.push(disjunction());
    }
    take(')');
    const places = BigInt((rest[0]?.value as bigint | undefined) ?? 0n);
    if (name === 'SHL')
      return { value: BigInt.asUintN(first.width, (first.value as bigint) << places), width: first.width };
    if (name === 'SHR') return { value: (first.value as bigint) >> places, width: first.width };
    if (name === 'SEL') return first.value === true ? rest[1]! : rest[0]!;
    if (name === 'ABS') return { value: Math.abs(Number(first.value)), width: 64 };
    if (name === 'EXPT') return { value: Number(first.value) ** Number(rest[0]!.value), width: 64 };
    const bcd = /^([A-Z]+)_BCD_TO_([A-Z]+)$/.exec(name);
    if (bcd) return { value: BigInt((first.value as bigint).toString(16)), width: widths[bcd[2]!]! };
    const toBcd = /^([A-Z]+)_TO_BCD_([A-Z]+)$/.exec(name);
    if (toBcd) return { value: BigInt(`0x${first.value}`), width: widths[toBcd[2]!]! };
    if (name === 'LIMIT')
      return {
        value: Math.max(Number(first.value), Math.min(Number(rest[0]!.value), Number(rest[1]!.value))),
        width: 64,
      };
    const [, from, to] = /^([A-Z]+)_TO_([A-Z]+)$/.exec(name)!;
    return { value: convert(from!, to!, first.value), width: widths[to!] ?? 64 };
  }
  const chain =
    (next: () => Typed, operators: Record<string, (a: never, b: never) => Scalar>) => (): Typed => {
      let left = next();
      for (let operator = operators[peek() ?? '']; operator; operator = operators[peek() ?? '']) {
        take();
        const right = next();
        left = {
          value: operator(left.value as never, right.value as never),
          width: Math.min(left.width, right.width),
        };
      }
      return left;
    };
  const product = chain(primary, {
    '*': (a: number, b: number) => Number(a) * Number(b),
    '/': (a: number, b: number) => Number(a) / Number(b),
  });
  const sum = chain(product, {
    '+': (a: number, b: number) => Number(a) + Number(b),
    '-': (a: number, b: number) => Number(a) - Number(b),
  });
  const comparison = chain(sum, {
    '<': (a: number, b: number) => Number(a) < Number(b),
    '>=': (a: number, b: number) => Number(a) >= Number(b),
  });
  const conjunction = chain(comparison, { AND: (a: bigint, b: bigint) => a & b });
  const exclusion = chain(conjunction, { XOR: (a: bigint, b: bigint) => a ^ b });
  const disjunction = chain(exclusion, { OR: (a: bigint, b: bigint) => a | b });

  const result = disjunction();
  if (at !== tokens.length) throw new Error(`left over in ${text}`);
  return result.value;
}

/** The statements of the FUNCTION with this name, one a line. */
function statementsOf(code: string, name: string): string[] {
  const body = new RegExp(`FUNCTION ${name} :.*?END_VAR\\n(.*?)END_FUNCTION`, 's').exec(code)?.[1];
  if (body === undefined) throw new Error(`no FUNCTION ${name}`);
  return body
    .split('\n')
    .map((l) => l.trim())
    .filter((l) => l.includes(':=') && !l.startsWith('FOR') && !l.startsWith('VAR'));
}

/** Calls the unpacking FUNCTION with these elements: the members of its STRUCT. */
export function runUnpack(
  code: string,
  name: string,
  elements: bigint[],
  elementBits: number,
): Record<string, Scalar> {
  const result: Record<string, Scalar> = {};
  const memory: Memory = { raw: Object.fromEntries(elements.entries()) };
  for (const line of statementsOf(code, name)) {
    const [, member, expression] = /^\w+\.(\w+(?:\[\d+\])?) := (.*);$/.exec(line)!;
    result[member!] = evaluate(expression!, memory, elementBits);
  }
  return result;
}

/** Calls the packing FUNCTION with these members: the elements of its ARRAY. */
export function runPack(
  code: string,
  name: string,
  value: Record<string, Scalar>,
  count: number,
  elementBits: number,
): bigint[] {
  const own: Record<string, Scalar> = Object.fromEntries(Array.from({ length: count }, (_, i) => [i, 0n]));
  const memory: Memory = { value, [name]: own };
  const members = memberWidths(code, name.replace(/_pack$/, '_command_t'));
  for (const line of statementsOf(code, name)) {
    const [, index, letter, place, expression] = /^\w+\[(\d+)\](?:\.%([XBWDL])(\d+))? := (.*);$/.exec(line)!;
    const part = BigInt(evaluate(expression!, memory, elementBits, members) as bigint);
    if (letter === undefined) own[index!] = part;
    else {
      const width = partWidths[letter]!;
      const shift = BigInt(Number(place) * width);
      const others = (own[index!] as bigint) & ~(((1n << BigInt(width)) - 1n) << shift);
      own[index!] = others | (part << shift);
    }
  }
  return Object.values(own) as bigint[];
}
