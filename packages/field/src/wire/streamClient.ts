import { connect, type Socket } from 'node:net';
import { setTimeout as sleep } from 'node:timers/promises';
import { attended } from '../timing/attendedTime.js';
import type { Tap, TcpTap } from '../capture/tap.js';
import { noTap } from '../capture/tap.js';
import { onlyLoopback, type Reach } from './reach.js';

export interface StreamClientOptions<F> {
  address: string;
  port: number;
  localAddress?: string | undefined;
  /** How long connecting and every answer may take, ms. */
  answerLimitMs: number;
  reach?: Reach | undefined;
  tap?: Tap | undefined;
  cut?: CutOff | undefined;
  /** Cuts the first message off a stream; throws when the bytes cannot be one. */
  take: (held: Uint8Array) => { frame?: F | undefined; rest: Uint8Array };
  /** Which question a message answers. */
  keyOf: (frame: F) => number;
}

/**
 * Whether nothing would arrive at the other end: loopback completes a TCP handshake, or refuses it, by itself where a
 * network with a pulled cable stays silent.
 */
export type CutOff = () => boolean;

interface Waiting<F> {
  key: number;
  due: number;
  read: (frame: F) => unknown;
  /** Takes what `read` has made. */
  resolve: (answer: never) => void;
  reject: (error: unknown) => void;
}

/** The connection stands, but a question was not answered in time. */
export class NoAnswer extends Error {
  constructor(waitedMs: number) {
    super(`no answer within ${waitedMs} ms`);
  }
}

/** Longer messages come in several pieces. */
const receiveBytes = 8192;

const nothing = new Uint8Array();

/** Waits until the way is whole, as a handshake does by sending again; throws ETIMEDOUT after so many ms. */
async function wayBack(cut: CutOff, limitMs: number): Promise<void> {
  const due = attended() + limitMs;
  while (cut()) {
    if (attended() >= due)
      throw Object.assign(new Error('no answer to the handshake'), { code: 'ETIMEDOUT' });
    await sleep(50);
  }
}

/**
 * The asking side of a TCP protocol. Questions may be asked before earlier ones are answered; each answer finds its
 * question by a key that it brings back. One timer watches all of them: they wait equally long, so the oldest is due
 * first.
 */
export class StreamClient<F> {
  /** The begin of a message whose rest has not come. */
  private held = nothing;
  /** Oldest first; hardly ever more than a few. */
  private readonly waiting: Waiting<F>[] = [];
  private watch: NodeJS.Timeout | undefined;
  private readonly batch: Uint8Array[] = [];
  private reason = 'the device ended the TCP connection';
  /** The socket has gone; questions are refused. */
  closed = false;

  private constructor(
    private readonly socket: Socket,
    private readonly options: StreamClientOptions<F>,
    private readonly tap: TcpTap,
  ) {
    socket.setNoDelay(true);
    socket.on('error', (error: NodeJS.ErrnoException) => (this.reason = error.code ?? error.message));
    socket.on('close', () => {
      this.closed = true;
      clearTimeout(this.watch);
      this.tap.closed();
      for (const { reject } of this.waiting.splice(0)) reject(new Error(this.reason));
    });
  }

  /** Connects. Throws the socket's error, an Error for silence, or `bench.outsideLoopback`. */
  static async open<F>(options: StreamClientOptions<F>): Promise<StreamClient<F>> {
    const { address, port, localAddress, answerLimitMs, tap = noTap } = options;
    (options.reach ?? onlyLoopback).require(address);
    if (options.cut) await wayBack(options.cut, answerLimitMs);
    // One buffer for all that comes, outside the stream of the socket: an eighth of a question's time is saved by it.
    let heard: (data: Uint8Array) => void = () => undefined;
    const onread = {
      buffer: Buffer.allocUnsafeSlow(receiveBytes),
      callback: (count: number, buffer: Uint8Array) => {
        heard(new Uint8Array(buffer.buffer, buffer.byteOffset, count));
        return true;
      },
    };
    const socket = connect({ host: address, port, onread, ...(localAddress ? { localAddress } : {}) });
    await new Promise<void>((resolve, reject) => {
      socket.setTimeout(answerLimitMs, () =>
        socket.destroy(new Error(`no answer within ${answerLimitMs} ms`)),
      );
      socket.once('connect', resolve);
      socket.once('error', reject);
    });
    socket.setTimeout(0);
    const local = { address: socket.localAddress ?? '127.0.0.1', port: socket.localPort ?? 0 };
    const client = new StreamClient(socket, options, tap.tcp(local, { address, port }));
    heard = (data) => client.take(data);
    return client;
  }

