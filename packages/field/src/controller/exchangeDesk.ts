import {
  ExchangeRun,
  exchangeOfOrder,
  Problem,
  type Cell,
  type CommandOrder,
  type Device,
  type Exchange,
  type ExchangePlace,
  type Failure,
  type Link,
  type Plain,
  type RunState,
  type StepRun,
} from '@fadenkreuz/core';
import type { RunningLink } from '../protocols/runningLink.js';
import type { Schedule } from '../timing/schedule.js';

/** How an exchange stands, for everybody who watches the bench. */
export interface ExchangeStatus {
  exchange: string;
  state: RunState;
  /** Place of the step that it is in; null before the first and behind the last. */
  step: number | null;
  /** The run that it is in, of so many. */
  run: number;
  times: number;
  /** It waits for a person to let it go on. */
  waits: boolean;
  failure: Failure | null;
}

/** One run that is over. */
export interface ExchangeEnded {
  run: number;
  state: RunState;
  failure: Failure | null;
  steps: StepRun[];
  results: Record<string, Plain>;
  /** ms that it took. */
  ms: number;
}

/** A value that a place had from a moment of the run on. */
export interface Sample {
  /** Of `places`. */
  place: number;
  ms: number;
  value: Plain;
}

/** All that is known of an exchange that ran, or runs. */
export interface ExchangeStory {
  status: ExchangeStatus;
  /** What its step waits for now. */
  open: { place: ExchangePlace; holds: boolean; value: Plain }[];
  ended: ExchangeEnded[];
  /** Of the last run, or of the one that is under way. */
  places: readonly ExchangePlace[];
  samples: Sample[];
  steps: StepRun[];
}

export interface RunOptions {
  times: number;
  given: Record<string, Plain>;
  /** It waits before each step for a person. */
  byStep: boolean;
}

export interface ExchangeDeskOptions {
  cell: () => Cell;
  linkOf: (linkId: string) => RunningLink | undefined;
  schedule: Schedule;
  /** An exchange ended, all its runs. */
  onEnd?: (exchange: Exchange, last: ExchangeEnded) => void;
}

/** So many runs and samples are kept. */
const keptRuns = 1000;
const keptSamples = 20_000;
/** A controller that is said to run all the time scans at this interval, ms. */
const usualCycleMs = 10;

interface Going {
  exchange: Exchange;
  options: RunOptions;
  run: ExchangeRun;
  number: number;
  /** `performance.now()` of its first scan. */
  begun: number;
  /** A person let it go on once. */
  released: boolean;
  /** All of its devices have said something. */
  heard: boolean;
  ended: ExchangeEnded[];
  samples: Sample[];
  last: (Plain | undefined)[];
}

/**
 * The exchanges of the controller's task: each scan looks at every one that runs, and writes what it gives into the
 * command images. Commands of a person are exchanges of one or two steps here, so that none is shorter than the wire
 * can carry. They write in the order in which they were begun: what began last has the last word.
 */
export class ExchangeDesk {
  private readonly going = new Map<string, Going>();
  private readonly orders = new Map<string, ExchangeRun>();
  private stopScan: (() => void) | undefined;

  constructor(private readonly options: ExchangeDeskOptions) {}

  /**
   * Begins an exchange of the cell. Throws `exchange.unknown`, `exchange.alreadyRuns`, `exchange.noPlace`,
   * `bench.noOpenLink`.
   */
  run(exchangeId: string, options: RunOptions): ExchangeStatus {
    const exchange = this.known(exchangeId);
    if (this.going.get(exchangeId)?.run.state === 'running')
      throw new Problem('exchange.alreadyRuns', { exchange: exchange.name });
    const going: Going = {
      ...{ exchange, options, number: 1, begun: performance.now(), released: false, heard: false },
      ...{ run: this.made(exchange, options), ended: [], samples: [], last: [] },
    };
    this.arm(going);
    this.going.set(exchangeId, going);
    this.scanFromNow();
    return statusOf(going);
  }

  private known(id: string): Exchange {
    const { exchanges } = this.options.cell();
    const exchange = exchanges.find((e) => e.id === id);
    if (!exchange)
      throw new Problem('exchange.unknown', { exchange: id, known: exchanges.map((e) => e.name).join(', ') });
    return exchange;
  }

  /** Throws where a link does not stand: nothing that is commanded would arrive. */
  private made(exchange: Exchange, { given }: Pick<RunOptions, 'given'>): ExchangeRun {
    const run = new ExchangeRun(this.options.cell(), exchange, (link) => this.linkBytes(link), given);
    for (const link of run.links) this.linkBytes(link);
    return run;
  }

  private linkBytes(link: Link): RunningLink {
    const running = this.options.linkOf(link.id);
    if (running?.state !== 'open' || running.ends.reads)
      throw new Problem('bench.noOpenLink', { device: running?.device.name ?? 'the device' });
    return running;
  }

  private arm(going: Going): void {
    if (!going.options.byStep) return;
    going.run.mayGo = () => {
      if (!going.released) return false;
      going.released = false;
      return true;
    };
  }

