import {
  class3,
  classes,
  decode,
  encapsulation as enip,
  encode,
  encodePath,
  forwardClose,
  forwardOpen,
  forwardOpened,
  logical,
  multiplierCode,
  readResponse,
  services,
  statusText,
  writeRequest,
  type RouterRequest,
  type RouterResponse,
} from '@fadenkreuz/core/ethernet-ip';
import type { LinkBase } from '@fadenkreuz/core';
import { ipEnd, type LinkEnds } from '../ends.js';
import type { Tap } from '../../capture/tap.js';
import type { Reach } from '../../wire/reach.js';
import { allocate } from '../../wire/allocate.js';
import { StreamClient, type CutOff } from '../../wire/streamClient.js';
import type { ConnectionName } from './openRequest.js';

export interface ExplicitClientOptions {
  address: string;
  localAddress?: string | undefined;
  tap?: Tap | undefined;
  reach?: Reach | undefined;
  cut?: CutOff | undefined;
}

/** What a client needs to know of the ends of a link. */
export const clientOptions = ({
  end,
  localAddress,
  cut,
}: Pick<LinkEnds<LinkBase>, 'end' | 'localAddress' | 'cut'>): ExplicitClientOptions => ({
  address: ipEnd(end).address,
  localAddress,
  cut,
});

/** How long an answer may take before the request counts as lost. */
export const answerLimitMs = 2000;

/** An answer, and the item that was asked for beside it, such as a multicast address. */
export interface ExplicitResponse extends RouterResponse {
  beside?: Uint8Array | undefined;
}

/** A class 3 connection as the originator keeps it. */
interface Connected {
  name: ConnectionName;
  toTargetId: number;
  sequence: number;
}

const { commands, itemTypes } = enip;
const managerPath = [logical('class', classes.connectionManager), logical('instance', 1)];
const routerPath = encodePath([logical('class', classes.messageRouter), logical('instance', 1)]);

/** Keys above all contexts: answers over a connection are found by their sequence count. */
const connectedKey = 0x1_0000_0000;

function keyOf({ command, contextLow, data }: enip.EncapsulationFrame): number {
  if (command !== commands.sendUnitData) return contextLow;
  // Connected address item (8 bytes), then type, length and sequence count of the data item.
  return data.length < 22 ? -1 : connectedKey + (data[20]! | (data[21]! << 8));
}

/**
 * An encapsulation session with a target: registers, asks unconnected or over a class 3 connection (CIP Vol. 2, 2-3).
 */
export class ExplicitClient {
  private session = 0;
  private lastContext = 0;
  private connected: Connected | undefined;

  private constructor(private readonly stream: StreamClient<enip.EncapsulationFrame>) {}

  /** Connects and registers a session. Throws the socket's error, or an Error that names the refused step. */
  static async open(options: ExplicitClientOptions): Promise<ExplicitClient> {
    const stream = await StreamClient.open({
      ...options,
      port: enip.explicitPort,
      answerLimitMs,
      take: enip.takeFrame,
      keyOf,
    });
    const client = new ExplicitClient(stream);
    const body = encode(enip.registerSession, { version: 1, options: 0 });
    const register = enip.encodeFrame(enip.request(commands.registerSession, 0, body));
    client.session = await stream.ask(0, register, ({ status, session }) => {
      if (status !== 0) throw new Error(`the session was refused with encapsulation status ${status}`);
      return session;
    });
    return client;
  }

  /** The socket has gone; requests are refused. */
  get closed(): boolean {
    return this.stream.closed;
  }

  /** A request has no answer yet. */
  get busy(): boolean {
    return this.stream.busy;
  }

  /**
   * Sends one unconnected request (SendRRData) and waits for its answer, with the item of type `beside` where one is
   * asked for. Throws on silence and on a closed session.
   */
  request(request: RouterRequest, beside?: number): Promise<ExplicitResponse> {
    return this.ask(request, beside === undefined ? unconnectedResponse : withItem(beside));
  }

  /** The same with a request that was made before; `read` makes the answer of the frame that comes. */
  requestMade<T>({ frame }: MadeRequest, read: (answer: enip.EncapsulationFrame) => T): Promise<T> {
    const key = this.nextContext();
    return this.stream.ask(key, enip.frameAgain(frame, this.session, key, allocate), read);
  }

  private ask<T>(request: RouterRequest, read: (frame: enip.EncapsulationFrame) => T): Promise<T> {
    const key = this.nextContext();
    return this.stream.ask(key, unconnectedFrame(request, this.session, key), read);
  }

