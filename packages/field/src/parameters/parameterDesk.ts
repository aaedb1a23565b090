import { Problem, type Cell, type Device, type Outcome, type WriteStep } from '@fadenkreuz/core';
import { randomUUID } from 'node:crypto';
import pLimit from 'p-limit';
import {
  nothingHeard,
  unpackFrames,
  type HeardFrame,
  type HeardRequest,
  type PackedFrames,
} from '../capture/heardFrames.js';
import type { ParameterAccess } from '../protocols/parameterAccess.js';
import type { WriteJournal } from './writeJournal.js';
import { readSeries, writeSeries, type SeriesLine } from './series.js';

/** A parameter that is read again and again. */
export interface Watched {
  device: string;
  parameter: string;
  everyMs: number;
}

/** A series of reads or of writes. */
export interface SeriesState {
  id: number;
  does: 'read' | 'write';
  total: number;
  counts: Record<Outcome, number>;
  ended: boolean;
  cancelled: boolean;
  /** ms since 1970. */
  begun: number;
}

/** What is known behind a number. */
export interface ParameterNews {
  last: number;
  /** The last line of each parameter. */
  values: SeriesLine[];
  /** Of watched parameters each value, in the order of their numbers. */
  samples: SeriesLine[];
  series: SeriesState[];
  watched: Watched[];
}

/** What is kept of a parameter: how its last request ended, and the messages of that request. */
interface Known {
  value: SeriesLine;
  frames: PackedFrames;
}

interface Series {
  state: SeriesState;
  lines: SeriesLine[];
  abort: AbortController;
}

export interface ParameterDeskOptions {
  cell: () => Cell;
  /** Opens the way to the parameters of a device. Rejects with a Problem where there is none. */
  access: (device: Device) => Promise<ParameterAccess>;
  mayWrite: () => boolean;
  /** Where writes are kept until they have ended. */
  journal?: WriteJournal | undefined;
  /** A series has ended. */
  onEnd?: (state: SeriesState) => void;
}

/** Devices that are asked at the same time: each has one request under way. */
const devicesAtOnce = 32;
/** Series that are kept to be looked at. */
const keptSeries = 20;
const mostWatched = 64;
/** Values of watched parameters that are kept for whoever asks late. */
const keptSamples = 4000;
/** A watched parameter is read no more often than this, ms. */
const leastEveryMs = 100;

/** The parameters of the devices of a bench: what was read of them, and the series of reads and writes under way. */
export class ParameterDesk {
  /** By device, then by parameter. */
  private readonly known = new Map<string, Map<string, Known>>();
  private readonly series: Series[] = [];
  private readonly accesses = new Map<string, { device: Device; access: Promise<ParameterAccess> }>();
  /** What was heard of watched parameters, each time. */
  private readonly samples: SeriesLine[] = [];
  private readonly share = pLimit(devicesAtOnce);
  private watched: { entry: Watched; timer: NodeJS.Timeout }[] = [];
  private last = 0;
  private nextSeries = 1;

  constructor(private readonly options: ParameterDeskOptions) {}

  /** What was read last of those parameters of a device that have a role, by id, as hex pairs. */
  rolesOf(device: Device): ReadonlyMap<string, string> {
    const read = new Map<string, string>();
    for (const { id, role } of device.description.parameters) {
      const bytes = role && this.known.get(device.id)?.get(id)?.value.bytes;
      if (bytes) read.set(id, bytes);
    }
    return read;
  }

  /** Reads parameters; of a device without a list all that can be read. Throws `edit.unknown`. */
  read(requests: readonly { device: string; parameters?: readonly string[] | undefined }[]): SeriesState {
    const reads = requests.map(({ device: id, parameters: ids }) => {
      const device = this.device(id);
      const { parameters } = device.description;
      return {
        device,
        parameters: ids
          ? ids.map((p) => parameters.find((q) => q.id === p) ?? unknown('parameter', p))
          : parameters.filter((p) => p.access !== 'write' && p.place),
      };
    });
    const total = reads.reduce((sum, { parameters }) => sum + parameters.length, 0);
    return this.run('read', total, (series) =>
      reads.map(
        (request) => () =>
          this.with(request.device, (access) => readSeries(request, access, this.seriesOptions(series))),
      ),
    );
  }

