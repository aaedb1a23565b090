import {
  ExchangeImages,
  ExchangeRun,
  manualHome,
  manualMove,
  manualNeeds,
  manualWayOf,
  Problem,
  type Cell,
  type Device,
  type Exchange,
  type ExchangeOrder,
  type Link,
  type ManualWay,
} from '@fadenkreuz/core';
import type { RunningLink } from '../protocols/runningLink.js';
import { attended } from '../timing/attendedTime.js';
import type { Schedule } from '../timing/schedule.js';

/** What a person has a device do by hand. Speeds and positions in the units of its fields. */
export type ManualMove =
  | { kind: 'jog'; speed: number }
  | { kind: 'go to'; position: number; speed: number }
  | { kind: 'step'; distance: number; speed: number }
  | { kind: 'home'; speed: number };

export interface ManualStatus {
  device: string;
  kind: ManualMove['kind'];
  state: 'preparing' | 'moving' | 'at rest' | 'failed';
  /** Why it failed, or why it was let go; empty while it moves. */
  reason: string;
  /** ms from when it was let go until a packet with the command to rest was sent; null before. */
  wireMs: number | null;
}

export interface ManualDeskOptions {
  cell: () => Cell;
  linkOf: (linkId: string) => RunningLink | undefined;
  schedule: Schedule;
  /** It was taken to rest, and the wire has it. */
  onRest?: (device: Device, status: ManualStatus) => void;
}

/** Whoever holds must be heard at least this often, ms: a browser says so four times in it. */
export const holdLimitMs = 200;
/** From one look to the next, ms. */
const lookMs = 5;

interface Moved {
  device: Device;
  holder: string;
  move: ManualMove;
  way: ManualWay;
  images: ExchangeImages;
  /** Brings it to where it follows, or is the whole move. */
  run: ExchangeRun | undefined;
  /** In attended time. */
  heardAt: number;
  status: ManualStatus;
  /** When it was let go, and how many packets had gone by then. */
  letGo: { at: number; sent: number } | undefined;
}

/**
 * Moves by hand: as long as somebody holds, and not a moment longer. The one who holds is heard again and again; when
 * he lets go, falls silent, or may not write any more, the command to rest goes out at once, ahead of its turn.
 */
export class ManualDesk {
  private readonly moved = new Map<string, Moved>();
  private stopLooking: (() => void) | undefined;

  constructor(private readonly options: ManualDeskOptions) {}

  get statuses(): ManualStatus[] {
    return [...this.moved.values()].map(({ status }) => ({ ...status }));
  }

  /**
   * Begins a move. Throws `edit.unknown`, `manual.notPossible`, `manual.heldByOther`, `bench.noOpenLink`; nothing moves
   * then.
   */
  begin(deviceId: string, holder: string, move: ManualMove): void {
    const device = this.deviceOf(deviceId);
    const before = this.moved.get(deviceId);
    if (before && isHeld(before)) {
      if (before.holder !== holder) throw new Problem('manual.heldByOther', { device: device.name });
      this.letGo(deviceId, 'another move was begun');
    }
    const way = manualWayOf(device);
    if (!way) throw new Problem('manual.notPossible', { device: device.name, missing: manualNeeds });
    const speed = Math.min(Math.abs(move.speed), way.limit) * (move.speed < 0 ? -1 : 1);
    const bounded = { ...move, speed };
    const images = new ExchangeImages(this.options.cell(), placesIn(way), (link) => this.linkBytes(link));
    const moved: Moved = {
      ...{ device, holder, way, images, move: bounded, heardAt: attended(), letGo: undefined },
      run: this.runOf(device, way, images, bounded),
      status: { device: deviceId, kind: move.kind, state: 'preparing', reason: '', wireMs: null },
    };
    this.moved.set(deviceId, moved);
    this.stopLooking ??= this.options.schedule.every(lookMs, (now) => this.look(now));
  }

  private runOf(
    device: Device,
    way: ManualWay,
    images: ExchangeImages,
    move: ManualMove,
  ): ExchangeRun | undefined {
    const made = (exchange: Exchange | undefined, given: Record<string, number> = {}) => {
      if (!exchange) throw new Problem('manual.notPossible', { device: device.name, missing: manualNeeds });
      return new ExchangeRun(this.options.cell(), exchange, (link) => this.linkBytes(link), given);
    };
    const velocity = Math.abs(move.speed);
    if (move.kind === 'home') return made(manualHome(device), { velocity });
    if (move.kind === 'go to') return made(manualMove(device), { position: move.position, velocity });
    if (move.kind === 'step') {
      const at = way.position ? Number(images.at(way.position).read()) : 0;
      return made(manualMove(device), { position: at + move.distance, velocity });
    }
    images.read();
    const follows = way.ready.every(({ place, to }) => images.at(place).read() === to);
    return follows ? undefined : made(way.prepare);
  }

