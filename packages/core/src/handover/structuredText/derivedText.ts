import type jsep from 'jsep';
import { identifierOf } from '../../entries/identifiers.js';
import { expressionTree } from '../../layout/expression.js';
import { readsOf } from '../../layout/fieldTypes.js';
import { Problem } from '../../messages/problem.js';
import type { Code } from './chain.js';
import type { DerivedMember, Member } from './members.js';
import { comment, convert, indented, maskText, real } from './text.js';

/**
 * Derived values (layout/expression.ts) as statements. Choices become IF statements, since both sides of SEL are worked
 * out; what counts bits becomes a loop over a LWORD. Numbers are LREAL, bits LWORD, comparisons BOOL.
 */

type Kind = 'number' | 'bits' | 'truth';
interface Term {
  text: string;
  kind: Kind;
}

const typeOfKind = { number: 'LREAL', bits: 'LWORD', truth: 'BOOL' } as const;
const letterOf = { number: 'n', bits: 'w', truth: 'b' } as const;

const asNumber = ({ text, kind }: Term): string =>
  kind === 'number'
    ? text
    : kind === 'bits'
      ? `ULINT_TO_LREAL(LWORD_TO_ULINT(${text}))`
      : `SEL(${text}, 0.0, 1.0)`;
/** A number that is not whole has no bits. */
const asBits = ({ text, kind }: Term): string =>
  kind === 'bits'
    ? text
    : kind === 'truth'
      ? `BOOL_TO_LWORD(${text})`
      : `SEL(LINT_TO_LREAL(LREAL_TO_LINT(${text})) = ${text}, 16#0, LINT_TO_LWORD(LREAL_TO_LINT(${text})))`;
const asTruth = ({ text, kind }: Term): string =>
  kind === 'truth' ? text : kind === 'bits' ? `(${text} <> 16#0)` : `(${text} <> 0.0)`;

const comparisons: Record<string, string> = {
  '==': '=',
  '!=': '<>',
  '<': '<',
  '<=': '<=',
  '>': '>',
  '>=': '>=',
};

/** Writes the derived values of one image, and keeps the local variables that they need. */
class DerivedWriter {
  readonly locals: { name: string; type: string }[] = [];
  private lines: string[] = [];
  private readonly terms: Map<string, Term>;

  constructor(
    private readonly code: Code,
    private readonly specials: Map<string, string[]>,
  ) {
    this.terms = new Map(
      code.members.flatMap((m) => {
        const term = termOf(code, m);
        return term ? [[identifierOf(m.signal.name), term] as const] : [];
      }),
    );
  }

  /** A value and its spread; later ones may read it. */
  write(member: DerivedMember): string[] {
    const { derived, name, uncertainty, special } = member;
    const { fn } = this.code;
    const parts = [
      { target: name, expression: derived.expression },
      ...(uncertainty ? [{ target: uncertainty, expression: derived.uncertainty }] : []),
    ];
    const trees = parts.map(({ expression }) => readable(expression));
    const missing = trees.flatMap((t) =>
      t ? t.names.filter((n) => !this.terms.has(n)) : ['its expression'],
    );
    if (missing.length)
      return [comment(`${name} is not computed: ${missing.join(', ')} cannot be read as a number`)];
    const read = [...new Set(trees.flatMap((t) => t!.names.flatMap((n) => this.specials.get(n) ?? [])))];
    const computing = this.within(() =>
      parts.forEach(({ target }, i) =>
        this.lines.push(`${fn}.${target} := ${asNumber(this.term(trees[i]!.tree))};`),
      ),
    );
    this.terms.set(identifierOf(derived.name), { text: `${fn}.${name}`, kind: 'number' });
    this.specials.set(identifierOf(derived.name), read.length ? [`${fn}.${special}`] : []);
    const head = [`${fn}.${special} := 0;`];
    if (read.length === 0) return [...head, ...computing];
    return [
      ...head,
      ...read.map((other) => `IF ${other} <> 0 THEN ${fn}.${special} := ${other}; END_IF;`),
      ...parts.map(({ target }) => `${fn}.${target} := 0.0;`),
      `IF ${fn}.${special} = 0 THEN`,
      ...indented(computing),
      'END_IF;',
    ];
  }

  /** What is written while `work` runs. */
  private within(work: () => void): string[] {
    const outer = this.lines;
    this.lines = [];
    work();
    const written = this.lines;
    this.lines = outer;
    return written;
  }

  private local(kind: Kind | 'count'): string {
    const type = kind === 'count' ? 'INT' : typeOfKind[kind];
    const letter = kind === 'count' ? 'count' : letterOf[kind];
    const name = `${letter}_${this.locals.filter((l) => l.type === type).length + 1}`;
    this.locals.push({ name, type });
    return name;
  }

  /** A term that may stand several times in an expression. */
  private named(term: Term): Term {
    if (/^[\w.[\]]+$/.test(term.text)) return term;
    const name = this.local(term.kind);
    this.lines.push(`${name} := ${term.text};`);
    return { ...term, text: name };
  }

  private term(node: jsep.Expression): Term {
    switch (node.type) {
      case 'Literal': {
        const value = node['value'] as number | boolean;
        return typeof value === 'boolean'
          ? { text: value ? 'TRUE' : 'FALSE', kind: 'truth' }
          : { text: real(value), kind: 'number' };
      }
      case 'Identifier':
        return this.terms.get(String(node['name']))!;
      case 'UnaryExpression': {
        const inner = this.term(node['argument'] as jsep.Expression);
        if (node['operator'] === '!') return { text: `NOT ${asTruth(inner)}`, kind: 'truth' };
        const number = asNumber(inner);
        return { text: node['operator'] === '-' ? `(0.0 - ${number})` : number, kind: 'number' };
      }
      case 'ConditionalExpression':
        return this.choice(node);
      case 'CallExpression': {
        const given = (node['arguments'] as jsep.Expression[]).map((a) => this.term(a));
        return this.call(String((node['callee'] as jsep.Expression)['name']), given);
      }
      default: {
        const [left, right] = (['left', 'right'] as const).map((s) => this.term(node[s] as jsep.Expression));
        return this.operation(String(node['operator']), left!, right!);
      }
    }
  }

