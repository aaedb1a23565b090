import type { Cell } from '../cell/model.js';
import type { Link } from '../cell/link.js';
import { protocolOf } from '../protocols/list.js';
import {
  placesOf,
  type Branch,
  type Condition,
  type Exchange,
  type Order,
  type Place,
  type Step,
  type Value,
} from '../cell/exchange.js';
import { ExchangeImages, truthy, type Access, type BytesOf, type Plain } from './images.js';

/**
 * Runs an exchange, scan by scan, on the images of its devices; time comes from outside. Each scan looks at one step
 * and goes on at most by one, as the written function block does (functionBlock.ts): both give the same command
 * images.
 */

export type RunState = 'running' | 'done' | 'failed' | 'stopped';

/** How long a step took. */
export interface StepRun {
  /** Place in the exchange's list of steps. */
  step: number;
  /** ms since the begin of the run. */
  began: number;
  ended: number;
  late: boolean;
}

export interface Failure {
  /** Place of the step; null: a precondition did not hold. */
  step: number | null;
  reason: string;
}

/** A condition of a step that is looked at, with what it remembers since the step began. */
interface Watched {
  condition: Condition;
  access: Access;
  /** Its value when the step began, and one scan ago. */
  begin: Plain;
  last: Plain;
  /** An edge has come; since when it holds. */
  seen: boolean;
  since: number | undefined;
}

interface Ready {
  step: Step;
  orders: readonly { order: Order; access: Access }[];
  watched: readonly Watched[];
  branches: readonly { branch: Branch; watched: readonly Watched[] }[];
  results: readonly { variable: string; access: Access }[];
  /** It lasts at least so long, ms. */
  least: number;
}

/** The update time of a link to its device, ms; what is commanded is seen after it. */
export const updateMs = (link: Link): number => protocolOf(link).times(link).commandMs;

/**
 * How long a step lasts at least, ms: its update times are those of the slowest device that it commands, or that the
 * exchange commands where it commands none itself. The written function block asks here, too.
 */
export function leastMs(step: Step, own: readonly Link[], all: readonly Link[]): number {
  const links = own.length > 0 ? own : all;
  const slowest = Math.ceil(Math.max(0, ...links.map(updateMs)));
  return Math.max(step.least, step.updates * slowest);
}

/** An exchange made ready to run on a cell. */
export class ExchangeRun {
  state: RunState = 'running';
  steps: StepRun[] = [];
  failure: Failure | undefined;
  readonly variables = new Map<string, Plain>();
  /** Whether it may leave a step whose conditions hold; it waits there, however long its limit is. */
  mayGo: () => boolean = () => true;
  /** Everything that it reads or writes, each place once. */
  readonly places: readonly Place[];

  private readonly images: ExchangeImages;
  private readonly ready: readonly Ready[];
  private readonly preconditions: readonly { watched: Watched; reason: string }[];
  private readonly rounds = new Map<string, number>();
  private at = -1;
  private enteredAt = 0;
  private begunAt = 0;

  /** Throws `exchange.noPlace`. `given`: values of variables in place of their own. */
  constructor(
    cell: Pick<Cell, 'devices'>,
    readonly exchange: Exchange,
    bytesOf: BytesOf,
    private readonly given: Readonly<Record<string, Plain>> = {},
  ) {
    const all = placesOf(exchange);
    this.places = [...new Map(all.map((place) => [JSON.stringify(place), place])).values()];
    this.images = new ExchangeImages(cell, all, bytesOf);
    const { commanded } = this.images;
    this.ready = exchange.steps.map((step) => this.made(step, commanded));
    this.preconditions = exchange.preconditions.map(({ condition, reason }) => ({
      watched: this.watch(condition),
      reason,
    }));
    this.again();
  }

  /** Begins anew with its next scan, as if it had never run. */
  again(): void {
    for (const { name, given } of this.exchange.variables)
      this.variables.set(name, this.given[name] ?? given);
    this.state = 'running';
    this.failure = undefined;
    this.steps = [];
    this.at = -1;
    this.rounds.clear();
  }

  private made(step: Step, commanded: readonly Link[]): Ready {
    const orders = step.orders.map((order) => ({ order, access: this.images.at(order.place) }));
    const own = [...new Set(orders.map(({ access }) => access.found.link))];
    return {
      ...{ step, orders },
      watched: step.conditions.map((c) => this.watch(c)),
      branches: step.branches.map((branch) => ({
        branch,
        watched: branch.conditions.map((c) => this.watch(c)),
      })),
      results: step.results.map(({ variable, place }) => ({ variable, access: this.images.at(place) })),
      least: leastMs(step, own, commanded),
    };
  }

  private watch(condition: Condition): Watched {
    const access = this.images.at(condition.place);
    return { condition, access, begin: 0, last: 0, seen: false, since: undefined };
  }

  /** The place of the step that it is in; undefined before the first and behind the last. */
  get step(): number | undefined {
    return this.at < 0 ? undefined : this.at;
  }

  /** Since when it is in its step, on the clock of `scan`. */
  get since(): number {
    return this.enteredAt;
  }

  /** Its conditions, and whether each holds now, for whoever watches. */
  get waits(): { condition: Condition; holds: boolean; value: Plain }[] {
    const ready = this.ready[this.at];
    if (!ready || this.state !== 'running') return [];
    return ready.watched.map((watched) => ({
      condition: watched.condition,
      holds: this.holds(watched),
      value: watched.access.read(),
    }));
  }

  /** Looks once: `now` in ms, never less than before. */
  scan(now: number): void {
    if (this.state !== 'running') return;
    this.images.read();
    if (this.at < 0) this.begin(now);
    else this.look(now);
  }

