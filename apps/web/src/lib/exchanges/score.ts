import {
  findPlace,
  placesOf,
  updateMs,
  whatText,
  type Cell,
  type Exchange,
  type ExchangePlace,
  type ExchangeStep,
  type Plain,
} from '@fadenkreuz/core';
import type { Story, StepRun } from '../api/exchanges.js';

/** An exchange as a score: a time axis, steps as bars, commands above, feedback below; expected beside recorded. */

export interface Bar {
  /** Row, from the top. */
  row: number;
  from: number;
  to: number;
  /** A step; a value that stands, expected or recorded. */
  is: 'step' | 'allowed' | 'expected' | 'recorded' | 'failed';
  text: string;
  /** Place of the step that it belongs to; undefined for what no step owns. */
  step?: number;
}
export interface Row {
  title: string;
  side: 'step' | 'command' | 'feedback';
}
export interface Score {
  rows: Row[];
  bars: Bar[];
  /** ms at its right end. */
  ends: number;
}

/** What is drawn for a wait of which nothing was measured, ms. */
const nominalMs = 120;
const briefMs = 20;

const keyOf = (place: ExchangePlace): string =>
  [place.device, place.side, place.role ?? place.field, place.number ?? 1, place.bit ?? ''].join(' ');

/** How long a step takes: what was measured, else what it asks for. */
function expectedMs(cell: Cell, step: ExchangeStep, at: number, runs: Story['ended']): number {
  const measured = runs.flatMap(({ steps }) =>
    steps.filter((s) => s.step === at).map((s) => s.ended - s.began),
  );
  if (measured.length > 0) return median(measured);
  const update = Math.max(
    0,
    ...step.orders.map(({ place }) => {
      const found = findPlace(cell, place);
      return found ? updateMs(found.link) : 0;
    }),
  );
  return Math.max(step.least, step.updates * update, step.conditions.length > 0 ? nominalMs : briefMs);
}

export const median = (values: readonly number[]): number => {
  const sorted = [...values].sort((a, b) => a - b);
  return sorted[Math.floor((sorted.length - 1) / 2)] ?? 0;
};

const shownValue = (value: unknown): string =>
  value === true
    ? '1'
    : value === false
      ? '0'
      : typeof value === 'number'
        ? String(Number(value.toPrecision(6)))
        : String(value);
const orderValue = (to: ExchangeStep['orders'][number]['to']): string =>
  typeof to === 'object' ? to.variable + (to.plus ? ` + ${to.plus}` : '') : shownValue(to);

/** The score of an exchange; with what was recorded of its last run, where there is one. */
export function scoreOf(cell: Cell, exchange: Exchange, story: Story | undefined): Score {
  const places = [...new Map(placesOf(exchange).map((p) => [keyOf(p), p])).values()].sort(
    (a, b) => Number(a.side === 'feedback') - Number(b.side === 'feedback'),
  );
  const several = new Set(places.map((p) => p.device)).size > 1;
  const rows: Row[] = [
    { title: 'steps', side: 'step' },
    ...places.map((place) => ({
      title: several
        ? `${whatText(cell, place)} · ${cell.devices.find((d) => d.id === place.device)?.name ?? ''}`
        : whatText(cell, place),
      side: place.side,
    })),
  ];
  const rowOf = new Map(places.map((place, i) => [keyOf(place), i + 1]));
  const recorded = story && story.steps.length > 0 ? story.steps : undefined;
  const times = timesOf(cell, exchange, story, recorded);
  const bars = [
    ...stepBars(exchange, times, story),
    ...expectedBars(exchange, times, rowOf),
    ...(recorded ? recordedBars(story!, rowOf, times.ends) : []),
  ];
  return { rows, bars, ends: times.ends };
}

interface Times {
  /** Of each step that is drawn: its place, and from when to when. */
  steps: { at: number; from: number; to: number }[];
  ends: number;
}

function timesOf(
  cell: Cell,
  exchange: Exchange,
  story: Story | undefined,
  recorded: StepRun[] | undefined,
): Times {
  if (recorded) {
    const last = story!.samples.at(-1)?.ms ?? 0;
    const steps = recorded.map(({ step, began, ended }) => ({ at: step, from: began, to: ended }));
    const under = story!.status.step;
    const now = Math.max(last, steps.at(-1)?.to ?? 0);
    if (under !== null && story!.status.state === 'running')
      steps.push({ at: under, from: steps.at(-1)?.to ?? 0, to: now });
    return { steps, ends: Math.max(now, 1) };
  }
  let from = 0;
  const steps = exchange.steps
    .filter((step) => !step.fails)
    .map((step) => {
      const at = exchange.steps.indexOf(step);
      const to = from + expectedMs(cell, step, at, story?.ended ?? []);
      const one = { at, from, to };
      from = to;
      return one;
    });
  return { steps, ends: Math.max(from, 1) };
}

