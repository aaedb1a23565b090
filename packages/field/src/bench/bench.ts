import {
  protocolOf,
  check,
  faultKey,
  faultTitle,
  finding,
  Problem,
  signalsOf,
  type Cell,
  type CommandOrder,
  type Device,
  type Fault,
  type Finding,
  type Link,
  type SeenLight,
  type SideValue,
} from '@fadenkreuz/core';
import { noTap, type Tap } from '../capture/tap.js';
import type { Originator } from '../protocols/driver.js';
import { drivers } from '../protocols/list.js';
import { ExchangeDesk } from '../controller/exchangeDesk.js';
import { ManualDesk } from '../controller/manualDesk.js';
import { Overwrites } from '../controller/overwrites.js';
import type { WriteJournal } from '../parameters/writeJournal.js';
import { ParameterDesk, type SeriesState } from '../parameters/parameterDesk.js';
import { openingGate, type LinkContext, type RunningLink } from '../protocols/runningLink.js';
import { Schedule } from '../timing/schedule.js';
import { MachineAround } from '../standIns/machineAround.js';
import { StandIn } from '../standIns/standIn.js';
import { benchAddress, onlyLoopback, type Reach } from '../wire/reach.js';
import { connectionOf, standInOf } from './designChanges.js';
import { ImageLog, type ImageNews } from './imageLog.js';
import { Observer } from './observer.js';
import type { AfterArm, LinkReport, TraceLine } from './report.js';
import { Trace } from './trace.js';
import { WaysToDevices } from './waysToDevices.js';

export interface BenchOptions {
  tap?: Tap;
  /** Subnets of real devices that may be sent to. */
  reach?: Reach;
  /** Called with each line of the trace. */
  onTrace?: (line: TraceLine) => void;
  /** Where writes of parameters are kept until they have ended. */
  journal?: WriteJournal | undefined;
  /** For tests: how the stand-in of a device is made. */
  standIn?: (device: Device, schedule: Schedule, machine: MachineAround) => StandIn;
}

/** How often links look whether they still stand, ms. */
const watchMs = 20;

/** The running set: stand-ins of a cell, or real devices, and the controller that holds the links to them. */
export class Bench {
  readonly trace: Trace;
  readonly schedule = new Schedule();
  private readonly images = new ImageLog();
  private readonly context: LinkContext;
  private readonly originators: ReadonlyMap<string, Originator>;
  private readonly links = new Map<string, RunningLink>();
  private readonly standIns = new Map<string, StandIn>();
  private readonly troubles = new Map<string, Finding>();
  private readonly observer: Observer;
  /** What is asked of the devices beside their images. */
  readonly parameters: ParameterDesk;
  /** What the controller's task runs: exchanges, and commands of people. */
  readonly exchanges: ExchangeDesk;
  /** What people move by hand. */
  readonly manual: ManualDesk;
  private readonly overwrites: Overwrites;
  /** What stands around the devices. */
  readonly machine: MachineAround;
  /** Where each device is reached. */
  readonly ways: WaysToDevices;
  private readonly seen = new Map<string, readonly SeenLight[]>();
  private run = true;
  /** Whether links to real devices may be opened so that they write. */
  private allowed = false;
  private readonly afterArmOf = new Map<string, AfterArm>();
  /** Links that were let go of, until they are opened again. */
  private readonly silent = new Set<NodeJS.Timeout>();
  private changing: Promise<void> = Promise.resolve();

