import {
  decode,
  encapsulation as enip,
  encode,
  Problem,
  writeResponse,
  type IdentityFacts,
  type Reader,
  type RouterResponse,
} from '@fadenkreuz/core/ethernet-ip';
import type { Cable } from '../../wire/cable.js';
import { allocate } from '../../wire/allocate.js';
import { StreamServer, type Conversation } from '../../wire/streamServer.js';
import { bindUdp, closeUdp, udpSocket } from '../../wire/udp.js';

/** Where an explicit message came from and how it came. */
export interface ExplicitCaller {
  from: string;
  session: number;
  /** UDP port at which it wants cyclic packets, where the message names one. */
  ioPort?: number | undefined;
}

/** An answer with the items that go beside it, such as a multicast address. */
export interface ExplicitAnswer {
  answer: RouterResponse;
  items: readonly enip.Item[];
}

export interface EncapsulationServerOptions {
  address: string;
  cable: Cable;
  slowMs: () => number;
  /** s without traffic after which a session ends; 0 never. */
  inactivityTimeout: () => number;
  /** What ListIdentity answers, one item for each device that stands at the address. */
  identities: () => IdentityFacts[];
  /** Answers one unconnected message. */
  unconnected: (message: Reader, caller: ExplicitCaller) => ExplicitAnswer;
  /** Answers one message over a class 3 connection; undefined when there is no such connection. */
  connected: (
    connectionId: number,
    message: Reader,
    caller: ExplicitCaller,
  ) => { answer: RouterResponse; toOriginatorId: number } | undefined;
}

const { commands, encapsulationStatus: status, itemTypes } = enip;
type Frame = enip.EncapsulationFrame;

/** Broadcast address of 127.0.0.0/8. */
const loopbackBroadcast = '127.255.255.255';

/** A device keeps no more sessions than this; it hears a few clients more, to tell them so. */
const maxSessions = 248;
const maxClients = 256;

/** A client that was silent for so long may lose its place, ms. */
const silentMs = 1000;

/**
 * The explicit side of a target: TCP and UDP port 44818, sessions, the list commands, SendRRData and SendUnitData
 * (CIP Vol. 2, chapter 2).
 */
export class EncapsulationServer {
  private readonly stream: StreamServer<Frame>;
  private readonly udp = udpSocket();
  /** Hears what is sent to everybody; the answer leaves from the device's own address. */
  private readonly broadcasts = udpSocket(true);
  private lastSession = 0;
  private sessions = 0;

  constructor(private readonly options: EncapsulationServerOptions) {
    const { address, cable, slowMs } = options;
    this.stream = new StreamServer({
      silentMs,
      address,
      port: enip.explicitPort,
      cable,
      slowMs,
      take: enip.takeFrame,
      maxClients,
      idleMs: () => options.inactivityTimeout() * 1000,
      converse: (client) => this.converse(client),
    });
    const answerList = (message: Uint8Array, from: { address: string; port: number }) => {
      if (cable.pulled) return;
      const { frame } = enip.takeFrame(message);
      // Over UDP only the list commands are answered (Vol. 2, 2-3.2).
      if (!frame || !overUdp.has(frame.command)) return;
      for (const answer of this.listAnswers(frame)) this.udp.send(answer, from.port, from.address);
    };
    this.udp.on('message', answerList);
    this.broadcasts.on('message', answerList);
  }

  async open(): Promise<void> {
    await this.stream.open();
    await bindUdp(this.udp, enip.explicitPort, this.options.address);
    await bindUdp(this.broadcasts, enip.explicitPort, loopbackBroadcast);
  }

  async close(): Promise<void> {
    await Promise.all([this.stream.close(), closeUdp(this.udp), closeUdp(this.broadcasts)]);
  }

  /** Ends every session with a reset, as a device does that starts anew. */
  endAll(): void {
    this.stream.endAll();
  }

  private converse(client: { address: string; end: () => void }): Conversation<Frame> {
    const caller = { from: client.address, session: 0 };
    return {
      answer: (frame) => {
        if (frame.command === commands.unRegisterSession) {
          client.end();
          return undefined;
        }
        if (frame.command === commands.registerSession) {
          const verdict = caller.session ? status.unsupportedCommand : this.acceptable(frame);
          if (verdict === status.success) {
            caller.session = this.lastSession += 1;
            this.sessions += 1;
          }
          const { session } = caller;
          return enip.encodeFrame({ ...frame, session, status: verdict, data: acceptedVersion });
        }
        return this.answer(frame, caller);
      },
      ended: () => {
        if (caller.session) this.sessions -= 1;
      },
    };
  }

  private acceptable(frame: Frame): number {
    const verdict = acceptable(frame);
    if (verdict !== status.success) return verdict;
    return this.sessions < maxSessions ? status.success : status.insufficientMemory;
  }

