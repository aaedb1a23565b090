import { afterEach, beforeEach, describe, expect, test, vi } from 'vitest';
import { Cable, type CableTrouble } from './cable.js';

beforeEach(() => void vi.useFakeTimers());
afterEach(() => void vi.useRealTimers());

/** Sends numbered packets 10 ms apart; what comes out, with the time. */
function through(trouble: Partial<CableTrouble>, count = 400, seed = 11): number[] {
  const cable = new Cable(seed);
  cable.set(trouble);
  const out: number[] = [];
  for (let n = 0; n < count; n += 1) {
    cable.carry('out', Uint8Array.of(n & 0xff, n >> 8), (p) => out.push(p[0]! | (p[1]! << 8)));
    vi.advanceTimersByTime(10);
  }
  vi.advanceTimersByTime(1000);
  cable.close();
  return out;
}
const inOrder = (list: number[]) => list.every((n, i) => i === 0 || n > list[i - 1]!);
const all = Array.from({ length: 400 }, (_, n) => n);

describe('cable', () => {
  test('a sound one carries everything, once and in order', () => expect(through({})).toEqual(all));
  test('a pulled one carries nothing', () => expect(through({ pulled: true })).toEqual([]));

  test('losses come near their share, and the rest stays in order', () => {
    const out = through({ lost: 0.25 });
    expect(inOrder(out)).toBe(true);
    expect(out.length).toBeGreaterThan(270);
    expect(out.length).toBeLessThan(330);
  });

  test('doubled packets come twice, none is missing', () => {
    const out = through({ doubled: 0.5 });
    expect(new Set(out).size).toBe(400);
    expect(out.length).toBeGreaterThan(550);
  });

  test('reordered packets change places with the next; none is lost or doubled', () => {
    const out = through({ reordered: 0.3 });
    expect([...out].sort((a, b) => a - b)).toEqual(all);
    expect(inOrder(out)).toBe(false);
    expect(Math.max(...out.map((n, i) => Math.abs(n - i)))).toBe(1);
  });

  test('a packet that nothing follows is not held for ever', () => {
    const cable = new Cable(3);
    cable.set({ reordered: 1 });
    const out: number[] = [];
    cable.carry('in', Uint8Array.of(7), (p) => out.push(p[0]!));
    expect(out).toEqual([]);
    vi.advanceTimersByTime(250);
    expect(out).toEqual([7]);
  });

  test.each([
    ['bytes', Uint8Array.of(1)],
    ['a buffer', Buffer.of(1)],
  ])('delayed packets all come, and carry what they carried when they were sent: %s', (_says, packet) => {
    const cable = new Cable(5);
    cable.set({ delayed: 1, delayMs: 30 });
    const out: number[] = [];
    cable.carry('in', packet, (p) => out.push(p[0]!));
    packet[0] = 2;
    vi.advanceTimersByTime(29);
    expect(out).toEqual([]);
    vi.advanceTimersByTime(2);
    expect(out).toEqual([1]);
  });

  test('the same seed loses the same packets', () => {
    expect(through({ lost: 0.3 })).toEqual(through({ lost: 0.3 }));
    expect(through({ lost: 0.3 })).not.toEqual(through({ lost: 0.3 }, 400, 12));
  });
});
