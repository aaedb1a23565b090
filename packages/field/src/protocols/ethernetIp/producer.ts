import { OutgoingPacket, packetSize, type Opening } from '@fadenkreuz/core/ethernet-ip';
import type { PacketSender } from '../../timing/packetBeats.js';
import type { Schedule } from '../../timing/schedule.js';
import type { Cable } from '../../wire/cable.js';
import type { TargetAssembly } from './targetDevice.js';

export type Deliver = (packet: Uint8Array, address: string) => void;

/** What all streams of a target share. */
export interface ProducerContext {
  /** Address of the target. */
  address: string;
  schedule: Schedule;
  cable: Cable;
  /** Puts a packet on its way, behind the cable; to the usual port, or to another. */
  deliver: Deliver;
  deliverTo: (port: number) => Deliver;
  /** The data of a frozen device are not new. */
  frozen: boolean;
  /** Whether an owner that hears this stream has its program running. */
  runs: (stream: Producer) => boolean;
  /** Packets and bytes that were sent. */
  sent: { packets: number; bytes: number };
}

/**
 * One stream of packets from a target: of one connection, or of all that share a multicast group. A hot path: hundreds
 * of streams send in turn, so it is its packet, and touches as little else as it can (bench/cyclic).
 */
export class Producer extends OutgoingPacket implements PacketSender {
  /** Connections that hear this stream. */
  consumers = 1;
  readonly multicast: boolean;
  /** Packet interval that is kept, µs. */
  readonly apiUs: number;
  /** Undefined for a cyclic trigger: then only the time counts. */
  private readonly changes: { inhibitMs: number; last: Uint8Array; sentAt: number } | undefined;
  /** Its format has a run/idle word. */
  private readonly tellsRun: boolean;
  private readonly stopBeat: () => void;

  /** `address`: of the originator, or of the group. */
  constructor(
    readonly id: number,
    readonly assembly: TargetAssembly,
    readonly address: string,
    { feedback, feedbackFormat, multicast, trigger, inhibitUs, toOriginatorApi }: Opening,
    private readonly context: ProducerContext,
    private readonly deliver: Deliver = context.deliver,
  ) {
    const { size } = feedback!;
    super(id, feedbackFormat, size, Buffer.allocUnsafe(packetSize(feedbackFormat, size)).fill(0));
    this.multicast = multicast;
    this.apiUs = toOriginatorApi;
    this.tellsRun = feedbackFormat === 'run-idle';
    this.changes =
      trigger === 'change-of-state'
        ? { inhibitMs: inhibitUs / 1000, last: new Uint8Array(size), sentAt: 0 }
        : undefined;
    this.stopBeat = context.schedule.packets(toOriginatorApi / 1000, this, context.address);
    // The first packet follows the answer, so that the originator knows the connection before it comes.
    setImmediate(() => this.send(performance.now()));
  }

  /** Sends its packet now. */
  send(now: number): void {
    if (this.consumers === 0) return;
    const { assembly, changes, context } = this;
    const { bytes } = assembly;
    if (changes) {
      changes.last.set(bytes);
      changes.sentAt = now;
    }
    const run = this.tellsRun && context.runs(this);
    const next = this.next(bytes, run, !context.frozen);
    context.sent.packets += 1;
    context.sent.bytes += next.length;
    context.cable.carry('out', next, this.deliver, this.address);
  }

  get watchesChanges(): boolean {
    return this.changes !== undefined;
  }

  /** The data may have changed: a stream with that trigger sends at once, but for its production inhibit time. */
  changed(now: number): void {
    const { changes } = this;
    if (!changes || now - changes.sentAt < changes.inhibitMs) return;
    if (Buffer.compare(this.assembly.bytes, changes.last) !== 0) this.send(now);
  }

  stop(): void {
    this.stopBeat();
  }
}
