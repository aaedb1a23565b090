import { connect, type Socket } from 'node:net';
import { setFlagsFromString } from 'node:v8';
import { runInNewContext } from 'node:vm';
import {
  connectionIdOf,
  decode,
  decodePath,
  decodeRequest,
  decodeResponse,
  decodeUnconnectedSend,
  encapsulation as enip,
  forwardClose,
  forwardOpen,
  largeForwardOpen,
  logical,
  Problem,
  readPacket,
  services,
  classes,
} from '@fadenkreuz/core/ethernet-ip';
import { nextSeed } from '@fadenkreuz/core/devices';
import { serve, takeFrame as takeModbus, type ModbusMemory } from '@fadenkreuz/core/modbus-tcp';
import { afterAll, beforeAll, describe, expect, test } from 'vitest';
import { ExplicitClient } from '../protocols/ethernetIp/explicitClient.js';
import { ModbusClient } from '../protocols/modbusTcp/client.js';
import { Schedule } from '../timing/schedule.js';
import { StandIn } from '../standIns/standIn.js';
import { climateCell, demoDevice, until } from '../testBench.js';
import { udpSocket } from './udp.js';

/** Mutated frames; FUZZ_FRAMES=100000 for the long run. */
const frames = Number(process.env['FUZZ_FRAMES'] ?? 5000);
const hex = (text: string) => Uint8Array.from(Buffer.from(text.replace(/\s+/g, ''), 'hex'));

/** The same frames on every run. */
class Mutator {
  private seed: number;
  constructor(seed: number) {
    this.seed = seed;
  }
  below(limit: number): number {
    this.seed = nextSeed(this.seed);
    return (this.seed >>> 0) % limit;
  }
  /** One to four bytes changed, cut, put in, or a run of them doubled. */
  of(frame: Uint8Array): Uint8Array {
    let bytes = [...frame];
    for (let n = 1 + this.below(4); n > 0; n -= 1) {
      const at = this.below(bytes.length + 1);
      const kind = this.below(6);
      if (kind <= 1) bytes[at % Math.max(1, bytes.length)] = this.below(256);
      else if (kind === 2) bytes[at % Math.max(1, bytes.length)] = [0, 1, 0x7f, 0x80, 0xff][this.below(5)]!;
      else if (kind === 3) bytes = bytes.slice(0, at);
      else if (kind === 4) bytes.splice(at, 0, this.below(256), this.below(256));
      else bytes.splice(at, 0, ...bytes.slice(at, at + this.below(40)));
    }
    return Uint8Array.from(bytes);
  }
}

const header = (command: string, length: string) =>
  `${command} ${length} 01000000 00000000 0102030405060708 00000000`;
const rr = (message: string) => {
  const size = message.replace(/\s+/g, '').length / 2;
  const le = (n: number) => Buffer.from([n & 0xff, n >> 8]).toString('hex');
  return hex(`${header('6f00', le(16 + size))} 00000000 0000 0200 0000 0000 b200 ${le(size)} ${message}`);
};
const open =
  '54022006240103fa0000000005000000341200e87856341200000000204e00000e48204e00000e480104 2004 2496 2c78 2c6e';
const good: Uint8Array[] = [
  hex(`${header('6500', '0400')} 01000000`),
  hex(header('6300', '0000')),
  hex(header('0400', '0000')),
  rr('0e 03 2001 2401 3001'),
  rr('01 02 2001 2401'),
  rr('0a 02 2002 2401 0200 0600 0e00 0e0320012401 3001 0e0320012401 3002'),
  rr('10 03 200f 2401 3001 f401'),
  rr(`52 02 2006 2401 07 f0 0800 0e0320012401 3001 0100 0100`),
  rr(open),
  rr('4e0220062401 03fa 3412 00e8 78563412 04 00 2004 2496 2c78 2c6e'),
  hex(`${header('7000', '1a00')} 00000000 0000 0200 a100 0400 11223344 b100 0800 0100 0e0220012401`),
];
const questions = [
  '03 03e8 000c',
  '04 03e8 000c',
  '10 07d0 0002 04 00010002',
  '01 0000 0008',
  '2b 0e 01 00',
  '16 07d0 00ff 0001',
  '17 03e8 0001 07d0 0001 02 0001',
].map((pdu, i) => {
  const body = hex(pdu);
  return Uint8Array.from([0, i, 0, 0, 0, body.length + 1, 255, ...body]);
});
const packet = hex('02 00 02 80 08 00 05 00 a1 b2 07 00 00 00 b1 00 08 00 07 00 01 00 00 00 aa bb');

/** What a decoder may do with bad bytes: read them, or say in a Problem why not. */
function harmless(run: () => unknown): void {
  try {
    run();
  } catch (error) {
    if (!(error instanceof Problem)) throw error;
  }
}
const memory: ModbusMemory = {
  readBits: (_k, start, count) => (start + count <= 100 ? Array<boolean>(count).fill(true) : undefined),
  readRegisters: (_k, start, count) => (start + count <= 100 ? Array<number>(count).fill(7) : undefined),
  writeBits: () => undefined,
  writeRegisters: () => undefined,
  identification: [{ id: 0, text: 'x' }],
};

