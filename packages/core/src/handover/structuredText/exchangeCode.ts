import { identifierOf, uniqueIdentifiers } from '../../entries/identifiers.js';
import type { Cell } from '../../cell/model.js';
import type { Link } from '../../cell/link.js';
import type { Image } from '../../layout/image.js';
import {
  placesOf,
  type Condition,
  type Exchange,
  type Order,
  type Place,
  type Step,
  type Value,
  type Variable,
} from '../../cell/exchange.js';
import { nearOf, rangeIn } from '../../exchanges/images.js';
import { findPlace, whatText, type Found } from '../../exchanges/resolve.js';
import { leastMs } from '../../exchanges/run.js';
import { stepSentence } from '../../exchanges/sentences.js';
import { Problem } from '../../messages/problem.js';
import { numberType } from './chain.js';
import { namesOf, type Member } from './members.js';
import { declarations, stemsOf, type Local } from './structuredText.js';
import { comment, convert, indented, real } from './text.js';

/**
 * An exchange as a function block of IEC 61131-3:2013: state, busy, done, error, the failed step, and its limits as
 * inputs. It reads and writes the structures of the layouts (structuredText.ts). Scan by scan it gives the same command
 * images as the run on the bench (exchanges/run.ts).
 */

/** A longer time than any step may take. */
const longest = 'T#24h';

/** A place as code reaches it. */
interface Code {
  found: Found;
  member: Member;
  /** The variable, or the bit of it. */
  path: string;
}

class Writer {
  private readonly codes = new Map<string, Code>();
  readonly block: string;
  private readonly variables: ReadonlyMap<string, { variable: Variable; name: string }>;
  readonly locals: Local[] = [];
  readonly limits: Local[] = [];
  readonly least: Local[] = [];
  private readonly names: ReadonlyMap<Image, { own: string; type: string }>;
  readonly images: { own: string; type: string; direction: Image['direction'] }[];

  constructor(
    private readonly cell: Cell,
    private readonly exchange: Exchange,
    block: string,
  ) {
    this.block = block;
    const stems = stemsOf(cell);
    const founds = placesOf(exchange).map((place) => [place, this.placed(place)] as const);
    const images = [...new Map(founds.map(([, f]) => [f.image, f.link] as const))];
    this.names = new Map(
      images.map(([image, link]) => {
        const stem = stems.get(link)!;
        return [image, { own: `${stem}_${image.direction}`, type: `${stem}_${image.direction}_t` }];
      }),
    );
    this.images = images.map(([image]) => ({ ...this.names.get(image)!, direction: image.direction }));
    const taken = [...this.images.map(({ own }) => own), ...fixedNames];
    const own = uniqueIdentifiers([...taken, ...exchange.variables.map((v) => v.name)]).slice(taken.length);
    this.variables = new Map(
      exchange.variables.map((variable, i) => [variable.name, { variable, name: own[i]! }]),
    );
    for (const [place, found] of founds) this.codes.set(JSON.stringify(place), this.codeOf(found));
  }

  private placed(place: Place): Found {
    const found = findPlace(this.cell, place);
    const facts = { exchange: this.exchange.name, step: '', place: whatText(this.cell, place) };
    if (!found) throw new Problem('exchange.noPlace', facts);
    return found;
  }

  private codeOf(found: Found): Code {
    const member = namesOf(found.image).members.find((m) => m.signal.id === found.signal.id)!;
    const whole = `${this.names.get(found.image)!.own}.${member.path}`;
    return { found, member, path: found.bit === null ? whole : `${whole}.%X${found.bit}` };
  }
  private code = (place: Place): Code => this.codes.get(JSON.stringify(place))!;

  /** What a local variable is to be called; the step counts from 1. */
  private local(name: string, type: string): string {
    this.locals.push({ name, type });
    return name;
  }

