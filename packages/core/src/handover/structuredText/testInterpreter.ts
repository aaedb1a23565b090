/**
 * For tests: runs the FUNCTIONs of our structured text, so that the written code can be held against the codec. Types
 * are checked as IEC 61131-3:2013 wants them: no conversion but those that are written (6.6.2.5.2), partial access
 * (6.6.1.2), functions of tables 28 to 34 as far as we write them.
 */
import { combined, call } from './testOperators.js';
import {
  type Scalar,
  type Value,
  widths,
  parts,
  type Type,
  type Typed,
  elementary,
  timer,
  assignable,
  literalOf,
  fresh,
  flattened,
  filled,
} from './testValues.js';

const tokensOf = (text: string): string[] =>
  text
    .replace(/\(\*.*?\*\)/gs, ' ')
    .match(
      /'(?:\$.|[^'$])*'|T#\d+(?:ms|s|h)|(?:[A-Z]+#)?(?:16#[0-9A-F]+|\d+\.\d+(?:E[-+]?\d+)?|\d+)|[A-Za-z_]\w*|%[XBWDL]\d+|:=|<=|>=|<>|\.\.|[-+*/(),.;:[\]<>=]/g,
    ) ?? [];

type Statement = (frame: Frame) => void;
type Expression = (frame: Frame) => Typed;
interface Place {
  read: (frame: Frame) => Typed;
  write: (frame: Frame, value: Typed) => void;
}
/** Variables of a running function, and its clock in ms. */
type Frame = Map<string, { type: Type; value: Value }> & { now?: number };

interface Declared {
  name: string;
  type: Type;
  /** What it begins with. */
  first?: Typed;
}

interface Program {
  result: Type;
  inputs: Declared[];
  locals: Declared[];
  body: Statement[];
}

class Reader {
  private at = 0;
  private readonly types = new Map<string, Type>();
  readonly functions = new Map<string, Program>();

  constructor(private readonly tokens: readonly string[]) {
    while (this.at < tokens.length) {
      if (this.peek() === 'TYPE') this.typeBlock();
      else this.functionBlock();
    }
  }

  private peek = (ahead = 0) => this.tokens[this.at + ahead];
  private take(wanted?: string): string {
    const token = this.tokens[this.at];
    if (token === undefined || (wanted !== undefined && token !== wanted))
      throw new Error(`${wanted} expected before ${this.tokens.slice(this.at, this.at + 8).join(' ')}`);
    this.at += 1;
    return token;
  }
  private skip = (token: string) => this.peek() === token && Boolean(this.take());

  private typeBlock(): void {
    this.take('TYPE');
    const name = this.take();
    this.take(':');
    if (this.skip('STRUCT')) {
      const members = new Map<string, Type>();
      while (!this.skip('END_STRUCT')) {
        const member = this.take();
        if (members.has(member)) throw new Error(`${name} has ${member} twice`);
        this.take(':');
        members.set(member, this.type());
        this.take(';');
      }
      this.types.set(name, { kind: 'struct', name, members });
    } else this.types.set(name, this.type());
    this.skip(';');
    this.take('END_TYPE');
  }

  private type(): Type {
    const name = this.take();
    if (name === 'ARRAY') {
      this.take('[');
      const [from, to]: [number[], number[]] = [[], []];
      do {
        from.push(Number(this.take()));
        this.take('..');
        to.push(Number(this.take()));
      } while (this.skip(','));
      this.take(']');
      this.take('OF');
      return { kind: 'array', from, to, of: this.type() };
    }
    if (name === 'STRING' && this.skip('[')) {
      this.take();
      this.take(']');
    }
    if (name === 'TON') return timer;
    return this.types.get(name) ?? elementary(name);
  }

  private declarations(): Declared[] {
    const list: Declared[] = [];
    while (!this.skip('END_VAR')) {
      const name = this.take();
      this.take(':');
      const type = this.type();
      list.push({ name, type, ...(this.skip(':=') ? { first: this.expression()(new Map()) } : {}) });
      this.take(';');
    }
    return list;
  }

