import { blockBytes, type Block, type Link } from '../cell/link.js';
import { wrappedSize } from '../cip/ioPacket.js';
import { limits } from '../modbus/pdu.js';
import { readPlan } from '../modbus/readPlan.js';
import { portShare, wireBytes, type Transport } from './frames.js';

/** What one direction of a link asks of the network. */
export interface DirectionBudget {
  /** Payload of its longest packet behind UDP or TCP, bytes, and that packet on the wire with all headers and the gap. */
  payload: number;
  wire: number;
  packetsPerSecond: number;
  /** On the wire. */
  bytesPerSecond: number;
  /** Share of the port in this direction. */
  share: number;
}

export interface LinkBudget {
  /** Controller → device. */
  command: DirectionBudget;
  /** Device → controller. */
  feedback: DirectionBudget;
  packetsPerSecond: number;
  /** From a change at the device until a command that answers it has come back, without what the device itself takes, ms. */
  reaction: { typical: number; worst: number };
  /** Until a side calls the link lost after the last packet, ms. */
  lossNoticed: number;
}

/** Packets of one size. */
interface Stream {
  payload: number;
  perSecond: number;
}

/** Item count, sequenced address item and head of the data item of a class 1 packet (CIP Vol. 2, 2-6). */
const packetHead = 2 + 12 + 4;
/** Encapsulation header, interface handle and timeout, item count, null address item, head of the data item (CIP Vol. 2, 2-3, 2-4.7). */
const unconnectedHead = 24 + 6 + 2 + 4 + 4;
/** A connection id in the address item, and a sequence count before the message (CIP Vol. 2, 2-4.8). */
const connectedMore = 4 + 2;
/** Service and path length; service, status and size of what is added to it (CIP Vol. 1, 2-4). */
const questionHead = 2;
const answerHead = 4;
/** Header of a Modbus TCP message, function code included (Application Protocol V1.1b3, 4.1). */
const modbusHead = 8;
/**
 * Around the data of a PROFINET real time frame: VLAN tag, frame id, cycle counter, data and transfer status; the data take at least 40 bytes
 * (IEC 61158-6-10, from memory).
 */
const realTime = { around: 4 + 2 + 4, leastData: 40 } as const;
/** The rate that shares are counted in where nothing else is said, Mbit/s: what most devices have. */
const usualPort = 100;

/**
 * What a link costs and how quick it is. `cycleMs` is the controller's program cycle, `mbits` the rate of the ports. Links that ask at
 * a poll time send a question and get an answer each; acknowledgements that travel alone come on top.
 *
 * Worst reaction: the change just misses a feedback packet, that packet just misses the start of a cycle, its answer just misses a
 * command packet; typically half of each wait, and the cycle itself.
 */
export function linkBudget(link: Link, cycleMs: number, mbits: number = usualPort): LinkBudget {
  const { command, feedback, transport } = streamsOf(link);
  const direction = (streams: readonly Stream[]): DirectionBudget => {
    const payload = Math.max(0, ...streams.map((s) => s.payload));
    const sum = (of: (stream: Stream) => number) => streams.reduce((total, s) => total + of(s), 0);
    const bytesPerSecond = sum((s) => wireBytes(s.payload, transport) * s.perSecond);
    return {
      payload,
      wire: wireBytes(payload, transport),
      packetsPerSecond: sum((s) => s.perSecond),
      bytesPerSecond,
      share: portShare(bytesPerSecond, mbits),
    };
  };
  const [out, back] = updatesOf(link);
  const [toDevice, toController] = [direction(command), direction(feedback)];
  return {
    command: toDevice,
    feedback: toController,
    packetsPerSecond: toDevice.packetsPerSecond + toController.packetsPerSecond,
    reaction: { typical: back / 2 + cycleMs / 2 + cycleMs + out / 2, worst: back + cycleMs + cycleMs + out },
    lossNoticed: lossNoticedMs(link, back),
  };
}

/** The times between two packets or questions of each direction, ms; the slowest block counts. */
function updatesOf(link: Link): [command: number, feedback: number] {
  if (link.protocol !== 'modbus-tcp') return [link.commandRpi / 1000, link.feedbackRpi / 1000];
  const slowest = (direction: Block['direction']) =>
    Math.max(0, ...link.blocks.filter((b) => b.direction === direction).map((b) => b.poll)) / 1000;
  return [slowest('command'), slowest('feedback')];
}

/** On a Modbus link the quickest block says how long silence is too long, and a tenth of a second is never too long. */
function lossNoticedMs({ protocol, blocks, timeoutMultiplier }: Link, backMs: number): number {
  if (protocol !== 'modbus-tcp') return backMs * timeoutMultiplier;
  const quickest = Math.min(...blocks.map((b) => b.poll), 1_000_000) / 1000;
  return Math.max(quickest * timeoutMultiplier, 100);
}