test(`decoders: ${frames} mutated frames end in a value or a Problem`, () => {
  const mutate = new Mutator(0x5eed);
  for (let n = 0; n < frames; n += 1) {
    const frame = mutate.of(good[n % good.length]!);
    harmless(() => {
      const { frame: whole } = enip.takeFrame(frame);
      if (whole) decode(enip.rrData, whole.data, 'x');
    });
    const message = mutate.of(good[n % good.length]!.subarray(40));
    for (const decoder of [decodePath, decodeRequest, decodeResponse, decodeUnconnectedSend])
      harmless(() => decoder(message));
    harmless(() => decode(forwardOpen, message, 'x'));
    harmless(() => decode(largeForwardOpen, message, 'x'));
    harmless(() => decode(forwardClose, message, 'x'));
    const cyclic = mutate.of(packet);
    connectionIdOf(cyclic);
    readPacket(cyclic, 'run-idle', 2);
    const question = mutate.of(questions[n % questions.length]!);
    harmless(() => takeModbus(question));
    const answer = serve(memory, question.subarray(7));
    expect(answer.length).toBeLessThanOrEqual(253);
  }
});

describe('running servers', () => {
  const schedule = new Schedule();
  const climate = new StandIn(climateCell().devices[0]!, { schedule });
  const hub = new StandIn(demoDevice('port_hub_g1', '10.99.40.95'), { schedule });
  beforeAll(() => Promise.all([climate.open(), hub.open()]));
  afterAll(async () => {
    await Promise.all([climate.close(), hub.close()]);
    schedule.stop();
  });

  const vendor = {
    service: services.getAttributeSingle,
    path: [logical('class', classes.identity), logical('instance', 1), logical('attribute', 1)],
    data: new Uint8Array(),
  };
  const localAddress = '127.99.40.8';
  /** Both still answer the next good request of somebody else. */
  async function stillServes(): Promise<void> {
    const explicit = await ExplicitClient.open({ address: climate.address, localAddress });
    expect((await explicit.request(vendor)).status).toBe(0);
    await explicit.close();
    const modbus = await ModbusClient.open({ address: hub.address, port: hub.port!, localAddress });
    expect(await modbus.ask(255, 'readInputRegisters', { start: 1001, count: 4 })).toEqual({
      registers: [1, 1, 1, 2],
    });
    await modbus.close();
  }
  /** Writes frames in one conversation, opening another when the server has had enough. */
  async function pour(
    address: string,
    port: number,
    from: readonly Uint8Array[],
    seed: number,
  ): Promise<void> {
    const mutate = new Mutator(seed);
    let socket: Socket | undefined;
    for (let n = 0; n < frames; n += 1) {
      if (!socket || socket.destroyed || !socket.writable) {
        socket = connect({ port, host: address, localAddress });
        socket.on('error', () => undefined);
        socket.resume();
        await new Promise((resolve) => socket!.once('connect', resolve).once('error', resolve));
        if (port !== hub.port!) socket.write(good[0]!);
      }
      socket.write(mutate.of(from[n % from.length]!));
      // A frame that was cut waits for its rest: every so often a conversation ends in the middle of one.
      if (n % 25 === 24) socket.destroy();
      if (n % 50 === 49) await new Promise((resolve) => setImmediate(resolve));
    }
    socket?.destroy();
  }
  const heapBytes = () => {
    setFlagsFromString('--expose-gc');
    (runInNewContext('gc') as () => void)();
    return process.memoryUsage().heapUsed;
  };

  test(`${frames} mutated frames to each: no crash, no hang, no growth`, { timeout: 600_000 }, async () => {
    await pour(climate.address, enip.explicitPort, good, 1);
    await pour(hub.address, hub.port!, questions, 2);
    const before = heapBytes();
    await pour(climate.address, enip.explicitPort, good, 3);
    await pour(hub.address, hub.port!, questions, 4);
    const udp = udpSocket();
    await new Promise<void>((resolve) => udp.bind(0, localAddress, resolve));
    const mutate = new Mutator(5);
    for (let n = 0; n < frames; n += 1) {
      udp.send(mutate.of(packet), enip.ioPort, climate.address);
      udp.send(mutate.of(good[1]!), enip.explicitPort, climate.address);
      if (n % 100 === 99) await new Promise((resolve) => setImmediate(resolve));
    }
    await new Promise<void>((resolve) => udp.close(() => resolve()));
    await stillServes();
    // What 1,000 conversations leave behind, sockets on their way out among it, is a few MB and does not add up.
    expect(heapBytes() - before).toBeLessThan(24e6);
  });

  test(
    '200 sessions, silent, slow and half-open ones: the others are served',
    { timeout: 60_000 },
    async () => {
      const sockets = Array.from({ length: 200 }, (_, i) => {
        const socket = connect({ port: enip.explicitPort, host: climate.address, localAddress });
        socket.on('error', () => undefined);
        // Every fourth says nothing, begins a frame and never ends it, registers, or registers and half-closes.
        if (i % 4 === 1) socket.write(good[0]!.subarray(0, 10));
        if (i % 4 === 2) socket.write(good[0]!);
        if (i % 4 === 3) socket.end(good[0]!);
        return socket;
      });
      const silent = Array.from({ length: 8 }, () => {
        const socket = connect({ port: hub.port!, host: hub.address, localAddress });
        return socket.on('error', () => undefined);
      });
      await until(() => sockets.filter((s) => s.readyState === 'open').length >= 140);
      // Silent clients make room for those that ask.
      const served = async () => {
        await stillServes();
        return true;
      };
      await until(() => served().catch(() => false));
      for (const socket of [...sockets, ...silent]) socket.destroy();
      await until(() => served().catch(() => false));
    },
  );
});
