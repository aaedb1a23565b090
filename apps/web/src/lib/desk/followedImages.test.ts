import { readFileSync } from 'node:fs';
import { readCellFile } from '@fadenkreuz/core';
import { describe, expect, test } from 'vitest';
import { FollowedImage, FollowedImages } from './followedImages.js';

const demo = readCellFile(
  readFileSync(new URL('../../../../../demo/ripening-store-3.json', import.meta.url), 'utf8'),
);
const bytes = (...of: number[]) => Uint8Array.from(of);

describe('an image that is followed', () => {
  test('knows when each bit last changed', () => {
    const image = new FollowedImage();
    image.take({ at: 100, bytes: bytes(0, 0) });
    image.take({ at: 200, bytes: bytes(0b101, 0) });
    image.take({ at: 300, bytes: bytes(0b100, 0x80) });
    const changed = [...image.changedAt].flatMap((at, bit) => (at > 0 ? [[bit, at]] : []));
    expect(changed).toEqual([
      [0, 300],
      [2, 200],
      [15, 300],
    ]);
  });

  test('of a time it gives what held when it began, and all that came', () => {
    const image = new FollowedImage();
    for (let i = 0; i < 5; i += 1) image.take({ at: i * 10, bytes: bytes(i) });
    const values = (from: number, to?: number) => image.between(from, to).map((c) => c.bytes[0]);
    expect(values(15, 30)).toEqual([1, 2, 3]);
    expect(values(20)).toEqual([2, 3, 4]);
    expect(values(-5, 0)).toEqual([0]);
    expect(values(100)).toEqual([4]);
  });

  test('what is older than ten minutes goes, but for the state that held then', () => {
    const image = new FollowedImage();
    image.take({ at: 0, bytes: bytes(1) });
    image.take({ at: 1000, bytes: bytes(2) });
    image.take({ at: 10 * 60_000 + 5000, bytes: bytes(3) });
    expect(image.changes.map((c) => c.bytes[0])).toEqual([2, 3]);
    expect(image.dropped).toBe(1);
    for (let i = 0; i < 20_100; i += 1)
      image.take({ at: 10 * 60_000 + 5001 + i / 100, bytes: bytes(i & 255) });
    expect(image.changes).toHaveLength(20_000);
    expect(image.dropped + image.changes.length).toBe(20_103);
  });
});

test('changes of links become those of the images of the cell; of a link that is gone, nothing', () => {
  const images = new FollowedImages();
  const link = demo.devices[0]!.links[0]!;
  const change = { number: 1, at: 5, direction: 'command' as const, bytes: btoa('\u0001\u0002') };
  images.take(demo, [
    { ...change, link: link.id },
    { ...change, link: 'gone', number: 2 },
  ]);
  expect(images.get(link.command.id)?.changes).toEqual([{ at: 5, bytes: bytes(1, 2) }]);
  expect(images.get(link.feedback.id)).toBeUndefined();
  images.clear();
  expect(images.get(link.command.id)).toBeUndefined();
});
