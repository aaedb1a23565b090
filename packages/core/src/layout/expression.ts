import jsep from 'jsep';
import { Problem } from '../messages/problem.js';

/**
 * The language of derived values and of the machine around the devices: names, also of two parts (device.field),
 * numbers, arithmetic, comparison, choice (a ? b : c), and functions. The parser is jsep; this file walks its tree and
 * knows nothing but what stands in the two tables, so that an expression can reach no other code. There is no
 * assignment and no loop.
 */
type Result = number | bigint | boolean;

export interface Expression {
  /** The names that it reads. */
  readonly names: readonly string[];
  /** Its value; NaN when a name has none. `valueOf` gives a field's number, or its bits as a whole number. */
  evaluate(valueOf: (name: string) => Result | undefined): number;
}

const maxDepth = 60;
const noSingle = 'this is no single expression of values';

const asNumber = (value: Result) => Number(value);
const asBits = (value: Result) =>
  typeof value === 'bigint'
    ? BigInt.asUintN(64, value)
    : Number.isInteger(Number(value))
      ? BigInt.asUintN(64, BigInt(value))
      : 0n;
const bitLength = (bits: bigint) => (bits === 0n ? 0 : bits.toString(2).length);

const functions: Record<string, { takes: number | 'any'; of: (...values: Result[]) => Result }> = {
  /** How many bits are set. */
  bits: { takes: 1, of: (v) => [...asBits(v!).toString(2)].filter((c) => c === '1').length },
  /** Number of the lowest set bit, from 0; -1 when none is set. */
  lowest: { takes: 1, of: (v) => bitLength(asBits(v!) & -asBits(v!)) - 1 },
  /** Number of the highest set bit, from 0; -1 when none is set. */
  highest: { takes: 1, of: (v) => bitLength(asBits(v!)) - 1 },
  abs: { takes: 1, of: (v) => Math.abs(asNumber(v!)) },
  round: { takes: 1, of: (v) => Math.sign(asNumber(v!)) * Math.round(Math.abs(asNumber(v!))) },
  min: { takes: 'any', of: (...values) => Math.min(...values.map(asNumber)) },
  max: { takes: 'any', of: (...values) => Math.max(...values.map(asNumber)) },
};

/** A number with a number; what has no value makes none. */
const arithmetic =
  (of: (a: number, b: number) => Result) =>
  (a: Result, b: Result): Result => {
    const [left, right] = [asNumber(a), asNumber(b)];
    return Number.isNaN(left) || Number.isNaN(right) ? NaN : of(left, right);
  };
const operators: Record<string, (a: Result, b: Result) => Result> = {
  '+': arithmetic((a, b) => a + b),
  '-': arithmetic((a, b) => a - b),
  '*': arithmetic((a, b) => a * b),
  '/': arithmetic((a, b) => a / b),
  '%': arithmetic((a, b) => a % b),
  '<': arithmetic((a, b) => a < b),
  '<=': arithmetic((a, b) => a <= b),
  '>': arithmetic((a, b) => a > b),
  '>=': arithmetic((a, b) => a >= b),
  '==': arithmetic((a, b) => a === b),
  '!=': arithmetic((a, b) => a !== b),
  '&': (a, b) => asBits(a) & asBits(b),
  '|': (a, b) => asBits(a) | asBits(b),
  '&&': (a, b) => Boolean(a) && Boolean(b),
  '||': (a, b) => Boolean(a) || Boolean(b),
};
const signs: Record<string, (a: Result) => Result> = {
  '-': (a) => -asNumber(a),
  '+': (a) => asNumber(a),
  '!': (a) => !a,
};

type Scope = (name: string) => Result | undefined;
type Step = (scope: Scope) => Result;

/**
 * Reads an expression once, for many evaluations; with names of two parts where `owners` have them. Throws
 * `expression.wrong` with the place.
 */