  constructor(
    private cell: Cell,
    private readonly options: BenchOptions = {},
  ) {
    const { tap = noTap, reach = onlyLoopback } = options;
    this.machine = new MachineAround(cell, this.schedule);
    this.trace = new Trace((line) => {
      options.onTrace?.(line);
      const { device, event } = line;
      if (event.what !== 'injected' && event.what !== 'cleared') return;
      const name = this.cell.devices.find((d) => d.id === device)?.name ?? '';
      tap.remark(
        `${name}: ${event.what === 'injected' ? 'fault injected' : 'fault taken away'}: ${event.fault}`,
      );
    });
    const { links, standIns, troubles } = this;
    this.observer = new Observer(
      {
        ...{ designed: () => this.cell, links, standIns, troubles },
        ...{ afterArm: (link) => this.afterArm(link), seen: (device) => this.seen.get(device) ?? [] },
        ...{ runs: () => this.run, read: (device: Device) => this.parameters.rolesOf(device) },
      },
      this.trace,
      this.schedule,
    );
    this.context = {
      localAddress: benchAddress(cell.controller.address),
      schedule: this.schedule,
      tap,
      reach,
      run: () => this.run,
      opening: openingGate(),
    };
    this.parameters = new ParameterDesk({
      cell: () => this.cell,
      access: (device) => this.ways.parametersOf(device),
      mayWrite: () => this.allowed,
      journal: options.journal,
      onEnd: (series) => this.trace.add(null, { what: 'parameters', ...seriesFacts(series) }),
    });
    this.exchanges = new ExchangeDesk({
      cell: () => this.cell,
      linkOf: (id) => this.links.get(id),
      schedule: this.schedule,
      onEnd: ({ name }, { state, failure, run }) =>
        this.trace.add(null, { what: 'exchange', name, state, run, reason: failure?.reason ?? '' }),
    });
    this.manual = new ManualDesk({
      cell: () => this.cell,
      linkOf: (id) => this.links.get(id),
      schedule: this.schedule,
      onRest: ({ id }, { kind, reason, wireMs }) =>
        this.trace.add(id, { what: 'moved', kind, reason, wireMs: wireMs ?? 0 }),
    });
    this.overwrites = new Overwrites((device, field) =>
      this.trace.add(device, { what: 'overwritten', field }),
    );
    this.originators = new Map(drivers.map((d) => [d.protocol, d.originator(this.context)]));
    const { localAddress } = this.context;
    this.ways = new WaysToDevices({
      ...{ designed: () => this.cell, originators: this.originators },
      ...{ standIns, troubles, localAddress, reach },
    });
  }

  /**
   * Starts everything that can stand; a stand-in that cannot bind is reported, the others run. Throws when the
   * controller cannot bind.
   */
  async start(): Promise<void> {
    try {
      for (const originator of this.originators.values()) await originator.open(this.context.localAddress);
    } catch (error) {
      this.schedule.stop();
      throw error;
    }
    for (const device of this.cell.devices) await this.place(device);
    const watch = (now: number) => {
      for (const link of this.links.values()) link.watch(now);
    };
    this.schedule.every(watchMs, watch, { patient: true });
    this.observer.start();
  }

  get designed(): Cell {
    return this.cell;
  }

  standInOf(deviceId: string): StandIn | undefined {
    return this.standIns.get(deviceId);
  }
  linkOf(linkId: string): RunningLink | undefined {
    return this.links.get(linkId);
  }

  /** What the images of these links became behind a number, packet by packet; they are followed from now on. */
  followImages(links: readonly string[], since: number): ImageNews {
    const news = this.images.follow(links, since, performance.now());
    for (const [id, link] of this.links) link.followedBy(this.images.watcherOf(id));
    return news;
  }

  /** Whether the controller's program runs, as the devices are told. */
  setRun(run: boolean): void {
    this.run = run;
    this.trace.add(null, { what: 'run', run });
  }

  /** What the device of a link gets when writing is not allowed any more. */
  afterArm(linkId: string): AfterArm {
    const real = this.links.get(linkId)?.ends.real ?? false;
    return this.afterArmOf.get(linkId) ?? (real ? 'idle' : 'hold');
  }
  /** Throws `edit.unknown`. */
  setAfterArm(linkId: string, does: AfterArm): void {
    if (!this.cell.devices.some((d) => d.links.some((l) => l.id === linkId)))
      throw new Problem('edit.unknown', { what: 'link', id: linkId });
    this.afterArmOf.set(linkId, does);
  }