  /** A place as LREAL, whatever its type. */
  private asReal({ member, path }: Code): string {
    const whole = numberType({ raw: member.own });
    return convert(whole, 'LREAL', convert(member.own, whole, path));
  }
  /** A bit as it acts: TRUE where it does. */
  private asBit = ({ found, path }: Code): string => {
    const bit = isWideBit(found) ? `(${path} <> ${zeroBits(found)})` : path;
    return found.signal.normallyClosed ? `NOT ${bit}` : bit;
  };

  private number(value: Value): string {
    if (typeof value !== 'object') return real(Number(value));
    const name = this.variables.get(value.variable)?.name ?? '0.0';
    return value.plus === 0 ? name : `(${name} + ${real(value.plus)})`;
  }
  private bit(value: Value): string {
    if (typeof value === 'object') return this.variables.get(value.variable)?.name ?? 'FALSE';
    return value === true || (typeof value === 'number' && value !== 0) ? 'TRUE' : 'FALSE';
  }
  private text(value: Value): string {
    return typeof value === 'object'
      ? (this.variables.get(value.variable)?.name ?? "''")
      : literal(String(value));
  }

  /** A condition as an expression; `remembers`: names of what is kept of it since the step began. */
  private test(condition: Condition, remembers?: { begin: string; seen: string }): string {
    const code = this.code(condition.place);
    const { is } = condition;
    if (is === 'rises' || is === 'falls') return remembers ? remembers.seen : 'FALSE';
    if (code.found.reads === 'bit') {
      const bit = this.asBit(code);
      if (is === 'changes') return remembers ? `(${bit}) <> ${remembers.begin}` : 'FALSE';
      const wanted = this.bit(condition.to);
      const same = wanted === 'TRUE' ? bit : wanted === 'FALSE' ? negated(bit) : `(${bit}) = ${wanted}`;
      return is === 'differs' ? negated(`(${same})`) : same;
    }
    if (code.found.reads === 'text') {
      if (is === 'changes') return remembers ? `${code.path} <> ${remembers.begin}` : 'FALSE';
      return `${code.path} ${is === 'differs' ? '<>' : '='} ${this.text(condition.to)}`;
    }
    return this.numberTest(condition, code, remembers?.begin);
  }

  private numberTest({ is, to, upTo }: Condition, code: Code, begin: string | undefined): string {
    const now = this.asReal(code);
    const near = nearOf(code.found.signal);
    const equal = (other: string) =>
      near === 0 ? `${now} = ${other}` : `ABS(${now} - ${other}) <= ${real(near)}`;
    // A special number is no measurement: it is neither equal nor above anything.
    const { special } = code.member;
    const measured = special ? `${this.names.get(code.found.image)!.own}.${special} = 0 AND ` : '';
    const margin = (sign: string) => (near === 0 ? '' : ` ${sign} ${real(near)}`);
    switch (is) {
      case 'changes':
        return begin === undefined ? 'FALSE' : negated(`(${equal(begin)})`);
      case 'differs':
        return `${negated(`(${measured}${equal(this.number(to))})`)}`;
      case 'above':
        return `${measured}${now} > ${this.number(to)}${margin('+')}`;
      case 'below':
        return `${measured}${now} < ${this.number(to)}${margin('-')}`;
      case 'between':
        return `${measured}${now} >= ${this.number(to)}${margin('-')} AND ${now} <= ${this.number(upTo ?? to)}${margin('+')}`;
      default:
        return `${measured}${equal(this.number(to))}`;
    }
  }

