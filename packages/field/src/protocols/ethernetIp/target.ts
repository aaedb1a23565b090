import type { NetworkState } from '@fadenkreuz/core/devices';
import { noTrouble, type Trouble } from '../driver.js';
import {
  answerReader,
  emptyResponse,
  Reader,
  type RouterResponse,
  assemblyObject,
  encapsulation as enip,
  ethernetLinkObject,
  generalStatus,
  identityObject,
  messageRouterObject,
  tcpIpInterfaceObject,
  type Caller,
  type CipClass,
  type LinkCounters,
} from '@fadenkreuz/core/ethernet-ip';
import type { Schedule } from '../../timing/schedule.js';
import type { Cable } from '../../wire/cable.js';
import { bindUdp, closeUdp, udpSocket } from '../../wire/udp.js';
import { Connections, type Connection } from './connections.js';
import { EncapsulationServer } from './encapsulationServer.js';
import type { TargetAssembly, TargetDevice } from './targetDevice.js';
import { targetIdentity } from './targetIdentity.js';

export interface TargetOptions {
  address: string;
  schedule: Schedule;
  cable: Cable;
  device: TargetDevice;
}

const maxConnections = 24;
/** µs */
const shortestRpi = 1000;
const rpiStep = 1000;
const maxUnconnectedAnswer = 4096;
/** How often connections are looked at whether their originator has fallen silent, ms. */
const watchMs = 20;

/**
 * An EtherNet/IP target: sessions, objects and connections. Its owner reads `command` and writes the feedback
 * assemblies.
 */
export class Target {
  private hasTrouble: Trouble = noTrouble;
  private readonly server: EncapsulationServer;
  private readonly connections: Connections;
  private readonly model: CipClass[];
  private readonly udp = udpSocket();
  private readonly heard = { packets: 0, bytes: 0, discards: 0 };
  private timedOut = false;
  private stopWatch: (() => void) | undefined;
  /** Which command assembly was set by explicit messages: over a class 3 connection, or by anybody for good. */
  private setBy: { over: Connection | undefined; instance: number } | undefined;

  constructor(private readonly options: TargetOptions) {
    const { address, schedule, cable, device } = options;
    this.connections = new Connections({
      address,
      mask: () => device.network().settings.mask,
      schedule,
      cable,
      deliver: (packet, to) => this.udp.send(packet, enip.ioPort, to),
      deliverTo: (port) => (packet, to) => this.udp.send(packet, port, to),
      facts: () => this.facts(),
      assemblyOf: (instance) => this.assemblyOf(instance),
      message: (message, caller) => answerReader(this.model, new Reader(message, 'CIP request'), caller),
      onOpened: (connection) => {
        if (connection.kind === 'explicit') return;
        this.timedOut = false;
        if (connection.kind === 'exclusive-owner') this.setBy = undefined;
        device.configure(connection.opening.configuration);
      },
      onEnded: (connection, why) => {
        if (why === 'timed-out' && connection.kind !== 'explicit') this.timedOut = true;
        if (this.setBy?.over === connection) this.setBy = undefined;
      },
    });
    const identity = targetIdentity(device, {
      connections: this.connections,
      timedOut: () => this.timedOut,
      foreignOwner: () => this.trouble.foreignOwner,
    });
    this.model = [
      identityObject(
        () => identity,
        (type) => setImmediate(() => device.reset(type)),
      ),
      messageRouterObject(() => this.model, {
        maximum: maxConnections,
        active: () => this.connections.open.size,
      }),
      assemblyObject(() => this.assemblies()),
      this.connections.object(),
      tcpIpInterfaceObject(
        () => ({ ...device.network(), conflict: this.trouble.twin ? twinMac(device.mac) : undefined }),
        (part) => device.setNetwork(part),
      ),
      ethernetLinkObject(() => ({ mac: device.mac, linkUp: !cable.pulled, counters: this.counters() })),
      ...device.classes,
    ];
    this.server = new EncapsulationServer({
      address,
      cable,
      slowMs: () => this.trouble.slowMs,
      inactivityTimeout: () => device.network().inactivityTimeout,
      identities: () => {
        const { serialNumber } = identity;
        return this.trouble.twin
          ? [identity, { ...identity, serialNumber: (serialNumber ^ 0x5a5a) >>> 0 }]
          : [identity];
      },
      unconnected: (message, { from, ioPort }) => {
        const answer = this.answer(message, { from, ioPort, maxAnswer: maxUnconnectedAnswer });
        return { answer, items: this.connections.itemsFor(answer) };
      },
      connected: (id, message, { from }) => {
        const connection = this.connections.connectionOf(id);
        if (connection?.kind !== 'explicit') return undefined;
        this.connections.heardExplicit(connection);
        const maxAnswer = connection.request.toOriginator.size - 2;
        return {
          answer: this.answer(message, { from, connection: id, maxAnswer }),
          toOriginatorId: connection.toOriginatorId,
        };
      },
    });
    const hear = (packet: Uint8Array) => this.hear(packet);
    this.udp.on('message', (message) => cable.carry('in', message, hear));
  }

