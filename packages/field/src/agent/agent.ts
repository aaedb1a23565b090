import { applyEdit, Problem, type Cell, type Fault, type SeenLight, type SideValue } from '@fadenkreuz/core';
import { Bench } from '../bench/bench.js';
import { Recording, SwitchedTap } from '../capture/recording.js';
import type { ImageNews } from '../bench/imageLog.js';
import type { TraceLine } from '../bench/report.js';
import { onlyLoopback, type Reach } from '../wire/reach.js';
import { attended } from '../timing/attendedTime.js';
import {
  heardLimitMs,
  type AfterArmChoice,
  type BenchStatus,
  type Command,
  type EditBench,
  type ExchangeStory,
  type MoveByHand,
  type RunExchange,
  type SetAddress,
  type Write,
  type WriteBytes,
  type WriteParameters,
} from './api.js';
import type { WriteJournal } from '../parameters/writeJournal.js';
import type { ParameterDesk, SeriesState } from '../parameters/parameterDesk.js';
import { Wire } from './wire.js';

/** The state of the agent: at most one bench, and how long writing is allowed. Holds nothing of the design. */
export class Agent {
  private bench: Bench | undefined;
  private version = 0;
  private run = true;
  /** Whoever armed is heard from time to time (attended time of the last word); silence takes the permission. */
  private arming: { until: number; holder: string; heardAt: number; timers: NodeJS.Timeout[] } | undefined;
  /** Fields that go back to 0 when writing is no longer allowed. */
  private readonly held = new Map<string, { device: string; field: string }>();
  private readonly tap = new SwitchedTap();
  /** The last one; it is kept until another begins. */
  private recording: Recording | undefined;
  /** Starting and stopping happen one after the other, in the order of the requests. */
  private turn: Promise<unknown> = Promise.resolve();

  readonly wire: Wire;

  constructor(
    private readonly reach: Reach = onlyLoopback,
    private readonly journal?: WriteJournal,
  ) {
    this.wire = new Wire(reach);
  }

  private inTurn<T>(work: () => Promise<T>): Promise<T> {
    const result = this.turn.then(work);
    this.turn = result.catch(() => undefined);
    return result;
  }

  start(cell: Cell, version: number): Promise<void> {
    return this.inTurn(async () => {
      if (this.bench) throw new Problem('bench.alreadyRuns', { cell: this.bench.designed.name });
      const bench = new Bench(cell, {
        reach: this.reach,
        tap: this.tap,
        onTrace: (line) => this.guard(line),
        journal: this.journal,
      });
      await bench.start();
      this.bench = bench;
      this.version = version;
      this.run = true;
    });
  }

  /** Takes over a newer version of the cell that runs; another cell or an older version is left alone. */
  update(cell: Cell, version: number): Promise<void> {
    return this.inTurn(async () => {
      if (this.bench?.designed.id !== cell.id || version <= this.version) return;
      this.version = version;
      await this.bench.update(cell);
    });
  }

  /**
   * Takes over one edit of the cell that runs. Throws `bench.otherVersion` when it has another version than the one
   * before: then it must be given the whole cell. Another cell is left alone.
   */
  edit({ cell, version, edit }: EditBench): Promise<void> {
    return this.inTurn(async () => {
      if (this.bench?.designed.id !== cell || version <= this.version) return;
      if (version !== this.version + 1)
        throw new Problem('bench.otherVersion', { asked: version - 1, has: this.version });
      const next = applyEdit(this.bench.designed, edit);
      this.version = version;
      await this.bench.update(next);
    });
  }

  stop(): Promise<void> {
    return this.inTurn(async () => {
      this.disarm('the bench was stopped');
      const bench = this.bench;
      this.bench = undefined;
      await bench?.stop();
      this.stopRecording();
    });
  }

  /** Records the traffic of the bench from now on, in place of an earlier recording. Throws `bench.notRunning`. */
  startRecording(): void {
    const bench = this.running();
    this.stopRecording();
    this.recording = this.tap.to = new Recording();
    for (const { device, faults } of bench.report())
      for (const { title } of faults)
        this.tap.remark(
          `${bench.designed.devices.find((d) => d.id === device)!.name}: injected before: ${title}`,
        );
  }

  stopRecording(): void {
    if (this.recording) this.recording.running = false;
    this.tap.to = undefined;
  }