  /** Writing is allowed: links to real devices are opened as they are planned, and rest no more. */
  allow(): Promise<void> {
    this.allowed = true;
    for (const link of this.links.values()) link.setIdle(false);
    return this.inTurn(async () => {
      for (const device of this.cell.devices)
        for (const link of device.links) {
          const ends = this.links.get(link.id)?.ends;
          if (this.ways.isSimulated(device) || (ends && !ends.reads)) continue;
          if (this.troubles.get(device.id)?.code === 'link.needsArm') this.troubles.delete(device.id);
          await this.reopen(device, link);
        }
    });
  }

  /** Writing is not allowed any more: each device gets what was chosen for it. */
  forbid(): Promise<void> {
    this.allowed = false;
    this.exchanges.stopAll();
    this.manual.letGoAll('writing is not allowed any more');
    return this.inTurn(async () => {
      for (const device of this.cell.devices)
        for (const link of device.links) {
          const running = this.links.get(link.id);
          const does = this.afterArm(link.id);
          if (!running || running.ends.reads || does === 'hold') continue;
          if (does === 'idle') running.setIdle(true);
          else await this.letGo(device, link);
        }
    });
  }

  /** All commands go to zero, whether writing is allowed or not. */
  rest(): void {
    this.exchanges.stopAll();
    this.manual.letGoAll('all was taken to rest');
    for (const link of this.links.values()) link.rest();
    this.trace.add(null, { what: 'rested' });
  }

  /** Strikes a fault at a stand-in. Throws `fault.noStandIn`, `fault.notHere`. */
  inject(deviceId: string, fault: Fault): void {
    const { device, standIn } = this.struckAt(deviceId);
    standIn.inject(fault);
    this.trace.add(deviceId, { what: 'injected', fault: faultTitle(device, fault) });
  }

  /** Takes a fault away again, by its key. */
  clear(deviceId: string, key: string): void {
    const { device, standIn } = this.struckAt(deviceId);
    const fault = standIn.injected.find((f) => faultKey(f) === key);
    if (!fault) return;
    standIn.clear(key);
    this.trace.add(deviceId, { what: 'cleared', fault: faultTitle(device, fault) });
  }

  /** Takes over a changed design: layouts at once, changed links by opening them anew. */
  update(cell: Cell): Promise<void> {
    return this.inTurn(async () => {
      const last = this.cell;
      this.cell = cell;
      this.machine.follow(cell);
      for (const old of last.devices) {
        const device = cell.devices.find((d) => d.id === old.id);
        if (device === old) continue;
        if (!device || standInOf(device) !== standInOf(old)) await this.remove(old);
      }
      for (const device of cell.devices) {
        const old = last.devices.find((d) => d.id === device.id);
        const placed = this.ways.isSimulated(device)
          ? this.standIns.has(device.id)
          : device.links.some((l) => this.links.has(l.id));
        if (!old || !placed) {
          await this.place(device);
          continue;
        }
        if (device === old) continue;
        this.standIns.get(device.id)?.layOut(device);
        for (const link of device.links) {
          const oldLink = old.links.find((l) => l.id === link.id);
          const running = this.links.get(link.id);
          if (oldLink && running && connectionOf(device, link) === connectionOf(old, oldLink)) {
            running.relayout(link);
          } else {
            await this.reopen(device, link);
          }
        }
      }
    });
  }

  /** One change after the other; one that failed does not keep the next from being tried. */
  private inTurn(work: () => Promise<void>): Promise<void> {
    this.changing = this.changing.catch(() => undefined).then(work);
    return this.changing;
  }

