import { randomInt } from 'node:crypto';
import type { Socket } from 'node:dgram';
import { isPolled, Problem, type EthernetIpLink, type Parameter } from '@fadenkreuz/core';
import { connectionIdOf, encapsulation as enip } from '@fadenkreuz/core/ethernet-ip';
import { type Originator } from '../driver.js';
import { ipEnd, type LinkEnds } from '../ends.js';
import type { ParameterAccess } from '../parameterAccess.js';
import type { LinkContext } from '../runningLink.js';
import { bindUdp, closeUdp, udpSocket } from '../../wire/udp.js';
import { CyclicLink, type CyclicContext } from './cyclicLink.js';
import type { ConnectionName } from './openRequest.js';
import { clientOptions } from './explicitClient.js';
import { readParameterObject } from './parameterObject.js';
import { ethernetIpParameters } from './parameters.js';
import { PolledLink } from './polledLink.js';

/** Our vendor number in the triad of a connection: of the range that nobody is given. */
const originatorVendor = 65_000;

/**
 * Each device is asked for its status this often, ms; many devices less often, so that all together ask no more than
 * this.
 */
const leastProbeMs = 1000;
const probesPerSecond = 20;

/** The EtherNet/IP side of a controller: its cyclic port, and the links over it (CIP Vol. 1, 3-5; Vol. 2, 3-4). */
export class EthernetIpOriginator implements Originator<EthernetIpLink> {
  private readonly sockets = new Map<string, Socket>();
  private readonly routes = new Map<number, CyclicLink>();
  /** By the controller's own address: one for all links from there, which read it with every packet (bench/cyclic). */
  private readonly contexts = new Map<string, CyclicContext>();
  private readonly serial = randomInt(1, 0xffff_ffff);
  private connectionSerial = randomInt(1, 0xffff);

  constructor(private readonly context: LinkContext) {}

  /**
   * Binds the cyclic port on one of the controller's own addresses, so that others can use theirs. Throws
   * `standIn.cannotBind` when another program holds it.
   */
  async open(address: string): Promise<void> {
    if (this.sockets.has(address)) return;
    const socket = udpSocket();
    this.sockets.set(address, socket);
    const local = { address, port: enip.ioPort };
    socket.on('message', (message, from) => {
      const now = performance.now();
      this.context.tap.udp(from, local, message);
      const id = connectionIdOf(message);
      if (id !== undefined) this.routes.get(id)?.hear(message, now);
      this.context.schedule.runDue(now);
    });
    await bindUdp(socket, enip.ioPort, address).catch((cause: Error) => {
      this.sockets.delete(address);
      const facts = { device: 'the controller', address, port: enip.ioPort, reason: cause.message };
      throw new Problem('standIn.cannotBind', facts, { cause });
    });
  }

  /** A link of this protocol, not started yet. */
  link(ends: LinkEnds<EthernetIpLink>): CyclicLink | PolledLink {
    const { context, name } = this;
    if (isPolled(ends.link)) return new PolledLink(ends, context, name);
    context.reach.require(ipEnd(ends.end).address);
    let cyclic = this.contexts.get(ends.localAddress);
    if (!cyclic) this.contexts.set(ends.localAddress, (cyclic = this.cyclicContext(ends.localAddress)));
    return new CyclicLink(ends, cyclic);
  }

  parameters(ends: LinkEnds<EthernetIpLink>): ParameterAccess {
    return ethernetIpParameters(ends, this.context);
  }

  listed(ends: LinkEnds<EthernetIpLink>, newId: () => string): Promise<Parameter[]> {
    const { tap, reach } = this.context;
    return readParameterObject({ ...clientOptions(ends), tap, reach }, newId);
  }

  private readonly name = (): ConnectionName => ({
    connectionSerial: (this.connectionSerial = (this.connectionSerial + 1) & 0xffff),
    originatorVendor,
    originatorSerial: this.serial,
  });

  private cyclicContext(localAddress: string): CyclicContext {
    const { context, name } = this;
    const local = { address: localAddress, port: enip.ioPort };
    return {
      ...context,
      name,
      probeMs: () => Math.max(leastProbeMs, (this.routes.size * 1000) / probesPerSecond),
      send: (packet, address) => {
        if (context.tap.listens) context.tap.udp(local, { address, port: enip.ioPort }, packet);
        this.sockets.get(localAddress)?.send(packet, enip.ioPort, address);
      },
      route: (id, link) => {
        this.routes.set(id, link);
        return () => this.routes.delete(id);
      },
    };
  }

  async close(): Promise<void> {
    await Promise.all([...this.sockets.values()].map(closeUdp));
    this.sockets.clear();
  }
}
