import { expect, test } from 'vitest';
import { HeardFrames, nothingHeard, unpackFrames } from './heardFrames.js';
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
  const first = frames.last;
  // The socket uses its buffer again, and another request follows.
  socket.fill(0);
  frames.begin();
  stream.sent(bytes(70_000, 1));
  stream.received(bytes(5, 20));
  expect(shown(first.kept())).toEqual(['> ', '< 070809']);
  expect(shown(frames.last.kept())).toEqual([`> ${hex(bytes(70_000, 1))}`, `< ${hex(bytes(5, 20))}`]);
});

test('of a request with many messages the first sixteen', () => {
  const frames = new HeardFrames(noTap);
  const stream = frames.tcp(end, end);
  frames.begin();
  for (let n = 0; n < 40; n += 1) stream.received(bytes(2, n));
  expect(unpackFrames(frames.last.kept()).map((f) => f.bytes[0])).toEqual([...Array(16).keys()]);
  frames.begin();
  expect(unpackFrames(frames.last.kept())).toEqual([]);
  expect([frames.last.silent, nothingHeard.silent]).toEqual([true, true]);
});

test('what is kept is written over where the next is as long, and what was shown of it stays', () => {
  const frames = new HeardFrames(noTap);
  const stream = frames.tcp(end, end);
  const asked = (data: Uint8Array, over?: Uint8Array) => {
    frames.begin();
    stream.sent(data);
    return frames.last.kept(over);
  };
  const kept = asked(bytes(3, 1));
  const seen = unpackFrames(kept);
  const again = asked(bytes(3, 40), kept);
  expect(again).toBe(kept);
  expect(shown(again)).toEqual(['> 28292a']);
  expect(hex(seen[0]!.bytes)).toBe('010203');
  const longer = asked(bytes(4, 50), kept);
  expect(longer).not.toBe(kept);
  expect([shown(kept), shown(longer)]).toEqual([['> 28292a'], ['> 32333435']]);
});