  /** Puts a typed value into the command image that holds the field. */
  write(deviceId: string, fieldId: string, typed: string): void {
    const device = this.cell.devices.find((d) => d.id === deviceId);
    if (!device) throw new Problem('edit.unknown', { what: 'device', id: deviceId });
    const link = device.links.find((l) => signalsOf(l.command).some((s) => s.id === fieldId));
    if (!link) throw new Problem('edit.unknown', { what: 'command field', id: fieldId });
    const running = this.links.get(link.id);
    if (!running) throw new Problem('bench.noOpenLink', { device: device.name });
    running.write(fieldId, typed);
    const field = signalsOf(link.command).find((s) => s.id === fieldId)!.name;
    this.overwrites.note(deviceId, { field: fieldId, name: field, value: typed, sent: running.counts.sent });
    this.trace.add(deviceId, { what: 'written', field, value: typed });
  }

  /**
   * Gives a command as a person wants it: for a moment, turned over, one more, or behind a 0. Throws as `write`.
   */
  order(deviceId: string, order: CommandOrder): void {
    const device = this.cell.devices.find((d) => d.id === deviceId);
    if (!device) throw new Problem('edit.unknown', { what: 'device', id: deviceId });
    this.exchanges.order(device, order);
    const signal = device.links.flatMap((l) => signalsOf(l.command)).find((s) => s.id === order.field);
    const field = `${signal?.name}${order.bit === null ? '' : `.${order.bit}`}`;
    this.trace.add(deviceId, { what: 'written', field, value: `${String(order.value)} (${order.how})` });
  }

  /** Puts raw bytes into the command image of a device. Throws as `write`. */
  writeBytes(deviceId: string, linkId: string, at: number, bytes: readonly number[]): void {
    const device = this.cell.devices.find((d) => d.id === deviceId);
    if (!device) throw new Problem('edit.unknown', { what: 'device', id: deviceId });
    const running = this.links.get(linkId);
    if (running?.device.id !== deviceId) throw new Problem('bench.noOpenLink', { device: device.name });
    running.writeBytes(at, bytes);
    const value = bytes.map((byte) => byte.toString(16).toUpperCase().padStart(2, '0')).join(' ');
    this.trace.add(deviceId, { what: 'written', field: `byte ${at}`, value: `16#${value}` });
  }

  /**
   * Has a simulated device show a value on its own side, whatever its kind would show; null lets it go. Throws
   * `edit.unknown`, `fault.noStandIn`, `value.…` for what the signal cannot show.
   */
  setSide(deviceId: string, fieldId: string, value: SideValue | null): void {
    const { standIn } = this.struckAt(deviceId);
    if (value) standIn.side.take(fieldId, value, performance.now());
    else standIn.side.letGo(fieldId);
  }

  /**
   * Does something to a simulated device, as the machine around it would; null: what the machine does. Throws
   * `edit.unknown`, `fault.noStandIn`.
   */
  setMet(deviceId: string, quantity: string, value: number | null): void {
    this.struckAt(deviceId).standIn.meet(quantity, value);
  }

  /** Takes over what somebody sees of the lights of a real device. Throws `edit.unknown`. */
  setSeen(deviceId: string, lights: readonly SeenLight[]): void {
    const device = this.cell.devices.find((d) => d.id === deviceId);
    if (!device) throw new Problem('edit.unknown', { what: 'device', id: deviceId });
    this.seen.set(deviceId, lights);
  }

  report(now = performance.now()): LinkReport[] {
    return this.cell.devices.flatMap((device) =>
      device.links.map((link) => this.observer.reportOf(device, link, now)),
    );
  }

  /** What the design's checks and the running links say. */
  findings(): Finding[] {
    return [
      ...this.report().flatMap((l) => (l.reason && l.state !== 'no-stand-in' ? [l.reason] : [])),
      ...check(this.cell),
    ];
  }