  /** Writes values in the order of the steps. Throws `edit.unknown`. */
  write(requests: readonly { device: string; steps: readonly WriteStep[] }[]): SeriesState {
    const writes = requests.map(({ device, steps }) => ({ device: this.device(device), steps }));
    for (const { device, steps } of writes)
      for (const { parameter } of steps)
        if (!device.description.parameters.some((p) => p.id === parameter)) unknown('parameter', parameter);
    const total = writes.reduce((sum, { steps }) => sum + steps.length, 0);
    const kept = randomUUID();
    const { journal } = this.options;
    journal?.begin(
      kept,
      this.options.cell().id,
      writes.flatMap(({ device, steps }) => steps.map((step) => ({ device: device.id, ...step }))),
    );
    let begins = 0;
    const state = this.run('write', total, (series) =>
      writes.map((request) => {
        // Its steps end in their order, each once.
        let n = begins;
        begins += request.steps.length;
        const { onLine, ...options } = this.seriesOptions(series);
        const own = {
          ...options,
          onTry: () => journal?.tries(kept, n),
          onLine: (line: SeriesLine, heard: HeardRequest) => {
            journal?.ended(kept, n, line.outcome);
            n += 1;
            onLine(line, heard);
          },
        };
        return () => this.with(request.device, (access) => writeSeries(request, access, own));
      }),
    );
    void this.ended(state.id).then(() => journal?.over(kept));
    return state;
  }

  /** Ends a series behind the request that is under way. */
  cancel(id: number): void {
    const series = this.series.find(({ state }) => state.id === id);
    if (!series || series.state.ended) return;
    series.state.cancelled = true;
    series.abort.abort();
  }

  /** The parameters that are read again and again, in place of those before. Throws `edit.unknown`. */
  watch(list: readonly Watched[]): void {
    const entries = list.slice(0, mostWatched).map((entry) => {
      const device = this.device(entry.device);
      const parameter =
        device.description.parameters.find((p) => p.id === entry.parameter) ??
        unknown('parameter', entry.parameter);
      return { entry, device, parameter };
    });
    this.unwatch();
    this.watched = entries.map(({ entry, device, parameter }) => {
      let under = false;
      const look = async () => {
        // A device that does not keep up is not asked more often.
        if (under) return;
        under = true;
        await this.with(device, (access) =>
          readSeries({ device, parameters: [parameter] }, access, {
            signal: never,
            pauses: [],
            onLine: (line, heard) => {
              this.note(line, heard);
              this.samples.push(line);
              if (this.samples.length > keptSamples) this.samples.splice(0, keptSamples / 10);
            },
          }),
        ).catch(() => undefined);
        under = false;
      };
      const timer = setInterval(() => void look(), Math.max(entry.everyMs, leastEveryMs));
      void look();
      return { entry, timer };
    });
  }

  /** The messages of the last request for a parameter, as they stood on the wire. */
  framesOf(device: string, parameter: string): readonly HeardFrame[] {
    const frames = this.known.get(device)?.get(parameter)?.frames;
    return frames ? unpackFrames(frames) : [];
  }

  /** What became known behind a number. */
  since(number: number): ParameterNews {
    const first = this.samples.findIndex((s) => s.number > number);
    return {
      last: this.last,
      samples: first < 0 ? [] : this.samples.slice(first),
      values: [...this.known.values()].flatMap((of) =>
        [...of.values()].flatMap(({ value }) => (value.number > number ? value : [])),
      ),
      series: this.series.map(({ state }) => state),
      watched: this.watched.map(({ entry }) => entry),
    };
  }

  /** The lines of a series, in the order in which they ended; undefined for one that is not kept. */
  linesOf(id: number): SeriesLine[] | undefined {
    return this.series.find(({ state }) => state.id === id)?.lines;
  }

