import type { ModbusTcpLink } from '@fadenkreuz/core';
import { modbusPort } from '@fadenkreuz/core/modbus-tcp';
import { AsyncQueue } from '../asyncQueue.js';
import {
  type Answered,
  type Driver,
  type ScanRange,
  type Simulated,
  type SimulatedPoint,
} from '../driver.js';
import { ipEnd } from '../ends.js';
import { attended } from '../../timing/attendedTime.js';
import { benchAddress } from '../../wire/reach.js';
import { BlocksLink } from './blocksLink.js';
import { askModbusIdentities, type ModbusIdentity } from './identities.js';
import { modbusTcpParameters } from './parameters.js';
import { RegisterMemory } from './registerMemory.js';
import { ModbusServer } from './server.js';

/**
 * The device itself answers to these (Modbus Messaging on TCP/IP Implementation Guide V1.0b, 4.4.2.5), and to 1 as many
 * do.
 */
const units = [0, 1, 255];
/**
 * Where the standard's port may not be bound, the one that is so much higher is taken (said in the report of the
 * bench).
 */
const replacement = 1000;

/** Modbus TCP on port 502. */
export const modbusTcpDriver: Driver<ModbusTcpLink> = {
  protocol: 'modbus-tcp',
  originator: (context) => ({
    open: () => Promise.resolve(),
    link: (ends) => new BlocksLink(ends, context),
    parameters: (ends) => modbusTcpParameters(ends, context),
    close: () => Promise.resolve(),
  }),
  benchEnd: (_device, address) => ({ on: 'ip', address: benchAddress(address), port: modbusPort }),
  realEnd: ({ address, links }) => {
    const link = links.find((l) => l.protocol === 'modbus-tcp') as ModbusTcpLink | undefined;
    return { on: 'ip', address, port: link?.port ?? modbusPort };
  },
  networkLight: false,
  serve: async (device, at) => {
    const { address } = ipEnd(at);
    const memory = new ServedMemory(device);
    const serve = async (port: number) => {
      const server = serverOf(device, memory, address, port);
      await server.open();
      return { server, port };
    };
    const { server, port } = await serve(modbusPort).catch((error: NodeJS.ErrnoException) => {
      if (error.code !== 'EACCES') throw error;
      return serve(modbusPort + replacement);
    });
    return {
      end: { on: 'ip', address, port },
      command: (now) => memory.command(now),
      changed: () => undefined,
      network: {},
      troubled: () => undefined,
      drop: (why) => {
        if (why === 'restarted') memory.forget();
        server.endAll();
      },
      close: () => server.close(),
    };
  },
  scan: scanModbus,
};

const serverOf = (device: Simulated, memory: ServedMemory, address: string, port: number): ModbusServer =>
  new ModbusServer({
    address,
    port,
    memoryOf: (unit) => (units.includes(unit) ? memory.registers : undefined),
    cable: device.cable,
    slowMs: () => device.trouble().slowMs,
    busy: () => device.trouble().busy,
    maxClients: device.description.limits.connections ?? undefined,
  });

/**
 * The registers of a simulated device, and when it was commanded last: without a word from it the controller is lost.
 */
class ServedMemory {
  readonly registers: RegisterMemory;
  private commandedAt = -Infinity;
  private readonly watchdogMs: number;

  constructor(private readonly device: Simulated) {
    const { offer } = device.description;
    this.watchdogMs = (offer?.protocol === 'modbus-tcp' ? offer.watchdogMs : null) ?? Infinity;
    this.registers = new RegisterMemory({
      points: device.points,
      described: device.described,
      portRequests: device.description.portRules?.requests ?? null,
      identity: device.identity,
      maker: device.maker,
      onWrite: (point) => this.written(point),
    });
  }

  command(now: number) {
    const point = this.device.points().find((p) => p.use === 'command');
    const heard = attended(now) - this.commandedAt <= this.watchdogMs && this.commandedAt > -Infinity;
    return point && heard ? { point: point.number, bytes: point.bytes, run: true } : undefined;
  }

  /** What a start forgets. */
  forget(): void {
    this.commandedAt = -Infinity;
  }

  private written({ use, bytes }: SimulatedPoint): void {
    if (use === 'configuration') this.device.configure(bytes);
    else this.commandedAt = attended();
  }
}

/** Read Device Identification, address by address. */
async function* scanModbus({ addresses, ports, reach, signal, onAsked }: ScanRange): AsyncIterable<Answered> {
  const queue = new AsyncQueue<Answered>();
  queue.endWith(
    askModbusIdentities({
      addresses,
      ports,
      reach,
      signal,
      onAsked,
      onAnswer: (answer) => queue.put({ key: `${answer.at} ${answer.port}`, found: foundOf(answer) }),
    }),
  );
  yield* queue;
}

function foundOf({ at, port, maker, productCode, revision, productName }: ModbusIdentity): Answered['found'] {
  const [, major, minor] = /^v?(\d+)\.(\d+)/i.exec(revision) ?? [];
  return {
    protocol: 'modbus-tcp',
    at,
    port,
    maker: maker || null,
    vendor: null,
    deviceType: null,
    productCode: /^\d{1,5}$/.test(productCode) ? Number(productCode) : null,
    majorRevision: major === undefined ? null : Number(major),
    minorRevision: minor === undefined ? null : Number(minor),
    productName,
    serialNumber: null,
    status: null,
    state: null,
    mac: null,
    addressFrom: null,
    mask: null,
    gateway: null,
  };
}
