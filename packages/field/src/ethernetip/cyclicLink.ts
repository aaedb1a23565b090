import { randomInt } from 'node:crypto';
import {
  codecOf,
  finding,
  Problem,
  type Codec,
  type Device,
  type Finding,
  type Link,
} from '@fadenkreuz/core';
import {
  classes,
  decode,
  decodeIoPacket,
  encode,
  encodeIoPacket,
  forwardClose,
  forwardOpen,
  forwardOpened,
  generalStatus,
  isNewer,
  largeForwardOpen,
  logical,
  services,
} from '@fadenkreuz/core/cip';
import type { Tap } from '../capture/tap.js';
import { benchAddress } from '../loopback.js';
import type { Schedule } from '../schedule.js';
import { ExplicitClient } from './explicitClient.js';
import { Intervals } from './intervals.js';
import { connectionPath, openRequest, refusalFinding, type ConnectionName } from './openRequest.js';

export type LinkState = 'opening' | 'open' | 'refused' | 'unreachable' | 'timed-out' | 'closed';

/** What the links of one originator share. */
export interface LinkContext {
  localAddress: string;
  schedule: Schedule;
  tap: Tap;
  send: (packet: Uint8Array, address: string) => void;
  originatorVendor: number;
  originatorSerial: number;
  nextConnectionSerial: () => number;
  /** Whether the controller's program runs (run/idle header). */
  run: () => boolean;
}

export interface LinkCounts {
  sent: number;
  received: number;
  lost: number;
  timeouts: number;
  reconnects: number;
}

/** Pauses between attempts, ms; the last one stays. */
const pauses = [500, 1000, 2000, 5000];

/** The originator's side of one exclusive-owner connection: opens it, keeps it, opens it again after a loss. */
export class CyclicLink {
  /** Chosen anew for each opening, so that packets of a lost connection are not taken for the next one. */
  toOriginatorId = 0;
  readonly counts: LinkCounts = { sent: 0, received: 0, lost: 0, timeouts: 0, reconnects: 0 };
  readonly intervals = new Intervals();
  readonly feedback: Uint8Array;
  readonly command: Uint8Array;
  state: LinkState = 'opening';
  reason: Finding | undefined;
  /** `performance.now()` of the last good packet. */
  heardAt: number | undefined;

  private codec: Codec;
  private client: ExplicitClient | undefined;
  private toTargetId = 0;
  private name: ConnectionName | undefined;
  private stopSending: (() => void) | undefined;
  private packetSequence = 0;
  private dataSequence = 0;
  private lastSequence: number | undefined;
  private watchFrom = 0;
  private silenceLimitMs = 0;
  private attempt = 0;
  private wasOpen = false;
  private ended = false;
  private retry: NodeJS.Timeout | undefined;

  constructor(
    readonly device: Device,
    readonly link: Link,
    private readonly context: LinkContext,
  ) {
    this.feedback = new Uint8Array(link.feedback.size);
    this.command = new Uint8Array(link.command.size);
    this.codec = codecOf(link.command);
  }

  private get address(): string {
    return benchAddress(this.device.address);
  }

  start(): void {
    void this.openOnce();
  }

  /** Takes over another layout of the command image; bytes and connection stay. */
  relayout(link: Link): void {
    this.codec = codecOf(link.command);
  }

  /** Puts what a person typed into the command image. Throws when it does not fit or the link is not open. */
  write(fieldId: string, typed: string): void {
    if (this.state !== 'open') throw new Problem('bench.noOpenLink', { device: this.device.name });
    const index = this.codec.signals.findIndex((s) => s.id === fieldId);
    if (index < 0) throw new Problem('edit.unknown', { what: 'field', id: fieldId });
    const view = new DataView(this.command.buffer);
    this.codec.decode(view);
    this.codec.setTyped(index, typed);
    this.codec.encode(view);
  }

  /** One packet for this connection has come. */
  hear(message: Uint8Array, now: number): void {
    if (this.state !== 'open' && this.state !== 'opening') return;
    try {
      const packet = decodeIoPacket(message, false);
      if (packet.data.length !== this.feedback.length) return;
      if (this.lastSequence !== undefined) {
        if (!isNewer(packet.packetSequence, this.lastSequence)) return;
        this.counts.lost += ((packet.packetSequence - this.lastSequence) >>> 0) - 1;
      }
      this.lastSequence = packet.packetSequence;
      if (this.heardAt !== undefined) this.intervals.add(now - this.heardAt);
      this.heardAt = now;
      this.watchFrom = now;
      this.counts.received += 1;
      this.feedback.set(packet.data);
    } catch (error) {
      if (!(error instanceof Problem)) throw error;
    }
  }

