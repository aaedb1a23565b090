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
  /** The device has no time for anybody: exception 6. */
  busy?: () => boolean;
}

/** More clients than this at once are turned away, as small devices do. */
const maxClients = 8;

/** A Modbus server on TCP, by the rules of the specification. */
export class ModbusServer {
  private readonly stream: StreamServer<ModbusFrame>;

  constructor(private readonly options: ModbusServerOptions) {
    const answer = ({ transaction, unit, pdu }: ModbusFrame) =>
      encodeFrame({ transaction, unit, pdu: this.answerTo(unit, pdu) }, allocate);
    this.stream = new StreamServer({
      ...options,
      take: takeFrame,
      maxClients,
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