function streamsOf(link: Link): { command: Stream[]; feedback: Stream[]; transport: Transport } {
  if (link.protocol === 'modbus-tcp') return { ...registerStreams(link.blocks), transport: 'tcp' };
  if (link.connection.startsWith('polled')) return { ...polledStreams(link), transport: 'tcp' };
  if (link.protocol === 'profinet') {
    // Each submodule adds one byte of provider status to its own data, and one of consumer status the other way.
    const bytes = (data: number) => realTime.around + Math.max(realTime.leastData, data + link.slots.length);
    return {
      command: [{ payload: bytes(link.command.size), perSecond: 1e6 / link.commandRpi }],
      feedback: [{ payload: bytes(link.feedback.size), perSecond: 1e6 / link.feedbackRpi }],
      transport: 'ethernet',
    };
  }
  const owner = link.connection === 'exclusive-owner';
  // Who only listens sends an empty packet, so that the device knows that it is there.
  const sent = owner ? wrappedSize(link.commandFormat, link.command.size) : wrappedSize('heartbeat', 0);
  const back = wrappedSize(link.feedbackFormat, link.feedback.size);
  return {
    command: [{ payload: packetHead + sent, perSecond: 1e6 / link.commandRpi }],
    feedback: [{ payload: packetHead + back, perSecond: 1e6 / link.feedbackRpi }],
    transport: 'udp',
  };
}

/** Get and Set_Attribute_Single of assemblies. */
function polledStreams(link: Link): { command: Stream[]; feedback: Stream[] } {
  const head = unconnectedHead + (link.connection === 'polled-connected' ? connectedMore : 0);
  // Class, instance, attribute: two bytes each, four where the number does not fit one (CIP Vol. 1, C-1.4.2).
  const path = (instance: number) => 4 + (instance > 0xff ? 4 : 2);
  const writes = link.command.size > 0 ? [link.command] : [];
  const exchange = [
    ...writes.map(({ instance, size }) => ({
      question: head + questionHead + path(instance) + size,
      answer: head + answerHead,
      perSecond: 1e6 / link.commandRpi,
    })),
    {
      question: head + questionHead + path(link.feedback.instance),
      answer: head + answerHead + link.feedback.size,
      perSecond: 1e6 / link.feedbackRpi,
    },
  ];
  return {
    command: exchange.map(({ question, perSecond }) => ({ payload: question, perSecond })),
    feedback: exchange.map(({ answer, perSecond }) => ({ payload: answer, perSecond })),
  };
}

/** Reads of 4 bytes behind the head and answers with a byte count; writes with 5 more and answers of 4 (V1.1b3, 6.1 to 6.12). */
function registerStreams(blocks: readonly Block[]): { command: Stream[]; feedback: Stream[] } {
  const exchange = blocks.flatMap((block) => {
    const bits = block.table === 'coils' || block.table === 'discrete';
    const perSecond = 1e6 / block.poll;
    const reads = block.direction === 'feedback';
    const most = limits[`${reads ? 'read' : 'write'}${bits ? 'Bits' : 'Registers'}`];
    return readPlan([block], most).map((part) => {
      const data = blockBytes({ table: block.table, count: part.count });
      return reads
        ? { question: modbusHead + 4, answer: modbusHead + 1 + data, perSecond }
        : { question: modbusHead + 5 + data, answer: modbusHead + 4, perSecond };
    });
  });
  return {
    command: exchange.map(({ question, perSecond }) => ({ payload: question, perSecond })),
    feedback: exchange.map(({ answer, perSecond }) => ({ payload: answer, perSecond })),
  };
}

/** Update times are chosen in steps of this, ms: common practice, no source. */
const stepMs = 10;

/**
 * The longest update time, the same both ways and at least one step, with which a reaction comes in `wantedMs` at the worst; undefined
 * when the cycle alone takes longer.
 */
export function longestUpdate(wantedMs: number, cycleMs: number): number | undefined {
  const each = (wantedMs - 2 * cycleMs) / 2;
  if (each <= 0) return undefined;
  return each < stepMs ? each : Math.floor(each / stepMs) * stepMs;
}

/** Losses of one packet in so many make a longer update time worth a try; common practice, no source. */
const lossesThatCount = 0.005;

/**
 * A longer update time for a link that drops packets, ms: one step of 10 ms, two where more than one packet in twenty is lost (common
 * practice, no source). Undefined while next to nothing is lost.
 */
export function longerUpdate(updateMs: number, lostShare: number): number | undefined {
  if (lostShare < lossesThatCount) return undefined;
  return Math.ceil((updateMs + (lostShare > 0.05 ? 2 * stepMs : stepMs)) / stepMs) * stepMs;
}
