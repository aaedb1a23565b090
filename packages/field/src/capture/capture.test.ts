import { mkdtemp, readFile, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { describe, expect, test } from 'vitest';
import { tsharkFields } from '../tshark.js';
import { udpPacket } from './packets.js';
import { CaptureFile } from './captureFile.js';
import { Recording, SwitchedTap } from './recording.js';

const file = async () => join(await mkdtemp(join(tmpdir(), 'fadenkreuz-')), 'x.pcapng');
const here = { address: '127.99.1.1', port: 40_000 };
const there = { address: '127.99.1.2', port: 9 };

/** The checksum of the IPv4 header as RFC 1071 works it: the sum of all words, the carry folded in, is 16#FFFF. */
test('an IPv4 header sums up to 16#FFFF', () => {
  const packet = udpPacket(here, there, 1, Buffer.from('odd'));
  let sum = 0;
  for (let i = 0; i < 20; i += 2) sum += packet.readUInt16BE(i);
  expect((sum & 0xffff) + (sum >>> 16)).toBe(0xffff);
  expect(packet.length).toBe(20 + 8 + 3);
});

test('tshark finds right checksums, payloads of any length and a TCP stream without gaps', async () => {
  const path = await file();
  const capture = new CaptureFile(path);
  for (const length of [0, 1, 2, 511, 1400]) capture.udp(here, there, Buffer.alloc(length, 0x55));
  const tcp = capture.tcp(here, there);
  tcp.sent(Buffer.alloc(4000, 1));
  tcp.received(Buffer.alloc(3, 2));
  tcp.sent(Buffer.alloc(1, 3));
  tcp.closed();
  await capture.close();

  const udp = tsharkFields(path, 'udp', ['udp.length', 'ip.src', 'ip.dst']);
  expect(udp.map((p) => Number(p['udp.length']) - 8)).toEqual([0, 1, 2, 511, 1400]);
  expect(udp[0]).toMatchObject({ 'ip.src': here.address, 'ip.dst': there.address });
  const bad = 'ip.checksum.status == "Bad" or udp.checksum.status == "Bad" or tcp.checksum.status == "Bad"';
  expect(tsharkFields(path, bad, ['frame.number'])).toEqual([]);
  expect(tsharkFields(path, 'tcp.analysis.flags', ['frame.number'])).toEqual([]);
  const sent = tsharkFields(path, `tcp.len > 0 and ip.src == ${here.address}`, ['tcp.len', 'tcp.seq']);
  expect(sent.map((p) => [Number(p['tcp.seq']), Number(p['tcp.len'])])).toEqual([
    [1, 1460],
    [1461, 1460],
    [2921, 1080],
    [4001, 1],
  ]);
});

test('blocks are whole 32-bit words, with their length at both ends (pcapng draft, 3.1)', async () => {
  const path = await file();
  const capture = new CaptureFile(path);
  capture.udp(here, there, Buffer.alloc(5));
  await capture.close();
  const bytes = await readFile(path);
  const types: number[] = [];
  for (let at = 0; at < bytes.length;) {
    const length = bytes.readUInt32LE(at + 4);
    types.push(bytes.readUInt32LE(at));
    expect(length % 4).toBe(0);
    expect(bytes.readUInt32LE(at + length - 4)).toBe(length);
    at += length;
  }
  expect(types).toEqual([0x0a0d0d0a, 1, 6]);
});

test('a file that cannot be written is an error at the end, not a crash in between', async () => {
  const capture = new CaptureFile('/nowhere/x.pcapng');
  await new Promise((resolve) => setTimeout(resolve, 50));
  capture.udp(here, there, Buffer.alloc(5));
  await expect(capture.close()).rejects.toThrow(/ENOENT/);
});

describe('a recording in memory', () => {
  const saved = async (recording: Recording) => {
    const path = await file();
    await writeFile(path, Buffer.concat([...recording.file()]));
    return path;
  };

  test('keeps the newest packets that find room, as a whole file', async () => {
    const recording = new Recording(20_000);
    for (let n = 0; n < 500; n += 1) recording.udp(here, there, Buffer.alloc(100, n));
    const { packets, bytes, forgotten } = recording.state;
    expect(bytes).toBeLessThanOrEqual(20_000);
    expect(packets + forgotten).toBe(500);
    const read = tsharkFields(await saved(recording), 'udp', ['udp.payload']);
    expect(read).toHaveLength(packets);
    expect(read.at(-1)!['udp.payload']).toBe('f3'.repeat(100));
  });

  test('what comes after its end is passed over', () => {
    const recording = new Recording();
    recording.udp(here, there, Buffer.alloc(4));
    recording.running = false;
    recording.udp(here, there, Buffer.alloc(4));
    expect(recording.state).toMatchObject({ running: false, packets: 1 });
  });

  test('a conversation that was begun before it is taken up midway, without a gap (tshark)', async () => {
    const tap = new SwitchedTap();
    const tcp = tap.tcp(here, there);
    tcp.sent(Buffer.alloc(10, 1));
    const recording = (tap.to = new Recording());
    tcp.received(Buffer.alloc(20, 2));
    tcp.sent(Buffer.alloc(30, 3));
    tap.to = undefined;
    tcp.sent(Buffer.alloc(40, 4));
    const later = (tap.to = new Recording());
    tcp.received(Buffer.alloc(50, 5));
    tcp.closed();
    const path = await saved(recording);
    expect(tsharkFields(path, 'tcp', ['tcp.len']).map((p) => p['tcp.len'])).toEqual(['20', '30']);
    expect(tsharkFields(path, 'tcp.analysis.flags or _ws.malformed', ['frame.number'])).toEqual([]);
    const second = tsharkFields(await saved(later), 'tcp', ['tcp.len']).map((p) => p['tcp.len']);
    expect(second).toEqual(['50', '0', '0', '0']);
  });
});