function stepBars(exchange: Exchange, { steps, ends }: Times, story: Story | undefined): Bar[] {
  const failed = story?.status.failure?.step;
  return steps.flatMap(({ at, from, to }, i): Bar[] => {
    const step = exchange.steps[at];
    if (!step) return [];
    const last = i === steps.length - 1;
    const limit = step.limit === null ? undefined : Math.min(from + step.limit, ends);
    return [
      ...(limit !== undefined && limit > to
        ? [
            {
              row: 0,
              from: to,
              to: limit,
              is: 'allowed' as const,
              text: `may take ${step.limit} ms`,
              step: at,
            },
          ]
        : []),
      {
        ...{ row: 0, from, to, text: `${at + 1} ${step.title}`, step: at },
        is: last && failed === at ? ('failed' as const) : ('step' as const),
      },
    ];
  });
}

/** What the steps give and wait for, over the same time. */
function expectedBars(exchange: Exchange, { steps, ends }: Times, rowOf: ReadonlyMap<string, number>): Bar[] {
  const bars: Bar[] = [];
  const stands = new Map<number, Bar>();
  const set = (row: number, at: number, text: string, step: number) => {
    const before = stands.get(row);
    if (before) before.to = at;
    stands.delete(row);
    if (text === '0' || text === '') return;
    const bar: Bar = { row, from: at, to: ends, is: 'expected', text, step };
    bars.push(bar);
    stands.set(row, bar);
  };
  for (const { at, from, to } of steps) {
    const step = exchange.steps[at];
    // It was taken out since it ran.
    if (!step) continue;
    for (const { place, how, to: value } of step.orders)
      set(
        rowOf.get(keyOf(place))!,
        from,
        how === 'increment' ? '+1' : how === 'toggle' ? '⇄' : orderValue(value),
        at,
      );
    for (const { place, back } of step.orders) if (back) set(rowOf.get(keyOf(place))!, to, '0', at);
    for (const { place, is, to: value } of step.conditions)
      set(
        rowOf.get(keyOf(place))!,
        to,
        is === 'equals'
          ? orderValue(value)
          : is === 'changes'
            ? '≠'
            : is === 'falls'
              ? '0'
              : `${is} ${orderValue(value)}`,
        at,
      );
  }
  return bars.filter((bar) => bar.to > bar.from);
}

function recordedBars({ places, samples }: Story, rowOf: ReadonlyMap<string, number>, ends: number): Bar[] {
  return places.flatMap((place, i) => {
    const row = rowOf.get(keyOf(place as ExchangePlace));
    if (row === undefined) return [];
    const own = samples.filter((s) => s.place === i);
    return own.flatMap(({ ms, value }, n): Bar[] => {
      const to = own[n + 1]?.ms ?? ends;
      const rests = (v: Plain) => v === false || v === 0 || v === '';
      return rests(value) || to <= ms ? [] : [{ row, from: ms, to, is: 'recorded', text: shownValue(value) }];
    });
  });
}

/** The waits of a step over all runs, ms. */
export function waitsOf(runs: Story['ended'], step: number) {
  const ms = runs.flatMap(({ steps }) =>
    steps.filter((s) => s.step === step && !s.late).map((s) => s.ended - s.began),
  );
  if (ms.length === 0) return undefined;
  return { count: ms.length, least: Math.min(...ms), typical: median(ms), most: Math.max(...ms), ms };
}

/** A histogram of waits: so many bins of equal width. */
export function histogram(ms: readonly number[], bins = 12): { from: number; count: number }[] {
  const [least, most] = [Math.min(...ms), Math.max(...ms)];
  const width = Math.max((most - least) / bins, 0.1);
  const counts = Array.from({ length: bins }, (_, i) => ({ from: least + i * width, count: 0 }));
  for (const value of ms) counts[Math.min(bins - 1, Math.floor((value - least) / width))]!.count += 1;
  return counts;
}