  /** The statement that puts a value to a place. */
  private put(code: Code, value: Value): string {
    const { found, member, path } = code;
    if (found.reads === 'text') return `${path} := ${this.text(value)};`;
    if (found.reads === 'bit') return this.putBit(code, this.bit(value));
    return `${path} := ${this.typed(member.own, value)};`;
  }
  private putBit({ found, path }: Code, on: string): string {
    const value = found.signal.normallyClosed
      ? on === 'TRUE'
        ? 'FALSE'
        : on === 'FALSE'
          ? 'TRUE'
          : `NOT ${on}`
      : on;
    if (!isWideBit(found)) return `${path} := ${value};`;
    return `${path} := SEL(${value}, ${zeroBits(found)}, ${oneBits(found)});`;
  }
  /** A number in the type of a variable. */
  private typed(type: string, value: Value): string {
    if (/REAL$/.test(type))
      return typeof value === 'object' ? convert('LREAL', type, this.number(value)) : real(Number(value));
    const whole = numberType({ raw: type });
    if (typeof value !== 'object')
      return whole === type
        ? String(Number(value))
        : `${type}#16#${Number(value).toString(16).toUpperCase()}`;
    return convert(whole, type, `LREAL_TO_${whole}(${this.number(value)})`);
  }

  private order(order: Order): string[] {
    const code = this.code(order.place);
    if (order.how === 'toggle') return [this.putBit(code, `NOT (${this.asBit(code)})`)];
    if (order.how !== 'increment') return [this.put(code, order.to)];
    const { greatest } = rangeIn(code.found.signal);
    const whole = numberType({ raw: code.member.own });
    const next = /REAL$/.test(whole)
      ? convert('LREAL', code.member.own, `${this.asReal(code)} + 1.0`)
      : convert(whole, code.member.own, `LREAL_TO_${whole}(${this.asReal(code)} + 1.0)`);
    return [
      `IF ${this.asReal(code)} + 1.0 > ${real(greatest)} THEN`,
      ...indented([this.put(code, order.to)]),
      'ELSE',
      ...indented([`${code.path} := ${next};`]),
      'END_IF;',
    ];
  }
  private takeBack(step: Step): string[] {
    return step.orders
      .filter(({ back }) => back)
      .map(({ place }) => {
        const code = this.code(place);
        return this.put(code, code.found.reads === 'text' ? '' : code.found.reads === 'bit' ? false : 0);
      });
  }

  /** Names of what is remembered of the conditions of a step. */
  private remembered(step: Step, n: number) {
    return step.conditions.map((condition, i) => {
      const code = this.code(condition.place);
      const type =
        code.found.reads === 'bit' ? 'BOOL' : code.found.reads === 'text' ? code.member.own : 'LREAL';
      const edge = condition.is === 'rises' || condition.is === 'falls';
      return {
        condition,
        code,
        begin: condition.is === 'changes' ? this.local(`begin_${n}_${i + 1}`, type) : '',
        last: edge ? this.local(`last_${n}_${i + 1}`, 'BOOL') : '',
        seen: edge ? this.local(`seen_${n}_${i + 1}`, 'BOOL') : '',
        stable: condition.stable > 0 ? this.local(`stable_${n}_${i + 1}`, 'TON') : '',
      };
    });
  }
  private valueNow = (code: Code): string =>
    code.found.reads === 'bit'
      ? this.asBit(code)
      : code.found.reads === 'text'
        ? code.path
        : this.asReal(code);

  /** Number of the step that a target names; one more than there are steps: the end. */
  private numberOf(target: string): number {
    const at = this.exchange.steps.findIndex(({ id }) => id === target);
    return at < 0 ? this.exchange.steps.length + 1 : at + 1;
  }

  /** The statements of each step: what it looks at in each scan, and what it does when it begins. */
  steps(): { look: string[]; begin: string[] }[] {
    return this.exchange.steps.map((step, at) => {
      const n = at + 1;
      const remembered = this.remembered(step, n);
      return { look: this.look(step, n, remembered), begin: this.beginning(step, n, remembered) };
    });
  }

  private beginning(step: Step, n: number, remembered: ReturnType<Writer['remembered']>): string[] {
    return [
      ...step.orders.flatMap((o) => this.order(o)),
      ...remembered.flatMap(({ code, begin, last, seen, stable }) => [
        ...(begin ? [`${begin} := ${this.valueNow(code)};`] : []),
        ...(last ? [`${last} := ${this.asBit(code)};`, `${seen} := FALSE;`] : []),
        ...(stable ? [`${stable}(IN := FALSE, PT := ${longest});`] : []),
      ]),
      ...(step.fails ? failed(n, step.reason || step.title) : []),
    ];
  }