  private operation(symbol: string, left: Term, right: Term): Term {
    if (symbol === '&' || symbol === '|')
      return { text: `(${asBits(left)} ${symbol === '&' ? 'AND' : 'OR'} ${asBits(right)})`, kind: 'bits' };
    if (symbol === '&&' || symbol === '||')
      return {
        text: `(${asTruth(left)} ${symbol === '&&' ? 'AND' : 'OR'} ${asTruth(right)})`,
        kind: 'truth',
      };
    const compared = comparisons[symbol];
    if (compared) return { text: `(${asNumber(left)} ${compared} ${asNumber(right)})`, kind: 'truth' };
    if (symbol !== '%') return { text: `(${asNumber(left)} ${symbol} ${asNumber(right)})`, kind: 'number' };
    // MOD is for whole numbers only (table 29); the rest has the sign of the dividend, as in the language.
    const [a, b] = [left, right].map((t) => this.named({ text: asNumber(t), kind: 'number' }).text);
    return { text: `(${a} - ${b} * LINT_TO_LREAL(LREAL_TRUNC_LINT(${a} / ${b})))`, kind: 'number' };
  }

  private choice(node: jsep.Expression): Term {
    const test = this.term(node['test'] as jsep.Expression);
    let yes: Term | undefined;
    let no: Term | undefined;
    const [before, otherwise] = [
      this.within(() => (yes = this.term(node['consequent'] as jsep.Expression))),
      this.within(() => (no = this.term(node['alternate'] as jsep.Expression))),
    ];
    const kind = yes!.kind === no!.kind ? yes!.kind : 'number';
    const own = (term: Term) => (term.kind === kind ? term.text : asNumber(term));
    const name = this.local(kind);
    this.lines.push(
      `IF ${asTruth(test)} THEN`,
      ...indented([...before, `${name} := ${own(yes!)};`]),
      'ELSE',
      ...indented([...otherwise, `${name} := ${own(no!)};`]),
      'END_IF;',
    );
    return { text: name, kind };
  }

  private call(name: string, given: readonly Term[]): Term {
    if (name === 'bits' || name === 'lowest' || name === 'highest')
      return this.counted(name, { text: asBits(given[0]!), kind: 'bits' });
    const numbers = given.map(asNumber);
    if (name === 'abs') return { text: `ABS(${numbers[0]})`, kind: 'number' };
    if (name === 'round') {
      const x = this.named({ text: numbers[0]!, kind: 'number' }).text;
      // Halves go away from zero.
      return { text: `LINT_TO_LREAL(LREAL_TRUNC_LINT(${x} + SEL(${x} < 0.0, 0.5, -0.5)))`, kind: 'number' };
    }
    return {
      text: numbers.length > 1 ? `${name.toUpperCase()}(${numbers.join(', ')})` : numbers[0]!,
      kind: 'number',
    };
  }

  private counted(what: 'bits' | 'lowest' | 'highest', bits: Term): Term {
    const w = this.named(bits).text;
    const count = this.local('count');
    const set = `IF (SHR(${w}, i) AND 16#1) <> 16#0 THEN`;
    this.lines.push(
      `${count} := ${what === 'bits' ? '0' : '-1'};`,
      what === 'lowest' ? 'FOR i := 63 TO 0 BY -1 DO' : 'FOR i := 0 TO 63 DO',
      ...indented([`${set} ${count} := ${what === 'bits' ? `${count} + 1` : 'i'}; END_IF;`]),
      'END_FOR;',
    );
    return { text: `INT_TO_LREAL(${count})`, kind: 'number' };
  }
}

/** A member as a term; undefined for text and raw bytes. The same value as a derived value has (layout/derived.ts). */
function termOf({ fn }: Code, { signal, path, raw, own, engineered }: Member): Term | undefined {
  const reads = readsOf(signal);
  const text = `${fn}.${path}`;
  if (reads === 'text' || reads === 'bytes') return undefined;
  if (reads === 'boolean') return { text: signal.normallyClosed ? `NOT ${text}` : text, kind: 'truth' };
  if (engineered || reads !== 'unsigned') return { text: convert(own, 'LREAL', text), kind: 'number' };
  const string = { USINT: 'BYTE', UINT: 'WORD', UDINT: 'DWORD', ULINT: 'LWORD' }[raw] ?? raw;
  const bits = convert(string, 'LWORD', convert(raw, string, text));
  return {
    text: signal.normallyClosed ? `(${bits} XOR ${maskText(signal.bits)})` : bits,
    kind: 'bits',
  };
}

/** An expression that can be read; undefined for an empty or a wrong one. */
function readable(text: string) {
  try {
    return expressionTree(text);
  } catch (error) {
    if (error instanceof Problem) return undefined;
    throw error;
  }
}

/** The statements that compute derived values, and the local variables that they need. */
export function derivedLines(
  code: Code,
  derived: readonly DerivedMember[],
): { lines: string[]; locals: { name: string; type: string }[] } {
  const specials = new Map(
    code.members.map((m) => [identifierOf(m.signal.name), m.special ? [`${code.fn}.${m.special}`] : []]),
  );
  const writer = new DerivedWriter(code, specials);
  return { lines: derived.flatMap((member) => writer.write(member)), locals: writer.locals };
}