  /** Lets one that runs by step go on to the next. */
  release(exchangeId: string): void {
    const going = this.going.get(exchangeId);
    if (going) going.released = true;
  }

  /** Ends one; what its step gave for as long as it lasts is taken back. */
  stop(exchangeId: string): void {
    const going = this.going.get(exchangeId);
    if (!going || going.run.state !== 'running') return;
    this.ending(going, () => going.run.stop(performance.now()));
    this.over(going, true);
  }

  /** Ends all of them, and what a person has pulsed: nobody may write any more. */
  stopAll(): void {
    for (const id of this.going.keys()) this.stop(id);
    for (const run of this.orders.values()) this.ending(undefined, () => run.stop(performance.now()));
    this.orders.clear();
  }

  /** A link that was lost cannot be written to any more. */
  private ending(going: Going | undefined, end: () => void): void {
    try {
      end();
    } catch (error) {
      if (!(error instanceof Problem)) throw error;
      if (going) going.run.state = 'stopped';
    }
  }

  /** Gives one command of a person. Throws `edit.unknown`, `bench.noOpenLink`, `value.…`. */
  order(device: Device, order: CommandOrder): void {
    const exchange = exchangeOfOrder(this.options.cell(), device, order);
    const key = `${order.field} ${order.bit ?? ''}`;
    const run = this.made(exchange, { given: {} });
    run.scan(performance.now());
    this.orders.set(key, run);
    this.scanFromNow();
  }

  get statuses(): ExchangeStatus[] {
    return [...this.going.values()].map(statusOf);
  }

  story(exchangeId: string): ExchangeStory | undefined {
    const going = this.going.get(exchangeId);
    if (!going) return undefined;
    const { run, ended, samples } = going;
    return {
      status: statusOf(going),
      open: run.waits.map(({ condition, holds, value }) => ({ place: condition.place, holds, value })),
      ...{ ended, samples, places: run.places },
      steps: [...run.steps],
    };
  }

  close(): void {
    this.stopAll();
    this.stopScan?.();
    this.stopScan = undefined;
  }

  private scanFromNow(): void {
    if (this.stopScan) return;
    const cycleMs = this.options.cell().controller.cycle / 1000 || usualCycleMs;
    this.stopScan = this.options.schedule.every(Math.max(1, cycleMs), (now) => this.scan(now));
  }

  private scan(now: number): void {
    for (const going of this.going.values()) if (going.run.state === 'running') this.scanOne(going, now);
    for (const [key, run] of this.orders) {
      this.guarded(run, now);
      if (run.state !== 'running') this.orders.delete(key);
    }
    const busy = this.orders.size > 0 || [...this.going.values()].some((g) => g.run.state === 'running');
    if (busy) return;
    this.stopScan?.();
    this.stopScan = undefined;
  }

  private scanOne(going: Going, now: number): void {
    if (!going.heard) {
      // Before the first packet has come, the feedback says nothing.
      if (!this.heard(going.run)) return;
      going.heard = true;
      going.begun = now;
    }
    this.guarded(going.run, now);
    this.note(going, now);
    if (going.run.state !== 'running') this.over(going, false);
  }

  private heard(run: ExchangeRun): boolean {
    return run.links.every((link) => !Number.isNaN(this.options.linkOf(link.id)?.heardAt ?? NaN));
  }

  private guarded(run: ExchangeRun, now: number): void {
    try {
      run.scan(now);
    } catch (error) {
      if (!(error instanceof Problem)) throw error;
      // A link was lost, or a value does not fit: it cannot go on.
      run.state = 'failed';
      run.failure = { step: run.step ?? null, reason: error.report().says };
    }
  }

  /** Notes each value that has changed. */
  private note(going: Going, now: number): void {
    const { run, last, samples } = going;
    if (samples.length > keptSamples) return;
    run.places.forEach((place, i) => {
      const value = run.valueAt(place);
      if (value === last[i]) return;
      last[i] = value;
      samples.push({ place: i, ms: now - going.begun, value });
    });
  }

  private over(going: Going, stopped: boolean): void {
    const { run, options } = going;
    const ended: ExchangeEnded = {
      ...{ run: going.number, state: run.state, failure: run.failure ?? null, steps: [...run.steps] },
      results: Object.fromEntries(run.variables),
      ms: performance.now() - going.begun,
    };
    going.ended.push(ended);
    if (going.ended.length > keptRuns) going.ended.shift();
    if (stopped || run.state !== 'done' || going.number >= options.times) {
      this.options.onEnd?.(going.exchange, ended);
      return;
    }
    going.run.again();
    going.number += 1;
    going.heard = false;
    going.samples = [];
    going.last = [];
  }
}

const statusOf = ({ exchange, run, number, options, released }: Going): ExchangeStatus => ({
  ...{ exchange: exchange.id, state: run.state, step: run.step ?? null, run: number, times: options.times },
  waits: options.byStep && !released && run.state === 'running' && run.waits.every(({ holds }) => holds),
  failure: run.failure ?? null,
});