  private look(step: Step, n: number, remembered: ReturnType<Writer['remembered']>): string[] {
    if (step.fails) return [`${comment('It has failed.')}`];
    const notes = remembered.flatMap(({ condition, code, last, seen, stable, begin }) => {
      const bit = this.asBit(code);
      const edge = condition.is === 'rises' ? `${bit} AND NOT ${last}` : `${negated(bit)} AND ${last}`;
      return [
        ...(seen ? [`IF ${edge} THEN ${seen} := TRUE; END_IF;`, `${last} := ${bit};`] : []),
        ...(stable
          ? [`${stable}(IN := ${this.test(condition, { begin, seen })}, PT := ${time(condition.stable)});`]
          : []),
      ];
    });
    const holds = remembered.map(({ condition, stable, begin, seen }) =>
      stable ? `${stable}.Q` : `(${this.test(condition, { begin, seen })})`,
    );
    const least = this.leastOf(step, n);
    const over = [
      ...(holds.length > 0
        ? [step.any && holds.length > 1 ? `(${holds.join(' OR ')})` : holds.join(' AND ')]
        : []),
      ...(least ? [`in_step.ET >= ${least}`] : []),
    ];
    const passes = [...this.results(step), ...this.onward(step, n)];
    if (over.length === 0) return [...notes, ...passes];
    const limit = step.limit === null ? '' : this.limitOf(step, n);
    return [
      ...notes,
      `IF ${over.join(' AND ')} THEN`,
      ...indented(passes),
      ...(limit
        ? [
            `ELSIF in_step.ET >= ${limit} THEN`,
            ...indented([
              ...this.takeBack(step),
              ...(step.late === null
                ? failed(n, step.reason || step.title)
                : [`next := ${this.numberOf(step.late)};`]),
            ]),
          ]
        : []),
      'END_IF;',
    ];
  }

  private leastOf(step: Step, n: number): string {
    const own = linksOf(step.orders.map((o) => this.code(o.place).found));
    const all = linksOf(
      placesOf(this.exchange).flatMap((p) => {
        const { found } = this.code(p);
        return found.image.direction === 'command' ? [found] : [];
      }),
    );
    const ms = leastMs(step, own, all);
    if (ms === 0) return '';
    this.least.push({
      name: `least_${n}`,
      type: `TIME := ${time(ms)}`,
      note: `${step.title}: it lasts so long`,
    });
    return `least_${n}`;
  }
  private limitOf(step: Step, n: number): string {
    const note = `${step.title}: ${step.reason || 'it has failed behind it'}`;
    this.limits.push({ name: `limit_${n}`, type: `TIME := ${time(step.limit!)}`, note });
    return `limit_${n}`;
  }
  private results(step: Step): string[] {
    return step.results.flatMap(({ variable, place }) => {
      const name = this.variables.get(variable)?.name;
      return name ? [`${name} := ${this.valueNow(this.code(place))};`] : [];
    });
  }

  /** Where a step goes on: its branches are asked before what it gave is taken back. */
  private onward(step: Step, n: number): string[] {
    const back = this.takeBack(step);
    const plain = step.repeat ? this.round(step, n) : [`next := ${n + 1};`];
    if (step.branches.length === 0) return [...back, ...plain];
    return [
      ...step.branches.flatMap(({ conditions, to }, i) => [
        `${i === 0 ? 'IF' : 'ELSIF'} ${conditions.map((c) => `(${this.test(c)})`).join(' AND ')} THEN`,
        ...indented([`next := ${this.numberOf(to)};`]),
      ]),
      'ELSE',
      ...indented(plain),
      'END_IF;',
      ...back,
    ];
  }
  private round(step: Step, n: number): string[] {
    const name = this.local(`round_${n}`, 'DINT');
    const { to, times } = step.repeat!;
    return [
      `IF DINT_TO_LREAL(${name}) + 2.0 <= ${this.number(times)} THEN`,
      ...indented([`${name} := ${name} + 1;`, `next := ${this.numberOf(to)};`]),
      'ELSE',
      ...indented([`${name} := 0;`, `next := ${n + 1};`]),
      'END_IF;',
    ];
  }