export function parseExpression(text: string, owners = false): Expression {
  const names = new Set<string>();
  const wrong = (reason: string, at = 0): never => {
    throw new Problem('expression.wrong', { expression: text, reason, at });
  };

  function stepOf(node: jsep.Expression, depth: number): Step {
    if (depth > maxDepth) wrong('it is nested too deeply');
    const inner = (child: unknown) => stepOf(child as jsep.Expression, depth + 1);
    switch (node.type) {
      case 'Literal': {
        const value = node['value'];
        if (typeof value !== 'number' && typeof value !== 'boolean')
          return wrong(`${String(node['raw'])} is no number`);
        return () => value;
      }
      case 'Identifier': {
        const name = String(node['name']);
        names.add(name);
        return (scope) => scope(name) ?? NaN;
      }
      case 'MemberExpression': {
        // device.what: a name of two parts, and nothing that could be looked up in an object.
        const [owner, part] = [node['object'], node['property']] as [jsep.Expression, jsep.Expression];
        if (!owners) return wrong(noSingle);
        if (node['computed'] || owner.type !== 'Identifier' || part.type !== 'Identifier')
          return wrong('a name has at most two parts, with a point between them');
        const name = `${String(owner['name'])}.${String(part['name'])}`;
        names.add(name);
        return (scope) => scope(name) ?? NaN;
      }
      case 'UnaryExpression': {
        const sign =
          own(signs, String(node['operator'])) ?? wrong(`${String(node['operator'])} is not known`);
        const argument = inner(node['argument']);
        return (scope) => sign(argument(scope));
      }
      case 'BinaryExpression':
      case 'LogicalExpression': {
        const symbol = String(node['operator']);
        const operator = own(operators, symbol) ?? wrong(`${symbol} is not known`, text.indexOf(symbol));
        const [left, right] = [inner(node['left']), inner(node['right'])];
        return (scope) => operator(left(scope), right(scope));
      }
      case 'ConditionalExpression': {
        const [test, yes, no] = [inner(node['test']), inner(node['consequent']), inner(node['alternate'])];
        return (scope) => {
          const answer = test(scope);
          return Number.isNaN(answer) ? NaN : answer ? yes(scope) : no(scope);
        };
      }
      case 'CallExpression': {
        const callee = node['callee'] as jsep.Expression;
        const name = String(callee['name']);
        const fn =
          own(functions, name) ?? wrong(`there is no function ${name}`, Math.max(0, text.indexOf(name)));
        const given = (node['arguments'] as jsep.Expression[]).map(inner);
        if (fn.takes === 'any' ? given.length === 0 : given.length !== fn.takes)
          wrong(`${name} takes ${fn.takes === 'any' ? 'one value or more' : '1 value'}`, text.indexOf(name));
        return (scope) => {
          const values = given.map((step) => step(scope));
          return values.some((v) => Number.isNaN(v)) ? NaN : fn.of(...values);
        };
      }
      default:
        return wrong(noSingle);
    }
  }

  const step = stepOf(parsed(text, wrong), 0);
  return { names: [...names], evaluate: (valueOf) => Number(step(valueOf)) };
}

/** The tree of an expression that can be evaluated, for who writes it down elsewhere, and the names in it. */
export const expressionTree = (text: string): { tree: jsep.Expression; names: readonly string[] } => ({
  names: parseExpression(text).names,
  tree: jsep(text),
});

function parsed(text: string, wrong: (reason: string, at?: number) => never): jsep.Expression {
  try {
    return jsep(text);
  } catch (error) {
    const { description, index } = error as { description?: string; index?: number };
    return wrong(description?.replace(/ at character \d+$/, '') ?? 'it cannot be read', index ?? 0);
  }
}

/** An entry of a table that is its own, not inherited. */
const own = <T>(table: Record<string, T>, key: string): T | undefined =>
  Object.hasOwn(table, key) ? table[key] : undefined;
