import type { Cell } from '../cell/model.js';
import {
  devicesOf,
  type Condition,
  type Exchange,
  type Order,
  type Step,
  type Value,
} from '../cell/exchange.js';
import { findPlace, placeText, whatText } from './resolve.js';

/** An exchange in words, for the screen, the manual and the comments of its code. */

type InCell = Pick<Cell, 'devices'>;

const listed = (parts: readonly string[], last: 'and' | 'or'): string =>
  parts.length < 2 ? (parts[0] ?? '') : `${parts.slice(0, -1).join(', ')} ${last} ${parts.at(-1)}`;

/** A value in words; with its label where its field has one. */
function valueText(cell: InCell, value: Value, place: Order['place']): string {
  if (typeof value === 'object')
    return value.plus === 0 ? value.variable : `${value.variable} + ${value.plus}`;
  if (typeof value === 'boolean') return value ? '1' : '0';
  if (typeof value === 'string') return `“${value}”`;
  const signal = findPlace(cell, place)?.signal;
  const label = signal?.labels.find((l) => Number(l.value) === value)?.text;
  return [String(value), signal?.unit, label && `(${label})`].filter(Boolean).join(' ');
}

export function orderText(cell: InCell, { place, how, to, back }: Order, device = true): string {
  const what = device ? placeText(cell, place) : whatText(cell, place);
  const ends = back ? ' for as long as the step lasts' : '';
  if (how === 'toggle') return `turn ${what} over${ends}`;
  if (how === 'increment') return `raise ${what} by 1${ends}`;
  if (to === true) return `set ${what}${ends}`;
  return to === false ? `take ${what} back${ends}` : `write ${valueText(cell, to, place)} to ${what}${ends}`;
}

export function conditionText(cell: InCell, condition: Condition, device = true): string {
  const { place, is, to, upTo, stable } = condition;
  const what = device ? placeText(cell, place) : whatText(cell, place);
  const value = valueText(cell, to, place);
  const says = {
    equals: `${what} is ${value}`,
    differs: `${what} is not ${value}`,
    above: `${what} is above ${value}`,
    below: `${what} is below ${value}`,
    between: `${what} is from ${value} to ${valueText(cell, upTo ?? to, place)}`,
    changes: `${what} changes`,
    rises: `${what} goes from 0 to 1`,
    falls: `${what} goes from 1 to 0`,
  }[is];
  return stable > 0 ? `${says} for ${stable} ms` : says;
}

/** One step as a sentence. */
export function stepSentence(cell: InCell, exchange: Exchange, step: Step): string {
  // Where there is one device only, its name says nothing.
  const named = devicesOf(exchange).length > 1;
  const where = (place: Order['place']) => (named ? placeText(cell, place) : whatText(cell, place));
  const reason = (step.reason || step.title).replace(/\.$/, '');
  const name = (id: string) =>
    id === 'done'
      ? 'the end'
      : `“${exchange.steps.find((s) => s.id === id)?.title ?? 'a step that is gone'}”`;
  const parts: string[] = [];
  if (step.orders.length > 0)
    parts.push(
      listed(
        step.orders.map((o) => orderText(cell, o, named)),
        'and',
      ),
    );
  const least = [
    step.updates > 0 && `${step.updates} update times`,
    step.least > 0 && `${step.least} ms`,
  ].filter(Boolean);
  if (least.length > 0) parts.push(`stay for at least ${least.join(' and ')}`);
  if (step.conditions.length > 0)
    parts.push(
      `wait until ${listed(
        step.conditions.map((c) => conditionText(cell, c, named)),
        step.any ? 'or' : 'and',
      )}` +
        (step.limit === null
          ? ''
          : `, at most ${step.limit} ms, else ${step.late === null ? `fail: ${reason}` : `go on at ${name(step.late)}`}`),
    );
  if (step.results.length > 0)
    parts.push(
      `keep ${listed(
        step.results.map((r) => `${where(r.place)} as ${r.variable}`),
        'and',
      )}`,
    );
  for (const { conditions, to } of step.branches)
    parts.push(
      `where ${listed(
        conditions.map((c) => conditionText(cell, c, named)),
        'and',
      )} go on at ${name(to)}`,
    );
  if (step.repeat) {
    const { times } = step.repeat;
    parts.push(
      `go back to ${name(step.repeat.to)} until it was done ${typeof times === 'object' ? times.variable : String(times)} times`,
    );
  }
  if (step.fails) parts.push(`fail: ${reason}`);
  const text = parts.join('; ');
  return text === ''
    ? 'Go on.'
    : `${text[0]!.toUpperCase()}${text.slice(1)}${/[.!?]$/.test(text) ? '' : '.'}`;
}

/** The whole exchange, a line a step. */
export function sentencesOf(cell: InCell, exchange: Exchange): string[] {
  const before = exchange.preconditions.map(
    ({ condition, reason }) =>
      `Only where ${conditionText(cell, condition)}${reason ? ` (else: ${reason})` : ''}.`,
  );
  return [
    ...before,
    ...exchange.steps.map((step, i) => `${i + 1}. ${step.title}: ${stepSentence(cell, exchange, step)}`),
  ];
}
