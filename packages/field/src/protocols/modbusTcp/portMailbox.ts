import { type ParameterPlace } from '@fadenkreuz/core';
import {
  atPort,
  longestPortValue,
  mailboxHead,
  mailboxStates,
  mailboxWants,
  type DescribedParameter,
  type PortRequests,
  type Refusal,
} from '@fadenkreuz/core/devices';
import { isduCode, isduError } from '@fadenkreuz/core/modbus-tcp';
import { setTimeout as sleep } from 'node:timers/promises';
import type { ModbusClient } from './client.js';
import { readPlaces, registerAt, writePlaces } from './places.js';

/**
 * Requests to the devices at the ports of an IO-Link master through holding registers (devices/ports.ts): one end asks,
 * the other one serves.
 */

type Mailbox = Extract<PortRequests, { by: 'registers' }>;
export type PortPlace = Extract<ParameterPlace, { way: 'port' }>;

/** How long a master may take over one request, and how often it is asked meanwhile, ms. */
const limitMs = 2000;
const everyMs = 10;

/** The registers of a value, high byte first. */
const registersOf = (value: Uint8Array): number[] =>
  Array.from({ length: Math.ceil(value.length / 2) }, (_, n) => registerAt(value, n));

/** What a device at a port answers to a read, or nothing to a write. Rejects with a Refused where it refuses. */
export async function askPort(
  client: ModbusClient,
  unit: number,
  mailbox: Mailbox,
  { port, index, subindex }: PortPlace,
  asked: { read: number } | { write: Uint8Array },
): Promise<Uint8Array> {
  const start = atPort(mailbox.request, port);
  const put = (registers: readonly number[]) => {
    const bytes = Uint8Array.from(registers.flatMap((r) => [r >> 8, r & 0xff]));
    return writePlaces(client, { unit, table: 'holding', start, count: registers.length }, bytes);
  };
  const look = (first: number, count: number) =>
    readPlaces(client, { unit, table: 'holding', start: atPort(mailbox.answer, port) + first, count });
  // A request that somebody left standing is no edge.
  await put([mailboxWants.nothing]);
  await put(
    'write' in asked
      ? [mailboxWants.write, index, subindex, asked.write.length, ...registersOf(asked.write)]
      : [mailboxWants.read, index, subindex, asked.read],
  );
  try {
    const until = performance.now() + limitMs;
    for (;;) {
      const head = await look(0, mailboxHead.answer);
      const [state, error, bytes] = [0, 1, 2].map((n) => registerAt(head, n)) as [number, number, number];
      if (state === mailboxStates.refused) throw new PortRefusal(error);
      if (state === mailboxStates.done) {
        const size = Math.min(bytes, longestPortValue);
        if (size === 0 || 'write' in asked) return new Uint8Array();
        return (await look(mailboxHead.answer, Math.ceil(size / 2))).slice(0, size);
      }
      if (performance.now() > until) throw new Error(`port ${port} did not answer within ${limitMs} ms`);
      await sleep(everyMs);
    }
  } finally {
    await put([mailboxWants.nothing]).catch(() => undefined);
  }
}

/** The device at the port, or the master, refuses. */
export class PortRefusal extends Error {
  readonly why: ReturnType<typeof isduError>;
  constructor(code: number) {
    const why = isduError(code);
    super(why.means);
    this.why = why;
  }
}

/** The mailboxes of a simulated master. */
export class PortMailboxes {
  private readonly ports = new Map<number, { request: number[]; answer: number[] }>();

  constructor(
    private readonly mailbox: Mailbox,
    private readonly described: readonly DescribedParameter[],
  ) {
    for (const { parameter } of described)
      if (parameter.place?.way === 'port') this.ports.set(parameter.place.port, { request: [], answer: [] });
  }

  /** Undefined where one of them is of no mailbox. */
  read(start: number, count: number): number[] | undefined {
    const found = this.find(start, count);
    return found && Array.from({ length: count }, (_, n) => found.registers[found.from + n] ?? 0);
  }

  /** A request to a port is answered at once; nothing else is taken. */
  write(start: number, registers: readonly number[]): Refusal | undefined {
    const found = this.find(start, registers.length);
    if (found?.side !== 'request') return found ? 'read-only' : 'absent';
    const before = found.registers[0] ?? 0;
    registers.forEach((value, n) => (found.registers[found.from + n] = value));
    const box = this.ports.get(found.port)!;
    const wants = found.registers[0] ?? 0;
    if (wants === mailboxWants.nothing) box.answer = [mailboxStates.idle, 0, 0];
    else if (wants !== before) box.answer = this.answerTo(found.port, box.request);
    return undefined;
  }

  private answerTo(port: number, request: readonly number[]): number[] {
    const [wants, index, subindex, bytes = 0] = request;
    const one = this.described.find(
      ({ parameter: { place } }) =>
        place?.way === 'port' && place.port === port && place.index === index && place.subindex === subindex,
    );
    const failed = (why: Parameters<typeof isduCode>[0]) => [mailboxStates.refused, isduCode(why), 0];
    if (!one) return failed('absent');
    if (one.silent) return failed(one.silent);
    if (wants === mailboxWants.read) {
      if (one.parameter.access === 'write') return failed('read-only');
      return [mailboxStates.done, 0, one.bytes.length, ...registersOf(one.bytes)];
    }
    if (bytes > longestPortValue) return failed('size');
    const value = Uint8Array.from({ length: bytes }, (_, n) => {
      const register = request[mailboxHead.request + (n >> 1)] ?? 0;
      return n % 2 === 0 ? register >> 8 : register & 0xff;
    });
    const refused = one.write(value);
    return refused ? failed(refused) : [mailboxStates.done, 0, 0];
  }

  private find(start: number, count: number) {
    const room = Math.ceil(longestPortValue / 2);
    for (const [port, box] of this.ports)
      for (const side of ['request', 'answer'] as const) {
        const from = start - atPort(this.mailbox[side], port);
        if (from >= 0 && from + count <= mailboxHead[side] + room)
          return { port, side, from, registers: box[side] };
      }
    return undefined;
  }
}
