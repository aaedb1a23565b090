import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { codecOf } from '../layout/codec.js';
import { factsOfRole } from '../layout/role.js';
import { testImage } from '../cell/testCell.js';
import { cia402, modeText } from './cia402.js';
import { speedControl, threeWire, twoWire } from './plainWords.js';
import { fullSpeed, profidrive } from './profidrive.js';
import { standardLayouts } from './standardLayouts.js';
import { standardTelegram } from './telegrams.js';
import { commandWord, nextState, openFrom, stateOf, stepTowards, type WordProfile } from './wordProfile.js';

/** Whether a word has a pattern as tables of standards print it: x is any, bit 15 first. */
function matcher(pattern: string): (word: number) => boolean {
  const digits = pattern.replaceAll(' ', '');
  const given = parseInt(digits.replace(/\d/g, '1').replaceAll('x', '0'), 2);
  const ones = parseInt(digits.replaceAll('x', '0'), 2);
  return (word) => (word & given) === ones;
}

describe('CiA 402: IEC 61800-7-201, state coding of the status word and transitions; from memory', () => {
  const table: readonly [string, string][] = [
    ['xxxx xxxx x0xx 0000', 'not ready'],
    ['xxxx xxxx x1xx 0000', 'disabled'],
    ['xxxx xxxx x01x 0001', 'ready'],
    ['xxxx xxxx x01x 0011', 'switched on'],
    ['xxxx xxxx x01x 0111', 'enabled'],
    ['xxxx xxxx x00x 0111', 'quick stop'],
    ['xxxx xxxx x0xx 1111', 'fault reaction'],
    ['xxxx xxxx x0xx 1000', 'fault'],
  ];
  test('every status word of 16 bits shows the state of the table, or none', () => {
    const rows = table.map(([pattern, state]) => ({ matches: matcher(pattern), state }));
    for (let word = 0; word < 0x10000; word += 1) {
      const wanted = rows.filter(({ matches }) => matches(word)).map(({ state }) => state);
      const shown = stateOf(cia402, word)?.id;
      if (wanted.length > 1 || shown !== wanted[0]) expect({ word, shown }).toEqual({ word, shown: wanted });
    }
  });

  /** Control word patterns of the commands, bits 7 and 3 to 0, and where each leads. */
  const commands: readonly [string, string, Record<string, string>][] = [
    ['0xxx x110', 'shutdown', { disabled: 'ready', 'switched on': 'ready', enabled: 'ready' }],
    ['0xxx 0111', 'switch on', { ready: 'switched on', enabled: 'switched on' }],
    [
      '0xxx 1111',
      'enable operation',
      { ready: 'switched on', 'switched on': 'enabled', 'quick stop': 'enabled' },
    ],
    [
      '0xxx xx0x',
      'disable voltage',
      { ready: 'disabled', 'switched on': 'disabled', enabled: 'disabled', 'quick stop': 'disabled' },
    ],
    ['0xxx x01x', 'quick stop', { ready: 'disabled', 'switched on': 'disabled', enabled: 'quick stop' }],
  ];
  test('every control word leads from every state where the table says', () => {
    for (let control = 0; control < 0x80; control += 1)
      for (const { id } of cia402.states) {
        const command = commands.find(([pattern]) => matcher(pattern)(control))!;
        expect([control, id, nextState(cia402, id, control, 0).state]).toEqual([
          control,
          id,
          command[2][id] ?? id,
        ]);
      }
    // A fault is left by the rising edge of bit 7 alone.
    expect(nextState(cia402, 'fault', 0x80, 0x00).state).toBe('disabled');
    expect(nextState(cia402, 'fault', 0x80, 0x80).state).toBe('fault');
  });

  test('generated sequences: whatever is commanded, each change is a transition with its number', () => {
    fc.assert(
      fc.property(fc.array(fc.integer({ min: 0, max: 0xff }), { maxLength: 40 }), (words) => {
        let [state, before] = ['disabled', 0];
        for (const control of words) {
          const { state: next, by } = nextState(cia402, state, control, before);
          expect(next === state ? by === undefined || by.to === state : /^\d+$/.test(by!.number)).toBe(true);
          [state, before] = [next, control];
        }
      }),
      { numRuns: 300, seed: 402 },
    );
  });

  test('the bits of the modes', () => {
    expect(modeText(1, 0x1400)).toBe('target reached, set-point acknowledged');
    expect(modeText(3, 0x0000)).toBe('changes its speed');
    expect(modeText(6, 0x1400)).toBe('homed');
    expect(modeText(6, 0x2000)).toBe('homing error, still moving');
    expect(modeText(8, 0x1000)).toBe('follows the command');
  });
});

