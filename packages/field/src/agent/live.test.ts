import { expect, test } from 'vitest';
import type { BenchStatus } from './benchStatus.js';
import { imagesOf, newsBetween, newsFor, withNews } from './live.js';

const link = (id: string, part: object = {}) =>
  ({
    link: id,
    state: 'open',
    ageMs: 3,
    received: 10,
    causes: [],
    command: 'AA==',
    feedback: 'AQ==',
    ...part,
  }) as never;
const status = (links: never[], part: Partial<BenchStatus> = {}): BenchStatus => ({
  ...{
    bench: { cell: 'c', version: 1, run: true },
    armedForMs: 0,
    armedBy: '',
    machine: {},
    exchanges: [],
    lastTrace: 4,
    manual: [],
    recording: null,
    cutWrites: [],
  },
  ...part,
  links,
});

test('at first all is told', () => {
  const now = status([link('a')]);
  const news = newsBetween(undefined, now)!;
  expect(news).toMatchObject({
    whole: true,
    head: { machine: {}, lastTrace: 4 },
    links: [{ link: 'a', feedback: 'AQ==' }],
  });
  expect(withNews(undefined, news)).toEqual(now);
});

test('then only what changed, and what did not stays the same value', () => {
  const before = status([link('a'), link('b')]);
  const after = status([link('a', { feedback: 'Ag==' }), link('b')], { machine: {}, lastTrace: 5 });
  const news = newsBetween(before, after)!;
  expect(news).toEqual({
    whole: false,
    head: { lastTrace: 5 },
    links: [{ link: 'a', feedback: 'Ag==' }],
  });
  const next = withNews(before, news);
  expect(next).toEqual(after);
  expect(next.links[1]).toBe(before.links[1]);
  expect(newsBetween(after, structuredClone(after))).toBeUndefined();
});

test('figures wait, unless the link itself is in another state', () => {
  const before = status([link('a'), link('b')]);
  const after = status([link('a', { ageMs: 90 }), link('b', { ageMs: 91, state: 'timed-out' })]);
  expect(newsBetween(before, after, false)!.links).toEqual([{ link: 'b', ageMs: 91, state: 'timed-out' }]);
  expect(newsBetween(before, after)!.links).toHaveLength(2);
});

test('a link more or less: all is told', () => {
  const before = status([link('a')]);
  expect(newsBetween(before, status([link('a'), link('b')]))!.whole).toBe(true);
  expect(newsBetween(before, status([]))!.whole).toBe(true);
});

test('images go to those alone who look at them', () => {
  const before = status([link('a'), link('b')]);
  const after = status([link('a', { feedback: 'Ag==' }), link('b', { feedback: 'Aw==', state: 'refused' })]);
  const news = newsBetween(before, after)!;
  expect(newsFor(news, new Set(['a']))!.links).toEqual([
    { link: 'a', feedback: 'Ag==' },
    { link: 'b', state: 'refused' },
  ]);
  const onlyBytes = newsBetween(before, status([link('a', { feedback: 'Ag==' }), link('b')]))!;
  expect(newsFor(onlyBytes, new Set(['b']))).toBeUndefined();
  expect(newsFor(newsBetween(undefined, after)!, new Set())!.links).toMatchObject([
    { feedback: '' },
    { feedback: '' },
  ]);
  expect(imagesOf(after, new Set(['b'])).links).toEqual([{ link: 'b', command: 'AA==', feedback: 'Aw==' }]);
});
