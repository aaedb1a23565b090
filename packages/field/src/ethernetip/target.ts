import { randomInt } from 'node:crypto';
import { createSocket, type Socket as UdpSocket } from 'node:dgram';
import type { AssemblySpec } from '@fadenkreuz/core/behaviours';
import type { Identity } from '@fadenkreuz/core';
import {
  connectionIdOf,
  decodeIoPacket,
  decodeRequest,
  encapsulation as enip,
  encodeIoPacket,
  encodeResponse,
  generalStatus,
  identityStatus,
  isNewer,
  multiplierOf,
  operational,
  Problem,
  type ForwardOpen,
} from '@fadenkreuz/core/cip';
import type { Schedule } from '../schedule.js';
import { bindUdp, closeUdp } from '../udp.js';
import { ExplicitServer } from './explicitServer.js';
import { answerRequest, type TargetConnection, type TargetObjects } from './targetObjects.js';

export interface TargetOptions {
  address: string;
  identity: Identity;
  serialNumber: number;
  assemblies: readonly AssemblySpec[];
  schedule: Schedule;
  /** Configuration data that came with an accepted Forward_Open; empty when it had none. */
  onConfiguration: (data: Uint8Array) => void;
}

interface OpenConnection extends TargetConnection {
  packetSequence: number;
  dataSequence: number;
  lastSequence: number | undefined;
  /** `performance.now()` after which the connection is given up. */
  deadline: number;
  stopSending: () => void;
}

/** Before the first packet a target waits at least this long (CIP Vol. 1, 3-4.5.2). */
const firstPacketWaitMs = 10_000;

/**
 * An EtherNet/IP target with one exclusive-owner class 1 connection. The owner of the object reads `command` and
 * writes `feedback`; everything on the wire is done here.
 */
export class Target {
  private readonly explicit: ExplicitServer;
  private readonly udp: UdpSocket = createSocket('udp4');
  private readonly objects: TargetObjects;
  private connection: OpenConnection | undefined;
  private stopWatch: (() => void) | undefined;
  /** Bytes by assembly instance. */
  readonly assemblies = new Map<number, Uint8Array>();
  /** The controller's program runs, as the last packet said. */
  run = false;

  constructor(private readonly options: TargetOptions) {
    for (const { instance, size } of options.assemblies) this.assemblies.set(instance, new Uint8Array(size));
    this.objects = {
      identity: () => this.identity(),
      assemblies: options.assemblies,
      bytesOf: (instance) => this.assemblies.get(instance),
      connection: () => this.connection,
      open: (connection, data) => this.openConnection(connection, data),
      close: () => this.closeConnection(),
      newConnectionId: () => randomInt(1, 0x7fff_ffff),
    };
    this.explicit = new ExplicitServer({
      address: options.address,
      identity: () => this.identity(),
      route: (message, from) => this.route(message, from),
    });
    this.udp.on('message', (message) => this.hear(message));
  }

  async open(): Promise<void> {
    await this.explicit.open();
    await bindUdp(this.udp, enip.ioPort, this.options.address);
    this.stopWatch = this.options.schedule.every(5, (now) => {
      if (this.connection && now > this.connection.deadline) this.closeConnection();
    });
  }

  async close(): Promise<void> {
    this.stopWatch?.();
    this.closeConnection();
    await Promise.all([this.explicit.close(), closeUdp(this.udp)]);
  }

  /** The command image; undefined while no controller owns the outputs. */
  get command(): Uint8Array | undefined {
    const spec = this.options.assemblies.find((a) => a.use === 'command');
    return this.connection && spec && this.connection.lastSequence !== undefined
      ? this.assemblies.get(spec.instance)
      : undefined;
  }

  private identity() {
    const status = this.connection
      ? identityStatus.owned | identityStatus.connectionRuns
      : identityStatus.noConnection;
    return { ...this.options.identity, serialNumber: this.options.serialNumber, status, state: operational };
  }

  private route(message: Uint8Array, from: string): Uint8Array {
    const service = message[0] ?? 0;
    try {
      return encodeResponse(answerRequest(this.objects, decodeRequest(message), from));
    } catch (error) {
      if (!(error instanceof Problem)) throw error;
      // A request that is cut short is answered, not dropped: the originator must not wait for a timeout.
      return encodeResponse({
        service,
        status: generalStatus.notEnoughData,
        extended: [],
        data: new Uint8Array(),
      });
    }
  }

  private openConnection(wanted: TargetConnection, configuration: Uint8Array): void {
    this.options.onConfiguration(configuration);
    const connection: OpenConnection = {
      ...wanted,
      packetSequence: 0,
      dataSequence: 0,
      lastSequence: undefined,
      deadline: performance.now() + Math.max(firstPacketWaitMs, timeoutOf(wanted.request)),
      stopSending: this.options.schedule.every(wanted.request.toOriginatorRpi / 1000, () =>
        this.send(connection),
      ),
    };
    this.connection = connection;
    setImmediate(() => this.send(connection));
  }

  private closeConnection(): void {
    this.connection?.stopSending();
    this.connection = undefined;
    this.run = false;
  }

  private send(connection: OpenConnection): void {
    if (this.connection !== connection) return;
    connection.packetSequence = (connection.packetSequence + 1) >>> 0;
    connection.dataSequence = (connection.dataSequence + 1) & 0xffff;
    const packet = encodeIoPacket({
      connectionId: connection.toOriginatorId,
      packetSequence: connection.packetSequence,
      dataSequence: connection.dataSequence,
      run: undefined,
      data: this.assemblies.get(connection.feedback.instance)!,
    });
    this.udp.send(packet, enip.ioPort, connection.originator);
  }

  private hear(message: Uint8Array): void {
    const { connection } = this;
    if (!connection || connectionIdOf(message) !== connection.toTargetId) return;
    const command = this.options.assemblies.find((a) => a.use === 'command')!;
    try {
      const packet = decodeIoPacket(message, true);
      if (packet.data.length !== command.size) return;
      if (connection.lastSequence !== undefined && !isNewer(packet.packetSequence, connection.lastSequence))
        return;
      connection.lastSequence = packet.packetSequence;
      connection.deadline = performance.now() + timeoutOf(connection.request);
      this.run = packet.run === true;
      this.assemblies.get(command.instance)!.set(packet.data);
    } catch (error) {
      // A packet that is cut off is no packet of this connection; the watch above notices when none are left.
      if (!(error instanceof Problem)) throw error;
    }
  }
}

/** How long a target waits for the next packet, ms. */
const timeoutOf = (request: ForwardOpen): number =>
  (request.toTargetRpi / 1000) * multiplierOf(request.timeoutMultiplier);