describe('PROFIdrive: IEC 61800-7-203, general state diagram; from memory', () => {
  const s = (id: string) => profidrive.states.find((one) => one.title.startsWith(id))!.id;
  test.each([
    [0x40, 'S1'],
    [0x31, 'S2'],
    [0x33, 'S3'],
    [0x37, 'S4'],
    [0x08, 'Fault'],
  ])('status word 16#%s', (status, title) => {
    expect(stateOf(profidrive, status)?.title).toMatch(new RegExp(`^${title}`));
  });
  test('047E, 047F: ready, then operation; OFF1, OFF2 and OFF3 lead out of it', () => {
    const walk = (from: string, ...words: number[]) =>
      words.reduce((state, word, i) => nextState(profidrive, state, word, words[i - 1] ?? 0).state, from);
    expect(walk(s('S1'), 0x047e)).toBe(s('S2'));
    // ON and enable operation in one word go through S3.
    expect(walk(s('S1'), 0x047e, 0x047f, 0x047f)).toBe(s('S4'));
    expect(walk(s('S4'), 0x047e)).toBe(s('S5'));
    expect(walk(s('S4'), 0x047d)).toBe(s('S1'));
    expect(walk(s('S4'), 0x047b)).toBe(s('S5'));
    expect(walk(s('S4'), 0x0477)).toBe(s('S3'));
    // Without control by the PLC nothing is switched on.
    expect(walk(s('S1'), 0x007e)).toBe(s('S1'));
    expect(walk('fault', 0x0400, 0x0480)).toBe(s('S1'));
  });
});

describe('ODVA basic and extended speed control, and plain starts', () => {
  test.each([
    [0b0000_0001, 'faulted'],
    [0b0000_0100, 'enabled'],
    [0b0000_1000, 'reverse'],
    [0b0001_0000, 'ready'],
    [0b1111_0100, 'enabled'],
    [0b0000_0000, 'not ready'],
  ])('input assembly 71, byte 0 = %s: %s', (status, state) => {
    expect(stateOf(speedControl, status)?.id).toBe(state);
  });
  test('a stop bit that stands keeps a drive from starting; a latched start must come again (common practice)', () => {
    const walk = (profile: WordProfile, words: number[]) =>
      words.reduce((state, word, i) => nextState(profile, state, word, words[i - 1] ?? 0).state, 'stopped');
    expect(walk(twoWire, [0b11])).toBe('stopped');
    expect(walk(twoWire, [0b11, 0b01])).toBe('running');
    expect(walk(twoWire, [0b01, 0b00])).toBe('stopped');
    expect(walk(threeWire, [0b01, 0b00])).toBe('running');
    expect(walk(threeWire, [0b11, 0b01])).toBe('stopped');
    expect(walk(threeWire, [0b11, 0b01, 0b00, 0b01])).toBe('running');
    expect(walk(threeWire, [0b01, 0b00, 0b10])).toBe('stopped');
  });
});

test.each([cia402, profidrive, speedControl, twoWire, threeWire].map((p) => [p.title, p] as const))(
  '%s: from every state the controller’s side leads the device’s side to work, and names what is open',
  (_title, profile) => {
    const goal = profile.line.at(-1)!;
    for (const { id } of profile.states) {
      let [state, control] = [id, 0];
      for (let left = 12; left > 0 && state !== goal; left -= 1) {
        const step = stepTowards(profile, state, goal);
        if (!step) break;
        if (step.command === null) {
          state = step.to;
          continue;
        }
        expect(openFrom(profile, state).map((t) => t.title)).toContain(step.title);
        const before = step.rises === undefined ? control : control & ~(1 << step.rises);
        control = commandWord(control, step.command);
        state = nextState(profile, state, control, before).state;
      }
      if (profile.transitions.some((t) => t.from === id)) expect([id, state]).toEqual([id, goal]);
    }
  },
);

test('standard telegrams 1 to 4: lengths, and 16384 is 100 % (IEC 61800-7-203; from memory)', () => {
  let ids = 0;
  const newId = () => `t${(ids += 1)}`;
  const lengths = ([1, 2, 3, 4] as const).map((n) => {
    const { commandBytes, feedbackBytes } = standardTelegram(n, newId);
    return [commandBytes / 2, feedbackBytes / 2];
  });
  // Words out and back.
  expect(lengths).toEqual([
    [2, 2],
    [4, 4],
    [5, 9],
    [6, 14],
  ]);
  const { feedback } = standardTelegram(1, newId);
  const codec = codecOf(testImage({ size: 4, fields: feedback }));
  const view = new DataView(new ArrayBuffer(4));
  view.setInt16(2, fullSpeed);
  codec.decode(view);
  expect(codec.numbers[1]).toBe(100);
});

test('standard layouts: each lies within its bytes without overlap, its names and roles are its own', () => {
  for (const { id, bytes, direction, fields } of standardLayouts) {
    let ids = 0;
    const all = fields(() => `s${(ids += 1)}`);
    const bits = all.flatMap((f) => Array.from({ length: f.bits }, (_, i) => f.at + i));
    expect([id, new Set(bits).size, Math.max(...bits) < bytes * 8]).toEqual([id, bits.length, true]);
    expect(new Set(all.map((f) => f.name)).size).toBe(all.length);
    const roles = all.flatMap((f) => (f.role ? [factsOfRole(f.role.is).direction] : []));
    expect(roles.every((d) => d === 'either' || d === direction)).toBe(true);
  }
  // Run forward is bit 0 of byte 0, the reference lies in bytes 2 and 3 (CIP Vol. 1, instance 21; from memory).
  const extended = standardLayouts.find(({ id }) => id === 'assembly 21')!.fields(() => 'x');
  expect(extended.find((f) => f.role?.is === 'forward')?.at).toBe(0);
  expect(extended.find((f) => f.role?.is === 'speed reference')?.at).toBe(16);
});
