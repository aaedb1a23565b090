import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { darkBeams, objectSeen } from './blocks.js';
import { inOrder, SafetyRun } from './network.js';
import { meaningOf } from './meaning.js';
import { SafetyLogic, type LogicBlock } from './safetyLogic.js';

/** Blocks of these tests: doors d1, d2 … as inputs, and what is tried. */
const logicOf = (blocks: readonly object[]): SafetyLogic => SafetyLogic.parse({ blocks });
const doors = (count: number) =>
  Array.from({ length: count }, (_, i) => ({ id: `d${i + 1}`, name: `door ${i + 1}`, is: 'door' }));
const wires = (...ids: string[]) => ids.map((from) => ({ from }));
const tried = (part: object, inputs: number, extra: readonly object[] = []) => {
  const names = doors(inputs).map(({ id }) => id);
  const block = { id: 'x', name: 'tried', in: wires(...names), ...part };
  const run = new SafetyRun(logicOf([...doors(inputs), ...extra, block]));
  return {
    run,
    /** A step of so many ms with these inputs. */
    step: (values: readonly boolean[], ms = 10) => {
      values.forEach((on, i) => run.set(`d${i + 1}`, { on }));
      run.step(ms);
      return run.value('x');
    },
  };
};
const rows = (count: number): boolean[][] =>
  Array.from({ length: 2 ** count }, (_, n) => Array.from({ length: count }, (_, i) => ((n >> i) & 1) === 1));

describe('truth tables (IEC 60617-12 signs and, or, not; from memory)', () => {
  test.each([
    ['and', (v: boolean[]) => v.every(Boolean)],
    ['or', (v: boolean[]) => v.some(Boolean)],
  ] as const)('%s of one to four', (is, table) => {
    for (let count = 1; count <= 4; count += 1)
      for (const row of rows(count)) expect(tried({ is }, count).step(row)).toBe(table(row));
  });
  test('and of nothing lets nothing run', () => expect(tried({ is: 'and' }, 0).step([])).toBe(false));
  test('not, output, and a wire that is turned round', () => {
    for (const [on] of rows(1)) {
      expect(tried({ is: 'not' }, 1).step([on!])).toBe(!on);
      expect(tried({ is: 'output' }, 1).step([on!])).toBe(on);
      const turned = { is: 'and', in: [{ from: 'd1', not: true }] };
      expect(tried(turned, 1).step([on!])).toBe(!on);
    }
  });
  test('inputs: door, emergency stop, button, selector', () => {
    const run = new SafetyRun(
      logicOf([
        ...[
          { id: 'd', name: 'd', is: 'door' },
          { id: 'e', name: 'e', is: 'emergency stop' },
        ],
        ...[
          { id: 'b', name: 'b', is: 'button' },
          { id: 'm', name: 'm', is: 'mode', position: 2 },
        ],
      ]),
    );
    run.step(10);
    expect(['d', 'e', 'b', 'm'].map((id) => run.value(id))).toEqual([true, true, false, false]);
    for (const id of ['d', 'e']) run.set(id, { on: false });
    run.set('b', { on: true });
    run.set('m', { mode: 2 });
    run.step(10);
    expect(['d', 'e', 'b', 'm'].map((id) => run.value(id))).toEqual([false, false, true, true]);
  });
});

