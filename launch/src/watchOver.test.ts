import { afterEach, beforeEach, expect, test, vi } from 'vitest';
import { watchOver } from './watchOver.js';

beforeEach(() => void vi.useFakeTimers());
afterEach(() => void vi.useRealTimers());

/** What a part answers, second by second; then it stays as it was last. */
async function watched(answers: (boolean | 'fails')[], process = (_at: number): number | undefined => 1) {
  let at = 0;
  const ends: number[] = [];
  const said: string[] = [];
  const stop = watchOver({
    name: 'the agent',
    answers: () => {
      const answer = answers[Math.min(at, answers.length - 1)]!;
      at += 1;
      return answer === 'fails' ? Promise.reject(new Error('refused')) : Promise.resolve(answer);
    },
    process: () => process(at),
    end: () => ends.push(at),
    say: (line) => said.push(line),
  });
  await vi.advanceTimersByTimeAsync(20_000);
  stop();
  return { ends, said, asked: at };
}

test('a part that answers is left alone, also when it misses some', async () => {
  expect((await watched([true])).ends).toEqual([]);
  const three = Array<false>(3).fill(false);
  expect((await watched([...three, true, ...three, true])).ends).toEqual([]);
});

test.each([false, 'fails'] as const)(
  'one that stands still (%j) is ended and said, and then again',
  async (answer) => {
    const { ends, said } = await watched([true, answer]);
    expect(ends).toEqual([5, 9, 13, 17]);
    expect(said[0]).toBe('the agent stands still; it is ended and started again.');
  },
);

test('one that was started anew has more time for its first word, and one that is not there is not ended', async () => {
  // It answers, is gone for three looks, and begins again as another process that says nothing for a while.
  const begins = (at: number) => (at < 3 ? 1 : at < 6 ? undefined : 2);
  const silent = Array<false>(12).fill(false);
  expect((await watched([true, true, ...silent, true], begins)).ends).toEqual([]);
  expect((await watched([false], () => undefined)).ends).toEqual([]);
});

test('after the watch nobody is asked', async () => {
  const { asked } = await watched([true]);
  await vi.advanceTimersByTimeAsync(5000);
  expect(asked).toBe(20);
});
