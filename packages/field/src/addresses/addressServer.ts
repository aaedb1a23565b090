import { Problem } from '@fadenkreuz/core';
import {
  bootpMessage,
  decode,
  dhcpType,
  encode,
  giveAddress,
  macText,
  ops,
  optionCodes,
  textOption,
  type Assignment,
} from '@fadenkreuz/core/bootp';
import type { Socket } from 'node:dgram';
import { ownAddressBeside, type Reach } from '../wire/reach.js';
import { bindUdp, closeUdp, udpSocket } from '../wire/udp.js';
import { makerOfMac } from './macRegistry.js';
import { bindFirst, clientPorts, loopbackBroadcast, serverPorts } from './bootpPorts.js';

/** A device that was heard asking. */
export interface Heard {
  mac: string;
  method: 'bootp' | 'dhcp';
  /** Whose MAC address it is, by the registry; null where nobody's. */
  maker: string | null;
  /** What it says that it is, by its vendor class or its host name; may be empty. */
  says: string;
  /** How often, and when last, in ms of `Date.now()`. */
  times: number;
  last: number;
  /** What it was given; null while it was not chosen. */
  given: string | null;
}

export interface AssigningState {
  /** ms until it ends. */
  leftMs: number;
  assignments: Assignment[];
  heard: Heard[];
}

/** Devices that are remembered. */
const mostHeard = 200;
const everybody = '255.255.255.255';

/**
 * A BOOTP and DHCP server for the devices that were chosen, for a limited time. It listens on loopback, and on the
 * network only when the agent may reach subnets. Off until it is opened; ends by itself.
 */
export class AddressServer {
  private readonly sockets: Socket[] = [];
  private readonly sending = udpSocket();
  private readonly heard = new Map<string, Heard>();
  private assignments: readonly Assignment[] = [];
  private until = 0;
  private timer: NodeJS.Timeout | undefined;

  constructor(
    /** The controller's bench address: answers on loopback carry it as the server's. */
    private readonly loopbackAddress: string,
    private readonly reach: Reach,
    private readonly onEnd: () => void,
  ) {}

  get state(): AssigningState {
    return {
      leftMs: Math.max(0, this.until - performance.now()),
      assignments: [...this.assignments],
      heard: [...this.heard.values()],
    };
  }

  /** Begins to listen. Throws `assigning.cannotListen`. */
  async open(): Promise<void> {
    try {
      // Beside the socket of the network it must be shared; alone it is not, so that another server is noticed.
      const { socket } = await bindFirst(serverPorts, loopbackBroadcast, this.reach.any);
      this.sockets.push(socket);
      socket.on('message', (message) => this.answer(message, undefined));
      await bindUdp(this.sending, 0, '127.0.0.1');
      this.sending.setBroadcast(true);
      if (this.reach.any) await this.openNetwork();
    } catch (cause) {
      await this.close();
      const { port = serverPorts[0], message } = cause as Error & { port?: number };
      throw new Problem('assigning.cannotListen', { port, reason: message }, { cause });
    }
  }

  private async openNetwork(): Promise<void> {
    const { socket } = await bindFirst(serverPorts.slice(0, 1), '0.0.0.0', true);
    socket.setBroadcast(true);
    this.sockets.push(socket);
    socket.on('message', (message, { address }) => {
      if (!address.startsWith('127.')) this.answer(message, socket);
    });
  }

  /** Gives these addresses to these devices, and to no others, for so many minutes from now. */
  give(assignments: readonly Assignment[], minutes: number): void {
    this.assignments = assignments;
    this.until = performance.now() + minutes * 60_000;
    clearTimeout(this.timer);
    this.timer = setTimeout(() => void this.close().then(this.onEnd), minutes * 60_000);
  }

  async close(): Promise<void> {
    clearTimeout(this.timer);
    this.until = 0;
    await Promise.all([...this.sockets.splice(0), this.sending].map((socket) => closeUdp(socket)));
  }

  private answer(message: Uint8Array, network: Socket | undefined): void {
    try {
      const asked = decode(bootpMessage, message, 'BOOTP question');
      if (asked.op !== ops.request) return;
      const mac = macText(asked.hardwareAddress);
      const assigned = this.assignments.find((g) => g.mac === mac);
      const says = textOption(asked, optionCodes.vendorClass) || textOption(asked, optionCodes.hostName);
      const method = dhcpType(asked) === undefined ? 'bootp' : 'dhcp';
      this.note(mac, method, says, assigned?.address ?? null);
      const own = network && assigned ? this.ownAddress(assigned.address) : this.loopbackAddress;
      const answer = own && giveAddress(asked, this.assignments, own);
      if (!answer) return;
      const bytes = encode(bootpMessage, answer);
      if (network) this.broadcast(bytes, own);
      else for (const port of clientPorts) this.sending.send(bytes, port, loopbackBroadcast);
    } catch (error) {
      // Whatever else is sent to this port is no question.
      if (!(error instanceof Problem)) throw error;
    }
  }

  /** Out by the adapter that has this address of its own: the system takes it by the source, as for no other packet. */
  private broadcast(bytes: Uint8Array, own: string): void {
    const socket = udpSocket(true);
    void bindUdp(socket, serverPorts[0], own)
      .then(() => {
        socket.setBroadcast(true);
        socket.send(bytes, clientPorts[0], everybody, () => void closeUdp(socket));
      })
      // The adapter has gone meanwhile: the device asks again.
      .catch(() => closeUdp(socket));
  }

  /** This computer's address beside the one that is given; undefined where that may not be reached. */
  private ownAddress(given: string): string | undefined {
    return this.reach.holds(given) ? ownAddressBeside(given) : undefined;
  }

  private note(mac: string, method: Heard['method'], says: string, given: string | null): void {
    const before = this.heard.get(mac);
    if (!before && this.heard.size >= mostHeard) return;
    const maker = before ? before.maker : (makerOfMac(mac) ?? null);
    const times = (before?.times ?? 0) + 1;
    this.heard.set(mac, {
      mac,
      method,
      maker,
      says: says || (before?.says ?? ''),
      times,
      last: Date.now(),
      given,
    });
  }
}