  async stop(): Promise<void> {
    for (const timer of this.silent) clearTimeout(timer);
    await this.changing.catch(() => undefined);
    await this.parameters.close();
    this.exchanges.close();
    this.manual.close();
    await Promise.all([...this.links.keys()].map((id) => this.removeLink(id)));
    await Promise.all([...this.originators.values()].map((o) => o.close()));
    await Promise.all([...this.standIns.values()].map((s) => s.close()));
    this.standIns.clear();
    this.schedule.stop();
  }

  private async place(device: Device): Promise<void> {
    this.troubles.delete(device.id);
    if (this.ways.isSimulated(device) && this.ways.isSpoken(device)) {
      const { schedule, machine } = this;
      try {
        const standIn =
          this.options.standIn?.(device, schedule, machine) ?? new StandIn(device, { schedule, machine });
        await standIn.open();
        this.standIns.set(device.id, standIn);
      } catch (error) {
        if (!(error instanceof Problem)) throw error;
        this.troubles.set(device.id, { ...error.report(), severity: 'error', place: { device: device.id } });
      }
    }
    for (const link of device.links) await this.addLink(device, link);
  }

  private async addLink(device: Device, link: Link): Promise<void> {
    const way = await this.ways.wayOf(device, link);
    if (!way) return;
    const { originator, ends } = way;
    const reading = (ends.real ? protocolOf(link).reading(link, device.description) : link) as
      | Link
      | undefined;
    const asked = this.allowed ? link : reading;
    if (!asked) {
      const facts = { device: device.name, sends: protocolOf(link).sends(link) };
      this.troubles.set(device.id, finding('link.needsArm', 'notice', { device: device.id }, facts));
      return;
    }
    const writes = asked !== reading;
    const running = originator.link({
      ...{ ...ends, link: asked, reads: asked !== link },
      mayOpen: writes ? () => this.allowed : undefined,
    });
    running.onForbidden = () =>
      void this.inTurn(async () => {
        if (this.links.get(link.id) === running) await this.reopen(device, link);
      });
    let before: string = running.state;
    running.onChange = () => {
      const { state, reason } = running;
      // Trying again and again is no news.
      if (state === 'opening' || state === before) return;
      this.trace.add(device.id, { what: 'state', from: before, to: state, reason: reason?.says ?? null });
      before = state;
    };
    this.links.set(link.id, running);
    running.followedBy(this.images.watcherOf(link.id));
    running.start();
  }

  private async reopen(device: Device, link: Link): Promise<void> {
    await this.removeLink(link.id);
    await this.addLink(device, link);
  }

  /** Falls silent, so that the device does what it does on loss; once it has noticed, the link is opened again. */
  private async letGo(device: Device, link: Link): Promise<void> {
    const { lossMs } = protocolOf(link).times(link);
    await this.links.get(link.id)?.stop(true);
    const timer = setTimeout(() => {
      this.silent.delete(timer);
      void this.inTurn(() => this.reopen(device, link));
    }, 2 * lossMs);
    this.silent.add(timer);
  }

  private async removeLink(linkId: string): Promise<void> {
    const link = this.links.get(linkId);
    this.links.delete(linkId);
    this.observer.forget(linkId);
    await link?.stop();
  }

  private async remove(device: Device): Promise<void> {
    await this.parameters.forget(device.id);
    for (const link of device.links) await this.removeLink(link.id);
    await this.standIns.get(device.id)?.close();
    this.standIns.delete(device.id);
    this.troubles.delete(device.id);
  }

  private struckAt(deviceId: string): { device: Device; standIn: StandIn } {
    const device = this.cell.devices.find((d) => d.id === deviceId);
    if (!device) throw new Problem('edit.unknown', { what: 'device', id: deviceId });
    const standIn = this.standIns.get(deviceId);
    if (!standIn) throw new Problem('fault.noStandIn', { device: device.name });
    return { device, standIn };
  }
}

const seriesFacts = ({ does, total, counts }: SeriesState) => ({
  does,
  total,
  good: does === 'read' ? counts.read : counts.written,
});
