import { describe, expect, test } from 'vitest';
import { Field } from '../../layout/field.js';
import { CommandImage, FeedbackImage } from '../../layout/image.js';
import type { Role } from '../../layout/role.js';
import type { RoleBehaviour } from './roleBehaviour.js';
import { RoleImage } from './roleImage.js';
import { visionSensor } from './visionSensor.js';
import { weigher } from './weigher.js';

type Place = [is: Role, type: Field['type'], at: number, bits: number, more?: object];
const fieldsOf = (places: readonly Place[]) =>
  places.map(([is, type, at, bits, more = {}], i) =>
    Field.parse({ id: `f${i}`, name: `f${i}`, type, at, bits, role: { is }, ...more }),
  );
const image = { instance: 1, start: 0, size: 16 };

/** A device on two images that are laid out in this way, driven step by step. */
function device<S>(kind: RoleBehaviour<S>, commands: readonly Place[], answers: readonly Place[]) {
  const command = new RoleImage(
    CommandImage.parse({ ...image, id: 'c', direction: 'command', fields: fieldsOf(commands) }),
  );
  const feedback = new RoleImage(
    FeedbackImage.parse({ ...image, id: 'f', direction: 'feedback', fields: fieldsOf(answers) }),
  );
  let state = kind.start();
  return {
    bytes: feedback.bytes,
    /** Sets commands, lets some time pass in steps of 20 ms, and gives what it shows then. */
    after(ms: number, told: Partial<Record<Role, number | boolean>> = {}) {
      command.show(told);
      command.read();
      for (let passed = 0; passed < ms; passed += 20) {
        state = kind.step(state, { elapsedMs: 20, commanded: true, values: command });
        feedback.show(kind.shows(state, (role) => feedback.unit(role)));
      }
      feedback.read();
      return (role: Role) => feedback.bit(role) ?? feedback.number(role);
    },
    inject: (id: string) => (state = kind.faults.find((f) => f.id === id)!.inject(state)),
  };
}

/** Two layouts: bits one by one and low byte first; bits of words, other places, high byte first. */
const layouts = (of: 'vision' | 'weigher') =>
  ({
    vision: [
      [
        [
          ['trigger', 'BOOL', 0, 1],
          ['result acknowledge', 'BOOL', 1, 1],
          ['program change', 'BOOL', 9, 1],
          ['program number', 'USINT', 16, 8],
        ],
        [
          ['trigger ready', 'BOOL', 0, 1],
          ['busy', 'BOOL', 1, 1],
          ['result valid', 'BOOL', 2, 1],
          ['pass', 'BOOL', 3, 1],
          ['fail', 'BOOL', 4, 1],
          ['program shown', 'USINT', 8, 8],
          ['program changed', 'BOOL', 17, 1],
        ],
      ],
      [
        [
          ['program number', 'UINT', 0, 16, { order: 'big' }],
          ['program change', 'BOOL', 31, 1],
          ['trigger', 'BOOL', 40, 1, { normallyClosed: true }],
          ['result acknowledge', 'BOOL', 41, 1],
        ],
        [
          ['program shown', 'UINT', 48, 16, { order: 'big' }],
          ['fail', 'BOOL', 80, 1],
          ['pass', 'BOOL', 81, 1],
          ['result valid', 'BOOL', 82, 1, { normallyClosed: true }],
          ['busy', 'BOOL', 83, 1],
          ['trigger ready', 'BOOL', 84, 1],
          ['program changed', 'BOOL', 85, 1],
        ],
      ],
    ],
    weigher: [
      [
        [
          ['tare', 'BOOL', 0, 1],
          ['zero', 'BOOL', 1, 1],
        ],
        [
          ['gross', 'REAL', 0, 32, { unit: 'kg' }],
          ['net', 'REAL', 32, 32, { unit: 'kg' }],
          ['stable', 'BOOL', 64, 1],
          ['overrange', 'BOOL', 65, 1],
        ],
      ],
      [
        [
          ['zero', 'BOOL', 20, 1],
          ['tare', 'BOOL', 21, 1],
        ],
        [
          ['stable', 'BOOL', 7, 1],
          ['overrange', 'BOOL', 6, 1],
          ['net', 'DINT', 32, 32, { order: 'big', unit: 'g' }],
          ['gross', 'DINT', 64, 32, { order: 'big', unit: 'g' }],
        ],
      ],
    ],
  })[of] as [Place[], Place[]][];

describe.each([0, 1])('layout %i', (which) => {
  test('a vision sensor: trigger, busy, result, acknowledge; each fifth part fails; another program', () => {
    const sensor = device(visionSensor, ...layouts('vision')[which]!);
    expect(sensor.after(20, { trigger: false })('trigger ready')).toBe(true);
    for (let part = 1; part <= 5; part += 1) {
      let shown = sensor.after(60, { trigger: true });
      expect([shown('busy'), shown('trigger ready'), shown('result valid')]).toEqual([true, false, false]);
      // 120 ms for an inspection: over at 160.
      shown = sensor.after(100, { trigger: false });
      expect([shown('busy'), shown('result valid')]).toEqual([false, true]);
      expect([shown('pass'), shown('fail')]).toEqual(part === 5 ? [false, true] : [true, false]);
      sensor.after(20, { 'result acknowledge': true });
      expect(sensor.after(20, { 'result acknowledge': false })('result valid')).toBe(false);
    }
    sensor.after(100, { 'program number': 7, 'program change': true });
    const shown = sensor.after(400);
    expect([shown('program shown'), shown('program changed')]).toEqual([7, true]);
    expect(sensor.after(20, { 'program change': false })('program changed')).toBe(false);
  });

  test('a weigher: a part of 12.5 kg, its tare, and too much', () => {
    const scale = device(weigher, ...layouts('weigher')[which]!);
    const unit = which === 0 ? 1 : 1000;
    expect(scale.after(1000)('gross')).toBe(0);
    // Put on after 6 s; the filter of 150 ms is within 5 g of 12.5 kg after 150 ms × ln(2500) = 1.17 s.
    let shown = scale.after(5200);
    expect(shown('stable')).toBe(false);
    shown = scale.after(1400);
    expect(shown('stable')).toBe(true);
    expect(Math.abs((shown('gross') as number) / unit - 12.5)).toBeLessThan(0.006);
    shown = scale.after(20, { tare: true });
    expect(Math.abs((shown('net') as number) / unit)).toBeLessThan(0.006);
    scale.inject('overloaded');
    shown = scale.after(2000, { tare: false });
    expect([shown('overrange'), shown('stable')]).toEqual([true, false]);
  });
});
