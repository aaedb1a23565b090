import {
  encodeException,
  encodeFrame,
  exceptions,
  serve,
  takeFrame,
  type ModbusFrame,
  type ModbusMemory,
} from '@fadenkreuz/core/modbus-tcp';
import type { Cable } from '../../wire/cable.js';
import { allocate } from '../../wire/allocate.js';
import { StreamServer } from '../../wire/streamServer.js';

export interface ModbusServerOptions {
  address: string;
  port: number;
  /** What a unit identifier reaches; undefined where nothing is behind it. */
  memoryOf: (unit: number) => ModbusMemory | undefined;
  /** A connection that asks nothing for so long is closed, ms. */
  idleMs?: number;
  cable?: Cable;
  slowMs?: () => number;
  maxClients?: number | undefined;
  /** The device has no time for anybody: exception 6. */
  busy?: () => boolean;
}

/** So many clients at once are served where the description of a device does not say how many. */
const usualClients = 64;

/** A Modbus server on TCP, by the rules of the specification. */
export class ModbusServer {
  private readonly stream: StreamServer<ModbusFrame>;

  constructor(private readonly options: ModbusServerOptions) {
    const answer = ({ transaction, unit, pdu }: ModbusFrame) =>
      encodeFrame({ transaction, unit, pdu: this.answerTo(unit, pdu) }, allocate);
    this.stream = new StreamServer({
      ...options,
      take: takeFrame,
      maxClients: options.maxClients ?? usualClients,
      // The longest silent one gives way at once (Messaging on TCP/IP Implementation Guide V1.0b, 4.2.1.1).
      silentMs: 0,
      idleMs: () => options.idleMs ?? 60_000,
      converse: () => ({ answer }),
    });
  }

  /** Listens. Rejects with the socket's error when the address or the port cannot be had. */
  open(): Promise<void> {
    return this.stream.open();
  }

  close(): Promise<void> {
    return this.stream.close();
  }

  /** Ends every connection with a reset. */
  endAll(): void {
    this.stream.endAll();
  }

  private answerTo(unit: number, pdu: Uint8Array): Uint8Array {
    if (this.options.busy?.()) return encodeException(pdu[0] ?? 0, exceptions.deviceBusy);
    const memory = this.options.memoryOf(unit);
    return memory ? serve(memory, pdu) : encodeException(pdu[0] ?? 0, exceptions.gatewayTargetSilent);
  }
}
