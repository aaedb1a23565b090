import { createSocket } from 'node:dgram';
import { once } from 'node:events';
import { connect, type Socket } from 'node:net';
import { describe, expect, test } from 'vitest';
import { climateStandIn, until } from '../../testBench.js';

/** Bytes are written out by hand after CIP Vol. 2, chapter 2 (from memory); none come from our own encoder. */
const hex = (text: string) => Buffer.from(text.replace(/\s+/g, ''), 'hex');
const header = (command: string, length: string, session = '00000000', status = '00000000') =>
  `${command} ${length} ${session} ${status} 0102030405060708 00000000`;
const register = hex(`${header('6500', '0400')} 01000000`);

const address = '127.99.40.71';
climateStandIn();

async function open(): Promise<Socket> {
  const socket = connect(44_818, address);
  // Whoever is cut off with something unread hears of it by a reset; `close` follows.
  socket.on('error', () => undefined);
  await new Promise((resolve) => socket.once('connect', resolve));
  return socket;
}
/** Sends bytes and collects what comes back until nothing came for a while. */
async function ask(socket: Socket, bytes: Buffer, quietMs = 60): Promise<Buffer> {
  const parts: Buffer[] = [];
  await new Promise<void>((resolve) => {
    let timer = setTimeout(resolve, quietMs * 4);
    socket.on('data', (part) => {
      parts.push(part);
      clearTimeout(timer);
      timer = setTimeout(resolve, quietMs);
    });
    socket.on('close', () => resolve());
    socket.write(bytes);
  });
  socket.removeAllListeners('data');
  return Buffer.concat(parts);
}
const statusOf = (answer: Buffer) => answer.readUInt32LE(8);
const session = (answer: Buffer) => answer.subarray(4, 8).toString('hex');

describe('sessions', () => {
  test('RegisterSession gives a handle and brings the context back', async () => {
    const socket = await open();
    const answer = await ask(socket, register);
    expect(answer.length).toBe(28);
    expect(answer.readUInt16LE(0)).toBe(0x65);
    expect(answer.readUInt32LE(4)).not.toBe(0);
    expect(statusOf(answer)).toBe(0);
    expect(answer.subarray(12, 20)).toEqual(hex('0102030405060708'));
    socket.destroy();
  });

  test.each([
    ['an unknown command', hex(header('9900', '0000')), 0x01],
    ['SendRRData without a session', hex(`${header('6f00', '0000', '07000000')}`), 0x64],
    ['RegisterSession of the wrong length', hex(`${header('6500', '0200')} 0100`), 0x65],
    ['RegisterSession of version 2', hex(`${header('6500', '0400')} 02000000`), 0x69],
  ])('%s: encapsulation status %#', async (_says, bytes, status) => {
    const socket = await open();
    expect(statusOf(await ask(socket, bytes))).toBe(status);
    socket.destroy();
  });

  test('two requests in one segment and one in two', async () => {
    const socket = await open();
    const list = hex(header('6300', '0000'));
    const first = await ask(socket, Buffer.concat([register, list]));
    expect(first.length).toBe(28 + 24 + 2 + 4 + 33 + 1 + 'Murmel PX-8 process I/O'.length);
    socket.write(list.subarray(0, 10));
    await new Promise((resolve) => setTimeout(resolve, 30));
    expect((await ask(socket, list.subarray(10))).readUInt16LE(0)).toBe(0x63);
    socket.destroy();
  });
});

