import {
  decodeAnswer,
  encodeAsk,
  encodeFrame,
  modbusPort,
  takeFrame,
  type Answer,
  type Ask,
  type FunctionName,
  type ModbusFrame,
} from '@fadenkreuz/core/modbus-tcp';
import type { Tap } from '../../capture/tap.js';
import type { Reach } from '../../wire/reach.js';
import { allocate } from '../../wire/allocate.js';
import { StreamClient, type CutOff } from '../../wire/streamClient.js';

export interface ModbusClientOptions {
  address: string;
  port?: number;
  localAddress?: string | undefined;
  /** How long an answer may take, ms. */
  answerLimitMs?: number;
  reach?: Reach | undefined;
  tap?: Tap | undefined;
  cut?: CutOff | undefined;
}

/** An answer from another unit than was asked belongs to no question. */
const keyOf = (transaction: number, unit: number) => transaction * 256 + unit;

/**
 * One connection to a Modbus server. Questions may be asked before earlier ones are answered: each answer finds its
 * question by the transaction identifier (Modbus Messaging on TCP/IP Implementation Guide V1.0b, 4.4.1.3).
 */
export class ModbusClient {
  private lastTransaction = 0;

  private constructor(private readonly stream: StreamClient<ModbusFrame>) {}

  /** Connects. Throws the socket's error. */
  static async open({
    port = modbusPort,
    answerLimitMs = 1000,
    ...rest
  }: ModbusClientOptions): Promise<ModbusClient> {
    return new ModbusClient(
      await StreamClient.open<ModbusFrame>({
        ...rest,
        port,
        answerLimitMs,
        take: takeFrame,
        keyOf: ({ transaction, unit }) => keyOf(transaction, unit),
      }),
    );
  }

  /** The socket has gone; questions are refused. */
  get closed(): boolean {
    return this.stream.closed;
  }

  /** Asks a unit. Throws `modbus.refused` for an exception, and an Error for silence or a closed connection. */
  ask<F extends FunctionName>(unit: number, name: F, ask: Ask<F>): Promise<Answer<F>> {
    this.lastTransaction = (this.lastTransaction + 1) & 0xffff;
    const transaction = this.lastTransaction;
    const question = encodeFrame({ transaction, unit, pdu: encodeAsk(name, ask) }, allocate);
    return this.stream.ask(keyOf(transaction, unit), question, ({ pdu }) => decodeAnswer(name, pdu));
  }

  close(): Promise<void> {
    return this.stream.close();
  }
}