  /** What must hold before it begins. */
  begin(): string[] {
    const { preconditions } = this.exchange;
    const counters = this.locals.filter(({ name }) => name.startsWith('round_'));
    const start = ['busy := TRUE;', 'next := 1;', ...counters.map(({ name }) => `${name} := 0;`)];
    if (preconditions.length === 0) return start;
    return [
      ...preconditions.flatMap(({ condition, reason }, i) => [
        `${i === 0 ? 'IF' : 'ELSIF'} ${negated(`(${this.test(condition)})`)} THEN`,
        ...indented(failed(0, reason)),
      ]),
      'ELSE',
      ...indented(start),
      'END_IF;',
    ];
  }

  inputs(): Local[] {
    return this.exchange.variables.flatMap((variable) =>
      variable.result
        ? []
        : [
            {
              name: this.variables.get(variable.name)!.name,
              type: `${typeOf(variable)} := ${initial(variable)}`,
            },
          ],
    );
  }
  outputs(): Local[] {
    return this.exchange.variables.flatMap((variable) =>
      variable.result ? [{ name: this.variables.get(variable.name)!.name, type: typeOf(variable) }] : [],
    );
  }
}

const fixedNames = [
  ...['execute', 'busy', 'done', 'error', 'failed_step', 'state', 'reason'],
  ...['in_step', 'next', 'executed'],
];
const typeOf = ({ type }: Variable): string => ({ bit: 'BOOL', number: 'LREAL', text: 'STRING[80]' })[type];
const initial = ({ type, given }: Variable): string =>
  type === 'bit'
    ? given === true
      ? 'TRUE'
      : 'FALSE'
    : type === 'number'
      ? real(Number(given))
      : literal(String(given));
/** A character string literal (6.3.3, table 6). */
const literal = (text: string): string => `'${text.replaceAll('$', '$$').replaceAll("'", "$'")}'`;
const time = (ms: number): string => `T#${ms}ms`;
const negated = (text: string): string => (text.startsWith('NOT ') ? text.slice(4) : `NOT ${text}`);
const failed = (step: number, reason: string): string[] => [
  'busy := FALSE;',
  'error := TRUE;',
  `failed_step := ${step};`,
  `reason := ${literal(reason.slice(0, 80))};`,
];
const linksOf = (founds: readonly Found[]): Link[] => [...new Set(founds.map(({ link }) => link))];
/** A single bit that is declared as a number or a bit string. */
const isWideBit = ({ signal, bit }: Found): boolean => bit === null && signal.type !== 'BOOL';
const zeroBits = ({ signal }: Found) => (signal.type === 'BITS' ? 'BYTE#16#0' : '0');
const oneBits = ({ signal }: Found) => (signal.type === 'BITS' ? 'BYTE#16#1' : '1');

/** The names of the function blocks of a cell's exchanges, by the exchange's id. */
export function blockNames(cell: Cell): ReadonlyMap<string, string> {
  const stems = [...stemsOf(cell).values()];
  const names = uniqueIdentifiers([...stems, ...cell.exchanges.map((e) => identifierOf(e.name))]);
  return new Map(cell.exchanges.map((e, i) => [e.id, names[stems.length + i]!]));
}