describe('identity', () => {
  test('ListIdentity over UDP: vendor, type, code, revision, serial number, name, address', async () => {
    const socket = createSocket('udp4');
    const answer = await new Promise<Buffer>((resolve) => {
      socket.on('message', resolve);
      socket.bind(0, '127.0.0.1', () => socket.send(hex(header('6300', '0000')), 44_818, address));
    });
    socket.close();
    const item = answer.subarray(24);
    expect(item.subarray(0, 6)).toEqual(hex('0100 0c00 3900'));
    expect(item.subarray(8, 16)).toEqual(hex('0002 af12 7f632847'));
    expect(item.subarray(24, 32)).toEqual(hex('f5fd 0c00 9c01 0304'));
    expect(item.subarray(34, 38)).toEqual(hex('78563412'));
    expect(item.subarray(39, 39 + item[38]!).toString('latin1')).toBe('Murmel PX-8 process I/O');
  });

  test.each([
    ['all attributes', '01 02 20 01 24 01', '81 00 00 00'],
    ['attribute 1, vendor', '0e 03 20 01 24 01 30 01', '8e 00 00 00 f5 fd'],
    ['attribute 9, not there', '0e 03 20 01 24 01 30 09', '8e 00 14 00'],
    ['instance 2, not there', '0e 03 20 01 24 02 30 01', '8e 00 05 00'],
    ['class 16#99, not there', '0e 03 20 99 24 01 30 01', '8e 00 05 00'],
    ['service 16#33, not offered', '33 02 20 01 24 01', 'b3 00 08 00'],
    ['a path that nobody knows', '0e 01 e7 00', '8e 00 04 00'],
    ['a path that is cut off', '0e 05 20 01', '8e 00 13 00'],
    ['size of the feedback assembly', '0e 03 20 04 24 6e 30 04', '8e 00 00 00 0c 00'],
    ['an assembly that cannot be set', '10 03 20 04 24 6e 30 03', '90 00 0e 00'],
  ])('%s', async (_says, request, expected) => {
    const socket = await open();
    const handle = session(await ask(socket, register));
    const message = hex(request);
    const size = Buffer.alloc(2);
    size.writeUInt16LE(message.length);
    const length = Buffer.alloc(2);
    length.writeUInt16LE(16 + message.length);
    const frame = hex(
      `${header('6f00', length.toString('hex'), handle)} 00000000 0000 0200 0000 0000 b200 ${size.toString('hex')} ${message.toString('hex')}`,
    );
    const answer = await ask(socket, frame);
    expect(statusOf(answer)).toBe(0);
    expect(answer.subarray(40, 40 + hex(expected).length)).toEqual(hex(expected));
    socket.destroy();
  });
});

test('bytes that make no sense end nothing: 300 random streams, then a proper request', async () => {
  let seed = 1;
  const random = () => (seed = (seed * 1_103_515_245 + 12_345) & 0x7fff_ffff);
  for (let n = 0; n < 300; n += 1) {
    const bytes = Buffer.from(Array.from({ length: 1 + (random() % 80) }, () => random() & 0xff));
    // Half of them look like a SendRRData in their first bytes.
    if (n % 2) Buffer.from('6f00', 'hex').copy(bytes);
    if (n % 2 && bytes.length > 3) bytes.writeUInt16LE(Math.max(0, bytes.length - 24), 2);
    const socket = await open();
    socket.write(Buffer.concat([register, bytes]));
    socket.end();
    await new Promise((resolve) => socket.once('close', resolve).resume());
  }
  const udp = createSocket('udp4');
  for (let n = 0; n < 100; n += 1) {
    const bytes = Buffer.from(Array.from({ length: random() % 60 }, () => random() & 0xff));
    for (const port of [44_818, 2222]) udp.send(bytes, port, address);
  }
  // It takes datagrams in their order: the answer to a good one comes behind all of them.
  const answered = once(udp, 'message');
  udp.send(hex(header('6300', '0000')), 44_818, address);
  await answered;
  udp.close();
  const socket = await open();
  expect(statusOf(await ask(socket, register))).toBe(0);
  socket.destroy();
});

