import type { EthernetIpLink } from '@fadenkreuz/core';
import { createServer, type Server, type Socket } from 'node:net';
import { createSocket, type Socket as UdpSocket } from 'node:dgram';
import { afterEach, beforeEach, describe, expect, test } from 'vitest';
import { openingGate } from '../runningLink.js';
import { Schedule } from '../../timing/schedule.js';
import { climateCell, until } from '../../testBench.js';
import { noTap } from '../../capture/tap.js';
import { onlyLoopback } from '../../wire/reach.js';
import type { CyclicLink } from './cyclicLink.js';
import { EthernetIpOriginator } from './originator.js';

/**
 * The originator against a device that is none of ours: a few lines of sockets whose bytes are written out by hand
 * after CIP Vol. 1, 3-5.5 and Vol. 2, chapter 2 (from memory).
 */
const deviceAddress = '127.99.40.71';
const controllerAddress = '127.99.40.1';

let server: Server;
let udp: UdpSocket;
let schedule: Schedule;
let originator: EthernetIpOriginator;
let links: CyclicLink[];
let sockets: Socket[];
let seen: Buffer[];
/** What the device answers to SendRRData, from the request; undefined: nothing. */
let answer: (request: Buffer) => Buffer | undefined;

const u16 = (value: number) => Buffer.from([value & 0xff, value >> 8]);
/** The frame around an unconnected answer, with session and context of the request. */
function wrap(request: Buffer, message: Buffer): Buffer {
  const head = Buffer.from(request.subarray(0, 24));
  head.writeUInt16LE(16 + message.length, 2);
  return Buffer.concat([
    head,
    Buffer.from('00000000000002000000' + '0000b200', 'hex'),
    u16(message.length),
    message,
  ]);
}
/** A Forward_Open answer: both ids, the triad and the intervals of the request. */
function accept(request: Buffer): Buffer {
  const open = request.subarray(40 + 6);
  const triad = open.subarray(10, 18);
  const body = Buffer.concat([
    Buffer.from('11223344', 'hex'),
    open.subarray(6, 10),
    triad,
    open.subarray(22, 26),
    open.subarray(28, 32),
    u16(0),
  ]);
  return wrap(request, Buffer.concat([Buffer.from('d4000000', 'hex'), body]));
}

beforeEach(async () => {
  sockets = [];
  seen = [];
  answer = accept;
  server = createServer((socket) => {
    sockets.push(socket);
    socket.on('error', () => undefined);
    socket.on('data', (data) => {
      if (data.readUInt16LE(0) === 0x65) {
        const reply = Buffer.from(data);
        reply.writeUInt32LE(0x77, 4);
        socket.write(reply);
      } else if (data.readUInt16LE(0) === 0x6f) {
        seen.push(data);
        const reply = answer(data);
        if (reply) socket.write(reply);
      }
    });
  });
  await new Promise<void>((resolve) => server.listen(44_818, deviceAddress, resolve));
  udp = createSocket('udp4');
  await new Promise<void>((resolve) => udp.bind(2222, deviceAddress, resolve));
  schedule = new Schedule();
  originator = new EthernetIpOriginator({
    localAddress: controllerAddress,
    schedule,
    tap: noTap,
    reach: onlyLoopback,
    run: () => true,
    opening: openingGate(),
  });
  await originator.open(controllerAddress);
  links = [];
  schedule.every(5, (now) => links.forEach((link) => link.watch(now)));
});
afterEach(async () => {
  answer = () => undefined;
  for (const socket of sockets) socket.destroy();
  await Promise.all(links.map((link) => link.stop()));
  await originator.close();
  schedule.stop();
  for (const socket of sockets) socket.destroy();
  await new Promise((resolve) => server.close(resolve));
  await new Promise<void>((resolve) => udp.close(() => resolve()));
});

const add = () => {
  const [device] = climateCell().devices;
  const link = originator.link({
    device: device!,
    link: device!.links[0] as EthernetIpLink,
    end: { on: 'ip', address: deviceAddress },
    localAddress: controllerAddress,
  }) as CyclicLink;
  links.push(link);
  link.start();
  return link;
};
/** The connection id that the last Forward_Open asked for. */
const wantedId = () =>
  seen
    .filter((r) => r[40] === 0x54)
    .at(-1)!
    .readUInt32LE(40 + 6 + 6);
/** A cyclic packet back to the originator, of 12 bytes unless said otherwise. */
function feedback(id: number, sequence: number, fill: number, size = 12): Buffer {
  const head = Buffer.from('020002800800' + '0000000000000000' + 'b1000e00', 'hex');
  head.writeUInt32LE(id, 6);
  head.writeUInt32LE(sequence, 10);
  head.writeUInt16LE(2 + size, 16);
  return Buffer.concat([head, u16(sequence & 0xffff), Buffer.alloc(size, fill)]);
}
const send = (packet: Buffer) => new Promise((resolve) => udp.send(packet, 2222, controllerAddress, resolve));

