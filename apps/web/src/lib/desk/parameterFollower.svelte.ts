import { Identity, type Device, type WriteStep } from '@fadenkreuz/core';
import {
  Frames,
  ListedParameters,
  ParameterNews as News,
  SaidIdentity,
  SeriesLines,
  SeriesState,
  type Frame,
  type KnownValue,
  type SeriesLine,
  type Watched,
} from '../api/parameters.js';
import type { z } from 'zod';
import { nothingKnown, readOf, valueOf, Samples, withValues, type KnownValues } from './knownValues.js';
import { send, type Note } from './send.js';

/** How often the bench is asked while a series runs or values are watched, and else; ms. */
const busyMs = 250;
const idleMs = 1500;

/** What is known of the parameters of the devices on the bench, as long as a part of the screen looks at it. */
export class ParameterFollower {
  /** Another map with each news. */
  known = $state.raw<KnownValues>(nothingKnown());
  series = $state.raw<readonly SeriesState[]>([]);
  watched = $state.raw<readonly Watched[]>([]);
  /** Of watched parameters each value that was heard, by device and parameter. */
  private readonly samples = new Samples();
  private last = 0;
  private lookers = 0;
  private timer: ReturnType<typeof setTimeout> | undefined;

  constructor(
    private readonly running: () => boolean,
    private readonly holder: string,
    private readonly tell: (note: Note) => void,
  ) {}

  /** A part of the screen looks from now on; returns the way to end it. */
  follow(): () => void {
    this.lookers += 1;
    if (this.lookers === 1) void this.ask();
    return () => {
      this.lookers -= 1;
      if (this.lookers === 0) clearTimeout(this.timer);
    };
  }

  of(device: string, parameter: string): KnownValue | undefined {
    return valueOf(this.known, device, parameter);
  }
  /** What was read of a device, by parameter, as hex pairs. */
  readOf(device: string): Map<string, string> {
    return readOf(this.known, device);
  }

  /** Reads parameters, all that can be read without a list; undefined when that was refused. */
  read(device: string, parameters?: readonly string[]): Promise<number | undefined> {
    return this.begin('read', { devices: [{ device, ...(parameters ? { parameters } : {}) }] });
  }
  /** Writes values in the order of the steps; needs Arm. */
  write(device: string, steps: readonly WriteStep[]): Promise<number | undefined> {
    return this.begin('write', { devices: [{ device, steps }], holder: this.holder });
  }
  async cancel(series: number): Promise<void> {
    await this.post('cancel', { series });
  }
  /** Somebody has taken note of a series that was cut off. */
  async forgetCut(series: string): Promise<void> {
    await this.post('forget-cut', { series });
  }
  async watch(watched: readonly Watched[]): Promise<void> {
    await this.post('watch', { watched });
    await this.ask();
  }

  /** The values of a watched parameter, in the order in which they were read. */
  samplesOf(device: string, parameter: string): readonly KnownValue[] {
    return this.samples.of(device, parameter);
  }

  /**
   * What a device is by its own words, as far as it says it, else by the plan; undefined where it does not answer.
   */
  async identityOf({ id, identity, description }: Device) {
    const answer = await send('GET', `/api/bench/parameters?device=${id}`, SaidIdentity);
    const said = answer.ok ? answer.value.found : null;
    if (!said) return undefined;
    const { serialNumber, ...own } = said;
    const known = Object.entries(own).filter(([, value]) => value !== null && value !== '');
    const read = Identity.safeParse({ ...(description.identity ?? identity), ...Object.fromEntries(known) });
    return read.success ? { identity: read.data, serialNumber } : undefined;
  }

  /** The parameters that a device itself tells of; undefined, and said, where it has no list of them. */
  async listedBy(device: string) {
    const answer = await send('POST', '/api/bench/parameters?do=list', ListedParameters, { device });
    if (!answer.ok) this.tell(answer.problem);
    return answer.ok ? answer.value.parameters : undefined;
  }

  /** The messages of the last request for a parameter. */
  async framesOf(device: string, parameter: string): Promise<readonly Frame[]> {
    const query = `device=${encodeURIComponent(device)}&parameter=${encodeURIComponent(parameter)}`;
    const answer = await send('GET', `/api/bench/parameters?${query}`, Frames);
    return answer.ok ? answer.value.frames : [];
  }

  /** How each parameter of a series ended. */
  async linesOf(series: number): Promise<SeriesLine[]> {
    const answer = await send('GET', `/api/bench/parameters?series=${series}`, SeriesLines);
    return answer.ok ? answer.value.lines : [];
  }

  private async begin(action: 'read' | 'write', body: object): Promise<number | undefined> {
    const answer = await send('POST', `/api/bench/parameters?do=${action}`, SeriesState, body);
    if (!answer.ok) this.tell(answer.problem);
    await this.ask();
    return answer.ok ? answer.value.id : undefined;
  }
  private async post(action: string, body: object): Promise<void> {
    const answer = await send('POST', `/api/bench/parameters?do=${action}`, undefined, body);
    if (!answer.ok) this.tell(answer.problem);
  }

  private async ask(): Promise<void> {
    clearTimeout(this.timer);
    if (this.running()) {
      const answer = await send('GET', `/api/bench/parameters?since=${this.last}`, News);
      if (answer.ok) this.take(answer.value);
    } else if (this.last > 0 || this.series.length > 0) this.forget();
    clearTimeout(this.timer);
    if (this.lookers === 0) return;
    const busy = this.watched.length > 0 || this.series.some((s) => !s.ended);
    this.timer = setTimeout(() => void this.ask(), busy ? busyMs : idleMs);
  }

  private take(news: z.infer<typeof News>): void {
    // Another bench counts anew: what was known belonged to the one before.
    if (news.last < this.last) {
      this.forget();
      return;
    }
    this.last = news.last;
    this.samples.take(news.samples);
    if (news.values.length > 0) this.known = withValues(this.known, news.values);
    if (JSON.stringify(news.series) !== JSON.stringify(this.series)) this.series = news.series;
    if (JSON.stringify(news.watched) !== JSON.stringify(this.watched)) this.watched = news.watched;
  }

  private forget(): void {
    this.last = 0;
    this.known = nothingKnown();
    this.samples.clear();
    this.series = [];
    this.watched = [];
  }
}