  /** The recorded traffic as a pcapng file. Throws `capture.nothing`. */
  recorded(): Iterable<Buffer> {
    if (!this.recording) throw new Problem('capture.nothing', {});
    return this.recording.file();
  }

  /**
   * Allows a holder to write for a time: a browser window, or a program. When it goes or falls silent, so does the
   * permission. Links to real devices are opened so that they write. Throws `bench.armedByOther`.
   */
  arm(seconds: number, holder: string): Promise<void> {
    return this.inTurn(async () => {
      const bench = this.running();
      if (this.arming && this.arming.holder !== holder) throw new Problem('bench.armedByOther', {});
      this.endArming();
      const timers = [
        setTimeout(() => this.disarm('its time is over'), seconds * 1000),
        setInterval(() => this.listenForHolder(), heardLimitMs / 4),
      ];
      this.arming = { until: performance.now() + seconds * 1000, holder, heardAt: attended(), timers };
      bench.trace.add(null, { what: 'armed', seconds });
      await bench.allow();
    });
  }

  /** The holder of the permission is still there. Throws `bench.notArmed` for anybody else. */
  heard(holder: string): void {
    this.requireArmed(holder);
  }

  /** All commands go to zero; that needs no permission. Throws `bench.notRunning`. */
  rest(): void {
    this.running().rest();
    this.held.clear();
  }

  /** What the device of a link gets when writing is not allowed any more. */
  setAfterArm({ link, does }: AfterArmChoice): void {
    this.running().setAfterArm(link, does);
  }

  disarm(why: string): void {
    if (!this.arming) return;
    this.endArming();
    for (const { device, field } of this.held.values()) this.letGo(device, field);
    this.held.clear();
    // A link that cannot be closed is lost; whoever watches sees that.
    void this.bench?.forbid().catch(() => undefined);
    this.bench?.trace.add(null, { what: 'disarmed', why });
  }

  /** A browser has gone. */
  gone(holder: string): void {
    this.bench?.manual.letGoAll('the browser has gone', holder);
    if (this.arming?.holder === holder) this.disarm('the browser that armed has gone');
  }

  setRun(run: boolean, holder: string): void {
    this.requireArmed(holder);
    this.running().setRun(run);
    this.run = run;
  }

  write({ device, field, value, hold, holder }: Write): void {
    this.running();
    this.requireArmed(holder);
    this.running().write(device, field, value);
    if (hold) this.held.set(field, { device, field });
    else this.held.delete(field);
  }

  /** Gives a command that is held as long as the wire needs. */
  command({ device, order, holder }: Command): void {
    this.running();
    this.requireArmed(holder);
    this.running().order(device, order);
  }

  /** Runs an exchange; it ends when writing is not allowed any more. */
  runExchange({ exchange, holder, ...options }: RunExchange): void {
    this.running();
    this.requireArmed(holder);
    this.running().exchanges.run(exchange, options);
  }
  /** Lets an exchange that runs by step go on. */
  releaseExchange(exchange: string, holder: string): void {
    this.requireArmed(holder);
    this.running().exchanges.release(exchange);
  }
  /** Stopping needs no permission. */
  stopExchange(exchange: string): void {
    this.running().exchanges.stop(exchange);
  }
  exchangeStory(exchange: string): ExchangeStory | null {
    return this.running().exchanges.story(exchange) ?? null;
  }

  /** Moves a device by hand, as long as its holder says so. */
  moveByHand({ device, holder, move }: MoveByHand): void {
    this.running();
    this.requireArmed(holder);
    this.running().manual.begin(device, holder, move);
  }
  holdMove(device: string, holder: string): void {
    this.requireArmed(holder);
    this.running().manual.hold(device, holder);
  }
  /** Letting go needs no permission. */
  letGoMove(device: string): void {
    this.running().manual.letGo(device, 'it was let go');
  }

  /** Puts raw bytes into a command image. */
  writeBytes({ device, link, at, bytes, holder }: WriteBytes): void {
    this.running();
    this.requireArmed(holder);
    this.running().writeBytes(device, link, at, bytes);
  }

  /** What is asked of the devices beside their images. Throws `bench.notRunning`. */
  get parameters(): ParameterDesk {
    return this.running().parameters;
  }