  /** A FUNCTION, or a FUNCTION_BLOCK, which has no result of its own name. */
  private functionBlock(): void {
    const kind = this.take() === 'FUNCTION_BLOCK' ? 'FUNCTION_BLOCK' : 'FUNCTION';
    const name = this.take();
    const result = kind === 'FUNCTION' ? (this.take(':'), this.type()) : elementary('BOOL');
    const program: Program = { result, inputs: [], locals: [], body: [] };
    while (this.peek()?.startsWith('VAR')) {
      if (this.take() === 'VAR_INPUT') program.inputs.push(...this.declarations());
      else program.locals.push(...this.declarations());
    }
    program.body = this.statements([`END_${kind}`]);
    this.take(`END_${kind}`);
    this.functions.set(name, program);
  }

  private statements(ends: readonly string[]): Statement[] {
    const list: Statement[] = [];
    while (!ends.includes(this.peek() ?? '')) list.push(this.statement());
    return list;
  }

  private statement(): Statement {
    if (this.skip('IF')) return this.ifStatement();
    if (this.skip('FOR')) return this.forStatement();
    if (this.skip('CASE')) return this.caseStatement();
    if (this.peek(1) === '(') return this.timerCall();
    const place = this.place();
    this.take(':=');
    const value = this.expression();
    this.take(';');
    return (frame) => place.write(frame, value(frame));
  }

  private ifStatement(): Statement {
    const test = this.expression();
    this.take('THEN');
    const yes = this.statements(['ELSIF', 'ELSE', 'END_IF']);
    let no: Statement[] = [];
    if (this.skip('ELSIF')) no = [this.ifStatement()];
    else {
      if (this.skip('ELSE')) no = this.statements(['END_IF']);
      this.take('END_IF');
      this.take(';');
    }
    return (frame) => {
      const answer = test(frame);
      if (answer.type !== 'BOOL') throw new Error(`IF ${answer.type}`);
      (answer.value ? yes : no).forEach((statement) => statement(frame));
    };
  }

  private caseStatement(): Statement {
    const chosen = this.expression();
    this.take('OF');
    const cases = new Map<bigint, Statement[]>();
    while (!this.skip('END_CASE')) {
      const label = BigInt(this.take());
      this.take(':');
      const body: Statement[] = [];
      while (this.peek() !== 'END_CASE' && this.peek(1) !== ':') body.push(this.statement());
      if (cases.has(label)) throw new Error(`CASE ${label} twice`);
      cases.set(label, body);
    }
    this.take(';');
    return (frame) => cases.get(chosen(frame).value as bigint)?.forEach((statement) => statement(frame));
  }

  /** `timer(IN := x, PT := T#1s);` */
  private timerCall(): Statement {
    const name = this.take();
    this.take('(');
    this.take('IN');
    this.take(':=');
    const on = this.expression();
    this.take(',');
    this.take('PT');
    this.take(':=');
    const after = this.expression();
    this.take(')');
    this.take(';');
    return (frame) => {
      const one = frame.get(name);
      if (one?.type !== timer) throw new Error(`${name} is no TON`);
      const state = one.value as Record<string, Scalar>;
      const given = on(frame);
      const limit = after(frame);
      if (given.type !== 'BOOL' || limit.type !== 'TIME')
        throw new Error(`TON of ${given.type}, ${limit.type}`);
      const now = frame.now ?? 0;
      if (given.value === true && state['IN'] !== true) state['begun'] = now;
      state['IN'] = given.value;
      const elapsed = given.value ? BigInt(Math.round(now - Number(state['begun']))) : 0n;
      state['ET'] = elapsed > (limit.value as bigint) ? limit.value : elapsed;
      state['Q'] = given.value === true && elapsed >= (limit.value as bigint);
    };
  }

  private forStatement(): Statement {
    const name = this.take();
    this.take(':=');
    const from = this.expression();
    this.take('TO');
    const to = this.expression();
    const by = this.skip('BY') ? this.expression() : () => ({ value: 1n, type: 'whole' });
    this.take('DO');
    const body = this.statements(['END_FOR']);
    this.take('END_FOR');
    this.take(';');
    return (frame) => {
      const [first, last, step] = [from, to, by].map((e) => e(frame).value as bigint);
      for (let i = first!; step! > 0n ? i <= last! : i >= last!; i += step!) {
        frame.get(name)!.value = i;
        body.forEach((statement) => statement(frame));
      }
    };
  }