  private answer(frame: Frame, caller: ExplicitCaller): Uint8Array | undefined {
    const known = caller.session !== 0 && frame.session === caller.session;
    switch (frame.command) {
      case commands.nop:
        return undefined;
      case commands.listIdentity:
      case commands.listServices:
      case commands.listInterfaces:
        return this.listAnswers(frame)[0];
      case commands.sendRRData:
        return known ? this.unconnected(frame, caller) : refusal(frame, status.invalidSession);
      case commands.sendUnitData:
        return known ? this.connected(frame, caller) : refusal(frame, status.invalidSession);
      default:
        return refusal(frame, status.unsupportedCommand);
    }
  }

  /** Several devices at one address answer each for itself; that is how a double address is seen. */
  private listAnswers(frame: Frame): Uint8Array[] {
    if (frame.data.length > 0) return [refusal(frame, status.invalidLength)];
    const reply = (items: enip.Item[]) =>
      enip.encodeFrame({ ...frame, status: status.success, data: encode(enip.items, items) });
    if (frame.command === commands.listServices)
      return [reply([{ type: itemTypes.services, data: servicesItem }])];
    if (frame.command === commands.listInterfaces) return [reply([])];
    const socket = enip.socketItem(this.options.address, enip.explicitPort);
    return this.options
      .identities()
      .map((identity) =>
        reply([
          { type: itemTypes.identity, data: encode(enip.identityItem, { version: 1, socket, ...identity }) },
        ]),
      );
  }

  private unconnected(frame: Frame, caller: ExplicitCaller): Uint8Array {
    const message = itemOf(frame, itemTypes.unconnectedData);
    if (!message || !enip.holdsItsItems(frame.data)) return refusal(frame, status.incorrectData);
    const ioPort = portIn(frame);
    const { answer, items: more } = this.options.unconnected(
      message,
      ioPort === undefined ? caller : { ...caller, ioPort },
    );
    const { command, session, contextLow, contextHigh } = frame;
    const head = enip.messageFrame({ command, session, contextLow, contextHigh, more });
    return enip.encodeMessageFrame(head, (to) => writeResponse(to, answer), allocate);
  }

  private connected(frame: Frame, caller: ExplicitCaller): Uint8Array | undefined {
    const address = itemOf(frame, itemTypes.connectedAddress);
    const message = itemOf(frame, itemTypes.connectedData);
    if (address?.left !== 4 || !message || message.left < 4 || !enip.holdsItsItems(frame.data))
      return refusal(frame, status.incorrectData);
    const sequence = message.u16();
    const answer = this.options.connected(address.u32(), message, caller);
    // A message over a connection that is gone is dropped; the originator sees its own timeout (Vol. 1, 3-5).
    if (!answer) return undefined;
    const { command, session, contextLow, contextHigh } = frame;
    const connection = answer.toOriginatorId;
    const head = enip.messageFrame({ command, session, contextLow, contextHigh, connection });
    return enip.encodeMessageFrame(
      head,
      (to) => {
        to.u16(sequence);
        writeResponse(to, answer.answer);
      },
      allocate,
    );
  }
}

const overUdp = new Set<number>([commands.listIdentity, commands.listServices, commands.listInterfaces]);

const refusal = (frame: Frame, code: number): Uint8Array =>
  enip.encodeFrame({ ...frame, status: code, data: new Uint8Array() });

/** An item of a message for the CIP interface; undefined when there is none, or when the message is cut off. */
function itemOf(frame: Frame, type: number): Reader | undefined {
  try {
    return enip.itemIn(frame.data, type);
  } catch (error) {
    if (error instanceof Problem) return undefined;
    throw error;
  }
}

/** The port in the socket address item of an originator that hears at another one than the usual (Vol. 2, 3-3.9). */
function portIn(frame: Frame): number | undefined {
  // Most messages have an address and the message alone: they are not searched a second time.
  if (frame.data[6]! <= 2) return undefined;
  const item = itemOf(frame, itemTypes.socketToOriginator);
  if (item?.left !== enip.socketItemBytes) return undefined;
  item.u16();
  return item.u16be() || undefined;
}

/** The highest version that is known comes back with a refusal too (Vol. 2, 2-4.4.3). */
const acceptedVersion = encode(enip.registerSession, { version: 1, options: 0 });

function acceptable(frame: Frame): number {
  if (frame.data.length !== 4) return status.invalidLength;
  const { version, options } = decode(enip.registerSession, frame.data, 'RegisterSession');
  if (version !== 1) return status.unsupportedRevision;
  return options === 0 && frame.options === 0 ? status.success : status.unsupportedRevision;
}

const servicesItem = encode(enip.serviceItem, {
  version: 1,
  capabilities: enip.serviceCapabilities,
  name: new TextEncoder().encode('Communications'),
});
