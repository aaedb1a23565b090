import { createServer, type Server, type Socket } from 'node:net';
import type { Cable } from './cable.js';

/** What one client of a server talks to; made when it connects. */
export interface Conversation<F> {
  /** The bytes that answer a message; undefined for none. */
  answer(frame: F): Uint8Array | undefined;
  /** The client has gone. */
  ended?(): void;
}

export interface StreamServerOptions<F> {
  address: string;
  port: number;
  /** Cuts the first message off a stream; throws when the bytes cannot be one. */
  take: (held: Uint8Array) => { frame?: F | undefined; rest: Uint8Array };
  converse: (client: { address: string; end: () => void }) => Conversation<F>;
  /**
   * At most so many at once; one more takes the place of the longest silent one, if that has been silent for
   * `silentMs`, or is turned away.
   */
  maxClients: number;
  silentMs: number;
  /** A client that is silent for so long is sent away, ms; 0 never. */
  idleMs: () => number;
  cable?: Cable;
  /** ms by which every answer comes late. */
  slowMs?: () => number;
}

/** Answers of one client that may wait to be taken, bytes: who asks and never listens must not fill the memory. */
const maxBacklog = 256 * 1024;

/** A TCP server of questions and answers: every message of a client is answered in turn. */
export class StreamServer<F> {
  private readonly server: Server;
  /** `performance.now()` of each client's last message. */
  private readonly sockets = new Map<Socket, { heardAt: number }>();

  private readonly unplug: (() => void) | undefined;

  constructor(private readonly options: StreamServerOptions<F>) {
    this.server = createServer((socket) => this.accept(socket));
    this.unplug = options.cable?.listen(() => this.followCable());
  }

  /** Listens. Rejects with the socket's error when the address or the port cannot be had. */
  async open(): Promise<void> {
    await new Promise<void>((resolve, reject) => {
      this.server.once('error', reject);
      this.server.listen(this.options.port, this.options.address, () => resolve());
    });
  }

  /** Ends every conversation and stops listening. */
  async close(): Promise<void> {
    this.unplug?.();
    this.endAll();
    await new Promise<void>((resolve) =>
      this.server.listening ? this.server.close(() => resolve()) : resolve(),
    );
  }

  /** Ends every conversation with a reset, as a device does that starts anew. */
  endAll(): void {
    for (const socket of this.sockets.keys()) socket.resetAndDestroy();
  }

  /** A pulled cable: nothing is read, so questions wait unanswered, as TCP has it. */
  private followCable(): void {
    for (const socket of this.sockets.keys()) {
      if (this.options.cable?.pulled) socket.pause();
      else socket.resume();
    }
  }

  private accept(socket: Socket): void {
    const { options } = this;
    if (this.sockets.size >= options.maxClients && !this.makeRoom()) {
      socket.destroy();
      return;
    }
    const client = { heardAt: performance.now() };
    this.sockets.set(socket, client);
    const conversation = options.converse({
      address: socket.remoteAddress ?? '',
      end: () => socket.end(),
    });
    let held: Uint8Array = new Uint8Array();
    socket.setNoDelay(true);
    socket.on('error', () => socket.destroy());
    const idleMs = options.idleMs();
    // Not the socket's own timeout, which winds a timer anew for every read and every write.
    const watch = () => {
      const left = client.heardAt + idleMs - performance.now();
      if (left <= 0) socket.destroy();
      else idle = setTimeout(watch, Math.ceil(left));
    };
    let idle = idleMs > 0 ? setTimeout(watch, idleMs) : undefined;
    socket.on('close', () => {
      clearTimeout(idle);
      this.sockets.delete(socket);
      conversation.ended?.();
    });
    socket.on('data', (data) => {
      held = held.length ? Buffer.concat([held, data]) : data;
      client.heardAt = performance.now();
      let first: Uint8Array | undefined;
      let further: Uint8Array[] | undefined;
      let broken = false;
      try {
        for (let next = options.take(held); ; next = options.take(held)) {
          held = next.rest;
          if (!next.frame || socket.writableEnded) break;
          const answer = conversation.answer(next.frame);
          if (!answer) continue;
          if (first) (further ??= []).push(answer);
          else first = answer;
        }
      } catch {
        // Not this protocol: without a mark to find the next message by, there is nothing left to talk about.
        broken = true;
      }
      if (first) this.send(socket, further ? Buffer.concat([first, ...further]) : first);
      if (broken || socket.writableLength > maxBacklog) socket.destroy();
    });
    if (options.cable?.pulled) socket.pause();
  }

  /** Silent clients must not keep others out (Modbus Messaging on TCP/IP Implementation Guide V1.0b, 4.2.1.1). */
  private makeRoom(): boolean {
    let longest: Socket | undefined;
    let heardAt = performance.now() - this.options.silentMs;
    for (const [socket, client] of this.sockets)
      if (client.heardAt <= heardAt) [longest, heardAt] = [socket, client.heardAt];
    if (!longest) return false;
    this.sockets.delete(longest);
    longest.destroy();
    return true;
  }

  private send(socket: Socket, answer: Uint8Array): void {
    const late = this.options.slowMs?.() ?? 0;
    if (late === 0) socket.write(answer);
    else
      setTimeout(() => {
        if (!socket.destroyed && !this.options.cable?.pulled) socket.write(answer);
      }, late);
  }
}
