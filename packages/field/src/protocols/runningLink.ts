import {
  codecOf,
  finding,
  Problem,
  type Codec,
  type Device,
  type Finding,
  type Image,
  type LinkBase,
  type Probe,
} from '@fadenkreuz/core';
import pLimit, { type LimitFunction } from 'p-limit';
import type { Tap } from '../capture/tap.js';
import type { Schedule } from '../timing/schedule.js';
import type { Reach } from '../wire/reach.js';
import { NoAnswer } from '../wire/streamClient.js';
import { endText, type LinkEnds } from './ends.js';
import { Intervals } from './intervals.js';

export type LinkState = 'opening' | 'open' | 'refused' | 'unreachable' | 'timed-out' | 'closed';

export interface LinkCounts {
  sent: number;
  received: number;
  lost: number;
  /** Packets that came after a later one, and packets that came a second time. */
  late: number;
  doubled: number;
  /**
   * Of the late ones, those that came two or more packets later, or a good part of an interval: a mere change of places
   * does not do that.
   */
  overtaken: number;
  timeouts: number;
  reconnects: number;
}

/** Follows what a link exchanges, packet by packet. */
export interface ImageWatcher {
  /** A packet has carried these bytes; `now` is `performance.now()`. The bytes are only lent. */
  exchanged(direction: Image['direction'], bytes: Uint8Array, now: number): void;
}

/** What all links of a controller share. */
export interface LinkContext {
  /** The controller's own bench address. */
  localAddress: string;
  schedule: Schedule;
  tap: Tap;
  reach: Reach;
  /** Whether the controller's program runs. */
  run: () => boolean;
  /** Lets so many links open at once that their answers come in time; the others wait for their turn. */
  opening: LimitFunction;
}

/** Links of a controller that are opened at the same time. */
export const openingGate = (): LimitFunction => pLimit(24);

/** Pauses between attempts, ms; the last one stays. */
const pauses = [500, 1000, 2000, 5000];

/**
 * The controller's side of one link, whatever its protocol: both images, what came of it so far, and how it is opened
 * again after a loss, with growing pauses. A protocol says how it opens, how it is given up and what it watches.
 */
export abstract class RunningLink<L extends LinkBase = LinkBase> {
  readonly counts: LinkCounts = {
    sent: 0,
    received: 0,
    lost: 0,
    late: 0,
    doubled: 0,
    overtaken: 0,
    timeouts: 0,
    reconnects: 0,
  };
  readonly intervals = new Intervals();
  readonly feedback: Uint8Array;
  readonly command: Uint8Array;
  state: LinkState = 'opening';
  reason: Finding | undefined;
  /**
   * `performance.now()` of the last good packet, of this connection or of one before it; NaN before there was one,
   * because what is always a number is written without a new object for each packet.
   */
  heardAt = NaN;
  /** … of the last packet of this connection that brought other bytes than the one before. */
  changedAt = NaN;
  /**
   * … of the last packet of this connection that the device itself called new data; NaN where the protocol does not
   * say.
   */
  freshAt = NaN;
  /** Whether a packet of this connection has come. */
  private flows = false;
  /** What the last request beside the cyclic data met. */
  probe: Probe | null = null;
  /** Interval that is kept between packets from the device, ms; undefined before it stands. */
  expectedMs: number | undefined;
  /** Whether each value is asked for: no packet comes by itself. */
  readonly polled: boolean = false;
  /** Nothing but zeros is commanded, and the controller is said to idle, whether its program runs or not. */
  private idle = false;
  /** Parts of the image that were written since it rests. */
  private readonly rested = new Set<string>();
  /** Whoever looks at its packets; undefined while nobody does. */
  private watcher: ImageWatcher | undefined;
  /** Called when it would have to be opened again and may not: another link takes its place. */
  onForbidden: () => void = () => undefined;
  /** Called whenever state or reason changes. */
  onChange: () => void = () => undefined;

  private codec: Codec;
  private attempt = 0;
  /** Turns that were left out since the last answer. */
  private leftOut = 0;
  private wasOpen = false;
  private retry: NodeJS.Timeout | undefined;
  protected ended = false;