  /** What a device says of itself; its entries are null where it does not say it. Throws `bench.notRunning`. */
  async identityOf(device: string) {
    return (await this.running().ways.identityOf(device)) ?? null;
  }

  /** The parameters that a device itself tells of. Throws `bench.notRunning`, `parameter.noList`. */
  async parametersListedBy(device: string) {
    return this.running().ways.parametersListedBy(device);
  }

  /** Writes parameters of devices; it needs the permission from its begin to its end. */
  writeParameters({ devices, holder }: WriteParameters): SeriesState {
    this.requireArmed(holder);
    return this.running().parameters.write(devices);
  }

  /** Somebody has taken note of a series of writes that was cut off. */
  forgetCut(series: string): void {
    this.journal?.forget(series);
  }

  /** Changes a device's address settings; as a write to a device it needs the permission. */
  async setAddress({ holder, ...order }: SetAddress): Promise<string[]> {
    this.requireArmed(holder);
    const done = await this.wire.setAddress(order);
    this.bench?.trace.add(null, { what: 'addressed', at: order.at, address: order.address });
    return done;
  }

  async stopAsking(at: string, holder: string): Promise<void> {
    this.requireArmed(holder);
    await this.wire.stopAsking(at);
  }

  inject(device: string, fault: Fault): void {
    this.running().inject(device, fault);
  }

  setSeen(device: string, lights: SeenLight[]): void {
    this.running().setSeen(device, lights);
  }
  setSide(device: string, field: string, value: SideValue | null): void {
    this.running().setSide(device, field, value);
  }

  setMet(device: string, quantity: string, value: number | null): void {
    this.running().setMet(device, quantity, value);
  }

  clear(device: string, key: string): void {
    this.running().clear(device, key);
  }

  /** Which cell runs, if any. */
  get runs(): BenchStatus['bench'] {
    const { bench, version, run } = this;
    return bench ? { cell: bench.designed.id, version, run } : null;
  }

  /** The state, without the trace. */
  status(): BenchStatus {
    const { bench, arming } = this;
    return {
      bench: this.runs,
      armedForMs: arming ? Math.max(0, arming.until - performance.now()) : 0,
      armedBy: arming?.holder ?? '',
      links: bench?.report() ?? [],
      lastTrace: bench?.trace.last ?? 0,
      machine: bench?.machine.values ?? {},
      exchanges: bench?.exchanges.statuses ?? [],
      manual: bench?.manual.statuses ?? [],
      recording: this.recording?.state ?? null,
      cutWrites: [...(this.journal?.cut ?? [])],
    };
  }

  /** What images of these links became behind a number, packet by packet. Throws `bench.notRunning`. */
  followImages(links: readonly string[], since: number): ImageNews {
    return this.running().followImages(links, since);
  }

  /** Lines of the trace behind a number. */
  traceSince(number: number): TraceLine[] {
    return this.bench?.trace.since(number) ?? [];
  }

  /** Whatever goes wrong ends the permission to write: a person must look first. */
  private guard({ event }: TraceLine): void {
    if (event.what === 'state' && event.to !== 'open' && event.to !== 'closed')
      this.disarm('a link was lost');
    if (event.what === 'injected') this.disarm('a fault was injected');
    if (event.what === 'light' && event.light === 'module' && event.shows.includes('red'))
      this.disarm('a device reports a fault');
  }

  private letGo(device: string, field: string): void {
    try {
      this.bench?.write(device, field, '0');
    } catch (error) {
      // A link that was lost has forgotten the value already.
      if (!(error instanceof Problem)) throw error;
    }
  }

  /** Only the holder of the permission may; what it asks for shows that it is still there. */
  private requireArmed(holder: string): void {
    const { arming } = this;
    if (!arming || performance.now() >= arming.until) throw new Problem('bench.notArmed', {});
    if (arming.holder !== holder) throw new Problem('bench.armedByOther', {});
    arming.heardAt = attended();
  }

  private listenForHolder(): void {
    if (this.arming && attended() - this.arming.heardAt > heardLimitMs)
      this.disarm('whoever armed is not heard any more');
  }

  private endArming(): void {
    for (const timer of this.arming?.timers ?? []) clearTimeout(timer);
    this.arming = undefined;
  }

  private running(): Bench {
    if (!this.bench) throw new Problem('bench.notRunning', {});
    return this.bench;
  }
}
