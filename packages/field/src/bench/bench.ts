import { check, Problem, signalsOf, type Cell, type Device, type Finding, type Link } from '@fadenkreuz/core';
import { finding } from '@fadenkreuz/core';
import type { Tap } from '../capture/tap.js';
import { Originator } from '../ethernetip/originator.js';
import type { LinkCounts, LinkState } from '../ethernetip/cyclicLink.js';
import { benchAddress } from '../loopback.js';
import { Schedule } from '../schedule.js';
import { StandIn } from '../standIns/standIn.js';

/** One link as it stands now. */
export interface LinkReport extends LinkCounts {
  device: string;
  link: string;
  state: LinkState | 'no-stand-in';
  reason: Finding | null;
  /** ms since the last good packet; null before the first. */
  ageMs: number | null;
  intervals: { p50: number; p99: number; p999: number } | null;
  /** Raw bytes, base64. */
  command: string;
  feedback: string;
}

export interface BenchOptions {
  tap?: Tap;
  /** For tests: how the stand-in of a device is made. */
  standIn?: (device: Device, schedule: Schedule) => StandIn;
}

/** How the bytes of an image are read is no matter of its connection. */
const layoutKeys = new Set(['fields', 'groups', 'derived', 'order', 'swapped', 'numbering', 'start']);

/** Everything of a link but its layout: when it changes, the connection must be opened anew. */
const connectionOf = (device: Device, link: Link): string =>
  JSON.stringify([device.address, device.identity, link], (key, value) =>
    layoutKeys.has(key) ? undefined : (value as unknown),
  );

/** The running set: stand-ins of a cell and the originator that holds the links to them. */
export class Bench {
  private readonly schedule = new Schedule();
  private readonly originator: Originator;
  private readonly standIns = new Map<string, StandIn>();
  private readonly troubles = new Map<string, Finding>();
  private changing: Promise<void> = Promise.resolve();

  constructor(
    private cell: Cell,
    private readonly options: BenchOptions = {},
  ) {
    this.originator = new Originator({
      address: benchAddress(cell.controller.address),
      schedule: this.schedule,
      ...(options.tap ? { tap: options.tap } : {}),
    });
  }

  /** Starts everything that can stand; a stand-in that cannot bind is reported, the others run. Throws when the controller cannot bind. */
  async start(): Promise<void> {
    try {
      await this.originator.open();
    } catch (error) {
      this.schedule.stop();
      throw error;
    }
    for (const device of this.cell.devices) await this.place(device);
  }

  get designed(): Cell {
    return this.cell;
  }

  standInOf(deviceId: string): StandIn | undefined {
    return this.standIns.get(deviceId);
  }

  /** Whether the controller's program runs, as the devices are told. */
  setRun(run: boolean): void {
    this.originator.run = run;
  }

  /** Takes over a changed design: layouts at once, changed links by opening them anew. */
  update(cell: Cell): Promise<void> {
    // One update after the other; one that failed does not keep the next from being tried.
    const before = this.changing.catch(() => undefined);
    this.changing = before.then(async () => {
      const last = this.cell;
      this.cell = cell;
      for (const old of last.devices) {
        const device = cell.devices.find((d) => d.id === old.id);
        if (!device || device.address !== old.address || device.standIn !== old.standIn)
          await this.remove(old);
      }
      for (const device of cell.devices) {
        if (device.standIn && !this.standIns.has(device.id)) {
          await this.place(device);
          continue;
        }
        const old = last.devices.find((d) => d.id === device.id);
        for (const link of device.links) {
          const oldLink = old?.links.find((l) => l.id === link.id);
          if (!old || !oldLink || !this.originator.links.has(link.id)) continue;
          if (connectionOf(device, link) === connectionOf(old, oldLink)) {
            this.originator.links.get(link.id)?.relayout(link);
          } else {
            await this.originator.remove(link.id);
            this.originator.add(device, link);
          }
        }
      }
    });
    return this.changing;
  }

  /** Puts a typed value into the command image that holds the field. */
  write(deviceId: string, fieldId: string, typed: string): void {
    const device = this.cell.devices.find((d) => d.id === deviceId);
    if (!device) throw new Problem('edit.unknown', { what: 'device', id: deviceId });
    const link = device.links.find((l) => signalsOf(l.command).some((s) => s.id === fieldId));
    if (!link) throw new Problem('edit.unknown', { what: 'command field', id: fieldId });
    const cyclic = this.originator.links.get(link.id);
    if (!cyclic) throw new Problem('bench.noOpenLink', { device: device.name });
    cyclic.write(fieldId, typed);
  }

  report(now = performance.now()): LinkReport[] {
    return this.cell.devices.flatMap((device) =>
      device.links.map((link) => {
        const cyclic = this.originator.links.get(link.id);
        if (!cyclic) return this.absent(device, link);
        return {
          device: device.id,
          link: link.id,
          state: cyclic.state,
          reason: this.troubles.get(device.id) ?? cyclic.reason ?? null,
          ageMs: cyclic.heardAt === undefined ? null : now - cyclic.heardAt,
          intervals: cyclic.intervals.percentiles() ?? null,
          ...cyclic.counts,
          command: Buffer.from(cyclic.command).toString('base64'),
          feedback: Buffer.from(cyclic.feedback).toString('base64'),
        };
      }),
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
    await this.changing.catch(() => undefined);
    await this.originator.close();
    await Promise.all([...this.standIns.values()].map((s) => s.close()));
    this.standIns.clear();
    this.schedule.stop();
  }

  private async place(device: Device): Promise<void> {
    if (!device.standIn) return;
    const standIn =
      this.options.standIn?.(device, this.schedule) ?? new StandIn(device, { schedule: this.schedule });
    try {
      await standIn.open();
      this.standIns.set(device.id, standIn);
    } catch (error) {
      if (!(error instanceof Problem)) throw error;
      this.troubles.set(device.id, { ...error.report(), severity: 'error', place: { device: device.id } });
    }
    for (const link of device.links) this.originator.add(device, link);
  }

  private async remove(device: Device): Promise<void> {
    for (const link of device.links) await this.originator.remove(link.id);
    await this.standIns.get(device.id)?.close();
    this.standIns.delete(device.id);
    this.troubles.delete(device.id);
  }

  private absent(device: Device, link: Link): LinkReport {
    return {
      device: device.id,
      link: link.id,
      state: 'no-stand-in',
      reason: finding('standIn.none', 'notice', { device: device.id }, { device: device.name }),
      ageMs: null,
      intervals: null,
      sent: 0,
      received: 0,
      lost: 0,
      timeouts: 0,
      reconnects: 0,
      command: '',
      feedback: '',
    };
  }
}
