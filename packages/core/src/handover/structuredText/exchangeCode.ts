import { identifierOf, uniqueIdentifiers } from '../../entries/identifiers.js';
import type { Cell } from '../../cell/model.js';
import type { Link } from '../../cell/link.js';
import type { Image } from '../../layout/image.js';
import { placesOf, type Exchange, type Step, type Variable } from '../../cell/exchange.js';
import type { Found } from '../../exchanges/resolve.js';
import { leastMs } from '../../exchanges/run.js';
import { stepSentence } from '../../exchanges/sentences.js';
import { Problem } from '../../messages/problem.js';
import { declarations, stemsOf, type Local } from './structuredText.js';
import { ExchangePlaces } from './exchangePlaces.js';
import { comment, indented, literal, negated, real } from './text.js';

/**
 * An exchange as a function block of IEC 61131-3:2013: state, busy, done, error, the failed step, and its limits as
 * inputs. It reads and writes the structures of the layouts (structuredText.ts). Scan by scan it gives the same command
 * images as the run on the bench (exchanges/run.ts).
 */

/** A longer time than any step may take. */
const longest = 'T#24h';

class Writer {
  readonly places: ExchangePlaces;
  readonly locals: Local[] = [];
  readonly limits: Local[] = [];
  readonly least: Local[] = [];

  constructor(
    cell: Cell,
    private readonly exchange: Exchange,
  ) {
    this.places = new ExchangePlaces(cell, exchange);
  }

  /** What a local variable is to be called; the step counts from 1. */
  private local(name: string, type: string): string {
    this.locals.push({ name, type });
    return name;
  }

  /** Names of what is remembered of the conditions of a step. */
  private remembered(step: Step, n: number) {
    return step.conditions.map((condition, i) => {
      const code = this.places.code(condition.place);
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
      ...step.orders.flatMap((o) => this.places.order(o)),
      ...remembered.flatMap(({ code, begin, last, seen, stable }) => [
        ...(begin ? [`${begin} := ${this.places.valueNow(code)};`] : []),
        ...(last ? [`${last} := ${this.places.asBit(code)};`, `${seen} := FALSE;`] : []),
        ...(stable ? [`${stable}(IN := FALSE, PT := ${longest});`] : []),
      ]),
      ...(step.fails ? failed(n, step.reason || step.title) : []),
    ];
  }

  private look(step: Step, n: number, remembered: ReturnType<Writer['remembered']>): string[] {
    if (step.fails) return [`${comment('It has failed.')}`];
    const notes = remembered.flatMap(({ condition, code, last, seen, stable, begin }) => {
      const bit = this.places.asBit(code);
      const edge = condition.is === 'rises' ? `${bit} AND NOT ${last}` : `${negated(bit)} AND ${last}`;
      return [
        ...(seen ? [`IF ${edge} THEN ${seen} := TRUE; END_IF;`, `${last} := ${bit};`] : []),
        ...(stable
          ? [
              `${stable}(IN := ${this.places.test(condition, { begin, seen })}, PT := ${time(condition.stable)});`,
            ]
          : []),
      ];
    });
    const holds = remembered.map(({ condition, stable, begin, seen }) =>
      stable ? `${stable}.Q` : `(${this.places.test(condition, { begin, seen })})`,
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
              ...this.places.takeBack(step),
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
    const own = linksOf(step.orders.map((o) => this.places.code(o.place).found));
    const all = linksOf(
      placesOf(this.exchange).flatMap((p) => {
        const { found } = this.places.code(p);
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
      const name = this.places.variables.get(variable)?.name;
      return name ? [`${name} := ${this.places.valueNow(this.places.code(place))};`] : [];
    });
  }

  /** Where a step goes on: its branches are asked before what it gave is taken back. */
  private onward(step: Step, n: number): string[] {
    const back = this.places.takeBack(step);
    const plain = step.repeat ? this.round(step, n) : [`next := ${n + 1};`];
    if (step.branches.length === 0) return [...back, ...plain];
    return [
      ...step.branches.flatMap(({ conditions, to }, i) => [
        `${i === 0 ? 'IF' : 'ELSIF'} ${conditions.map((c) => `(${this.places.test(c)})`).join(' AND ')} THEN`,
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
      `IF DINT_TO_LREAL(${name}) + 2.0 <= ${this.places.number(times)} THEN`,
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
        `${i === 0 ? 'IF' : 'ELSIF'} ${negated(`(${this.places.test(condition)})`)} THEN`,
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
              name: this.places.variables.get(variable.name)!.name,
              type: `${typeOf(variable)} := ${initial(variable)}`,
            },
          ],
    );
  }
  outputs(): Local[] {
    return this.exchange.variables.flatMap((variable) =>
      variable.result
        ? [{ name: this.places.variables.get(variable.name)!.name, type: typeOf(variable) }]
        : [],
    );
  }
}

const typeOf = ({ type }: Variable): string => ({ bit: 'BOOL', number: 'LREAL', text: 'STRING[80]' })[type];
const initial = ({ type, given }: Variable): string =>
  type === 'bit'
    ? given === true
      ? 'TRUE'
      : 'FALSE'
    : type === 'number'
      ? real(Number(given))
      : literal(String(given));
const time = (ms: number): string => `T#${ms}ms`;
const failed = (step: number, reason: string): string[] => [
  'busy := FALSE;',
  'error := TRUE;',
  `failed_step := ${step};`,
  `reason := ${literal(reason.slice(0, 80))};`,
];
const linksOf = (founds: readonly Found[]): Link[] => [...new Set(founds.map(({ link }) => link))];
/** The names of the function blocks of a cell's exchanges, by the exchange's id. */
export function blockNames(cell: Cell): ReadonlyMap<string, string> {
  const stems = [...stemsOf(cell).values()];
  const names = uniqueIdentifiers([...stems, ...cell.exchanges.map((e) => identifierOf(e.name))]);
  return new Map(cell.exchanges.map((e, i) => [e.id, names[stems.length + i]!]));
}

/** The function block of one exchange. Throws `exchange.noPlace`. */
export function functionBlock(cell: Cell, exchange: Exchange): string {
  const block = blockNames(cell).get(exchange.id) ?? identifierOf(exchange.name);
  const writer = new Writer(cell, exchange);
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
    writer.places.images
      .filter((i) => i.direction === direction)
      .map(({ own, type }) => ({ name: own, type }));
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