  async open(): Promise<void> {
    await this.server.open();
    await bindUdp(this.udp, enip.ioPort, this.options.address);
    this.udp.setMulticastInterface(this.options.address);
    this.stopWatch = this.options.schedule.every(watchMs, (now) => this.connections.watch(now), {
      spread: true,
      patient: true,
    });
  }

  async close(): Promise<void> {
    this.stopWatch?.();
    this.connections.dropAll();
    await Promise.all([this.server.close(), closeUdp(this.udp)]);
  }

  get trouble(): Trouble {
    return this.hasTrouble;
  }
  set trouble(trouble: Trouble) {
    this.hasTrouble = trouble;
    this.connections.frozen = trouble.frozen;
  }

  /** The command assembly that is in use; undefined while no controller owns the outputs. */
  get command(): TargetAssembly | undefined {
    const { owner } = this.connections;
    if (owner) return owner.lastSequence === undefined ? undefined : owner.command;
    return this.setBy && this.assemblyOf(this.setBy.instance);
  }

  /** The controller's program runs, as its last packet said; who sets outputs by explicit messages always runs. */
  get run(): boolean {
    return this.connections.owner?.run ?? this.setBy !== undefined;
  }

  /** What its lights show of the network. */
  get network(): Pick<NetworkState, 'connections' | 'timedOut' | 'conflict' | 'linkUp' | 'run'> {
    return {
      connections: this.connections.open.size,
      timedOut: this.timedOut,
      conflict: this.trouble.twin,
      linkUp: !this.options.cable.pulled,
      run: this.run,
    };
  }

  /** The data of the feedback assemblies may have changed. */
  changed(now: number): void {
    if (!this.connections.watchesChanges) return;
    for (const { use, instance } of this.options.device.assemblies())
      if (use === 'feedback') this.connections.changed(instance, now);
  }

  /** Ends everything that stands, as a device does whose power comes back. */
  restart(): void {
    this.connections.dropAll();
    this.server.endAll();
    this.setBy = undefined;
    this.timedOut = false;
  }

  /** Ends the cyclic connections without a word: what another owner or another layout does to them. */
  dropConnections(): void {
    this.connections.dropAll();
  }

  /** Ends TCP conversations with a reset: two devices at one address answer each other's packets with it. */
  disturbSessions(): void {
    this.server.endAll();
  }

  private answer(message: Reader, caller: Caller): RouterResponse {
    if (this.trouble.busy)
      return emptyResponse(message.left > 0 ? message.u8() : 0, generalStatus.resourceUnavailable);
    return answerReader(this.model, message, caller);
  }

  private facts() {
    const { device } = this.options;
    const { identity, commandFormat, feedbackFormat } = device;
    // A foreign owner holds the outputs: to everybody else they are taken.
    const points = device.cyclic ? device.assemblies() : [];
    return {
      identity: identity(),
      points,
      commandFormat,
      feedbackFormat,
      shortestRpi,
      rpiStep,
      maxConnections,
      ownedByOther: this.trouble.foreignOwner,
    };
  }

  private assemblies() {
    return this.options.device.assemblies().flatMap(({ instance, use, bytes }) => {
      if (use === 'input-only' || use === 'listen-only') return [];
      const set =
        use === 'feedback'
          ? undefined
          : (data: Uint8Array, caller: Caller) => this.setAssembly({ use, instance, bytes }, data, caller);
      return [{ instance, bytes: () => bytes, ...(set ? { set } : {}) }];
    });
  }

  private setAssembly(
    { use, instance, bytes }: Pick<TargetAssembly, 'use' | 'instance' | 'bytes'>,
    data: Uint8Array,
    caller: Caller,
  ): number {
    if (this.connections.owner || this.trouble.foreignOwner) return generalStatus.objectStateConflict;
    bytes.set(data);
    if (use === 'configuration') this.options.device.configure(data);
    else {
      const over =
        caller.connection === undefined ? undefined : this.connections.connectionOf(caller.connection);
      this.setBy = { over, instance };
    }
    return generalStatus.success;
  }

  private assemblyOf(instance: number): TargetAssembly | undefined {
    return this.options.device.assemblies().find((a) => a.instance === instance);
  }

  private counters(): LinkCounters {
    const { packets, bytes, discards } = this.heard;
    const { sent } = this.connections;
    return {
      inPackets: packets,
      inBytes: bytes,
      inDiscards: discards,
      outPackets: sent.packets,
      outBytes: sent.bytes,
    };
  }

  private hear(message: Uint8Array): void {
    this.heard.packets += 1;
    this.heard.bytes += message.length;
    const now = performance.now();
    if (!this.connections.hear(message, now)) this.heard.discards += 1;
    this.options.schedule.runDue(now);
  }
}

function twinMac(mac: Uint8Array): Uint8Array {
  const twin = mac.slice();
  twin[5] = twin[5]! ^ 0xff;
  return twin;
}