  /** Whether nothing is under way. */
  async ended(id: number): Promise<void> {
    await this.running.get(id);
  }
  private readonly running = new Map<number, Promise<unknown>>();

  async close(): Promise<void> {
    this.unwatch();
    for (const { state, abort } of this.series) if (!state.ended) abort.abort();
    await Promise.all([...this.accesses.keys()].map((id) => this.forget(id)));
  }

  /** A device has gone, or stands elsewhere now. */
  async forget(deviceId: string): Promise<void> {
    const held = this.accesses.get(deviceId);
    this.accesses.delete(deviceId);
    await held?.access.then((access) => access.close()).catch(() => undefined);
  }

  private run(
    does: SeriesState['does'],
    total: number,
    parts: (series: Series) => (() => Promise<void>)[],
  ): SeriesState {
    const counts = { read: 0, written: 0, changed: 0, refused: 0, unknown: 0, 'not tried': 0 };
    const state: SeriesState = {
      ...{ id: this.nextSeries++, does, total, counts, ended: false, cancelled: false },
      begun: Date.now(),
    };
    const series: Series = { state, lines: [], abort: new AbortController() };
    this.series.push(series);
    if (this.series.length > keptSeries) this.series.splice(0, 1);
    const work = Promise.all(parts(series).map((part) => this.share(part))).then(() => {
      state.ended = true;
      this.running.delete(state.id);
      this.options.onEnd?.(state);
    });
    this.running.set(state.id, work);
    return state;
  }

  private seriesOptions({ state, lines, abort }: Series) {
    return {
      signal: abort.signal,
      mayWrite: this.options.mayWrite,
      onLine: (line: SeriesLine, heard: HeardRequest) => {
        state.counts[line.outcome] += 1;
        lines.push(line);
        if (line.outcome !== 'not tried') this.note(line, heard);
      },
    };
  }

  private note(line: SeriesLine, heard: HeardRequest): void {
    const { device, parameter } = line;
    this.last += 1;
    line.number = this.last;
    let all = this.known.get(device);
    if (!all) this.known.set(device, (all = new Map<string, Known>()));
    const kept = all.get(parameter);
    if (!kept) all.set(parameter, { value: line, frames: heard.kept() });
    else {
      kept.value = line;
      // One that was refused unasked leaves those of its last request.
      if (!heard.silent) kept.frames = heard.kept(kept.frames);
    }
  }

  /** Uses the way to the parameters of a device; it stays open for the next who asks. */
  private async with(device: Device, work: (access: ParameterAccess) => Promise<void>): Promise<void> {
    let held = this.accesses.get(device.id);
    if (held && !sameWay(held.device, device)) {
      await this.forget(device.id);
      held = undefined;
    }
    if (!held) {
      held = { device, access: this.options.access(device) };
      this.accesses.set(device.id, held);
      // One that failed is tried anew by the next.
      held.access.catch(() => this.accesses.delete(device.id));
    }
    const { access } = held;
    let open: ParameterAccess | undefined;
    const opened = async () => (open ??= await access);
    await work({
      read: (place, size) => open?.read(place, size) ?? opened().then((a) => a.read(place, size)),
      write: (place, value) => open?.write(place, value) ?? opened().then((a) => a.write(place, value)),
      heard: () => open?.heard?.() ?? nothingHeard,
      close: () => Promise.resolve(),
    });
  }

  private device(id: string): Device {
    return this.options.cell().devices.find((d) => d.id === id) ?? unknown('device', id);
  }

  private unwatch(): void {
    for (const { timer } of this.watched) clearInterval(timer);
    this.watched = [];
  }
}

const never = new AbortController().signal;

/** Whether a device is still reached in the same way, whatever was edited of it. */
const sameWay = (a: Device, b: Device): boolean =>
  a.address === b.address && a.links[0] === b.links[0] && a.description.portRules === b.description.portRules;

function unknown(what: string, id: string): never {
  throw new Problem('edit.unknown', { what, id });
}
