import { describe, expect, test } from 'vitest';
import { en } from './en.js';
import type { Code } from './facts.js';
import { Problem } from './problem.js';

/** Facts that answer to every name, so that each sentence can be read. */
const anyFacts = new Proxy({}, { get: (_, name) => `<${String(name)}>` }) as never;

describe.each(Object.keys(en) as Code[])('%s', (code) => {
  const { says, cure } = en[code](anyFacts);

  test('says what happened in a sentence, and what to do in another', () => {
    expect(says).toMatch(/^\S.*[.>]$/);
    expect(cure).toMatch(/^\S.*[.>]$/);
    expect(`${says} ${cure}`).not.toMatch(/undefined|\[object|NaN/);
  });
});

test('a problem carries code, facts, sentence and cure, and keeps its cause', () => {
  const cause = new Error('socket');
  const problem = new Problem('link.silent', { device: 'pump_m1', waitedMs: 80 }, { cause });
  expect(problem.report()).toEqual({
    code: 'link.silent',
    facts: { device: 'pump_m1', waitedMs: 80 },
    says: 'pump_m1 sent nothing for 80 ms; the connection timed out.',
    cure: 'Look at its power and its cable; the link is tried again by itself.',
  });
  expect(problem.cause).toBe(cause);
});
