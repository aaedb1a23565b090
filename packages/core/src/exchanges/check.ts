import type { Cell } from '../cell/model.js';
import { finding, type Finding, type Place as Where } from '../messages/finding.js';
import type { Code, Facts } from '../messages/facts.js';
import type { Severity } from '../messages/finding.js';
import { roomOf } from '../layout/fieldTypes.js';
import {
  placesOfStep,
  type Branch,
  type Exchange,
  type Order,
  type Place,
  type Step,
  type Value,
} from '../cell/exchange.js';
import { rangeIn } from './images.js';
import { findPlace, placeText, type Found } from './resolve.js';
import { updateMs } from './run.js';

/**
 * What is wrong with an exchange, found at the desk: steps that lead nowhere, waits that never end, strobes that are
 * never taken back, pulses that the wire cannot carry.
 */

/** Commands that act by their edge where their role says nothing else; common practice, no source. */
const edgeRoles: ReadonlySet<string> = new Set([
  ...['trigger', 'setpoint strobe', 'program change', 'fault reset', 'print', 'cycle start', 'tare', 'zero'],
  ...['safety reset', 'home'],
]);

function actsByEdge(found: Found | undefined, place: Place): boolean {
  const acts = found?.acts ?? (place.role !== null && edgeRoles.has(place.role) ? 'rising edge' : undefined);
  return acts === 'rising edge' || acts === 'falling edge';
}

const keyOf = (place: Place): string => JSON.stringify(place);
/** What is known of the commands at a moment: by place; what is not in it may be anything. */
type Known = ReadonlyMap<string, Value>;

/** A branch asks for nothing but what its step has waited for: it is always taken. */
const alwaysHolds = (step: Step, { conditions }: Branch): boolean =>
  !step.any &&
  conditions.every((c) => step.conditions.some((own) => JSON.stringify(own) === JSON.stringify(c)));

/** Where a step may go on; `done` is its length. */
function ways(exchange: Exchange, at: number): { to: number[]; unknown: boolean } {
  const step = exchange.steps[at]!;
  const index = (target: string) =>
    target === 'done' ? exchange.steps.length : exchange.steps.findIndex(({ id }) => id === target);
  if (step.fails) return { to: [], unknown: false };
  const sure = step.branches.findIndex((branch) => alwaysHolds(step, branch));
  const branches = sure < 0 ? step.branches : step.branches.slice(0, sure + 1);
  const targets = [
    ...branches.map((b) => index(b.to)),
    ...(step.late === null ? [] : [index(step.late)]),
    ...(step.repeat && sure < 0 ? [index(step.repeat.to)] : []),
    ...(sure < 0 ? [at + 1] : []),
  ];
  return { to: targets.filter((t) => t >= 0), unknown: targets.some((t) => t < 0) };
}

/** The commands behind a step. */
function behind(before: Known, step: Step): Known {
  const after = new Map(before);
  for (const { place, how, to, back } of step.orders) {
    if (how !== 'set') after.delete(keyOf(place));
    else after.set(keyOf(place), back ? (typeof to === 'boolean' ? false : 0) : to);
  }
  return after;
}
const joined = (a: Known | undefined, b: Known): Known =>
  a === undefined
    ? b
    : new Map([...a].filter(([key, value]) => JSON.stringify(b.get(key)) === JSON.stringify(value)));

/** What is known before each step, and at the end; undefined for what is never reached. */
function flow(exchange: Exchange): (Known | undefined)[] {
  const before: (Known | undefined)[] = Array.from({ length: exchange.steps.length + 1 }, () => undefined);
  if (exchange.steps.length > 0) before[0] = new Map();
  const open = [0];
  // Each pass makes what is known smaller, so it ends.
  for (let left = 20 * exchange.steps.length + 20; open.length > 0 && left > 0; left -= 1) {
    const at = open.shift()!;
    const known = before[at];
    const step = exchange.steps[at];
    if (!known || !step) continue;
    const after = behind(known, step);
    for (const to of ways(exchange, at).to) {
      const next = joined(before[to], after);
      if (before[to] && next.size === before[to].size) continue;
      before[to] = next;
      open.push(to);
    }
  }
  return before;
}

