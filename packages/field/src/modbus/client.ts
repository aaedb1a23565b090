import { connect, type Socket } from 'node:net';
import {
  decodeAnswer,
  encodeAsk,
  encodeFrame,
  modbusPort,
  takeFrame,
  type Answer,
  type Ask,
  type FunctionName,
} from '@fadenkreuz/core/modbus';
import { requireLoopback } from '../loopback.js';

export interface ModbusClientOptions {
  address: string;
  port?: number;
  localAddress?: string;
  /** How long an answer may take, ms. */
  answerLimitMs?: number;
}

interface Waiting {
  unit: number;
  resolve: (pdu: Uint8Array) => void;
  reject: (error: Error) => void;
  timer: NodeJS.Timeout;
}

/**
 * One connection to a Modbus server. Questions may be asked before earlier ones are answered: each answer finds its
 * question by the transaction identifier (Modbus Messaging on TCP/IP Implementation Guide V1.0b, 4.4.1.3).
 */
export class ModbusClient {
  private held: Uint8Array = new Uint8Array();
  private readonly waiting = new Map<number, Waiting>();
  private lastTransaction = 0;
  /** The socket has gone; questions are refused. */
  closed = false;

  private constructor(
    private readonly socket: Socket,
    private readonly answerLimitMs: number,
  ) {
    socket.setNoDelay(true);
    socket.on('data', (data) => this.take(data));
    let reason = 'the device ended the TCP connection';
    socket.on('error', (error: NodeJS.ErrnoException) => (reason = error.code ?? error.message));
    socket.on('close', () => {
      this.closed = true;
      for (const { reject, timer } of this.waiting.values()) {
        clearTimeout(timer);
        reject(new Error(reason));
      }
      this.waiting.clear();
    });
  }

  /** Connects. Throws the socket's error. */
  static async open(options: ModbusClientOptions): Promise<ModbusClient> {
    const { address, port = modbusPort, localAddress, answerLimitMs = 1000 } = options;
    requireLoopback(address);
    const socket = connect({ host: address, port, ...(localAddress ? { localAddress } : {}) });
    await new Promise<void>((resolve, reject) => {
      socket.setTimeout(answerLimitMs, () =>
        socket.destroy(new Error(`no answer within ${answerLimitMs} ms`)),
      );
      socket.once('connect', resolve);
      socket.once('error', reject);
    });
    socket.setTimeout(0);
    return new ModbusClient(socket, answerLimitMs);
  }

  /** Asks a unit. Throws `modbus.refused` for an exception, and an Error for silence or a closed connection. */
  async ask<F extends FunctionName>(unit: number, name: F, ask: Ask<F>): Promise<Answer<F>> {
    return decodeAnswer(name, await this.exchange(unit, encodeAsk(name, ask)));
  }

  close(): void {
    this.socket.end();
    this.socket.destroy();
  }

  private exchange(unit: number, pdu: Uint8Array): Promise<Uint8Array> {
    if (this.closed) return Promise.reject(new Error('the connection is closed'));
    this.lastTransaction = (this.lastTransaction + 1) & 0xffff;
    const transaction = this.lastTransaction;
    return new Promise((resolve, reject) => {
      const timer = setTimeout(() => {
        this.waiting.delete(transaction);
        reject(new Error(`no answer within ${this.answerLimitMs} ms`));
      }, this.answerLimitMs);
      this.waiting.set(transaction, { unit, resolve, reject, timer });
      this.socket.write(encodeFrame({ transaction, unit, pdu }));
    });
  }

  private take(data: Uint8Array): void {
    this.held = this.held.length ? Buffer.concat([this.held, data]) : data;
    try {
      for (let next = takeFrame(this.held); ; next = takeFrame(this.held)) {
        this.held = next.rest;
        if (!next.frame) return;
        // An answer that comes too late, or from another unit than was asked, belongs to no question.
        const waiting = this.waiting.get(next.frame.transaction);
        if (waiting?.unit !== next.frame.unit) continue;
        this.waiting.delete(next.frame.transaction);
        clearTimeout(waiting.timer);
        waiting.resolve(next.frame.pdu);
      }
    } catch (error) {
      this.socket.destroy(error as Error);
    }
  }
}