  /**
   * Sends a question and waits for the message with this key, of which `read` makes the answer: the bytes of the
   * message hold until it returns. Throws on silence, on a closed connection, and what `read` throws.
   */
  ask<T>(key: number, question: Uint8Array, read: (frame: F) => T): Promise<T> {
    if (this.closed) return Promise.reject(new Error('the connection is closed'));
    return new Promise<T>((resolve, reject) => {
      this.waiting.push({ key, due: attended() + this.options.answerLimitMs, read, resolve, reject });
      if (!this.watch) this.arrange();
      this.send(question);
    });
  }

  /** A question has no answer yet. */
  get busy(): boolean {
    return this.waiting.length > 0;
  }

  /** Sends something that nothing answers. */
  send(message: Uint8Array): void {
    if (this.closed) return;
    this.tap.sent(message);
    const { batch } = this;
    // A single question leaves at once; those of one turn leave together.
    if (batch.length === 0 && this.waiting.length <= 1) {
      this.socket.write(message);
      return;
    }
    if (batch.push(message) === 1) process.nextTick(this.flush);
  }

  private readonly flush = (): void => {
    const { batch } = this;
    if (!this.closed) this.socket.write(batch.length === 1 ? batch[0]! : Buffer.concat(batch));
    batch.length = 0;
  };

  /** Ends the connection once what was sent has gone; cuts it off when the other side does not answer to that. */
  async close(): Promise<void> {
    if (this.closed) return;
    if (this.batch.length > 0) this.flush();
    this.socket.end();
    await new Promise<void>((resolve) => {
      const timer = setTimeout(() => this.socket.destroy(), 200);
      this.socket.once('close', () => (clearTimeout(timer), resolve()));
    });
  }

  private arrange(): void {
    clearTimeout(this.watch);
    this.watch = undefined;
    const [oldest] = this.waiting;
    if (oldest) this.watch = setTimeout(() => this.expire(), Math.max(1, oldest.due - attended()));
  }

  private expire(): void {
    const now = attended();
    while (this.waiting.length > 0 && this.waiting[0]!.due <= now)
      this.waiting.shift()!.reject(new NoAnswer(this.options.answerLimitMs));
    this.arrange();
  }

  private take(data: Uint8Array): void {
    this.tap.received(data);
    let held: Uint8Array = this.held.length > 0 ? Buffer.concat([this.held, data]) : data;
    try {
      while (held.length > 0) {
        const { frame, rest } = this.options.take(held);
        held = rest;
        if (!frame) break;
        this.answer(frame);
      }
      this.held = held.length > 0 ? new Uint8Array(held) : nothing;
    } catch (error) {
      this.socket.destroy(error as Error);
    }
  }

  private answer(frame: F): void {
    const key = this.options.keyOf(frame);
    const at = this.waiting[0]?.key === key ? 0 : this.waiting.findIndex((w) => w.key === key);
    // An answer that comes too late belongs to no question.
    if (at < 0) return;
    const waiting = this.waiting[at]!;
    if (at === 0) this.waiting.shift();
    else this.waiting.splice(at, 1);
    try {
      waiting.resolve(waiting.read(frame) as never);
    } catch (error) {
      waiting.reject(error);
    }
  }
}
