import { expect, test } from 'vitest';
import { isToken, judge, type Gate, type Verdict } from './gate.js';

const gate: Gate = { token: 'a'.repeat(32), cookie: 'fadenkreuz-8470' };
const own = { host: '127.0.0.1:8470' };
const cookies = (value?: string) => ({ get: (name: string) => (name === gate.cookie ? value : undefined) });

test.each<[string, string, string, Record<string, string>, string | undefined, Verdict]>([
  ['a page with its cookie', 'GET', '/', own, gate.token, 'pass'],
  ['a page without it', 'GET', '/', own, undefined, 'no-token'],
  ['the API without it', 'DELETE', '/api/bench', own, undefined, 'no-token'],
  ['a cookie that is too short', 'GET', '/', own, 'a', 'no-token'],
  ['another cookie of the same length', 'GET', '/', own, 'b'.repeat(32), 'no-token'],
  ['a program', 'POST', '/api/bench', { ...own, authorization: `Bearer ${gate.token}` }, undefined, 'pass'],
  ['whether it is well', 'GET', '/api/health', own, undefined, 'pass'],
  ['another name', 'GET', '/', { host: 'evil.example' }, gate.token, 'other-name'],
  [
    'a form of another page',
    'POST',
    '/api/bench',
    { ...own, origin: 'http://evil.example' },
    gate.token,
    'other-page',
  ],
  [
    'a frame of another page',
    'GET',
    '/api/cells',
    { ...own, 'sec-fetch-site': 'cross-site' },
    gate.token,
    'other-page',
  ],
  [
    'another port of this computer',
    'POST',
    '/api/bench',
    { ...own, 'sec-fetch-site': 'same-site' },
    gate.token,
    'other-page',
  ],
  ['its own pages', 'POST', '/api/bench', { ...own, 'sec-fetch-site': 'same-origin' }, gate.token, 'pass'],
])('%s: %s %s', (_says, method, path, headers, cookie, verdict) => {
  const request = { method, url: `http://127.0.0.1:8470${path}`, headers: new Headers(headers) };
  expect(judge(gate, request, cookies(cookie))).toBe(verdict);
});

test('without a token everybody on this computer may ask', () => {
  const request = { method: 'GET', url: 'http://127.0.0.1:8470/', headers: new Headers(own) };
  expect(judge({ ...gate, token: '' }, request, cookies())).toBe('pass');
});

test('no part of a token is one', () => {
  expect([gate.token, gate.token.slice(1), '', null, undefined].map((t) => isToken(gate, t))).toEqual([
    true,
    false,
    false,
    false,
    false,
  ]);
});
