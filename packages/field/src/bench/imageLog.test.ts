import { codecOf, Link, type Cell } from '@fadenkreuz/core';
import { afterEach, describe, expect, test } from 'vitest';
import { climateCell, demoDevice, until } from '../testBench.js';
import { Bench } from './bench.js';
import { ImageLog, type ImageChange } from './imageLog.js';

describe('a log of images', () => {
  test('tells each change once, with its time, and nothing of links that nobody follows', () => {
    const log = new ImageLog();
    expect(log.watcherOf('a')).toBeUndefined();
    expect(log.follow(['a'], 0, 1000).changes).toEqual([]);
    expect(log.watcherOf('b')).toBeUndefined();
    const watcher = log.watcherOf('a')!;
    const bytes = new Uint8Array([1, 2]);
    watcher.exchanged('feedback', bytes, 1001.5);
    watcher.exchanged('feedback', bytes, 1002);
    bytes[1] = 3;
    watcher.exchanged('feedback', bytes, 1003);
    watcher.exchanged('command', bytes, 1004);
    const { changes } = log.follow(['a'], 0, 1005);
    expect(changes.map((c) => [c.number, c.direction, c.bytes, c.at - performance.timeOrigin])).toEqual([
      [1, 'feedback', 'AQI=', 1001.5],
      [2, 'feedback', 'AQM=', 1003],
      [3, 'command', 'AQM=', 1004],
    ]);
    expect(log.follow(['a'], 2, 1006).changes.map((c) => c.number)).toEqual([3]);
    expect(log.follow(['a'], 3, 1006).changes).toEqual([]);
  });

  test('whoever does not ask again is not told, and what is kept is bounded', () => {
    const log = new ImageLog();
    log.follow(['a'], 0, 0);
    const watcher = log.watcherOf('a')!;
    const image = new Uint8Array(500);
    for (let i = 0; i < 50_000; i += 1) {
      image[i % 500]! += 1;
      watcher.exchanged('feedback', image, i / 10);
    }
    const kept = log.follow([], 0, 6000).changes;
    // 668 characters of base64 each, 8 MiB in all; 4,000 of them at once.
    expect(kept).toHaveLength(4000);
    expect(kept[0]!.number).toBe(50_000 - Math.floor((8 * 1024 * 1024) / 668) + 1);
    watcher.exchanged('feedback', new Uint8Array(500), 20_000);
    expect(log.follow([], 50_000, 20_001).changes).toEqual([]);
    expect(log.watcherOf('a')).toBeUndefined();
  });
});

describe('images of a running link', () => {
  let bench: Bench | undefined;
  afterEach(() => bench?.stop());

  test('40 ms of exposing are seen three times in three triggers, each with its edges', async () => {
    const camera = demoDevice('rind_camera_v1', '192.168.40.61');
    const [planned] = camera.links;
    // A packet each 8 ms, and a link that no halt of the machine ends.
    const set = { commandRpi: 8000, feedbackRpi: 8000, timeoutMultiplier: 512 as const };
    const link = Link.parse({ ...planned, ...set });
    const cell: Cell = { ...climateCell(), devices: [{ ...camera, links: [link] }] };
    bench = new Bench(cell);
    await bench.start();
    await until(() => bench!.report()[0]!.state === 'open');
    const signal = (direction: 'command' | 'feedback', name: string) =>
      link[direction].fields.find((f) => f.name === name)!;
    const changes: ImageChange[] = [];
    const follow = () => changes.push(...bench!.followImages([link.id], changes.at(-1)?.number ?? 0).changes);
    const shows = (name: string) => {
      follow();
      const { bytes = '' } = changes.filter((c) => c.direction === 'feedback').at(-1) ?? {};
      const { at } = signal('feedback', name);
      return ((Buffer.from(bytes, 'base64')[at >> 3] ?? 0) >> (at & 7)) & 1;
    };
    const write = (name: string, value: string) => bench!.write(camera.id, signal('command', name).id, value);
    write('online_request', '1');
    for (let turn = 0; turn < 3; turn += 1) {
      await until(() => shows('ready') === 1);
      write('trigger', '1');
      await until(() => shows('result_valid') === 1);
      write('trigger', '0');
      write('acknowledge', '1');
      await until(() => shows('result_valid') === 0);
      write('acknowledge', '0');
    }
    follow();
    const { at } = signal('feedback', 'exposing');
    const exposing = changes
      .filter((c) => c.direction === 'feedback')
      .map((c) => ({ at: c.at, on: (Buffer.from(c.bytes, 'base64')[at >> 3]! >> (at & 7)) & 1 }));
    const edges = exposing.filter((now, i) => i > 0 && now.on !== exposing[i - 1]!.on);
    expect(edges.map((e) => e.on)).toEqual([1, 0, 1, 0, 1, 0]);
    expect(codecOf(link.feedback).signals.map((s) => s.name)).toContain('exposing');
    // Three commands of trigger went out, each up and down.
    const triggers = changes
      .filter((c) => c.direction === 'command')
      .map((c) => Buffer.from(c.bytes, 'base64')[0]! & 1);
    expect(triggers.filter((now, i) => i > 0 && now !== triggers[i - 1])).toEqual([1, 0, 1, 0, 1, 0]);
  });
});