  /** A variable, one of its members, elements or parts. */
  private place(): Place {
    const name = this.take();
    const steps: ((frame: Frame) => string | number[])[] = [];
    let part: { name: string; type: string; index: number } | undefined;
    for (;;) {
      if (this.skip('[')) {
        const indexes = [this.expression()];
        while (this.skip(',')) indexes.push(this.expression());
        this.take(']');
        steps.push((frame) => indexes.map((i) => Number(i(frame).value)));
      } else if (this.skip('.')) {
        const member = this.take();
        const [, letter, index] = /^%([XBWDL])(\d+)$/.exec(member) ?? [];
        if (letter) part = { name: letter, type: parts[letter]!, index: Number(index) };
        else steps.push(() => member);
      } else break;
    }
    /** The holder of the value, its key there, and its type. */
    const walk = (frame: Frame) => {
      const variable = frame.get(name);
      if (!variable) throw new Error(`${name} is not declared`);
      let holder = variable as unknown as Record<string, Value>;
      let key = 'value';
      let { type } = variable;
      for (const step of steps.map((s) => s(frame))) {
        holder = holder[key] as Record<string, Value>;
        if (Array.isArray(step)) {
          if (type.kind !== 'array') throw new Error(`${name} is no array`);
          const { from, to } = type;
          if (step.length !== from.length || step.some((i, d) => i < from[d]! || i > to[d]!))
            throw new Error(`${name}[${step.join(', ')}] is outside`);
          key = String(step.reduce((sum, i, d) => sum * (to[d]! - from[d]! + 1) + i - from[d]!, 0));
          type = type.of;
        } else {
          const member = type.kind === 'struct' ? type.members.get(step) : undefined;
          if (!member) throw new Error(`${name} has no ${step}`);
          key = step;
          type = member;
        }
      }
      if (type.kind !== 'elementary') throw new Error(`${name} is no single value`);
      return { holder, key, type: type.name };
    };
    return {
      read: (frame) => {
        const { holder, key, type } = walk(frame);
        const value = holder[key] as Scalar;
        if (!part) return { value, type };
        const width = part.type === 'BOOL' ? 1 : widths[part.type]!;
        const bits = BigInt.asUintN(width, (value as bigint) >> BigInt(part.index * width));
        return { value: part.type === 'BOOL' ? bits === 1n : bits, type: part.type };
      },
      write: (frame, value) => {
        const { holder, key, type } = walk(frame);
        if (!part) {
          holder[key] = assignable(value, type);
          return;
        }
        const width = part.type === 'BOOL' ? 1 : widths[part.type]!;
        const at = BigInt(part.index * width);
        const mask = ((1n << BigInt(width)) - 1n) << at;
        const bits = BigInt(assignable(value, part.type) as bigint) << at;
        holder[key] = ((holder[key] as bigint) & ~mask) | bits;
      },
    };
  }

  private expression = (): Expression => this.binary(0);

  /** Operators from the weakest to the strongest (table 71). */
  private static readonly levels = [
    ['OR'],
    ['XOR'],
    ['AND'],
    ['=', '<>'],
    ['<', '<=', '>', '>='],
    ['+', '-'],
    ['*', '/'],
  ];

  private binary(level: number): Expression {
    const operators = Reader.levels[level];
    if (!operators) return this.unary();
    let left = this.binary(level + 1);
    while (operators.includes(this.peek() ?? '')) {
      const operator = this.take();
      const [a, b] = [left, this.binary(level + 1)];
      left = (frame) => combined(operator, a(frame), b(frame));
    }
    return left;
  }

  private unary(): Expression {
    if (this.skip('-')) {
      const inner = this.unary();
      return (frame) => {
        const { value, type } = inner(frame);
        return { value: typeof value === 'bigint' ? -value : -Number(value), type };
      };
    }
    if (this.skip('NOT')) {
      const inner = this.unary();
      return (frame) => ({ value: inner(frame).value === false, type: 'BOOL' });
    }
    return this.primary();
  }