/** Everything that is wrong with one exchange of the cell. */
export function exchangeFindings(cell: Cell, exchange: Exchange): Finding[] {
  const found: Finding[] = [];
  const name = exchange.name;
  const say = <C extends Code>(code: C, severity: Severity, step: Step | undefined, facts: Facts[C]) => {
    const device = step ? placesOfStep(step)[0]?.device : undefined;
    const where: Where = {
      exchange: exchange.id,
      ...(step ? { step: step.id } : {}),
      ...(device ? { device } : {}),
    };
    found.push(finding(code, severity, where, facts));
  };
  if (exchange.steps.length === 0) say('exchange.noSteps', 'notice', undefined, { exchange: name });
  const before = flow(exchange);
  const variables = new Set(exchange.variables.map((v) => v.name));
  const places = new Map<string, Found | undefined>();
  const find = (place: Place) => {
    const key = keyOf(place);
    if (!places.has(key)) places.set(key, findPlace(cell, place));
    return places.get(key);
  };

  exchange.steps.forEach((step, at) => {
    const facts = { exchange: name, step: step.title };
    const missing = placesOfStep(step).find((place) => !find(place));
    if (missing) say('exchange.noPlace', 'error', step, { ...facts, place: placeText(cell, missing) });
    if (ways(exchange, at).unknown) say('exchange.targetUnknown', 'error', step, facts);
    const unknown = valuesOf(step).find((v) => typeof v === 'object' && !variables.has(v.variable));
    if (typeof unknown === 'object')
      say('exchange.variableUnknown', 'error', step, { ...facts, variable: unknown.variable });
    const known = before[at];
    if (!known) {
      say('exchange.neverReached', 'warning', step, facts);
      return;
    }
    if (step.conditions.length > 0 && step.limit === null) say('exchange.noLimit', 'warning', step, facts);
    checkOrders(step, facts, known);
    checkWaits(step, facts);
  });
  checkEnd();
  return found;

  function checkOrders(step: Step, facts: { exchange: string; step: string }, known: Known): void {
    const own = step.orders.flatMap(({ place }) => find(place) ?? []);
    const update = Math.ceil(Math.max(0, ...own.map(({ link }) => updateMs(link))));
    const lasts = Math.max(step.least, step.updates * update);
    for (const order of step.orders) {
      const at = find(order.place);
      if (!at) continue;
      const place = placeText(cell, order.place);
      if (order.place.side === 'feedback')
        say('exchange.commandsFeedback', 'error', step, { ...facts, place });
      const was = known.get(keyOf(order.place));
      const edge = actsByEdge(at, order.place);
      const given = order.how === 'set' && order.to === true;
      if (edge && given && was === true && !goesOn(exchange, step, order))
        say('exchange.noEdge', 'warning', step, { ...facts, place });
      if (repeatsCode(order, was)) say('exchange.codeRepeated', 'warning', step, { ...facts, place });
      // A step that waits for an answer holds it until the device has seen it.
      const brief = step.conditions.length === 0 && lasts < 2 * update;
      if (brief && given && (order.back || (edge && takenBackNext(step, order))))
        say('exchange.pulseTooShort', 'warning', step, { ...facts, place, updateMs: update });
    }
    if (step.limit !== null && step.conditions.length > 0 && own.length > 0 && step.limit < 2 * update)
      say('exchange.limitTooShort', 'warning', step, { ...facts, limitMs: step.limit, leastMs: 2 * update });
  }

  /** A step behind it takes at once back what this one gives. */
  function takenBackNext(step: Step, { place }: Order): boolean {
    const next = exchange.steps[exchange.steps.indexOf(step) + 1];
    return next?.orders.some((o) => keyOf(o.place) === keyOf(place) && o.to === false) ?? false;
  }

  function checkWaits(step: Step, facts: { exchange: string; step: string }): void {
    for (const condition of step.conditions) {
      const at = find(condition.place);
      if (!at || condition.is === 'changes' || condition.is === 'rises' || condition.is === 'falls') continue;
      const why = neverIs(at, condition.to, condition.is, condition.upTo);
      if (why !== '')
        say('exchange.neverSent', 'error', step, { ...facts, place: placeText(cell, condition.place), why });
    }
  }

  function checkEnd(): void {
    const reached = exchange.steps.map((_, i) => i).filter((i) => before[i]);
    const leads = new Set([exchange.steps.length, ...reached.filter((i) => exchange.steps[i]!.fails)]);
    for (let grew = true; grew;) {
      grew = false;
      for (const i of reached)
        if (!leads.has(i) && ways(exchange, i).to.some((to) => leads.has(to))) {
          leads.add(i);
          grew = true;
        }
    }
    const stuck = reached.filter((i) => !leads.has(i));
    if (stuck.length > 0)
      say('exchange.deadEnd', 'error', exchange.steps[stuck[0]!], {
        exchange: name,
        steps: stuck.map((i) => `“${exchange.steps[i]!.title}”`).join(', '),
      });
    const end = before[exchange.steps.length];
    for (const step of exchange.steps)
      for (const { place, how, to, back } of step.orders)
        if (
          how === 'set' &&
          to === true &&
          !back &&
          actsByEdge(find(place), place) &&
          end?.get(keyOf(place)) === true
        )
          say('exchange.neverReleased', 'warning', step, {
            ...{ exchange: name, step: step.title },
            place: placeText(cell, place),
          });
  }
}

const valuesOf = (step: Step): Value[] => [
  ...step.orders.map((o) => o.to),
  ...[...step.conditions, ...step.branches.flatMap((b) => b.conditions)].flatMap((c) =>
    c.upTo === null ? [c.to] : [c.to, c.upTo],
  ),
  ...step.results.map((r) => ({ variable: r.variable, plus: 0 })),
  ...(step.repeat ? [step.repeat.times] : []),
];

/** A pulse that the step before began: it is held, and taken back at the end of this one. */
function goesOn(exchange: Exchange, step: Step, { place, back }: Order): boolean {
  const before = exchange.steps[exchange.steps.indexOf(step) - 1];
  const begun = before?.orders.some((o) => keyOf(o.place) === keyOf(place) && o.to === true && !o.back);
  return back && begun === true;
}

/** A code that is not 0 behind another one that is not: a variable may be anything but is no 0. */
function repeatsCode(order: Order, was: Value | undefined): boolean {
  if (order.place.role !== 'command code' || order.how !== 'set' || was === undefined) return false;
  return was !== 0 && was !== false && order.to !== 0 && order.to !== false;
}

/** Why a field can never be so; empty where it can. */
function neverIs({ signal, reads }: Found, to: Value, is: string, upTo: Value | null): string {
  if (is === 'between' && typeof to === 'number' && typeof upTo === 'number' && to > upTo)
    return `${to} is more than ${upTo}`;
  if (reads === 'text' && typeof to === 'string' && is === 'equals' && to.length > roomOf(signal))
    return `it has ${roomOf(signal)} characters at most`;
  if (reads !== 'number' || typeof to !== 'number') return '';
  const { least, greatest } = rangeIn(signal);
  if (
    (is === 'equals' && (to < least || to > greatest)) ||
    (is === 'above' && to >= greatest) ||
    (is === 'below' && to <= least)
  )
    return `it goes from ${least} to ${greatest}`;
  return '';
}
