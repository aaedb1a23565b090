import { randomInt } from 'node:crypto';
import {
  classes,
  connectionIdOf,
  decode,
  decodeUnconnectedSend,
  encapsulation as enip,
  encode,
  extendedStatus,
  forwardClose,
  forwardClosed,
  forwardOpen,
  forwardOpened,
  forwardRefused,
  generalStatus,
  isNewer,
  judgeOpening,
  largeForwardOpen,
  multiplierOf,
  readPacket,
  routeRefusal,
  sameTriad,
  services,
  single,
  triadOf,
  type Caller,
  type RouterResponse,
  type CipClass,
  type ForwardOpen,
  type Opening,
  type Outcome,
  type RealTimeFormat,
  type StandingConnection,
  type TargetFacts,
} from '@fadenkreuz/core/ethernet-ip';
import { attended } from '../../timing/attendedTime.js';
import { Producer, type ProducerContext } from './producer.js';
import type { TargetAssembly } from './targetDevice.js';

/** Before the first packet a target waits at least this long (CIP Vol. 1, 3-4.5.2). */
const firstPacketWaitMs = 10_000;

export interface Connection extends StandingConnection {
  opening: Opening;
  toTargetId: number;
  toOriginatorId: number;
  originator: string;
  producer: Producer | undefined;
  /** What its packets write to; undefined for a connection that carries no data towards the device. */
  command: TargetAssembly | undefined;
  commandFormat: RealTimeFormat;
  lastSequence: number | undefined;
  /** Attended time after which the connection is given up. */
  deadline: number;
  timeoutMs: number;
  /** As the last packet of the owner said. */
  run: boolean;
}

export interface ConnectionsOptions extends Pick<
  ProducerContext,
  'address' | 'schedule' | 'cable' | 'deliver' | 'deliverTo'
> {
  /** Mask of the subnet that the device stands in; gives its multicast group. */
  mask: () => number;
  /** What the device is at this moment. */
  facts: () => Omit<TargetFacts, 'connections'>;
  /** Looked up once for a connection: a device whose assemblies change ends its connections. */
  assemblyOf: (instance: number) => TargetAssembly | undefined;
  /** Answers the message inside an Unconnected_Send. */
  message: (message: Uint8Array, caller: Caller) => RouterResponse;
  onOpened: (connection: Connection) => void;
  /** Why: closed by the originator, timed out, or by the device itself. */
  onEnded: (connection: Connection, why: 'closed' | 'timed-out' | 'dropped') => void;
}

/** Bits of a connection id that are its place; a target keeps far fewer connections. */
const placeBits = 8;
const placeMask = (1 << placeBits) - 1;

const noItems: readonly enip.Item[] = [];

/** The Connection Manager of a target, class 6, and the connections that it keeps (CIP Vol. 1, 3-5). */
export class Connections {
  readonly open = new Set<Connection>();
  /** By the place that is part of their ids: what comes finds its connection without a search (bench/cyclic). */
  private readonly places: (Connection | undefined)[] = [];
  private readonly producers = new Set<Producer>();
  private changeTriggers = 0;
  /** No connection is given up before, in attended time. */
  private earliest = Infinity;
  /** Packets and bytes that were sent. */
  readonly sent = { packets: 0, bytes: 0 };
  private readonly streams: ProducerContext;

  constructor(private readonly options: ConnectionsOptions) {
    const { address, schedule, cable, deliver, deliverTo } = options;
    this.streams = {
      address,
      schedule,
      cable,
      deliver,
      deliverTo,
      frozen: false,
      runs: (stream) => this.runs(stream),
      sent: this.sent,
    };
  }

  /** The connection whose originator owns the outputs. */
  owner: Connection | undefined;

  connectionOf(toTargetId: number): Connection | undefined {
    const connection = this.places[toTargetId & placeMask];
    return connection?.toTargetId === toTargetId ? connection : undefined;
  }

  /** Whether the data of the device stand still: then what is sent is not called new. */
  set frozen(frozen: boolean) {
    this.streams.frozen = frozen;
  }

  /** The object itself, for the Message Router. */
  object(): CipClass {
    return single(classes.connectionManager, {
      attributes: {},
      services: {
        [services.forwardOpen]: ({ data }, caller) =>
          this.opened(decode(forwardOpen, data, 'Forward_Open'), caller, false),
        [services.largeForwardOpen]: ({ data }, caller) =>
          this.opened(decode(largeForwardOpen, data, 'Large_Forward_Open'), caller, true),
        [services.forwardClose]: ({ data }) => this.closed(data),
        [services.unconnectedSend]: ({ data }, caller) => this.passOn(data, caller),
      },
    });
  }

