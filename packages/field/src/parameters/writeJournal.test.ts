import { appendFileSync, mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { tmpdir } from 'node:os';
import fc from 'fast-check';
import { afterAll, beforeEach, describe, expect, test } from 'vitest';
import type { Outcome } from '@fadenkreuz/core';
import { WriteJournal } from './writeJournal.js';

const folder = mkdtempSync(join(tmpdir(), 'writes-'));
const path = join(folder, 'writes.jsonl');
beforeEach(() => rmSync(path, { force: true }));
afterAll(() => rmSync(folder, { recursive: true }));

const steps = ['a', 'b', 'c'].map((parameter) => ({
  ...{ device: 'd1', parameter, bytes: '00 01' },
  why: 'value' as const,
}));
const outcomesOf = (journal: WriteJournal) =>
  journal.cut.map(({ lines }) => lines.map(({ outcome }) => outcome));

describe('a journal of writes', () => {
  test('killed in the middle: one is there, one is not known, one was not tried', () => {
    const journal = new WriteJournal(path);
    journal.begin('s1', 'c1', steps);
    journal.tries('s1', 0);
    journal.ended('s1', 0, 'written');
    journal.tries('s1', 1);
    const next = new WriteJournal(path);
    expect(outcomesOf(next)).toEqual([['written', 'unknown', 'not tried']]);
    expect(next.cut[0]!.lines[2]).toMatchObject({ device: 'd1', parameter: 'c', bytes: '00 01' });
    expect(next.cut[0]!.cell).toBe('c1');
    // It is kept until somebody has taken note, whoever else writes meanwhile.
    next.begin('s2', 'c1', steps);
    next.over('s2');
    expect(outcomesOf(new WriteJournal(path))).toHaveLength(1);
    next.forget('s1');
    expect([outcomesOf(next), outcomesOf(new WriteJournal(path)), readFileSync(path, 'utf8')]).toEqual([
      [],
      [],
      '',
    ]);
  });
  test('what was over is no news; a line that was cut off itself is left out', () => {
    const journal = new WriteJournal(path);
    journal.begin('s1', 'c1', steps);
    journal.begin('s2', 'c1', steps);
    journal.over('s1');
    appendFileSync(path, '{"try":"s2","n"');
    expect(outcomesOf(new WriteJournal(path))).toEqual([['not tried', 'not tried', 'not tried']]);
  });
  test('cut anywhere, it says of no value what is not true', () => {
    fc.assert(
      fc.property(fc.nat({ max: 7 }), fc.nat({ max: 60 }), (entries, torn) => {
        rmSync(path, { force: true });
        const journal = new WriteJournal(path);
        const outcomes: Outcome[] = ['written', 'changed', 'refused'];
        const acts = [
          () => journal.begin('s1', 'c1', steps),
          ...outcomes.flatMap((outcome, n) => [
            () => journal.tries('s1', n),
            () => journal.ended('s1', n, outcome),
          ]),
        ];
        for (const act of acts.slice(0, entries)) act();
        const whole = entries === 0 ? '' : readFileSync(path, 'utf8');
        writeFileSync(path, whole.slice(0, whole.length - torn));
        const [lines] = outcomesOf(new WriteJournal(path));
        const sent = (n: number) => entries >= 2 + 2 * n;
        const ended = (n: number) => entries >= 3 + 2 * n;
        // What was torn off may be known less well, and never better.
        lines?.forEach((outcome, n) => {
          if (outcome === 'unknown') expect(sent(n)).toBe(true);
          else if (outcome !== 'not tried') expect([ended(n), outcome]).toEqual([true, outcomes[n]]);
          else if (torn === 0) expect(sent(n)).toBe(false);
        });
        if (torn === 0) expect(lines !== undefined).toBe(entries > 0);
      }),
      { numRuns: 200, seed: 210_001 },
    );
  });
  test('a disk that takes nothing is no reason to end', () => {
    const journal = new WriteJournal(join(folder, 'gone', 'writes.jsonl'));
    expect(() => journal.begin('s1', 'c1', steps)).not.toThrow();
    expect(journal.cut).toEqual([]);
  });
});
