import type { ParameterPlace } from '@fadenkreuz/core';
import type { Refusal } from '@fadenkreuz/core/devices';
import type { ToyLink } from '../../core/toyProtocol/protocol.js';
import type { Commanded, Driver, Served, Simulated } from '../src/protocols/driver.js';
import type { End, LinkEnds } from '../src/protocols/ends.js';
import { parameterAccess, refused } from '../src/protocols/parameterAccess.js';
import { RunningLink } from '../src/protocols/runningLink.js';

/** The wire: who listens at which station. */
const wire = new Map<string, ToyServed>();
const stationOf = (end: End) => (end.on === 'wire' ? end.station : '');

/** The device's side: takes what is sent, and answers with its feedback. */
class ToyServed implements Served {
  readonly network = {};
  private last: Commanded | undefined;

  constructor(
    private readonly device: Simulated,
    readonly end: End,
  ) {
    wire.set(stationOf(end), this);
  }

  exchange(command: Uint8Array): Uint8Array | undefined {
    if (this.device.cable.pulled) return undefined;
    const points = this.device.points();
    const taken = points.find((p) => p.use === 'command');
    taken?.bytes.set(command.subarray(0, taken.bytes.length));
    if (taken) this.last = { point: 120, bytes: taken.bytes, run: true };
    return points.find((p) => p.use === 'feedback')?.bytes;
  }

  parameter(number: number, raw: number | undefined): number | Refusal {
    const parameter = this.device.described[number - 1];
    if (!parameter) return 'absent';
    const bytes = Uint8Array.of((raw ?? 0) & 0xff, (raw ?? 0) >> 8);
    return (raw === undefined ? undefined : parameter.write(bytes)) ?? parameter.raw;
  }

  command(): Commanded | undefined {
    return this.last;
  }
  changed(): void {
    // The next exchange carries it.
  }
  troubled(): void {
    // Looked at with each exchange.
  }
  drop(): void {
    this.last = undefined;
  }
  close(): Promise<void> {
    wire.delete(stationOf(this.end));
    return Promise.resolve();
  }
}

/** The controller's side: one exchange in each period. */
class ToyRunning extends RunningLink<ToyLink> {
  override readonly polled = true;
  private end: (() => void) | undefined;

  watch(now: number): void {
    const silence = now - this.heardAt;
    if (this.state === 'open' && silence > (this.link.period / 1000) * 10) this.silent(silence);
  }

  sendAhead(): void {
    if (this.state === 'open') this.exchange();
  }

  protected open(): Promise<void> {
    if (!this.exchange()) throw new Error('nobody is at the other end');
    this.stands(this.link.period / 1000);
    this.end = this.context.schedule.every(this.link.period / 1000, () => void this.exchange());
    return Promise.resolve();
  }

  protected release(): Promise<void> {
    this.end?.();
    return Promise.resolve();
  }

  private exchange(): boolean {
    const answer = wire.get(stationOf(this.ends.end))?.exchange(this.command);
    if (!answer) return false;
    this.gone();
    this.take(answer, 0, 0, performance.now());
    return true;
  }
}

/** A parameter is one byte at an index; the device refuses in the words of all protocols. */
const toyParameters = (ends: LinkEnds<ToyLink>) => {
  const ask = (place: ParameterPlace, raw?: number): Promise<Uint8Array> | undefined => {
    if (place.way !== 'index') return undefined;
    const answer = wire.get(stationOf(ends.end))?.parameter(place.index, raw);
    return typeof answer === 'string'
      ? Promise.reject(refused(ends, place, answer, { says: 'It said so.', cure: 'Ask for another one.' }))
      : Promise.resolve(Uint8Array.of(answer ?? 0));
  };
  return parameterAccess(ends, {
    open: () => Promise.resolve({ closed: false, close: () => Promise.resolve() }),
    // The wire answers at once.
    busy: () => false,
    read: (_client, place) => ask(place),
    write: (_client, place, value) => ask(place, value[0])?.then(() => undefined),
  });
};

const station = (name: string): End => ({ on: 'wire', station: name });

export const toyDriver: Driver<ToyLink> = {
  protocol: 'toy-wire',
  originator: (context) => ({
    open: () => Promise.resolve(),
    link: (ends: LinkEnds<ToyLink>) => new ToyRunning(ends, context),
    parameters: (ends: LinkEnds<ToyLink>) => toyParameters(ends),
    close: () => Promise.resolve(),
  }),
  benchEnd: ({ name }) => station(name),
  realEnd: ({ name }) => station(name),
  networkLight: false,
  serve: (device, at) => Promise.resolve(new ToyServed(device, at)),
};