  /** The socket address item that tells the originator the multicast group; none for other answers. */
  itemsFor({ service, status, data }: RouterResponse): readonly enip.Item[] {
    const isOpening = service === services.forwardOpen || service === services.largeForwardOpen;
    if (!isOpening || status !== generalStatus.success) return noItems;
    const { toTargetId } = decode(forwardOpened, data, 'answer to Forward_Open');
    const producer = this.connectionOf(toTargetId)?.producer;
    if (!producer?.multicast) return noItems;
    const group = encode(enip.socketAddress, enip.socketItem(producer.address, enip.ioPort));
    return [{ type: enip.itemTypes.socketToOriginator, data: group }];
  }

  /** A packet that came to the cyclic port. False when it belongs to no connection and is dropped. */
  hear(message: Uint8Array, now: number): boolean {
    const id = connectionIdOf(message);
    const connection = id === undefined ? undefined : this.connectionOf(id);
    if (!connection || connection.kind === 'explicit') return false;
    const { command } = connection;
    const packet = readPacket(message, connection.commandFormat, command?.size ?? 0);
    if (!packet) return false;
    if (connection.lastSequence !== undefined && !isNewer(packet.packetSequence, connection.lastSequence))
      return false;
    connection.lastSequence = packet.packetSequence;
    this.keep(connection, attended(now));
    if (!command) return true;
    connection.run = packet.run ?? true;
    const { bytes } = command;
    for (let i = packet.dataFrom, j = 0; i < message.length; i += 1, j += 1) bytes[j] = message[i]!;
    return true;
  }

  /** A request over a class 3 connection keeps it alive. */
  heardExplicit(connection: Connection): void {
    this.keep(connection, attended());
  }

  private keep(connection: Connection, time: number): void {
    connection.deadline = time + connection.timeoutMs;
    // The first packet brings the deadline forward, from the longer wait for it; every other moves it away.
    if (connection.deadline < this.earliest) this.earliest = connection.deadline;
  }

  /** Ends what has been silent for too long. */
  watch(now: number): void {
    const time = attended(now);
    // Until the earliest deadline that was seen, there is nothing to look at.
    if (time <= this.earliest) return;
    for (const connection of this.open) if (time > connection.deadline) this.end(connection, 'timed-out');
    this.earliest = Math.min(...[...this.open].map((c) => c.deadline));
  }

  /** Some connection sends when its data change. */
  get watchesChanges(): boolean {
    return this.changeTriggers > 0;
  }

  /** Called when the data of an instance may have changed: connections with that trigger send at once. */
  changed(instance: number, now: number): void {
    for (const producer of this.producers) if (producer.assembly.instance === instance) producer.changed(now);
  }

  /** Ends all connections without a word, as a device does that loses its power. */
  dropAll(): void {
    for (const connection of this.open) this.end(connection, 'dropped');
  }

  private opened(request: ForwardOpen, caller: Caller, large: boolean): Outcome {
    const facts = { ...this.options.facts(), connections: [...this.open] };
    const verdict = judgeOpening(facts, request, large);
    if ('refusal' in verdict)
      return {
        status: generalStatus.connectionFailure,
        extended: verdict.refusal,
        data: encode(forwardRefused, { ...triadOf(request), remainingPath: 0, reserved: 0 }),
      };
    const { opening } = verdict;
    // The consumer chooses the connection id of a point-to-point direction, the producer that of multicast (CIP Vol. 1,
    // 3-7.2).
    const toTargetId = this.newId();
    const producer = opening.feedback && this.producerFor(opening, request, caller);
    const api = producer?.apiUs ?? opening.toOriginatorApi;
    const timeoutMs = (opening.toTargetApi / 1000) * multiplierOf(request.timeoutMultiplier);
    const connection: Connection = {
      kind: opening.kind,
      feedback: opening.feedback,
      request,
      opening,
      toTargetId,
      toOriginatorId: producer?.id ?? request.toOriginatorId,
      originator: caller.from,
      producer,
      command:
        opening.kind === 'exclusive-owner' && opening.command
          ? this.options.assemblyOf(opening.command.instance)
          : undefined,
      commandFormat: opening.commandFormat,
      lastSequence: undefined,
      deadline: attended() + Math.max(firstPacketWaitMs, timeoutMs),
      timeoutMs,
      run: false,
    };
    this.open.add(connection);
    this.earliest = Math.min(this.earliest, connection.deadline);
    this.places[toTargetId & placeMask] = connection;
    if (connection.kind === 'exclusive-owner') this.owner = connection;
    this.options.onOpened(connection);
    return {
      data: encode(forwardOpened, {
        toTargetId,
        toOriginatorId: connection.toOriginatorId,
        ...triadOf(request),
        toTargetApi: opening.toTargetApi,
        toOriginatorApi: api,
        applicationWords: 0,
        reserved: 0,
      }),
    };
  }