  constructor(
    readonly ends: LinkEnds<L>,
    protected readonly context: LinkContext,
  ) {
    this.feedback = new Uint8Array(ends.link.feedback.size);
    this.command = new Uint8Array(ends.link.command.size);
    this.codec = codecOf(ends.link.command);
  }

  get device(): Device {
    return this.ends.device;
  }
  get link(): L {
    return this.ends.link;
  }

  /**
   * Opens once. Calls `stands` when the link stands and `lose` when the device refuses; throws when it cannot be
   * reached.
   */
  protected abstract open(): Promise<void>;
  /** Lets go of sockets and timers; with a farewell to the device where the link still stands. */
  protected abstract release(farewell: boolean): Promise<void>;
  /** Looks whether it still stands; called fifty times a second. */
  abstract watch(now: number): void;

  start(): void {
    void this.tryOpen();
  }

  /** Takes over another layout of the command image; bytes and connection stay. */
  relayout(link: LinkBase): void {
    if (!this.ends.reads) this.codec = codecOf(link.command);
  }

  /** Puts what a person typed into the command image. Throws when it does not fit or the link is not open. */
  write(fieldId: string, typed: string): void {
    if (this.state !== 'open' || this.ends.reads)
      throw new Problem('bench.noOpenLink', { device: this.device.name });
    const index = this.codec.signals.findIndex((s) => s.id === fieldId);
    if (index < 0) throw new Problem('edit.unknown', { what: 'field', id: fieldId });
    const view = new DataView(this.command.buffer);
    this.codec.decode(view);
    this.codec.setTyped(index, typed);
    this.codec.encode(view);
  }

  /**
   * Puts raw bytes into the command image, from a byte on. Throws when the link is not open, or they would end behind
   * the image.
   */
  writeBytes(at: number, bytes: readonly number[]): void {
    if (this.state !== 'open' || this.ends.reads)
      throw new Problem('bench.noOpenLink', { device: this.device.name });
    if (at + bytes.length > this.command.length)
      throw new Problem('value.past', { byte: at + bytes.length - 1, size: this.command.length });
    this.command.set(bytes, at);
  }

  /** All of the command image goes to zero, at once. */
  rest(): void {
    this.command.fill(0);
    // One that only reads has nothing to say.
    if (!this.ends.reads) this.sendAhead();
  }

  /**
   * The command image goes out now, ahead of its turn, where the link stands: for what must come to rest. Its turns
   * stay as they are: a device watches for the longest time between packets, not for the shortest.
   */
  abstract sendAhead(): void;

  /** With true all goes to zero and stays there, with the controller said to idle; with false it runs again. */
  setIdle(idle: boolean): void {
    this.idle = idle;
    this.rested.clear();
    if (idle) this.rest();
  }

  /** Ends for good; `silent`: the device is told nothing, and does what it does when its connection is lost. */
  async stop(silent = false): Promise<void> {
    this.ended = true;
    clearTimeout(this.retry);
    const farewell = this.state === 'open' && !silent;
    this.state = 'closed';
    await this.release(farewell);
  }

  /** Whether the device is to be told that the controller's program runs. */
  protected get runs(): boolean {
    return this.context.run() && !this.idle;
  }

  /**
   * For links that ask: whether a part of the command image is written in this turn. A controller that idles writes
   * nothing, but for the zeros with which a link begins to rest.
   */
  protected writesNow(part: string): boolean {
    if (!this.idle) return this.context.run();
    if (this.rested.has(part)) return false;
    this.rested.add(part);
    return true;
  }

