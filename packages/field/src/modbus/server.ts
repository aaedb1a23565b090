import { createServer, type Server, type Socket } from 'node:net';
import {
  encodeException,
  encodeFrame,
  exceptions,
  serve,
  takeFrame,
  type ModbusMemory,
} from '@fadenkreuz/core/modbus';
import { requireLoopback } from '../loopback.js';

export interface ModbusServerOptions {
  address: string;
  port: number;
  /** What a unit identifier reaches; undefined where nothing is behind it. */
  memoryOf: (unit: number) => ModbusMemory | undefined;
  /** A connection that asks nothing for so long is closed, ms. */
  idleMs?: number;
}

/** More clients than this at once are turned away, as small devices do. */
const maxConnections = 8;
/** Questions of one connection that may wait for their answers to be taken, bytes. */
const maxBacklog = 64 * 1024;

/** A Modbus server on TCP: every question of a connection is answered in turn, by the rules of the specification. */
export class ModbusServer {
  private readonly server: Server;
  private readonly sockets = new Set<Socket>();

  constructor(private readonly options: ModbusServerOptions) {
    requireLoopback(options.address);
    this.server = createServer((socket) => this.accept(socket));
    this.server.maxConnections = maxConnections;
  }

  /** Listens. Rejects with the socket's error when the address or the port cannot be had. */
  async open(): Promise<void> {
    await new Promise<void>((resolve, reject) => {
      this.server.once('error', reject);
      this.server.listen(this.options.port, this.options.address, () => resolve());
    });
  }

  /** Ends every connection and stops listening. */
  async close(): Promise<void> {
    for (const socket of this.sockets) socket.destroy();
    await new Promise<void>((resolve) => this.server.close(() => resolve()));
  }

  private accept(socket: Socket): void {
    let held: Uint8Array = new Uint8Array();
    this.sockets.add(socket);
    socket.setNoDelay(true);
    socket.setTimeout(this.options.idleMs ?? 60_000, () => socket.destroy());
    socket.on('close', () => this.sockets.delete(socket));
    socket.on('error', () => socket.destroy());
    socket.on('data', (data) => {
      held = held.length ? Buffer.concat([held, data]) : data;
      try {
        for (let next = takeFrame(held); ; next = takeFrame(held)) {
          held = next.rest;
          if (!next.frame) break;
          const { pdu, ...head } = next.frame;
          socket.write(encodeFrame({ ...head, pdu: this.answerTo(head.unit, pdu) }));
        }
      } catch {
        // No Modbus: without a mark to find the next question by, there is nothing left to talk about.
        socket.destroy();
      }
      // A client that asks and never listens must not fill the memory.
      if (socket.writableLength > maxBacklog) socket.destroy();
    });
  }

  private answerTo(unit: number, pdu: Uint8Array): Uint8Array {
    const memory = this.options.memoryOf(unit);
    return memory ? serve(memory, pdu) : encodeException(pdu[0] ?? 0, exceptions.gatewayTargetSilent);
  }
}
