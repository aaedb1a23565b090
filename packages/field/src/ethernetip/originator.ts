import { randomInt } from 'node:crypto';
import { createSocket, type Socket } from 'node:dgram';
import { Problem, type Device, type Link } from '@fadenkreuz/core';
import { connectionIdOf, encapsulation as enip } from '@fadenkreuz/core/cip';
import { noTap, type Tap } from '../capture/tap.js';
import { requireLoopback } from '../loopback.js';
import type { Schedule } from '../schedule.js';
import { bindUdp, closeUdp } from '../udp.js';
import { CyclicLink } from './cyclicLink.js';

export interface OriginatorOptions {
  /** The controller's own bench address; port 2222 is bound on it alone, so that others can use theirs. */
  address: string;
  schedule: Schedule;
  tap?: Tap;
}

/** Our vendor number in the triad of a connection: of the range that nobody is given. */
const originatorVendor = 65_000;

/** The controller on the bench: keeps the cyclic links to all devices (CIP Vol. 1, 3-5; Vol. 2, 3-4). */
export class Originator {
  readonly links = new Map<string, CyclicLink>();
  /** What the run/idle header says. */
  run = true;
  private readonly udp: Socket = createSocket('udp4');
  private readonly tap: Tap;
  private readonly serial = randomInt(1, 0xffff_ffff);
  private connectionSerial = randomInt(1, 0xffff);
  private stopWatch: (() => void) | undefined;

  constructor(private readonly options: OriginatorOptions) {
    this.tap = options.tap ?? noTap;
    this.udp.on('message', (message, from) => {
      const now = performance.now();
      const id = connectionIdOf(message);
      this.tap.udp(from, this.local, message);
      for (const link of this.links.values()) if (link.toOriginatorId === id) link.hear(message, now);
    });
  }

  private get local() {
    return { address: this.options.address, port: enip.ioPort };
  }

  /** Binds the cyclic port. Throws `standIn.cannotBind` when another program holds it. */
  async open(): Promise<void> {
    const { address, schedule } = this.options;
    requireLoopback(address);
    await bindUdp(this.udp, enip.ioPort, address).catch((cause: Error) => {
      const facts = { device: 'the controller', address, port: enip.ioPort, reason: cause.message };
      throw new Problem('standIn.cannotBind', facts, { cause });
    });
    this.stopWatch = schedule.every(5, (now) => {
      for (const link of this.links.values()) link.watch(now);
    });
  }

  /** Begins to open a link; it goes on trying until it is removed. */
  add(device: Device, link: Link): CyclicLink {
    const { address, schedule } = this.options;
    const cyclic = new CyclicLink(device, link, {
      localAddress: address,
      schedule,
      tap: this.tap,
      send: (packet, to) => {
        this.tap.udp(this.local, { address: to, port: enip.ioPort }, packet);
        this.udp.send(packet, enip.ioPort, to);
      },
      originatorVendor,
      originatorSerial: this.serial,
      nextConnectionSerial: () => (this.connectionSerial = (this.connectionSerial + 1) & 0xffff),
      run: () => this.run,
    });
    this.links.set(link.id, cyclic);
    cyclic.start();
    return cyclic;
  }

  async remove(linkId: string): Promise<void> {
    const link = this.links.get(linkId);
    this.links.delete(linkId);
    await link?.stop();
  }

  async close(): Promise<void> {
    this.stopWatch?.();
    await Promise.all([...this.links.keys()].map((id) => this.remove(id)));
    await closeUdp(this.udp);
  }
}