  /**
   * Good bytes for the feedback image, or for a part of it, have come: all of `bytes` behind `from`, for place `at`.
   */
  protected take(bytes: Uint8Array, from: number, at: number, now: number, fresh = true): void {
    // The time without a connection is no interval between packets.
    if (this.flows) this.intervals.add(now - this.heardAt);
    this.flows = true;
    this.heardAt = now;
    this.counts.received += 1;
    if (fresh) this.freshAt = now;
    const { feedback } = this;
    const count = Math.min(bytes.length - from, feedback.length - at);
    let changed = false;
    for (let i = 0; i < count; i += 1) {
      const byte = bytes[from + i]!;
      if (feedback[at + i] === byte) continue;
      feedback[at + i] = byte;
      changed = true;
    }
    if (changed) {
      this.changedAt = now;
      this.watcher?.exchanged('feedback', feedback, now);
    }
  }

  /** The command image, or a part of it, has gone out. */
  protected gone(): void {
    this.counts.sent += 1;
    this.watcher?.exchanged('command', this.command, performance.now());
  }

  /** From now on its packets are followed, beginning with the bytes that it has. */
  followedBy(watcher: ImageWatcher | undefined): void {
    if (watcher === this.watcher) return;
    this.watcher = watcher;
    const now = performance.now();
    watcher?.exchanged('command', this.command, now);
    watcher?.exchanged('feedback', this.feedback, now);
  }

  /** For links that ask: a turn comes while the one before still waits for its answer. */
  protected leaveOut(): void {
    this.leftOut += 1;
  }

  /**
   * For links that ask: an answer has come. Turns that nothing came after are no loss of packets, but the loss of the
   * link.
   */
  protected answered(): void {
    this.counts.lost += this.leftOut;
    this.leftOut = 0;
  }

  protected stands(expectedMs: number): void {
    if (this.wasOpen) this.counts.reconnects += 1;
    this.wasOpen = true;
    this.attempt = 0;
    this.expectedMs = expectedMs;
    this.set('open', undefined);
  }

  /** The link was refused or lost; it is tried again after a pause. */
  protected lose(state: LinkState, reason: Finding): void {
    if (this.ended) return;
    // What was commanded before a loss must not start a machine again when the link is back.
    this.command.fill(0);
    this.set(state, reason);
    void this.release(false);
    clearTimeout(this.retry);
    const pause = pauses[Math.min(this.attempt, pauses.length - 1)]!;
    this.attempt += 1;
    this.retry = setTimeout(() => void this.tryOpen(), pause);
  }

  protected silent(waitedMs: number): void {
    this.counts.timeouts += 1;
    const facts = { device: this.device.name, waitedMs: Math.round(waitedMs) };
    this.lose('timed-out', finding('link.silent', 'error', { device: this.device.id }, facts));
  }

  protected set(state: LinkState, reason: Finding | undefined): void {
    const changed = state !== this.state || reason?.code !== this.reason?.code;
    this.state = state;
    this.reason = reason;
    if (changed) this.onChange();
  }

  private async tryOpen(): Promise<void> {
    if (this.ended) return;
    if (this.ends.mayOpen?.() === false) return this.onForbidden();
    this.flows = false;
    this.leftOut = 0;
    this.freshAt = this.changedAt = NaN;
    // The reason of the last attempt stays to be read while the next one is under way.
    this.set('opening', this.reason);
    try {
      await this.context.opening(() => (this.ended ? Promise.resolve() : this.open()));
    } catch (error) {
      this.lose('unreachable', this.whyUnreachable(error));
    }
  }

  private whyUnreachable(error: unknown): Finding {
    const connected = error instanceof NoAnswer;
    const facts = {
      device: this.device.name,
      address: endText(this.ends.end),
      reason: plainReason(error),
      connected,
    };
    return finding('link.unreachable', 'error', { device: this.device.id }, facts);
  }
}

/** What a socket's error means to somebody at a machine. */
function plainReason(error: unknown): string {
  const { code, message } = error as NodeJS.ErrnoException;
  const known: Record<string, string> = {
    ECONNREFUSED: 'nothing listens there',
    EHOSTUNREACH: 'there is no way to it',
    ETIMEDOUT: 'it does not answer',
    ECONNRESET: 'it broke the connection off',
    EADDRNOTAVAIL: 'the controller’s own address cannot be used',
  };
  return known[code ?? message] ?? message.replace(/\.$/, '');
}