describe('times, on a simulated clock', () => {
  test.each([1, 7, 20, 100])('delay on and off of 0.5 s in steps of %i ms', (ms) => {
    const on = tried({ is: 'delay on', after: 0.5 }, 1);
    const off = tried({ is: 'delay off', after: 0.5 }, 1);
    on.step([false], ms);
    off.step([true], ms);
    const first = Math.ceil(500 / ms);
    for (let k = 0; k < first; k += 1) {
      expect(on.step([true], ms)).toBe(false);
      expect(off.step([false], ms)).toBe(true);
    }
    expect(on.step([true], ms)).toBe(true);
    expect(off.step([false], ms)).toBe(false);
    // What comes back in between begins anew.
    expect(on.step([false], ms)).toBe(false);
    expect(on.step([true], ms)).toBe(false);
    expect(off.step([true], ms)).toBe(true);
  });
  test('two hands (ISO 13851): within 0.5 s, both let go before the next', () => {
    const { run } = tried({ is: 'output' }, 0, [{ id: 'h', name: 'hands', is: 'two-hand' }]);
    const hands = (left: boolean, right: boolean, ms = 10) => {
      run.set('h', { left, right });
      run.step(ms);
      return run.value('h');
    };
    hands(false, false);
    expect(hands(true, false)).toBe(false);
    expect(hands(true, true, 400)).toBe(true);
    // One is let go, and comes again: nothing, until both were let go.
    expect(hands(true, false)).toBe(false);
    expect(hands(true, true)).toBe(false);
    expect(hands(false, true)).toBe(false);
    expect(hands(false, false)).toBe(false);
    expect(hands(true, true)).toBe(true);
    hands(false, false);
    hands(true, false, 300);
    hands(true, false, 300);
    expect(hands(true, true, 10)).toBe(false);
  });
  test.each(['falling', 'rising'] as const)(
    'a reset at the %s edge; what is lost waits for the next',
    (edge) => {
      const { run, step } = tried({ is: 'reset', edge }, 2);
      step([true, false]);
      expect(run.waits('x')).toBe(true);
      expect(step([true, true])).toBe(edge === 'rising');
      expect(step([true, false])).toBe(true);
      expect(run.waits('x')).toBe(false);
      expect(step([false, false])).toBe(false);
      expect(run.waits('x')).toBe(false);
      expect(step([true, false])).toBe(false);
      // A button that was held down before acts at neither edge.
      step([false, true]);
      expect(step([true, true])).toBe(false);
    },
  );
  test('after power-on a reset waits, or lets run what is safe', () => {
    expect(tried({ is: 'reset' }, 2).step([true, false])).toBe(false);
    const runs = tried({ is: 'reset', start: 'runs' }, 2);
    expect(runs.step([true, false])).toBe(true);
    runs.step([false, false]);
    expect(runs.step([true, false])).toBe(false);
    expect(tried({ is: 'reset', start: 'runs' }, 2).step([false, false])).toBe(false);
  });
  test('muting (IEC 62046): begins free, with both sensors within 4 s, ends with either of them', () => {
    const { run, step } = tried({ is: 'muting', longest: 5 }, 3);
    step([true, false, false]);
    step([true, true, false], 1000);
    expect(step([true, true, true], 1000)).toBe(true);
    expect(run.mutes('x')).toBe(true);
    expect(step([false, true, true], 1000)).toBe(true);
    expect(step([false, true, false])).toBe(false);
    expect(run.mutes('x')).toBe(false);
    // It does not begin anew before both are gone.
    expect(step([true, true, true])).toBe(true);
    expect(run.mutes('x')).toBe(false);
    step([true, false, false]);
    // A second sensor that comes too late mutes nothing.
    step([true, true, false]);
    step([true, true, false], 4500);
    step([true, true, true]);
    expect(run.mutes('x')).toBe(false);
    step([true, false, false]);
    // What takes too long is over.
    step([true, true, true]);
    expect(run.mutes('x')).toBe(true);
    step([false, true, true], 4000);
    expect(step([false, true, true], 2000)).toBe(false);
    // Interrupted already: nothing is bridged.
    step([false, false, false]);
    expect(step([false, true, true])).toBe(false);
  });
});

describe('light curtain', () => {
  test('12 beams, 1 is clear (common practice, no source)', () => {
    const status = Array.from({ length: 12 }, (_, i) => ({
      ...{ id: `s${i}`, from: 'c', shows: 'beam', beam: i + 1, offset: i >> 3, bit: i & 7 },
    }));
    const blocks = [{ id: 'c', name: 'curtain', is: 'curtain', beams: 12, pitch: 30 }];
    const run = new SafetyRun(SafetyLogic.parse({ blocks, status }));
    run.step(10);
    const word = () =>
      run.logic.status.reduce((sum, bit) => sum | (Number(run.shows(bit)) << (bit.offset * 8 + bit.bit)), 0);
    expect(word()).toBe(0x0fff);
    run.set('c', { size: 65, position: 85 });
    run.step(10);
    // Beams 4, 5 and 6 stand at 90, 120 and 150 mm.
    expect(word()).toBe(0x0fff & ~0b111000);
    expect(run.value('c')).toBe(false);
  });
  test('size and place of an object are known to one pitch', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 2, max: 60 }),
        fc.double({ min: 5, max: 50, noNaN: true }),
        fc.double({ min: 0, max: 500, noNaN: true }),
        fc.double({ min: 0, max: 1, noNaN: true }),
        fc.double({ min: 0, max: 1, noNaN: true }),
        (beams, pitch, lowest, a, b) => {
          const curtain = { beams, pitch, lowest };
          const height = (beams - 1) * pitch;
          // Inside the curtain: what reaches beyond it is seen in part only.
          const [low, high] = [Math.min(a, b) * height, Math.max(a, b) * height];
          const object = { position: lowest + low, size: high - low };
          const seen = objectSeen(curtain, darkBeams(curtain, object));
          if (!seen) return void expect(object.size).toBeLessThan(pitch * (1 + 1e-9));
          expect(Math.abs(seen.size - object.size)).toBeLessThanOrEqual(seen.uncertainty * (1 + 1e-9));
          expect(Math.abs(seen.position - object.position)).toBeLessThanOrEqual(
            seen.uncertainty * (1 + 1e-9),
          );
        },
      ),
      { numRuns: 1000, seed: 230_020 },
    );
  });
});