  /** The context comes back unchanged and tells which request an answer belongs to. */
  private nextContext(): number {
    return (this.lastContext = (this.lastContext + 1) >>> 0);
  }

  /** Opens a class 3 connection to the Message Router; `rpiUs` × 4 is how long the device waits for a request. */
  async connect(name: ConnectionName, rpiUs: number): Promise<void> {
    const direction = {
      type: 'point-to-point' as const,
      priority: 0,
      variable: true,
      redundantOwner: false,
      size: 504,
    };
    const answer = await this.request({
      service: services.forwardOpen,
      path: managerPath,
      data: encode(forwardOpen, {
        priorityTick: 3,
        timeoutTicks: 250,
        toTargetId: 0,
        toOriginatorId: name.connectionSerial + 1,
        ...name,
        timeoutMultiplier: multiplierCode(4),
        reserved: new Uint8Array(3),
        toTargetRpi: rpiUs,
        toTarget: direction,
        toOriginatorRpi: rpiUs,
        toOriginator: direction,
        transport: class3,
        path: routerPath,
      }),
    });
    if (answer.status !== 0)
      throw new Error(
        `the connection for requests was refused: ${statusText(answer.status, answer.extended).means}`,
      );
    const { toTargetId } = decode(forwardOpened, answer.data, 'answer to Forward_Open');
    this.connected = { name, toTargetId, sequence: 0 };
  }

  /** Sends one request over the class 3 connection, or unconnected while there is none. */
  requestConnected(request: RouterRequest): Promise<RouterResponse> {
    const { connected } = this;
    if (!connected) return this.request(request);
    connected.sequence = (connected.sequence + 1) & 0xffff;
    const { sequence, toTargetId } = connected;
    const head = enip.messageFrame({
      command: commands.sendUnitData,
      session: this.session,
      contextLow: 0,
      contextHigh: 0,
      connection: toTargetId,
    });
    const frame = enip.encodeMessageFrame(
      head,
      (to) => {
        to.u16(sequence);
        writeRequest(to, request);
      },
      allocate,
    );
    return this.stream.ask(connectedKey + sequence, frame, connectedResponse);
  }

  /** Closes the class 3 connection, if there is one, unregisters and closes. */
  async close(): Promise<void> {
    if (this.closed) return;
    const { connected } = this;
    this.connected = undefined;
    if (connected) {
      const body = { priorityTick: 3, timeoutTicks: 250, ...connected.name, path: routerPath };
      const request = { service: services.forwardClose, path: managerPath, data: encode(forwardClose, body) };
      // A device that has gone meanwhile cannot answer; the connection then ends by its own timeout.
      await this.request(request).catch(() => undefined);
    }
    this.stream.send(enip.encodeFrame(enip.request(commands.unRegisterSession, this.session)));
    await this.stream.close();
  }
}

/** A request that is sent more than once: its bytes, whatever the session. */
export interface MadeRequest {
  frame: Uint8Array;
}
export const madeRequest = (request: RouterRequest): MadeRequest => ({
  frame: unconnectedFrame(request, 0, 0),
});

/** A whole SendRRData frame. */
const unconnectedFrame = (request: RouterRequest, session: number, contextLow: number): Uint8Array =>
  enip.encodeMessageFrame(
    enip.messageFrame({ command: commands.sendRRData, session, contextLow, contextHigh: 0 }),
    (to) => writeRequest(to, request),
    allocate,
  );

function responseIn(answer: enip.EncapsulationFrame, item: number, sequenceBytes: number): RouterResponse {
  if (answer.status !== 0) throw new Error(`encapsulation status ${answer.status}`);
  const message = enip.itemIn(answer.data, item);
  if (!message) throw new Error('the answer carries no message');
  message.skip(sequenceBytes);
  // The frame is gone when the next one comes.
  return readResponse(message, true);
}
/** The response in the answer to an unconnected request. Throws where there is none. */
export const unconnectedResponse = (answer: enip.EncapsulationFrame): RouterResponse =>
  responseIn(answer, itemTypes.unconnectedData, 0);
const connectedResponse = (answer: enip.EncapsulationFrame) => responseIn(answer, itemTypes.connectedData, 2);
const withItem = (type: number) => (answer: enip.EncapsulationFrame) => ({
  ...unconnectedResponse(answer),
  beside: enip.itemIn(answer.data, type)?.rest().slice(),
});
