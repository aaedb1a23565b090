import { randomInt } from 'node:crypto';
import type { EthernetIpLink } from '@fadenkreuz/core';
import type { Socket } from 'node:dgram';
import {
  classes,
  decode,
  encapsulation as enip,
  encode,
  forwardClose,
  forwardOpen,
  forwardOpened,
  generalStatus,
  isNewer,
  largeForwardOpen,
  logical,
  OutgoingPacket,
  packetSize,
  readPacket,
  services,
  u16,
  type RealTimeFormat,
} from '@fadenkreuz/core/ethernet-ip';
import { attended } from '../../timing/attendedTime.js';
import type { PacketSender } from '../../timing/packetBeats.js';
import { ipEnd, type LinkEnds } from '../ends.js';
import { RunningLink, type LinkContext } from '../runningLink.js';
import { bindUdp, closeUdp, udpSocket } from '../../wire/udp.js';
import { clientOptions, ExplicitClient } from './explicitClient.js';
import { connectionPath, openRequest, refusalFinding, type ConnectionName } from './openRequest.js';

/** What the cyclic links of a controller share beside what all links do. */
export interface CyclicContext extends LinkContext {
  /** Sends a packet from the cyclic port. */
  send: (packet: Uint8Array, address: string) => void;
  /** Has packets with this connection id handed to `hear` from now on; the returned function ends that. */
  route: (connectionId: number, link: CyclicLink) => () => void;
  name: () => ConnectionName;
  /** How often the status of a device is asked for, ms; it keeps the session awake as well. */
  probeMs: () => number;
}

const managerPath = [logical('class', classes.connectionManager), logical('instance', 1)];

const statusPath = [logical('class', classes.identity), logical('instance', 1), logical('attribute', 5)];
/** A class 1 connection as its originator: exclusive owner, input only or listen only, point-to-point or multicast. */
export class CyclicLink extends RunningLink<EthernetIpLink> implements PacketSender {
  private client: ExplicitClient | undefined;
  private name: ConnectionName | undefined;
  private packet: OutgoingPacket | undefined;
  private stopSending: (() => void) | undefined;
  private stopHearing: (() => void) | undefined;
  private group: Socket | undefined;
  private lastSequence: number | undefined;
  private lastData: number | undefined;
  /** Attended time of the last packet; NaN so that it is kept as a number with a fraction from the beginning. */
  private watchFrom = NaN;
  /** Looked up once and not with every packet. */
  private readonly feedbackFormat = this.link.feedbackFormat;
  private readonly address = ipEnd(this.ends.end).address;
  private silenceLimitMs = 0;
  private asking = false;

  constructor(
    ends: LinkEnds<EthernetIpLink>,
    private readonly cyclic: CyclicContext,
  ) {
    super(ends, cyclic);
  }

  /** One packet for this connection has come. A hot path: no allocation beyond its head. */
  hear(message: Uint8Array, now: number): void {
    if (this.state !== 'open' && this.state !== 'opening') return;
    const packet = readPacket(message, this.feedbackFormat, this.feedback.length);
    if (!packet) return;
    if (this.lastSequence !== undefined) {
      if (!isNewer(packet.packetSequence, this.lastSequence)) {
        const behind = (this.lastSequence - packet.packetSequence) >>> 0;
        if (behind === 0) this.counts.doubled += 1;
        else this.counts.late += 1;
        if (behind > 1 || (behind === 1 && now - this.heardAt > this.expectedMs! / 4))
          this.counts.overtaken += 1;
        return;
      }
      this.counts.lost += ((packet.packetSequence - this.lastSequence) >>> 0) - 1;
    }
    this.lastSequence = packet.packetSequence;
    const fresh = packet.dataSequence !== this.lastData;
    this.lastData = packet.dataSequence;
    this.watchFrom = attended(now);
    this.take(message, packet.dataFrom, 0, now, fresh);
  }

  watch(now: number): void {
    const silence = attended(now) - this.watchFrom;
    if (this.state === 'open' && silence > this.silenceLimitMs) this.silent(silence);
  }

