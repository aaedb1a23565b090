import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import type { Acting, Role } from '../../layout/role.js';
import { drive } from './drive.js';
import { identificationReader } from './identificationReader.js';
import { ioLinkMaster } from './ioLinkMaster.js';
import { lightCurtain } from './lightCurtain.js';
import { marker } from './marker.js';
import { measuringSensor } from './measuringSensor.js';
import { motorStarter } from './motorStarter.js';
import { remoteIo } from './points.js';
import { robot } from './robot.js';
import { servoAxis } from './servoAxis.js';
import { driven as device } from './testDevice.js';
import { layouts, type Laid, type Wanted } from './testLayouts.js';
import { torqueTool } from './torqueTool.js';
import { visionSensor } from './visionSensor.js';
import { weigher } from './weigher.js';

/** Numbers are shown in hundredths. */
const resolution = 0.006;

/** Twelve layouts for each, the same ones each time. */
const onAnyLayout = (
  commands: readonly Wanted[],
  answers: readonly Wanted[],
  scenario: (laid: Laid) => void,
): void => fc.assert(fc.property(layouts(commands, answers), scenario), { numRuns: 12, seed: 190_019 });

const roles = (...names: Role[]): Wanted[] => names.map((is) => ({ is }));
const near = (value: unknown, wanted: number, within = resolution): void => {
  expect(typeof value).toBe('number');
  expect(Math.abs((value as number) - wanted)).toBeLessThanOrEqual(within);
};