  /** Ends it where it is: what its step gave for as long as it lasts is taken back. With a reason it has failed. */
  stop(now: number, reason?: string): void {
    if (this.state !== 'running') return;
    this.images.read();
    const at = this.step;
    this.leave(now, false);
    if (reason === undefined) this.state = 'stopped';
    else this.fail(at ?? null, reason);
  }

  /** The value of a place as it was read in the last scan, or put there in it. */
  valueAt(place: Place): Plain {
    return this.images.at(place).read();
  }

  /** The devices whose links must stand. */
  get links(): readonly Link[] {
    return this.images.links;
  }

  private begin(now: number): void {
    this.begunAt = now;
    const missing = this.preconditions.find(({ watched }) => !this.holds(watched));
    if (missing) this.fail(null, missing.reason);
    else this.go(0, now);
  }

  private look(now: number): void {
    const { step, watched, least } = this.ready[this.at]!;
    for (const one of watched) this.note(one, now);
    const held = (one: Watched) =>
      this.holds(one) && (one.condition.stable === 0 || now - (one.since ?? now) >= one.condition.stable);
    const over = watched.length === 0 || (step.any ? watched.some(held) : watched.every(held));
    const elapsed = now - this.enteredAt;
    if (over && elapsed >= least) {
      if (this.mayGo()) this.pass(now);
    } else if (step.limit !== null && elapsed >= step.limit) {
      this.leave(now, true);
      if (step.late === null) this.fail(this.at, step.reason || step.title);
      else this.go(this.placeOf(step.late), now);
    }
  }

  /** The step is over: takes its results, and goes where its branches, or its repeat, say. */
  private pass(now: number): void {
    const { step, branches, results } = this.ready[this.at]!;
    for (const { variable, access } of results) this.variables.set(variable, access.read());
    const branch = branches.find(({ watched }) => watched.every((one) => this.holds(one)));
    this.leave(now, false);
    if (branch) return this.go(this.placeOf(branch.branch.to), now);
    if (step.repeat) {
      const round = (this.rounds.get(step.id) ?? 1) + 1;
      if (round <= Number(this.valueOf(step.repeat.times))) {
        this.rounds.set(step.id, round);
        return this.go(this.placeOf(step.repeat.to), now);
      }
      this.rounds.delete(step.id);
    }
    this.go(this.at + 1, now);
  }

  /** Takes back what the step gave for as long as it lasts. */
  private leave(now: number, late: boolean): void {
    const ready = this.ready[this.at];
    if (!ready) return;
    for (const { order, access } of ready.orders)
      if (order.back)
        access.put(access.found.reads === 'text' ? '' : access.found.reads === 'bit' ? false : 0);
    this.steps.push({ step: this.at, began: this.enteredAt - this.begunAt, ended: now - this.begunAt, late });
  }

  private go(to: number, now: number): void {
    const ready = this.ready[to];
    if (!ready) {
      this.state = 'done';
      this.at = -1;
      return;
    }
    this.at = to;
    this.enteredAt = now;
    for (const { order, access } of ready.orders) this.give(order, access);
    for (const one of ready.watched) {
      one.begin = one.last = one.access.read();
      one.seen = false;
      one.since = undefined;
    }
    if (ready.step.fails) this.fail(to, ready.step.reason || ready.step.title);
  }

  private give(order: Order, access: Access): void {
    if (order.how === 'toggle') access.put(!truthy(access.read()));
    else if (order.how === 'increment') {
      const next = Number(access.read()) + 1;
      access.put(next > access.range.greatest ? Number(this.valueOf(order.to)) : next);
    } else access.put(this.valueOf(order.to));
  }

  private placeOf(target: string): number {
    return target === 'done' ? this.ready.length : this.ready.findIndex(({ step }) => step.id === target);
  }

  private fail(step: number | null, reason: string): void {
    this.state = 'failed';
    this.failure = { step, reason };
  }

  /** A value now: of a constant, or of a variable with what is added. */
  private valueOf(value: Value): Plain {
    if (typeof value !== 'object') return value;
    const now = this.variables.get(value.variable) ?? 0;
    return typeof now === 'number' ? now + value.plus : now;
  }

  private note(one: Watched, now: number): void {
    const value = one.access.read();
    const { is } = one.condition;
    if (is === 'rises' && truthy(value) && !truthy(one.last)) one.seen = true;
    if (is === 'falls' && !truthy(value) && truthy(one.last)) one.seen = true;
    one.last = value;
    if (!this.holds(one)) one.since = undefined;
    else one.since ??= now;
  }

  private holds({ condition, access, begin, seen }: Watched): boolean {
    const value = access.read();
    if (condition.is === 'rises' || condition.is === 'falls') return seen;
    if (condition.is === 'changes') return !same(value, begin, access.near);
    const to = this.valueOf(condition.to);
    switch (condition.is) {
      case 'equals':
        return same(value, to, access.near);
      case 'differs':
        return !same(value, to, access.near);
      case 'above':
        return Number(value) > Number(to) + access.near;
      case 'below':
        return Number(value) < Number(to) - access.near;
      case 'between':
        return (
          Number(value) >= Number(to) - access.near &&
          Number(value) <= Number(this.valueOf(condition.upTo ?? condition.to)) + access.near
        );
    }
  }
}

/** Bits by their state, texts letter by letter, numbers as near as their field resolves. */
function same(a: Plain, b: Plain, near: number): boolean {
  if (typeof a === 'boolean') return a === truthy(b);
  if (typeof a === 'string') return a === String(b);
  return Math.abs(a - Number(b)) <= near;
}
