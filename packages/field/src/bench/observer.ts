import {
  causesOf,
  actingStops,
  beamsOf,
  doubtfulValues,
  isHeldUp,
  faultKey,
  faultTitle,
  finding,
  indicatorText,
  protocolOf,
  quantitiesOfCell,
  ownLights,
  seenIndicator,
  settingsRead,
  type Cause,
  type Cell,
  type Device,
  type Finding,
  type Image,
  type Link,
  type SeenLight,
} from '@fadenkreuz/core';
import { endText, portOf } from '../protocols/ends.js';
import { driverOf } from '../protocols/list.js';
import type { RunningLink } from '../protocols/runningLink.js';
import type { StandIn } from '../standIns/standIn.js';
import type { Schedule } from '../timing/schedule.js';
import { Lately } from './lately.js';
import type { AfterArm, LinkReport } from './report.js';
import type { Trace } from './trace.js';

/** How often lights and rates are looked at, ms. */
const lookMs = 100;
/** How often causes are looked for, ms, and in how many parts. */
const causesMs = 400;
const explainParts = 16;

/** What of a bench is looked at: its parts by id, as they are now. */
export interface Observed {
  designed: () => Cell;
  links: ReadonlyMap<string, RunningLink>;
  standIns: ReadonlyMap<string, StandIn>;
  /** What keeps a device from standing, by device. */
  troubles: ReadonlyMap<string, Finding>;
  /** By link. */
  afterArm: (linkId: string) => AfterArm;
  /** Lights of a real device, as somebody sees them. */
  seen: (deviceId: string) => readonly SeenLight[];
  /** The controller's program runs. */
  runs: () => boolean;
  /** What was read of a device's parameters that have roles, by id, as hex pairs. */
  read: (device: Device) => ReadonlyMap<string, string>;
}

/** Watches a running bench: rates and causes of its links, lights that change, and a report of all of it. */
export class Observer {
  /** By link, as are the causes: they are worked out a few times a second, not with every report. */
  private readonly lately = new Map<string, Lately>();
  private readonly causes = new Map<string, Cause[]>();
  private readonly stops = new Map<string, LinkReport['stops']>();
  /** By device and light. */
  private readonly shown = new Map<string, string>();
  private readonly restartedAt = new Map<string, number>();
  /** Links whose packets are held up, as their last look says. */
  private readonly heldUp = new Set<string>();
  private part = 0;

  constructor(
    private readonly bench: Observed,
    private readonly trace: Trace,
    private readonly schedule: Schedule,
  ) {}

  start(): void {
    this.schedule.every(lookMs, (now) => this.look(now), { patient: true });
    this.schedule.every(causesMs / explainParts, (now) => this.explain(now), { patient: true });
  }

  /** A link begins anew, or is gone: what was noted of the one before it is not its own. */
  forget(linkId: string): void {
    this.lately.delete(linkId);
    this.causes.delete(linkId);
    this.stops.delete(linkId);
    this.heldUp.delete(linkId);
  }

  /** One link of the design, whether it runs or not. */
  reportOf(device: Device, link: Link, now: number): LinkReport {
    const running = this.bench.links.get(link.id);
    const standIn = this.bench.standIns.get(device.id);
    const since = (at = NaN) => (Number.isNaN(at) ? null : Math.max(0, now - at));
    const trouble = this.bench.troubles.get(device.id);
    const measured = running?.intervals.percentiles() ?? null;
    const end = running?.ends.end;
    return {
      device: device.id,
      link: link.id,
      state: running?.state ?? 'no-stand-in',
      ...this.writing(device, link),
      reason: trouble ?? running?.reason ?? (running ? null : this.absence(device)),
      address: end ? endText(end) : device.address,
      port: end ? portOf(end) : null,
      ageMs: since(running?.heardAt),
      freshMs: running && !running.polled ? since(running.freshAt) : null,
      changedMs: since(running?.changedAt),
      expectedMs: running?.expectedMs ?? null,
      intervals: measured,
      ...(running?.counts ?? noCounts),
      lately: {
        ...calm,
        ...(running && this.lately.get(link.id)?.shares(running.counts)),
        interval: running?.intervals.lately() ?? null,
      },
      probe: running?.probe ?? null,
      indicators:
        standIn?.indicators ??
        this.bench.seen(device.id).flatMap((light) => seenIndicator(light, ownLights(device)) ?? []),
      restartedMs: since(this.restartedAt.get(device.id)),
      faults: (standIn?.injected ?? []).map((fault) => ({
        key: faultKey(fault),
        fault,
        title: faultTitle(device, fault),
      })),
      causes: (running && this.causes.get(link.id)) ?? [],
      stops: (running && this.stops.get(link.id)) ?? null,
      side: standIn
        ? {
            ...{ outputs: standIn.commanded.state, since: standIn.commanded.since },
            ...{ held: standIn.side.held, met: standIn.met, moves: standIn.moves },
          }
        : null,
      sideCommand: standIn ? Buffer.from(standIn.commanded.bytes).toString('base64') : '',
      command: running ? Buffer.from(running.command).toString('base64') : '',
      feedback: running ? Buffer.from(running.feedback).toString('base64') : '',
    };
  }