  protected async open(): Promise<void> {
    const { cyclic, device, link } = this;
    const client = await ExplicitClient.open({
      ...clientOptions(this.ends),
      tap: cyclic.tap,
      reach: cyclic.reach,
    });
    this.client = client;
    if (this.ended) {
      await client.close();
      return;
    }
    // Chosen anew each time, so that packets of a lost connection are not taken for the next one.
    const wantedId = randomInt(1, 0x7fff_ffff);
    this.name = cyclic.name();
    this.lastSequence = undefined;
    this.lastData = undefined;
    // The first packet may come before the answer has been read.
    this.stopHearing = cyclic.route(wantedId, this);
    const { large, body } = openRequest(device, link, this.name, wantedId);
    const request = {
      service: large ? services.largeForwardOpen : services.forwardOpen,
      path: managerPath,
      data: large ? encode(largeForwardOpen, body) : encode(forwardOpen, body),
    };
    const answer = await client.request(request, enip.itemTypes.socketToOriginator);
    if (this.ended) return;
    if (answer.status !== generalStatus.success) {
      this.lose('refused', refusalFinding(device, link, answer));
      return;
    }
    const opened = decode(forwardOpened, answer.data, 'answer to Forward_Open');
    if (opened.toOriginatorId !== wantedId) {
      this.stopHearing();
      this.stopHearing = cyclic.route(opened.toOriginatorId, this);
    }
    if (answer.beside && link.toController === 'multicast') await this.join(answer.beside);
    if (this.ended) return;
    this.keep(opened.toTargetId, opened.toTargetApi / 1000, opened.toOriginatorApi / 1000);
  }

  protected async release(farewell: boolean): Promise<void> {
    this.stopSending?.();
    this.stopHearing?.();
    this.stopSending = this.stopHearing = undefined;
    const { client, name, group } = this;
    this.client = this.group = undefined;
    if (group) await closeUdp(group);
    // The TCP session is only needed to open and to close: cyclic data goes on without it, as the standard has it.
    if (!client || client.closed) return;
    if (farewell && name) {
      const path = connectionPath(this.device, this.link);
      const body = { priorityTick: 3, timeoutTicks: 250, ...name, path };
      const request = { service: services.forwardClose, path: managerPath, data: encode(forwardClose, body) };
      // A device that has gone meanwhile cannot answer; the connection then ends by its own timeout.
      await client.request(request).catch(() => undefined);
    }
    await client.close();
  }

  /** Listens to the multicast group that the device has named. */
  private async join(item: Uint8Array): Promise<void> {
    const { address, port } = decode(enip.socketAddress, item, 'socket address item');
    const group = udpSocket(true);
    const dotted = enip.dottedAddress(address);
    group.on('message', (message, from) => {
      // Other devices may use the same group.
      if (from.address !== this.address) return;
      this.cyclic.tap.udp(from, { address: dotted, port }, message);
      this.hear(message, performance.now());
    });
    await bindUdp(group, port || enip.ioPort, dotted);
    group.addMembership(dotted, this.ends.localAddress);
    this.group = group;
  }

  private keep(toTargetId: number, sendMs: number, hearMs: number): void {
    const { link } = this;
    const format: RealTimeFormat = link.connection === 'exclusive-owner' ? link.commandFormat : 'heartbeat';
    const bytes = Buffer.allocUnsafe(packetSize(format, this.command.length)).fill(0);
    this.packet = new OutgoingPacket(toTargetId, format, this.command.length, bytes);
    this.silenceLimitMs = hearMs * link.timeoutMultiplier;
    this.watchFrom = attended();
    this.stands(hearMs);
    this.send();
    const stops = [
      this.context.schedule.packets(sendMs, this, this.address),
      this.context.schedule.every(this.cyclic.probeMs(), () => void this.ask(), {
        spread: true,
        patient: true,
      }),
    ];
    this.stopSending = () => stops.forEach((stop) => stop());
  }

  /** Asks for the status word of the device beside the cyclic data: how it is, and how quickly it answers. */
  private async ask(): Promise<void> {
    const { client } = this;
    if (!client || client.closed || this.asking) return;
    this.asking = true;
    const from = performance.now();
    const answer = await client
      .request({ service: services.getAttributeSingle, path: statusPath, data: new Uint8Array() })
      .catch(() => undefined);
    this.asking = false;
    this.probe = {
      answerMs: answer ? performance.now() - from : null,
      identityStatus: answer?.status === 0 ? decode(u16, answer.data, 'identity status') : null,
      refusal: answer && answer.status !== 0 ? answer.status : null,
    };
  }

  sendAhead(): void {
    if (this.state === 'open' && this.packet) this.send();
  }

  /** Sends the command image now. */
  send(): void {
    this.cyclic.send(this.packet!.next(this.command, this.runs), this.address);
    this.gone();
  }
}