describe('networks', () => {
  /** A network of doors and gates: each gate reads blocks before it. */
  const networks = fc
    .array(
      fc.record({
        is: fc.constantFrom('and', 'or', 'not'),
        reads: fc.array(fc.record({ from: fc.nat(), not: fc.boolean() }), { minLength: 1, maxLength: 3 }),
      }),
      { minLength: 1, maxLength: 12 },
    )
    .map((gates) => {
      const blocks: object[] = doors(4);
      gates.forEach(({ is, reads }, i) => {
        const names = [...doors(4).map((d) => d.id), ...gates.slice(0, i).map((_, k) => `g${k}`)];
        const read = is === 'not' ? reads.slice(0, 1) : reads;
        blocks.push({
          ...{ id: `g${i}`, name: `g${i}`, is },
          in: read.map(({ from, not }) => ({ from: names[from % names.length], not })),
        });
      });
      return logicOf(blocks);
    });
  /** The same, worked out from the back by recursion. */
  function asked(logic: SafetyLogic, id: string, on: readonly boolean[]): boolean {
    const block = logic.blocks.find((b) => b.id === id) as LogicBlock;
    if (block.is === 'door') return on[Number(block.id.slice(1)) - 1]!;
    const read = ('in' in block ? block.in : []).map(({ from, not }) => asked(logic, from, on) !== not);
    if (block.is === 'not') return !read[0];
    return block.is === 'and' ? read.every(Boolean) : read.some(Boolean);
  }
  test('any network, in any order of its blocks, is what its gates say, within one step', () => {
    fc.assert(
      fc.property(
        networks,
        fc.integer(),
        fc.array(fc.boolean(), { minLength: 4, maxLength: 4 }),
        (logic, seed, on) => {
          const mixed = {
            ...logic,
            blocks: [...logic.blocks].sort((a, b) => hash(a.id, seed) - hash(b.id, seed)),
          };
          const run = new SafetyRun(mixed);
          on.forEach((value, i) => run.set(`d${i + 1}`, { on: value }));
          run.step(10);
          for (const { id } of logic.blocks) expect([id, run.value(id)]).toEqual([id, asked(logic, id, on)]);
        },
      ),
      { numRuns: 500, seed: 230_021 },
    );
  });
  test('a circle shows nothing, and is told', () => {
    const logic = logicOf([
      ...[
        { id: 'a', name: 'a', is: 'and', in: wires('b') },
        { id: 'b', name: 'b', is: 'not', in: wires('a') },
      ],
      { id: 'o', name: 'o', is: 'output', in: wires('a') },
    ]);
    expect(inOrder(logic).circle.map(({ id }) => id)).toEqual(['a', 'b', 'o']);
    expect(meaningOf(logic, 'o')).toContain('reads itself');
  });
  test('what a bit means, in a sentence', () => {
    const logic = logicOf([
      { id: 'c', name: 'gate curtain', is: 'curtain' },
      { id: 'd', name: 'back door', is: 'door' },
      { id: 'b', name: 'reset button', is: 'button' },
      { id: 'a', name: 'both', is: 'and', in: wires('c', 'd') },
      { id: 'r', name: 'restart', is: 'reset', in: wires('a', 'b') },
      { id: 't', name: 'held', is: 'delay off', after: 0.3, in: wires('r') },
    ]);
    expect(meaningOf(logic, 't')).toBe(
      'no beam of gate curtain is interrupted and back door is closed, and since then reset button is pressed and was let go, or did so less than 0.3 s ago',
    );
  });
});
const hash = (text: string, seed: number) =>
  [...text].reduce((sum, c) => (sum * 31 + c.charCodeAt(0) + seed) % 9973, 7);