  private writing(device: Device, link: Link): Pick<LinkReport, 'real' | 'reads' | 'sends' | 'afterArm'> {
    const ends = this.bench.links.get(link.id)?.ends;
    const real = !device.simulated && !this.bench.standIns.has(device.id) && (ends?.real ?? true);
    const writes = real && protocolOf(link).reading(link, device.description) !== link;
    return {
      real,
      reads: ends?.reads ?? false,
      sends: writes ? protocolOf(link).sends(link) : '',
      afterArm: this.bench.afterArm(link.id),
    };
  }

  /** Notes rates, and lights that have changed since the last look. */
  private look(now: number): void {
    for (const [id, link] of this.bench.links) {
      let lately = this.lately.get(id);
      if (!lately) this.lately.set(id, (lately = new Lately()));
      lately.note(link.counts, now);
    }
    for (const [id, standIn] of this.bench.standIns)
      for (const indicator of standIn.indicators) {
        const key = `${id} ${indicator.name}`;
        const shows = indicatorText(indicator);
        const before = this.shown.get(key);
        this.shown.set(key, shows);
        if (before === undefined || before === shows) continue;
        if (indicator.name === 'module' && before.startsWith('off')) this.restartedAt.set(id, now);
        this.trace.add(id, { what: 'light', light: indicator.name, shows });
      }
  }

  /** Looks for the causes of one part of the links: of all at once it would hold their packets up. */
  private explain(now: number): void {
    this.part = (this.part + 1) % explainParts;
    const ownLatenessMs = this.schedule.lateness();
    const { devices } = this.bench.designed();
    const states = [...this.bench.links].map(([id, { state }]) => ({ open: state === 'open', id }));
    const together = {
      open: states.filter(({ open }) => open).length,
      heldUp: states.filter(({ id }) => this.heldUp.has(id)).length,
    };
    for (let at = this.part; at < devices.length; at += explainParts) {
      const device = devices[at]!;
      for (const link of device.links) {
        const running = this.bench.links.get(link.id);
        if (!running) continue;
        const { state, polled } = running;
        const { protocol } = link;
        const timeoutMs = protocolOf(link).times(link).lossMs;
        const own = { protocol, polled, state, ownLatenessMs, timeoutMs, together };
        const symptoms = { ...this.reportOf(device, link, now), ...own };
        if (isHeldUp(symptoms)) this.heldUp.add(link.id);
        else this.heldUp.delete(link.id);
        const open = state === 'open';
        const doubtful = open ? doubtfulValues(link.feedback, running.feedback) : [];
        const stops = open ? actingStops(link.feedback, running.feedback) : [];
        this.causes.set(link.id, causesOf(symptoms, doubtful, stops));
        this.stops.set(link.id, this.stopsOf(device, link, running));
      }
    }
  }

  /** What stops a device from the first thing that it is made for. */
  private stopsOf(device: Device, link: Link, running: RunningLink): LinkReport['stops'] {
    const [beam] = beamsOf(device, link, {
      ...{ command: running.command, feedback: running.feedback, open: running.state === 'open' },
      runs: this.bench.runs(),
      setting: settingsRead(device, this.bench.read(device)),
      quantity: quantitiesOfCell(this.bench.designed(), (image) => this.bytesOf(image)),
    });
    if (!beam?.stopsAt || !beam.asked) return null;
    const { title, says } = beam.stopsAt;
    return { action: beam.action, title, says };
  }
  private bytesOf(image: Image): Uint8Array | undefined {
    for (const { link, command, feedback } of this.bench.links.values()) {
      if (link.command.id === image.id) return command;
      if (link.feedback.id === image.id) return feedback;
    }
    return undefined;
  }

  /** Why a device has no part in the bench. */
  private absence(device: Device): Finding {
    const place = { device: device.id };
    const [silent] = device.links;
    if (silent && device.links.every((l) => !driverOf(l.protocol))) {
      const { title } = protocolOf(silent);
      return finding('link.notSpoken', 'notice', place, { device: device.name, protocol: title });
    }
    const { subnet } = this.bench.designed().network;
    const facts = { device: device.name, address: device.address, subnet };
    return finding('link.outsideReach', 'notice', place, facts);
  }
}

const noCounts = {
  sent: 0,
  received: 0,
  lost: 0,
  late: 0,
  doubled: 0,
  overtaken: 0,
  timeouts: 0,
  reconnects: 0,
};
const calm = { lost: 0, late: 0, doubled: 0, overtaken: 0, timeouts: 0 };