/** The function block of one exchange. Throws `exchange.noPlace`. */
export function functionBlock(cell: Cell, exchange: Exchange): string {
  const block = blockNames(cell).get(exchange.id) ?? identifierOf(exchange.name);
  const writer = new Writer(cell, exchange, block);
  const steps = writer.steps();
  const begin = writer.begin();
  const end = exchange.steps.length + 1;
  const title = (step: Step, i: number) =>
    comment(`${i + 1}. ${step.title}: ${stepSentence(cell, exchange, step)}`);
  const body = [
    'next := 0;',
    'IF execute AND NOT executed AND NOT busy THEN',
    ...indented(['done := FALSE;', 'error := FALSE;', 'failed_step := 0;', "reason := '';", ...begin]),
    'ELSIF busy THEN',
    ...indented([
      `in_step(IN := TRUE, PT := ${longest});`,
      'CASE state OF',
      ...exchange.steps.flatMap((step, i) => [
        `  ${i + 1}: ${title(step, i)}`,
        ...indented(indented(steps[i]!.look)),
      ]),
      'END_CASE;',
    ]),
    'END_IF;',
    'executed := execute;',
    'IF next > 0 THEN',
    ...indented([
      'state := next;',
      'CASE next OF',
      ...exchange.steps.flatMap((_, i) =>
        steps[i]!.begin.length === 0 ? [] : [`  ${i + 1}:`, ...indented(indented(steps[i]!.begin))],
      ),
      `  ${end}:`,
      ...indented(indented(['busy := FALSE;', 'done := TRUE;', 'state := 0;'])),
      'END_CASE;',
      `in_step(IN := FALSE, PT := ${longest});`,
      `in_step(IN := TRUE, PT := ${longest});`,
    ]),
    'END_IF;',
  ];
  const of = (direction: Image['direction']): Local[] =>
    writer.images.filter((i) => i.direction === direction).map(({ own, type }) => ({ name: own, type }));
  return [
    comment(`${exchange.name}${exchange.note ? `: ${exchange.note}` : ''}`),
    `FUNCTION_BLOCK ${block}`,
    ...declarations('VAR_INPUT', [
      { name: 'execute', type: 'BOOL', note: 'its rising edge begins' },
      ...of('feedback'),
      ...writer.inputs(),
      ...writer.limits,
      ...writer.least,
    ]),
    ...declarations('VAR_IN_OUT', of('command')),
    ...declarations('VAR_OUTPUT', [
      { name: 'busy', type: 'BOOL' },
      { name: 'done', type: 'BOOL' },
      { name: 'error', type: 'BOOL' },
      { name: 'state', type: 'INT', note: 'number of the step; 0 before the first and behind the last' },
      { name: 'failed_step', type: 'INT', note: 'number of the step that failed; 0: a precondition' },
      { name: 'reason', type: 'STRING[80]' },
      ...writer.outputs(),
    ]),
    ...declarations('VAR', [
      { name: 'in_step', type: 'TON', note: 'since its step began' },
      { name: 'next', type: 'INT' },
      { name: 'executed', type: 'BOOL' },
      ...writer.locals,
    ]),
    ...indented(body),
    'END_FUNCTION_BLOCK',
  ].join('\n');
}

/**
 * The function blocks of all exchanges of a cell, which use the structures of its layouts; empty where there are none.
 * One that names what is not there is a comment that says so: the others do not wait for it.
 */
export function exchangeCode(cell: Cell): string {
  if (cell.exchanges.length === 0) return '';
  const head = comment(
    `${cell.name}: exchanges. Structured text, IEC 61131-3:2013; the structures stand with the layouts.`,
  );
  return [head, ...cell.exchanges.map((exchange) => blockOrReason(cell, exchange))].join('\n\n') + '\n';
}

export const exchangeCodeFile = (cell: Cell): string => `${identifierOf(cell.name)}_exchanges.st`;

function blockOrReason(cell: Cell, exchange: Exchange): string {
  try {
    return functionBlock(cell, exchange);
  } catch (error) {
    if (!(error instanceof Problem)) throw error;
    return comment(`${exchange.name} is not written: ${error.report().says}`);
  }
}