  private closed(data: Uint8Array): Outcome {
    const wanted = decode(forwardClose, data, 'Forward_Close');
    const found = [...this.open].find((c) => sameTriad(c.request, wanted));
    const triad = triadOf(wanted);
    if (!found)
      return {
        status: generalStatus.connectionFailure,
        extended: [extendedStatus.connectionNotFound],
        data: encode(forwardRefused, { ...triad, remainingPath: 0, reserved: 0 }),
      };
    this.end(found, 'closed');
    return { data: encode(forwardClosed, { ...triad, applicationWords: 0, reserved: 0 }) };
  }

  /** Unconnected_Send: the message within it is meant for this device, for it leads nowhere else. */
  private passOn(data: Uint8Array, caller: Caller): Outcome {
    const { message, route } = decodeUnconnectedSend(data);
    if (message[0] === undefined) return { status: generalStatus.notEnoughData };
    const astray = routeRefusal(route);
    if (astray !== undefined)
      return {
        status: generalStatus.connectionFailure,
        extended: [astray],
        data: Uint8Array.of(route.length),
      };
    // An Unconnected_Send inside another could go round without end.
    if (message[0] === services.unconnectedSend) return { status: generalStatus.serviceNotSupported };
    // The answer to the inner request comes back as if it had been asked directly (Vol. 1, 3-5.5.4.3).
    return this.options.message(message, caller);
  }

  private producerFor(opening: Opening, request: ForwardOpen, { from, ioPort }: Caller): Producer {
    const { instance } = opening.feedback!;
    // It was chosen among the assemblies of the device a moment ago.
    const assembly = this.options.assemblyOf(instance)!;
    const shared = opening.multicast
      ? [...this.producers].find((p) => p.multicast && p.assembly.instance === instance)
      : undefined;
    if (shared) {
      shared.consumers += 1;
      return shared;
    }
    const id = opening.multicast ? this.newId() : request.toOriginatorId;
    const { address, mask } = this.options;
    const to = opening.multicast ? enip.multicastGroup(enip.addressNumber(address), mask()) : from;
    const own = opening.multicast || ioPort === undefined ? undefined : this.streams.deliverTo(ioPort);
    const producer = new Producer(id, assembly, to, opening, this.streams, own);
    this.producers.add(producer);
    if (producer.watchesChanges) this.changeTriggers += 1;
    return producer;
  }

  private end(connection: Connection, why: 'closed' | 'timed-out' | 'dropped'): void {
    if (!this.open.delete(connection)) return;
    this.places[connection.toTargetId & placeMask] = undefined;
    if (this.owner === connection) this.owner = undefined;
    const { producer } = connection;
    if (producer && (producer.consumers -= 1) === 0) {
      producer.stop();
      this.producers.delete(producer);
      if (producer.watchesChanges) this.changeTriggers -= 1;
    }
    this.options.onEnded(connection, why);
    // Who only listens has nothing left to hear once the last one has gone that made the device send (Vol. 1, 3-6.4.2).
    const others = [...this.open];
    const instance = connection.feedback?.instance;
    const fed = others.some((c) => c.feedback?.instance === instance && c.kind !== 'listen-only');
    if (!fed)
      for (const listener of others)
        if (listener.kind === 'listen-only' && listener.feedback?.instance === instance)
          this.end(listener, 'dropped');
  }

  /** Whether an owner that hears this stream has its program running. */
  private runs(producer: Producer): boolean {
    for (const connection of this.open) if (connection.producer === producer && connection.run) return true;
    return false;
  }

  /** An id that nobody uses yet, for a packet to this device or to a group; it ends in a free place. */
  private newId(): number {
    let place = 0;
    while (this.places[place]) place += 1;
    return (randomInt(1, 2 ** (31 - placeBits)) << placeBits) | place;
  }
}