  /** Gives the connection up when nothing came for too long; called by the originator's watch. */
  watch(now: number): void {
    if (this.state !== 'open' || now - this.watchFrom <= this.silenceLimitMs) return;
    this.counts.timeouts += 1;
    const facts = { device: this.device.name, waitedMs: Math.round(now - this.watchFrom) };
    this.lose('timed-out', finding('link.silent', 'error', { device: this.device.id }, facts));
  }

  /** Closes the connection with Forward_Close and ends. */
  async stop(): Promise<void> {
    this.ended = true;
    clearTimeout(this.retry);
    this.stopSending?.();
    const { client, name } = this;
    const open = this.state === 'open';
    this.state = 'closed';
    // The TCP session is only needed to open and to close: cyclic data goes on without it, as the standard has it.
    if (!client || client.closed) return;
    if (open && name) {
      const body = {
        priorityTick: 3,
        timeoutTicks: 250,
        ...name,
        path: connectionPath(this.device, this.link),
      };
      const request = { service: services.forwardClose, path: managerPath, data: encode(forwardClose, body) };
      // A device that has gone meanwhile cannot answer; the connection then ends by its own timeout.
      await client.request(request).catch(() => undefined);
    }
    await client.close();
  }

  private async openOnce(): Promise<void> {
    this.state = 'opening';
    const { context, device } = this;
    try {
      this.client = await ExplicitClient.open({
        localAddress: context.localAddress,
        address: this.address,
        tap: context.tap,
      });
      if (this.ended) {
        await this.client.close();
        return;
      }
      this.toOriginatorId = randomInt(1, 0x7fff_ffff);
      this.name = {
        connectionSerial: context.nextConnectionSerial(),
        originatorVendor: context.originatorVendor,
        originatorSerial: context.originatorSerial,
      };
      this.lastSequence = undefined;
      this.heardAt = undefined;
      const { large, body } = openRequest(device, this.link, this.name, this.toOriginatorId);
      const answer = await this.client.request({
        service: large ? services.largeForwardOpen : services.forwardOpen,
        path: managerPath,
        data: large ? encode(largeForwardOpen, body) : encode(forwardOpen, body),
      });
      if (this.ended) return;
      if (answer.status !== generalStatus.success) {
        this.lose('refused', refusalFinding(device, this.link, answer));
        return;
      }
      const opened = decode(forwardOpened, answer.data, 'answer to Forward_Open');
      this.keep(opened.toTargetId, opened.toTargetApi / 1000, opened.toOriginatorApi / 1000);
    } catch (error) {
      if (this.ended) return;
      const facts = { device: device.name, address: this.address, reason: plainReason(error) };
      this.lose('unreachable', finding('link.unreachable', 'error', { device: device.id }, facts));
    }
  }

  private keep(toTargetId: number, sendMs: number, hearMs: number): void {
    if (this.wasOpen) this.counts.reconnects += 1;
    this.wasOpen = true;
    this.attempt = 0;
    this.state = 'open';
    this.reason = undefined;
    this.toTargetId = toTargetId;
    this.silenceLimitMs = hearMs * this.link.timeoutMultiplier;
    this.watchFrom = performance.now();
    this.sendCommand();
    this.stopSending = this.context.schedule.every(sendMs, () => this.sendCommand());
  }

  private sendCommand(): void {
    this.packetSequence = (this.packetSequence + 1) >>> 0;
    this.dataSequence = (this.dataSequence + 1) & 0xffff;
    const packet = encodeIoPacket({
      connectionId: this.toTargetId,
      packetSequence: this.packetSequence,
      dataSequence: this.dataSequence,
      run: this.context.run(),
      data: this.command,
    });
    this.context.send(packet, this.address);
    this.counts.sent += 1;
  }

  private lose(state: LinkState, reason: Finding): void {
    this.stopSending?.();
    this.stopSending = undefined;
    this.state = state;
    this.reason = reason;
    // What was commanded before a loss must not start a machine again when the link is back.
    this.command.fill(0);
    const client = this.client;
    this.client = undefined;
    void client?.close();
    clearTimeout(this.retry);
    const pause = pauses[Math.min(this.attempt, pauses.length - 1)]!;
    this.attempt += 1;
    this.retry = setTimeout(() => {
      if (!this.ended) void this.openOnce();
    }, pause);
  }
}

const managerPath = [logical('class', classes.connectionManager), logical('instance', 1)];

/** Fields past the end of their image cannot be written; a finding of the design points at them. */
function plainReason(error: unknown): string {
  const code = (error as NodeJS.ErrnoException).code;
  const known: Record<string, string> = {
    ECONNREFUSED: 'nothing listens there',
    EHOSTUNREACH: 'there is no way to it',
    ETIMEDOUT: 'it does not answer',
    ECONNRESET: 'it broke the connection off',
    EADDRNOTAVAIL: 'the controller’s bench address cannot be used',
  };
  return (code && known[code]) ?? (error as Error).message.replace(/\.$/, '');
}