describe('one behaviour, any layout', () => {
  test('a drive: 50 Hz in 2 s, reverse, stop before start, a fault and its reset', () =>
    onAnyLayout(
      [...roles('start', 'stop', 'direction', 'fault reset'), { is: 'speed reference', unit: 'Hz' }],
      [...roles('running', 'at speed', 'faulted', 'fault code'), { is: 'speed actual', unit: 'Hz' }],
      (laid) => {
        const one = device(drive, laid);
        let shown = one.after(800, { start: true, 'speed reference': 40 });
        // 25 Hz a second.
        near(shown('speed actual'), 20);
        expect([shown('running'), shown('at speed')]).toEqual([true, false]);
        shown = one.after(900);
        expect([shown('speed actual'), shown('at speed')]).toEqual([40, true]);
        near(one.after(3300, { direction: true })('speed actual'), -40);
        shown = one.after(1700, { stop: true });
        expect([shown('speed actual'), shown('running')]).toEqual([0, false]);
        one.after(100, { stop: false, direction: false });
        one.inject('jammed');
        // 2.43 times the rated current: (2.43 − 1.2) × 0.3 a second make it trip after 2.7 s.
        expect(one.after(2400)('faulted')).toBe(false);
        shown = one.after(600);
        expect([shown('faulted'), shown('fault code')]).toEqual([true, 0x2310]);
        one.clear('jammed');
        shown = one.pulse('fault reset');
        expect(shown('faulted')).toBe(false);
        // The start that still stands does not start it.
        near(one.after(2000)('speed actual'), 0);
        one.after(40, { start: false });
        near(one.after(400, { start: true })('speed actual'), 10);
      },
    ));

  test('an axis: 50 mm with 200 mm/s and 1000 mm/s² take 0.45 s', () =>
    onAnyLayout(
      [
        ...roles('enable', 'home', 'setpoint strobe'),
        { is: 'position setpoint', unit: 'mm' },
        { is: 'velocity', unit: 'mm/s' },
        { is: 'acceleration', unit: 'mm/s²' },
      ],
      [
        ...roles('enabled', 'homed', 'setpoint acknowledge', 'target reached'),
        { is: 'position actual', unit: 'mm' },
      ],
      (laid) => {
        const one = device(servoAxis, laid);
        // 16 bits of hundredths end at 327.67.
        const limits = { velocity: 200, acceleration: 300 };
        one.after(40, { ...limits, enable: true });
        let shown = one.pulse('home');
        expect([shown('enabled'), shown('homed')]).toEqual([true, true]);
        one.after(20, { 'position setpoint': 30 });
        shown = one.after(20, { 'setpoint strobe': true });
        expect([shown('setpoint acknowledge'), shown('target reached')]).toEqual([true, false]);
        // Half of the way after the square root of 30 mm / 300 mm/s² = 0.316 s, and there after twice that.
        near(one.after(300)('position actual'), 15, 0.7);
        shown = one.after(360);
        expect([shown('position actual'), shown('target reached')]).toEqual([30, true]);
        expect(one.after(20, { 'setpoint strobe': false })('setpoint acknowledge')).toBe(false);
      },
    ));

  test('a vision sensor: trigger, busy, result, acknowledge; each fifth part fails; another program', () =>
    onAnyLayout(
      roles('trigger', 'result acknowledge', 'program change', 'program number'),
      roles('trigger ready', 'busy', 'result valid', 'pass', 'fail', 'program shown', 'program changed'),
      (laid) => {
        const one = device(visionSensor, laid);
        expect(one.after(20)('trigger ready')).toBe(true);
        for (let part = 1; part <= 5; part += 1) {
          let shown = one.after(60, { trigger: true });
          expect([shown('busy'), shown('trigger ready'), shown('result valid')]).toEqual([
            true,
            false,
            false,
          ]);
          // 120 ms for an inspection.
          shown = one.after(100, { trigger: false });
          expect([shown('busy'), shown('result valid')]).toEqual([false, true]);
          expect([shown('pass'), shown('fail')]).toEqual(part === 5 ? [false, true] : [true, false]);
          expect(one.pulse('result acknowledge')('result valid')).toBe(false);
        }
        one.after(100, { 'program number': 7, 'program change': true });
        const shown = one.after(400);
        expect([shown('program shown'), shown('program changed')]).toEqual([7, true]);
        expect(one.after(20, { 'program change': false })('program changed')).toBe(false);
      },
    ));

  test('a weigher: a part of 12.5 kg, its tare, and too much', () =>
    onAnyLayout(
      roles('tare', 'zero', 'command code'),
      [
        ...roles('stable', 'overrange', 'command answer'),
        { is: 'gross', unit: 'kg' },
        { is: 'net', unit: 'kg' },
      ],
      (laid) => {
        const one = device(weigher, laid);
        expect(one.after(1000)('gross')).toBe(0);
        // Put on after 6 s; the filter of 150 ms is within 5 g of 12.5 kg after 150 ms × ln(2500) = 1.17 s.
        expect(one.after(5200)('stable')).toBe(false);
        let shown = one.after(1400);
        expect(shown('stable')).toBe(true);
        near(shown('gross'), 12.5);
        near(one.pulse('tare')('net'), 0);
        one.met['load'] = 15;
        near(one.after(2000)('net'), 2.5);
        // By a code, which must leave zero: a second one without a zero between does nothing.
        shown = one.after(40, { 'command code': 2 });
        near(shown('net'), 0);
        expect(shown('command answer')).toBe(2);
        one.met['load'] = 20;
        near(one.after(2000, { 'command code': 2 })('net'), 5);
        one.inject('overloaded');
        shown = one.after(2000);
        expect([shown('overrange'), shown('stable')]).toEqual([true, false]);
      },
    ));

  test('a robot: a program for each start, held and let go, home, and a collision', () =>
    onAnyLayout(
      roles('start', 'hold', 'permissive', 'home', 'fault reset', 'program number'),
      roles('ready', 'running', 'program running', 'done', 'at home', 'faulted', 'program shown'),
      (laid) => {
        const one = device(robot, laid);
        let shown = one.after(100, { 'program number': 3, start: true });
        // Without its permissive it begins nothing.
        expect(shown('program running')).toBe(false);
        one.after(20, { start: false, permissive: true });
        shown = one.after(1000, { start: true });
        expect([shown('running'), shown('program shown'), shown('at home')]).toEqual([true, 3, false]);
        shown = one.after(3000, { hold: true });
        expect([shown('running'), shown('program running'), shown('done')]).toEqual([false, true, false]);
        // 2 s for a program, of which 1 s has passed.
        expect(one.after(900, { hold: false })('done')).toBe(false);
        shown = one.after(120);
        expect([shown('done'), shown('program running')]).toEqual([true, false]);
        // The start still stands: it begins no second one.
        expect(one.after(500)('program running')).toBe(false);
        one.pulse('home');
        expect(one.after(2000)('at home')).toBe(true);
        one.inject('collided');
        one.after(20, { start: false });
        shown = one.after(100, { start: true });
        expect([shown('faulted'), shown('ready')]).toEqual([true, false]);
        one.clear('collided');
        expect(one.pulse('fault reset')('ready')).toBe(true);
      },
    ));

  test('a light curtain: beams 4 to 6 are dark from 60 to 110 mm, and it waits for its reset', () =>
    onAnyLayout(
      roles('safety reset'),
      [
        { is: 'beams', count: 16 },
        ...roles('safety in order'),
        { is: 'object size', unit: 'mm' },
        { is: 'object position', unit: 'mm' },
      ],
      (laid) => {
        const one = device(lightCurtain, laid, { 'object size': 0 });
        const dark = (shown: ReturnType<typeof one.after>) =>
          Array.from({ length: 16 }, (_, i) => i + 1).filter((n) => shown('beams', n));
        let shown = one.after(100);
        expect([dark(shown), shown('safety in order')]).toEqual([[], true]);
        Object.assign(one.met, { 'object size': 50, 'object position': 60 });
        shown = one.after(100);
        // Every 20 mm from 0: beams 4, 5 and 6 stand at 60, 80 and 100 mm.
        expect([dark(shown), shown('safety in order')]).toEqual([[4, 5, 6], false]);
        // Seen in steps of the beams.
        expect([shown('object position'), shown('object size')]).toEqual([60, 60]);
        one.met['object size'] = 0;
        expect(one.after(500)('safety in order')).toBe(false);
        expect(one.pulse('safety reset')('safety in order')).toBe(true);
      },
    ));

  test('inputs and outputs: each input follows its output, 80 ms later; analogue values within 2 s', () =>
    onAnyLayout(
      [
        { is: 'output', count: 8 },
        { is: 'analogue output', count: 2, unit: 'V' },
      ],
      [{ is: 'input', count: 12 }, { is: 'analogue input', count: 2, unit: 'V' }, ...roles('overload')],
      (laid) => {
        const one = device(remoteIo, laid);
        const on = (shown: ReturnType<typeof one.after>) =>
          Array.from({ length: 8 }, (_, i) => i + 1).filter((n) => shown('input', n));
        const third = { output: [false, false, true, false, false, false, false, true] };
        let shown = one.after(60, { ...third, 'analogue output': [2.5, -1] });
        expect(on(shown)).toEqual([]);
        shown = one.after(60);
        expect(on(shown)).toEqual([3, 8]);
        shown = one.after(2000);
        near(shown('analogue input', 1), 2.5);
        near(shown('analogue input', 2), -1);
        // Inputs 9 to 12 have no output: they move by themselves.
        const seen = new Set(Array.from({ length: 50 }, () => one.after(100)('input', 9)));
        expect(seen).toEqual(new Set([false, true]));
        one.inject('shorted');
        expect(on(one.after(200))).toEqual([]);
      },
    ));

  test('a marker: a label for each rise of the number, none for a step back, none with its door open', () =>
    onAnyLayout(
      [...roles('sequence number', 'fault reset'), { is: 'variable text', length: 12 }],
      roles('ready', 'busy', 'printed', 'faulted', 'sequence number'),
      (laid) => {
        const one = device(marker, laid);
        // What stands there at first is no news.
        expect(one.after(100, { 'sequence number': 9, 'variable text': 'BATCH' })('busy')).toBe(false);
        let shown = one.after(100, { 'sequence number': 10 });
        expect([shown('busy'), shown('ready'), shown('sequence number')]).toEqual([true, false, 0]);
        shown = one.after(600);
        expect([shown('printed'), shown('sequence number')]).toEqual([true, 10]);
        expect(one.after(100, { 'sequence number': 8 })('busy')).toBe(false);
        one.inject('open');
        expect(one.after(40, { 'sequence number': 12 })('faulted')).toBe(true);
        one.clear('open');
        expect(one.pulse('fault reset')('faulted')).toBe(false);
        expect(one.after(40, { 'sequence number': 13 })('busy')).toBe(true);
      },
    ));

  test('an IO-Link master: a port without power or mode has no valid data', () =>
    onAnyLayout(
      [
        { is: 'load power', count: 4 },
        { is: 'port mode', count: 4 },
      ],
      [{ is: 'port valid', count: 4 }],
      (laid) => {
        const one = device(ioLinkMaster, laid);
        const valid = (shown: ReturnType<typeof one.after>) =>
          [1, 2, 3, 4].filter((n) => shown('port valid', n));
        expect(
          valid(one.after(500, { 'load power': [true, true, false, true], 'port mode': [1, 0, 1, 1] })),
        ).toEqual([1, 4]);
        one.inject('unplugged');
        expect(valid(one.after(100))).toEqual([4]);
        expect(valid(one.after(500, { 'load power': [true, true, true, true] }))).toEqual([3, 4]);
      },
    ));

  test('a motor starter: four times the rated current trips it when 16 (1 − e^(−t/200 s)) reaches 1', () =>
    onAnyLayout(
      roles('start', 'stop', 'fault reset'),
      [...roles('running', 'faulted'), { is: 'motor current', unit: 'A' }, { is: 'thermal load', unit: '%' }],
      (laid) => {
        const one = device(motorStarter, laid);
        let shown = one.after(100, { start: true });
        // 6 × 6.3 A at first, then 0.7 × 6.3 A.
        near(shown('motor current'), 37.8);
        shown = one.after(400);
        near(shown('motor current'), 4.41);
        one.inject('overloaded');
        // −200 s × ln(1 − 1/16) = 12.9 s, less what the inrush of 0.25 s at 36 times the heat has left (0.56 s).
        expect(one.after(11_800)('faulted')).toBe(false);
        shown = one.after(1_000);
        expect([shown('faulted'), shown('running')]).toEqual([true, false]);
        // From 1 down to 0.6: 200 s × ln(1/0.6) = 102 s; before that no reset.
        expect(one.pulse('fault reset')('faulted')).toBe(true);
        one.clear('overloaded');
        one.after(103_000);
        expect(one.pulse('fault reset')('faulted')).toBe(false);
        expect(one.after(100)('running')).toBe(false);
        one.after(40, { start: false });
        expect(one.after(100, { start: true })('running')).toBe(true);
        expect(one.after(100, { stop: true })('running')).toBe(false);
      },
    ));

  test('an identification reader: a tag for each trigger, none that is away', () =>
    onAnyLayout(
      roles('trigger', 'result acknowledge'),
      [
        ...roles('busy', 'result valid', 'fail', 'result length', 'part present'),
        { is: 'result text', length: 10 },
      ],
      (laid) => {
        const one = device(identificationReader, laid);
        expect(one.after(40, { trigger: true })('busy')).toBe(true);
        let shown = one.after(60, { trigger: false });
        expect([shown('result valid'), shown('result text'), shown('result length')]).toEqual([
          true,
          'T000001',
          7,
        ]);
        expect(one.pulse('result acknowledge')('result valid')).toBe(false);
        one.inject('away');
        one.after(40, { trigger: true });
        shown = one.after(60, { trigger: false });
        expect([shown('result valid'), shown('fail'), shown('part present')]).toEqual([true, true, false]);
        one.clear('away');
        one.met['tag'] = 4711;
        one.after(40, { trigger: true });
        expect(one.after(60, { trigger: false })('result text')).toBe('T004711');
      },
    ));

  test('a torque tool: 12 N·m of program 3 after 0.6 s and 240°; let go too early, and a stripped screw', () =>
    onAnyLayout(
      roles('start', 'program number'),
      [
        ...roles('running', 'done', 'pass', 'fail', 'program shown'),
        { is: 'torque actual', unit: 'Nm' },
        { is: 'angle actual', unit: 'rev' },
      ],
      (laid) => {
        const one = device(torqueTool, laid);
        one.after(20, { 'program number': 3 });
        // 720° at 1200°/s, then 12 N·m at 0.05 N·m/°: 240° more.
        near(one.after(600, { start: true })('torque actual'), 0, 1.3);
        let shown = one.after(220);
        expect([shown('done'), shown('pass'), shown('program shown')]).toEqual([true, true, 3]);
        near(shown('torque actual'), 12);
        one.after(40, { start: false });
        one.after(300, { start: true });
        shown = one.after(40, { start: false });
        expect([shown('done'), shown('pass'), shown('fail')]).toEqual([true, false, true]);
        one.inject('stripped');
        shown = one.after(3100, { start: true });
        expect(shown('fail')).toBe(true);
        near(shown('torque actual'), 3);
      },
    ));

  test('a measuring sensor: what it measures, less its zero', () =>
    onAnyLayout(
      roles('zero'),
      [...roles('stable', 'faulted'), { is: 'measured value', unit: 'mm' }],
      (laid) => {
        const one = device(measuringSensor, laid, { value: 42.5 });
        near(one.after(100)('measured value'), 42.5);
        near(one.pulse('zero')('measured value'), 0);
        one.met['value'] = 45;
        near(one.after(20)('measured value'), 2.5);
        one.inject('blinded');
        expect(one.after(20)('faulted')).toBe(true);
      },
    ));
});