test('a session too many is refused for want of memory, encapsulation status 2, and served once another has ended', async () => {
  const sockets = await Promise.all(Array.from({ length: 249 }, open));
  const registered = async (socket: Socket) => statusOf(await ask(socket, register, 1000));
  const statuses = await Promise.all(sockets.map(registered));
  expect(statuses.filter((s) => s === 0)).toHaveLength(248);
  expect(statuses.filter((s) => s === 2)).toHaveLength(1);
  const late = sockets[statuses.indexOf(2)]!;
  sockets.find((s) => s !== late)!.destroy();
  await until(async () => (await registered(late)) === 0);
  for (const socket of sockets) socket.destroy();
});

describe('what an outside suite asked', () => {
  /** SendRRData with a request: null address item, then the message; `count` is what it says of its items. */
  const rrData = (session: string, message: string, count = 2, more = '') => {
    const cip = hex(message);
    const length = (bytes: number) => u16(bytes).toString('hex');
    const items = `00000000 0000 ${length(count)} 0000 0000 b200 ${length(cip.length)} ${message} ${more}`;
    return hex(`${header('6f00', length(hex(items).length), session)} ${items}`);
  };
  const u16 = (value: number) => {
    const bytes = Buffer.alloc(2);
    bytes.writeUInt16LE(value);
    return bytes;
  };
  const vendor = '0e 03 20 01 24 01 30 01';

  test.each([
    ['as many items as it says', 2, '', 0],
    ['one item less than it says', 3, '', 3],
    ['one item more than it says', 1, '', 3],
    ['bytes behind its items', 2, '00', 3],
    ['65,535 items', 0xffff, '', 3],
  ])('%s: encapsulation status %#', async (_says, count, more, status) => {
    const socket = await open();
    const handle = session(await ask(socket, register));
    const answer = await ask(socket, rrData(handle, vendor, count, more));
    expect(statusOf(answer)).toBe(status);
    if (status === 0) expect(answer.readUInt16LE(44)).toBe(65_013);
    socket.destroy();
  });

  /** General status 4, path segment error (CIP Vol. 1, appendix B-1, from memory). */
  test.each([
    ['class, instance, attribute', '20 01 24 01 30 01', 0],
    ['the instance before its class', '24 01 20 01 30 01', 4],
    ['the attribute before its instance', '20 01 30 01 24 01', 4],
    ['a second class behind', '20 01 24 01 20 01', 4],
  ])('a path of %s', async (_says, path, status) => {
    const socket = await open();
    const handle = session(await ask(socket, register));
    const answer = await ask(socket, rrData(handle, `0e 03 ${path}`));
    expect(answer[42]).toBe(status);
    socket.destroy();
  });

  test('cyclic packets go to the port that the originator names, and the connection is closed as any other', async () => {
    const own = createSocket('udp4');
    await new Promise<void>((resolve) => own.bind(40_123, '127.0.0.1', resolve));
    const heard = once(own, 'message') as Promise<[Buffer]>;
    const socket = await open();
    const handle = session(await ask(socket, register));
    const triad = '2211 e8fd 78563412';
    // 10 ms both ways; 14 bytes and 14 bytes, scheduled, point-to-point; class 1, cyclic.
    const request =
      `54 02 20 06 24 01 03 fa 00000000 05000000 ${triad} 02 000000 10270000 0e48 10270000 0e48 01` +
      ' 04 20 04 24 96 2c 78 2c 6e';
    const sockaddr = '0180 1000 0002 9cbb 7f000001 0000000000000000';
    const opened = await ask(socket, rrData(handle, request, 3, sockaddr));
    expect([...opened.subarray(40, 43)]).toEqual([0xd4, 0, 0]);
    const [packet] = await heard;
    expect(packet.readUInt32LE(6)).toBe(5);
    const close = `4e 02 20 06 24 01 03 fa ${triad} 04 00 20 04 24 96 2c 78 2c 6e`;
    const closed = await ask(socket, rrData(handle, close, 3, sockaddr));
    expect([...closed.subarray(40, 43)]).toEqual([0xce, 0, 0]);
    own.close();
    socket.destroy();
  });
});