  /** Whoever moves it is still there. Throws `manual.heldByOther`; what is at rest already stays so. */
  hold(deviceId: string, holder: string): void {
    const moved = this.moved.get(deviceId);
    if (!moved || !isHeld(moved)) return;
    if (moved.holder !== holder) throw new Problem('manual.heldByOther', { device: moved.device.name });
    moved.heardAt = attended();
  }

  /** Takes it to rest, now: that needs no permission. */
  letGo(deviceId: string, why: string): void {
    const moved = this.moved.get(deviceId);
    if (!moved || !isHeld(moved)) return;
    this.rest(moved, why, 'at rest');
  }

  /** Everything that is moved by hand comes to rest; of a holder, or of all. */
  letGoAll(why: string, holder?: string): void {
    for (const [id, moved] of this.moved) if (!holder || moved.holder === holder) this.letGo(id, why);
  }

  close(): void {
    this.letGoAll('the bench was stopped');
    this.stopLooking?.();
    this.stopLooking = undefined;
  }

  private look(now: number): void {
    for (const moved of this.moved.values()) {
      if (isHeld(moved)) {
        // A computer that halts this process halts what it sends, too: the device has its own watchdog.
        if (attended() - moved.heardAt > holdLimitMs) this.rest(moved, 'nobody holds it any more', 'at rest');
        else this.goOn(moved, now);
      } else this.wire(moved, now);
    }
    const busy = [...this.moved.values()].some((one) => isHeld(one) || one.letGo);
    if (busy) return;
    this.stopLooking?.();
    this.stopLooking = undefined;
  }

  private goOn(moved: Moved, now: number): void {
    const { run, status } = moved;
    try {
      for (const link of moved.images.commanded) this.linkBytes(link);
      run?.scan(now);
    } catch (error) {
      if (!(error instanceof Problem)) throw error;
      return this.rest(moved, error.report().says, 'failed');
    }
    if (run?.state === 'failed') return this.rest(moved, run.failure?.reason ?? '', 'failed');
    if (run && run.state === 'running') {
      // The last step of a move is the move.
      if (moved.move.kind !== 'jog') status.state = 'moving';
      return;
    }
    if (moved.move.kind !== 'jog') return this.over(moved);
    if (status.state === 'moving') return;
    status.state = 'moving';
    this.put(moved, moved.way.run(moved.move.speed));
  }

  /** It has arrived: nothing is left to be taken back. */
  private over({ status }: Moved): void {
    status.state = 'at rest';
    status.reason = 'arrived';
  }

  private rest(moved: Moved, why: string, state: 'at rest' | 'failed'): void {
    const { status, run } = moved;
    status.state = state;
    status.reason = why;
    moved.letGo = { at: performance.now(), sent: this.sentBy(moved) };
    try {
      run?.stop(performance.now());
    } catch (error) {
      // A link that was lost has forgotten all commands.
      if (!(error instanceof Problem)) throw error;
    }
    this.put(moved, moved.way.stop);
    // It does not wait for its turn.
    for (const { id } of moved.images.commanded) this.options.linkOf(id)?.sendAhead();
    this.wire(moved, performance.now());
  }

  private wire(moved: Moved, now: number): void {
    const { letGo, status } = moved;
    if (!letGo) return;
    // A lost link has forgotten all commands, and its device has its own reaction.
    const stands = moved.images.commanded.every(({ id }) => this.options.linkOf(id)?.state === 'open');
    if (!stands) moved.letGo = undefined;
    if (!stands || this.sentBy(moved) === letGo.sent) return;
    status.wireMs = Math.round((now - letGo.at) * 10) / 10;
    moved.letGo = undefined;
    this.options.onRest?.(moved.device, status);
  }

  private sentBy({ device }: Moved): number {
    return device.links.reduce((sum, { id }) => sum + (this.options.linkOf(id)?.counts.sent ?? 0), 0);
  }

  private put(moved: Moved, orders: readonly ExchangeOrder[]): void {
    try {
      moved.images.read();
      for (const { place, to } of orders) moved.images.at(place).put(to as number | boolean);
    } catch (error) {
      if (!(error instanceof Problem)) throw error;
      if (isHeld(moved)) this.rest(moved, error.report().says, 'failed');
    }
  }

  private linkBytes(link: Link): RunningLink {
    const running = this.options.linkOf(link.id);
    if (running?.state !== 'open' || running.ends.reads)
      throw new Problem('bench.noOpenLink', { device: running?.device.name ?? 'the device' });
    return running;
  }

  private deviceOf(id: string): Device {
    const device = this.options.cell().devices.find((d) => d.id === id);
    if (!device) throw new Problem('edit.unknown', { what: 'device', id });
    return device;
  }
}

const isHeld = ({ status }: Moved): boolean => status.state === 'preparing' || status.state === 'moving';

/** All places that a way reads or writes. */
const placesIn = (way: ManualWay) => [
  ...[...way.run(1), ...way.run(-1), ...way.stop].map(({ place }) => place),
  ...way.ready.map(({ place }) => place),
  ...(way.position ? [way.position] : []),
];
