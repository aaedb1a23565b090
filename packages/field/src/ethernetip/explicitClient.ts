import { connect, type Socket } from 'node:net';
import {
  decode,
  decodeResponse,
  encapsulation as enip,
  encode,
  encodeRequest,
  type RouterRequest,
  type RouterResponse,
} from '@fadenkreuz/core/cip';
import type { Tap, TcpTap } from '../capture/tap.js';
import { requireLoopback } from '../loopback.js';

export interface ExplicitClientOptions {
  localAddress: string;
  address: string;
  tap: Tap;
}

/** How long an answer may take before the request counts as lost. */
export const answerLimitMs = 2000;

interface Waiting {
  resolve: (frame: enip.EncapsulationFrame) => void;
  reject: (error: Error) => void;
  timer: NodeJS.Timeout;
}

const { commands, itemTypes } = enip;

/** An encapsulation session with a target: registers, sends unconnected requests, unregisters (CIP Vol. 2, 2-3). */
export class ExplicitClient {
  private held: Uint8Array = new Uint8Array();
  private readonly waiting = new Map<string, Waiting>();
  private session = 0;
  private lastContext = 0;
  /** The socket has gone; requests are refused. */
  closed = false;

  private constructor(
    private readonly socket: Socket,
    private readonly tap: TcpTap,
  ) {
    socket.setNoDelay(true);
    socket.on('data', (data) => this.take(data));
    let reason = 'the device ended the TCP connection';
    socket.on('error', (error: NodeJS.ErrnoException) => (reason = error.code ?? error.message));
    socket.on('close', () => {
      this.closed = true;
      this.tap.closed();
      this.failAll(reason);
    });
  }

  /** Connects and registers a session. Throws the socket's error, or an Error that names the refused step. */
  static async open({ localAddress, address, tap }: ExplicitClientOptions): Promise<ExplicitClient> {
    requireLoopback(address);
    const socket = connect({ host: address, port: enip.explicitPort, localAddress });
    await new Promise<void>((resolve, reject) => {
      const timer = setTimeout(
        () => reject(new Error(`no answer within ${answerLimitMs} ms`)),
        answerLimitMs,
      );
      socket.once('connect', () => (clearTimeout(timer), resolve()));
      socket.once('error', (error) => (clearTimeout(timer), reject(error)));
    }).catch((error: unknown) => {
      socket.destroy();
      throw error;
    });
    const local = { address: localAddress, port: socket.localPort ?? 0 };
    const client = new ExplicitClient(socket, tap.tcp(local, { address, port: enip.explicitPort }));
    const body = encode(enip.registerSession, { version: 1, options: 0 });
    const answer = await client.ask(enip.request(commands.registerSession, 0, body));
    if (answer.status !== 0)
      throw new Error(`the session was refused with encapsulation status ${answer.status}`);
    client.session = answer.session;
    return client;
  }

  /** Sends one unconnected request (SendRRData) and waits for its answer. Throws on silence and on a closed session. */
  async request(request: RouterRequest): Promise<RouterResponse> {
    const body = encode(enip.rrData, {
      interfaceHandle: 0,
      timeout: 0,
      items: [
        { type: itemTypes.nullAddress, data: new Uint8Array() },
        { type: itemTypes.unconnectedData, data: encodeRequest(request) },
      ],
    });
    const answer = await this.ask(enip.request(commands.sendRRData, this.session, body));
    if (answer.status !== 0) throw new Error(`encapsulation status ${answer.status}`);
    const items = decode(enip.rrData, answer.data, 'SendRRData answer').items;
    return decodeResponse(enip.itemOf(items, itemTypes.unconnectedData) ?? new Uint8Array());
  }

  /** Unregisters and closes. */
  async close(): Promise<void> {
    if (this.closed) return;
    this.write(enip.request(commands.unRegisterSession, this.session));
    this.socket.end();
    await new Promise<void>((resolve) => {
      const timer = setTimeout(() => this.socket.destroy(), 200);
      this.socket.once('close', () => (clearTimeout(timer), resolve()));
    });
  }

  private ask(frame: enip.EncapsulationFrame): Promise<enip.EncapsulationFrame> {
    if (this.closed) return Promise.reject(new Error('the session is closed'));
    // The context comes back unchanged and tells which request an answer belongs to.
    const context = new Uint8Array(8);
    new DataView(context.buffer).setUint32(0, (this.lastContext += 1), true);
    return new Promise((resolve, reject) => {
      const key = context.join();
      const timer = setTimeout(() => {
        this.waiting.delete(key);
        reject(new Error(`no answer within ${answerLimitMs} ms`));
      }, answerLimitMs);
      this.waiting.set(key, { resolve, reject, timer });
      this.write({ ...frame, context });
    });
  }

  private write(frame: enip.EncapsulationFrame): void {
    const bytes = enip.encodeFrame(frame);
    this.tap.sent(bytes);
    this.socket.write(bytes);
  }

  private take(data: Uint8Array): void {
    this.tap.received(data);
    this.held = this.held.length ? Buffer.concat([this.held, data]) : data;
    for (;;) {
      const { frame, rest } = enip.takeFrame(this.held);
      this.held = rest;
      if (!frame) return;
      const key = frame.context.join();
      const waiting = this.waiting.get(key);
      if (!waiting) continue;
      this.waiting.delete(key);
      clearTimeout(waiting.timer);
      waiting.resolve(frame);
    }
  }

  private failAll(reason: string): void {
    for (const { reject, timer } of this.waiting.values()) {
      clearTimeout(timer);
      reject(new Error(reason));
    }
    this.waiting.clear();
  }
}