describe('originator', () => {
  test('opens with the path that was planned, and sends run, sequence and data', async () => {
    const packets: Buffer[] = [];
    udp.on('message', (message) => packets.push(message));
    const link = add();
    await until(() => packets.length >= 3);
    const open = seen[0]!.subarray(40 + 6);
    // Key with vendor 65013, type 12, code 412, revision 3.4; then class 4, instance 150, points 120 and 110, 4 bytes
    // of data.
    expect(open.subarray(35).toString('hex')).toBe(
      '0c' + '3404f5fd0c009c010304' + '20042496' + '2c782c6e' + '8002f4010000',
    );
    expect(open.readUInt32LE(22)).toBe(20_000);
    // Id of the target, counts from 1, run, eight bytes of command.
    expect(packets[0]!.subarray(6, 10).toString('hex')).toBe('11223344');
    expect(packets.slice(0, 2).map((p) => p.readUInt32LE(10))).toEqual([1, 2]);
    expect(packets[0]!.subarray(20).toString('hex')).toBe('01000000' + '00'.repeat(8));
    expect(link.state).toBe('open');
  });

  test('counts what is lost, and takes nothing old, doubled, foreign or of another size', async () => {
    const link = add();
    await until(() => link.state === 'open');
    // However slow the machine, what comes one behind has only changed places.
    link.expectedMs = 60_000;
    const id = wantedId();
    await send(feedback(id, 10, 1));
    await send(feedback(id, 11, 2));
    await send(feedback(id, 14, 3));
    await send(feedback(id, 12, 4));
    await send(feedback(id, 13, 4));
    await send(feedback(id, 14, 5));
    await send(feedback(id ^ 1, 15, 6));
    await send(feedback(id, 16, 7, 13));
    await send(feedback(id, 17, 8).subarray(0, 24));
    // The last one shows that those before it have been looked at.
    await send(feedback(id, 15, 3));
    await until(() => link.counts.received === 4);
    expect(link.counts).toMatchObject({ received: 4, lost: 2, late: 2, overtaken: 1, doubled: 1 });
    expect([...link.feedback]).toEqual(Array(12).fill(3));
  });

  test('one that comes a good part of an interval after its successor was held up', async () => {
    const link = add();
    await until(() => link.state === 'open');
    link.expectedMs = 20;
    await send(feedback(wantedId(), 11, 1));
    await until(() => link.counts.received === 1);
    await new Promise((resolve) => setTimeout(resolve, 15));
    await send(feedback(wantedId(), 10, 2));
    await until(() => link.counts.late === 1);
    expect(link.counts.overtaken).toBe(1);
  });

  test('a count that runs over is no loss', async () => {
    const link = add();
    await until(() => link.state === 'open');
    await send(feedback(wantedId(), 0xffff_ffff, 1));
    await send(feedback(wantedId(), 0, 2));
    await until(() => link.counts.received === 2);
    expect(link.counts.lost).toBe(0);
  });

  test.each<[string, () => Buffer | undefined, RegExp]>([
    ['silence', () => undefined, /no answer within 2000 ms/],
    [
      'an answer that is cut short',
      () => wrap(seen.at(-1)!, Buffer.from('d4000000' + '1122', 'hex')),
      /needs 4 bytes, 2 are there\. /,
    ],
    [
      'an encapsulation error',
      () => {
        const head = Buffer.from(seen.at(-1)!.subarray(0, 24));
        head.writeUInt16LE(0, 2);
        head.writeUInt32LE(3, 8);
        return head;
      },
      /encapsulation status 3/,
    ],
    ['a closed connection', () => void sockets.at(-1)!.destroy(), /ended the TCP connection|ECONNRESET/],
  ])('%s ends in a reason, and is tried again', async (_says, reply, reason) => {
    answer = reply;
    const link = add();
    // The reason stays to be read while the next attempt is under way; the state lasts for the pause only.
    await until(() => link.reason);
    expect(`${link.reason?.says} `).toMatch(reason);
    answer = accept;
    await until(() => link.state === 'open');
    expect(link.reason).toBeUndefined();
  });

  test('a refusal that the standard does not know is shown with its codes', async () => {
    answer = (request) => wrap(request, Buffer.from('d4000101' + 'ee0f', 'hex'));
    const link = add();
    await until(() => link.state === 'refused');
    expect(link.reason?.says).toContain('general status 16#01, extended status 16#0FEE');
  });

  test('stops with Forward_Close of the same triad', async () => {
    const link = add();
    await until(() => link.state === 'open');
    answer = (request) => wrap(request, Buffer.from('ce000000', 'hex'));
    await link.stop();
    const [open, close] = [seen[0]!.subarray(40 + 6), seen.at(-1)!.subarray(40)];
    expect(close[0]).toBe(0x4e);
    expect(close.subarray(8, 16)).toEqual(open.subarray(10, 18));
  });
});
