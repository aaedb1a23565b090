import { expect, test } from 'vitest';
import type { RoleImage } from '../devices/byRoles/roleImage.js';
import { gather, scatter, type LaidImage } from './laidOut.js';

/** A block of registers that lies partly, or wholly, past the end of its image: the checks say so, nothing breaks. */
const laid = (from: number, at = 0): LaidImage => ({
  image: { bytes: new Uint8Array(4) } as RoleImage,
  stretches: [{ point: { number: 1, use: 'feedback' }, from, at, bytes: 4 }],
});
const point = () => ({ number: 1, use: 'feedback' as const, bytes: Uint8Array.of(1, 2, 3, 4) });

test.each([
  [0, [1, 2, 3, 4]],
  [2, [0, 0, 1, 2]],
  [4, [0, 0, 0, 0]],
  [9, [0, 0, 0, 0]],
])('bytes from %i on are taken as far as they fit', (from, bytes) => {
  const image = laid(from);
  gather(image, [point()]);
  expect([...image.image.bytes]).toEqual(bytes);
});

test.each([
  [0, [9, 9, 9, 9]],
  [3, [1, 2, 3, 9]],
  [7, [1, 2, 3, 4]],
])('bytes are put at %i as far as they fit', (at, bytes) => {
  const image = laid(0, at);
  image.image.bytes.fill(9);
  const into = point();
  scatter(image, [into]);
  expect([...into.bytes]).toEqual(bytes);
});