describe('what makes a command act', () => {
  const laidWith = (acts: Acting): Laid => {
    const [laid] = fc.sample(
      layouts(roles('start', 'stop'), [...roles('running'), { is: 'speed actual', unit: 'Hz' }]),
      { numRuns: 1, seed: 7 },
    );
    const command = {
      ...laid!.command,
      fields: laid!.command.fields.map((field) => ({
        ...field,
        role: field.role?.is === 'start' ? { ...field.role, acts } : field.role,
        bitRoles: field.bitRoles.map((one) =>
          one.role.is === 'start' ? { ...one, role: { ...one.role, acts } } : one,
        ),
      })),
    };
    return { ...laid!, command };
  };

  test.each<[Acting, boolean[]]>([
    // Start set, start taken away, stop set, stop taken away, start set again.
    ['level', [true, false, false, false, true]],
    ['rising edge', [true, true, false, false, true]],
    ['falling edge', [false, true, false, false, false]],
  ])('a start by %s', (acts, running) => {
    const one = device(drive, laidWith(acts));
    one.after(40);
    const seen = [{ start: true }, { start: false }, { stop: true }, { stop: false }, { start: true }].map(
      (told) => one.after(40, told)('running'),
    );
    expect(seen).toEqual(running);
  });

  test('a controller that goes away has taken nothing back', () => {
    const one = device(drive, laidWith('falling edge'));
    one.after(40, { start: true });
    one.after(40, {}, false);
    expect(one.after(40, { start: false })('running')).toBe(false);
  });
});
