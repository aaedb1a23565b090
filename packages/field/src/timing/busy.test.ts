import { expect, test } from 'vitest';
import { Busy } from './busy.js';

/** What it says, look by look, when the shares are these. */
function said(shares: number[]): boolean[] {
  let n = 0;
  const busy = new Busy(() => shares[n++]!);
  return shares.map(() => busy.look());
}

test('one busy moment says nothing, two in a row do', () => {
  expect(said([0.9, 0.1, 0.9, 0.9, 0.9])).toEqual([false, false, false, true, true]);
});

test('it is at ease again after twenty quiet looks in a row', () => {
  const quiet = Array<number>(19).fill(0.3);
  expect(said([0.9, 0.9, ...quiet, 0.5, ...quiet, 0.3]).indexOf(false, 1)).toBe(41);
});

test('between the two shares it stays what it is', () => {
  expect(new Set(said(Array<number>(50).fill(0.5)))).toEqual(new Set([false]));
  expect(said([0.7, 0.7, ...Array<number>(50).fill(0.5)]).lastIndexOf(false)).toBe(0);
});

test('by itself it looks at the event loop of this process', async () => {
  const busy = new Busy();
  const spin = () => {
    const until = performance.now() + 30;
    while (performance.now() < until);
    return new Promise((resolve) => setImmediate(resolve));
  };
  await spin();
  await spin();
  busy.look();
  await spin();
  expect(busy.look()).toBe(true);
});
