import { expect, test } from 'vitest';
import { HeardFrames, unpackFrames } from './heardFrames.js';
import { noTap } from './tap.js';

const end = { address: '127.0.0.1', port: 1 };
const hex = (data: Uint8Array) => Buffer.from(data).toString('hex');
const shown = (packed: Uint8Array) =>
  unpackFrames(packed).map(({ answer, bytes }) => `${answer ? '<' : '>'} ${hex(bytes)}`);
const bytes = (length: number, first: number) => Uint8Array.from({ length }, (_, i) => first + i);

test('the messages of the last request, in their order and in memory of their own', () => {
  const frames = new HeardFrames(noTap);
  const stream = frames.tcp(end, end);
  stream.sent(bytes(4, 99));
  frames.begin();
  const socket = bytes(3, 7);
  stream.sent(bytes(0, 0));
  stream.received(socket);
  const { last } = frames;
  // The socket uses its buffer again, and another request follows.
  socket.fill(0);
  frames.begin();
  stream.sent(bytes(70_000, 1));
  stream.received(bytes(5, 20));
  expect(shown(last)).toEqual(['> ', '< 070809']);
  expect(shown(frames.last)).toEqual([`> ${hex(bytes(70_000, 1))}`, `< ${hex(bytes(5, 20))}`]);
});

test('of a request with many messages the first sixteen', () => {
  const frames = new HeardFrames(noTap);
  const stream = frames.tcp(end, end);
  frames.begin();
  for (let n = 0; n < 40; n += 1) stream.received(bytes(2, n));
  expect(unpackFrames(frames.last).map((f) => f.bytes[0])).toEqual([...Array(16).keys()]);
  frames.begin();
  expect(unpackFrames(frames.last)).toEqual([]);
});
