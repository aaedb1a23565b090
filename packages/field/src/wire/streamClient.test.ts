import { once } from 'node:events';
import { createServer, type AddressInfo, type Server, type Socket } from 'node:net';
import { setTimeout as sleep } from 'node:timers/promises';
import { afterEach, beforeEach, describe, expect, test, vi } from 'vitest';
import { StreamClient } from './streamClient.js';

/** A message of these tests: two bytes of length, one of key, and the rest. */
const message = (key: number, rest: Uint8Array): Buffer =>
  Buffer.concat([Buffer.from([rest.length & 0xff, rest.length >> 8, key]), rest]);

function take(held: Uint8Array): { frame?: Uint8Array; rest: Uint8Array } {
  const end = held.length < 3 ? Infinity : 3 + held[0]! + 256 * held[1]!;
  return held.length < end ? { rest: held } : { frame: held.subarray(2, end), rest: held.subarray(end) };
}

let server: Server;
let client: StreamClient<Uint8Array>;
/** The server's end of the conversation. */
let socket: Socket;

beforeEach(async () => {
  server = createServer((accepted) => accepted.setNoDelay(true)).listen(0, '127.0.0.1');
  const accepted = once(server, 'connection') as Promise<[Socket]>;
  await once(server, 'listening');
  const { port } = server.address() as AddressInfo;
  const keyOf = (frame: Uint8Array) => frame[0]!;
  client = await StreamClient.open({ address: '127.0.0.1', port, answerLimitMs: 300, take, keyOf });
  [socket] = await accepted;
});
afterEach(async () => {
  await client.close();
  server.close();
});

const ask = (key: number) =>
  client.ask(key, Uint8Array.of(key), (frame) => new Uint8Array(frame.subarray(1)));
const filled = (size: number, seed: number) => Uint8Array.from({ length: size }, (_, i) => (i * seed) & 0xff);

test('an answer in pieces, the next one behind its end: nothing is overwritten by what comes later', async () => {
  const [first, second] = [filled(100, 3), filled(120, 5)];
  const answers = [ask(1), ask(2)];
  const whole = Buffer.concat([message(1, first), message(2, second)]);
  for (const [from, to] of [
    [0, 2],
    [2, 60],
    [60, 110],
    [110, 111],
    [111, whole.length],
  ]) {
    socket.write(whole.subarray(from, to));
    await sleep(10);
  }
  expect(await Promise.all(answers)).toEqual([first, second]);
});

test('an answer that is longer than one read brings comes whole', async () => {
  const long = filled(60_000, 7);
  const answer = ask(9);
  socket.write(message(9, long));
  expect(await answer).toEqual(long);
});

test('answers in another order find their questions; one that nobody asked for is passed over', async () => {
  const answers = [ask(1), ask(2), ask(3)];
  socket.write(Buffer.concat([3, 7, 1, 2].map((key) => message(key, Uint8Array.of(key * 10)))));
  expect(await Promise.all(answers)).toEqual([10, 20, 30].map((value) => Uint8Array.of(value)));
});

test('silence rejects that question alone; a reading that throws does too', async () => {
  const silent = ask(1);
  await expect(silent).rejects.toThrow('no answer within 300 ms');
  const unread = client.ask(2, Uint8Array.of(2), () => {
    throw new Error('not to be read');
  });
  socket.write(message(2, Uint8Array.of(1)));
  await expect(unread).rejects.toThrow('not to be read');
  const later = ask(3);
  socket.write(message(3, Uint8Array.of(4)));
  expect(await later).toEqual(Uint8Array.of(4));
});

test('the end of the connection rejects what waits and refuses what comes', async () => {
  const waiting = ask(1);
  socket.end();
  await expect(waiting).rejects.toThrow('the device ended the TCP connection');
  await expect(ask(2)).rejects.toThrow('the connection is closed');
});

describe('a way that is cut', () => {
  const open = (cut: () => boolean) => {
    const { port } = server.address() as AddressInfo;
    return StreamClient.open({ address: '127.0.0.1', port, answerLimitMs: 300, take, keyOf: () => 0, cut });
  };
  test('nothing is sent, and the handshake stays without an answer', async () => {
    const accepted = vi.fn();
    server.on('connection', accepted);
    await expect(open(() => true)).rejects.toMatchObject({ code: 'ETIMEDOUT' });
    expect(accepted).not.toHaveBeenCalled();
  });
  test('whole again in time, it is as if it had never been cut', async () => {
    let looks = 0;
    const other = await open(() => (looks += 1) < 3);
    expect(other.closed).toBe(false);
    await other.close();
  });
});