  private primary(): Expression {
    const token = this.peek()!;
    if (this.skip('(')) {
      const inner = this.expression();
      this.take(')');
      return inner;
    }
    const literal = literalOf(token);
    if (literal) {
      this.take();
      return () => literal;
    }
    if (this.peek(1) !== '(') return this.place().read;
    const name = this.take();
    this.take('(');
    const given = [this.expression()];
    while (this.skip(',')) given.push(this.expression());
    this.take(')');
    return (frame) =>
      call(
        name,
        given.map((g) => g(frame)),
      );
  }
}

/** What was read of a text; the same one is run many times. */
const readers = new Map<string, Reader>();
function readerOf(code: string): Reader {
  const reader = readers.get(code) ?? new Reader(tokensOf(code));
  readers.set(code, reader);
  return reader;
}

function run(
  code: string,
  name: string,
  inputs: (program: Program) => Value[],
): { type: Type; value: Value } {
  const program = readerOf(code).functions.get(name);
  if (!program) throw new Error(`no FUNCTION ${name}`);
  const given = inputs(program);
  const frame: Frame = new Map([
    [name, { type: program.result, value: fresh(program.result) }],
    ...program.inputs.map(({ name: input, type }, i) => [input, { type, value: given[i]! }] as const),
    ...program.locals.map(({ name: local, type }) => [local, { type, value: fresh(type) }] as const),
  ]);
  program.body.forEach((statement) => statement(frame));
  return frame.get(name)!;
}

/** The bytes of an image as the elements of its ARRAY, of so many bits, filled in this order. */
export function elementsOf(bytes: Uint8Array, elementBits: number, order: 'little' | 'big'): bigint[] {
  const step = elementBits / 8;
  return Array.from({ length: bytes.length / step }, (_, i) => {
    const own = [...bytes.subarray(i * step, (i + 1) * step)];
    return (order === 'little' ? own.reverse() : own).reduce((sum, b) => (sum << 8n) | BigInt(b), 0n);
  });
}

/** Calls the unpacking FUNCTION with these elements, and ages of runs in ms: the members of its STRUCT by path. */
export function runUnpack(
  code: string,
  name: string,
  elements: bigint[],
  ages: readonly bigint[] = [],
): Record<string, Scalar> {
  const { type, value } = run(code, name, ({ inputs: [raw] }) => {
    if (raw?.type.kind !== 'array') throw new Error('raw is no array');
    return [elements.slice(0, raw.type.to[0]! + 1), ...ages];
  });
  return Object.fromEntries(flattened(type, value));
}

/** Calls the packing FUNCTION with these members by path: the elements of its ARRAY. */
export function runPack(code: string, name: string, values: Record<string, Scalar>): bigint[] {
  return run(code, name, ({ inputs: [input] }) => [filled(input!.type, values)]).value as bigint[];
}

/** An instance of a FUNCTION_BLOCK: each call takes inputs by name, and gives all of its variables by path. */
export function blockInstance(
  code: string,
  name: string,
): (
  inputs: Record<string, Scalar | Scalar[] | Record<string, Scalar>>,
  now?: number,
) => Record<string, Scalar> {
  const program = readerOf(code).functions.get(name);
  if (!program) throw new Error(`no FUNCTION_BLOCK ${name}`);
  const all = [...program.inputs, ...program.locals];
  const frame: Frame = new Map(
    all.map(({ name: of, type, first }) => [
      of,
      { type, value: first && type.kind === 'elementary' ? assignable(first, type.name) : fresh(type) },
    ]),
  );
  return (inputs, now = 0) => {
    frame.now = now;
    for (const [of, value] of Object.entries(inputs)) {
      const variable = frame.get(of)!;
      const whole = typeof value === 'object' && !Array.isArray(value);
      variable.value = whole ? filled(variable.type, value) : value;
    }
    program.body.forEach((statement) => statement(frame));
    return Object.fromEntries(
      all.flatMap(({ name: of }) => {
        const { type, value } = frame.get(of)!;
        return flattened(type, value).map(([path, scalar]) => [
          path ? `${of}${path.startsWith('[') ? '' : '.'}${path}` : of,
          scalar,
        ]);
      }),
    );
  };
}
