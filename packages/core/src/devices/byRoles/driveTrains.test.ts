import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { DriveTrain, ratedTorqueOf } from '../../motion/driveTrain.js';
import { cycleOf, holdingTorque, loadsOf, rpmOf, stoppingOf, torqueAt } from '../../motion/loads.js';
import { moveProfile } from '../../motion/moves.js';
import { noDesign } from './commands.js';
import { drive } from './drive.js';
import { lightCurtain } from './lightCurtain.js';
import { servoAxis } from './servoAxis.js';
import { driven } from './testDevice.js';
import { layouts, type Wanted } from './testLayouts.js';
import { SafetyLogic } from '../../safety/safetyLogic.js';

/** Stand-ins act by the train that is said of them: what was predicted at the desk is what happens on the bench. */

const of = (...names: Wanted['is'][]): Wanted[] => names.map((is) => ({ is }));
const axisOut: Wanted[] = [
  ...of('enable', 'setpoint strobe', 'fault reset', 'stop'),
  ...([
    { is: 'position setpoint', unit: 'mm' },
    { is: 'velocity', unit: 'mm/s' },
  ] as const),
  ...of('acceleration', 'operating mode', 'home'),
];
const axisBack: Wanted[] = [
  ...of('enabled', 'homed', 'target reached', 'faulted', 'setpoint acknowledge'),
  ...([
    { is: 'position actual', unit: 'mm' },
    { is: 'torque actual', unit: '%' },
  ] as const),
];
const number = (min: number, max: number) => fc.double({ min, max, noNaN: true });
const anyTrain = fc
  .record({
    output: fc.oneof(
      fc.record({ is: fc.constant('screw'), lead: fc.integer({ min: 5, max: 40 }).map(String) }),
      fc.record({ is: fc.constant('belt'), teeth: fc.constant('32'), pitch: fc.constantFrom('3', '5') }),
      fc.record({ is: fc.constant('rack'), teeth: fc.constant('25'), module: fc.constantFrom('1', '2') }),
    ),
    gear: fc.record({ motor: fc.constantFrom('1', '3', '10'), efficiency: number(0.7, 1) }),
    load: fc.record({
      ...{ mass: number(5, 200), friction: number(0, 0.2), incline: fc.constantFrom(0, 30, 90) },
      efficiency: number(0.7, 1),
    }),
    quickStop: fc.integer({ min: 500, max: 8000 }),
  })
  .map((part) => DriveTrain.parse({ motor: { type: 'synchronous', inertia: 2, ratedTorque: 40 }, ...part }));

describe('a servo axis with a train, on any layout', () => {
  test('time, distance and torque are those that were predicted, within 2 %', () => {
    fc.assert(
      fc.property(
        layouts(axisOut, axisBack),
        anyTrain,
        fc.record({
          distance: number(200, 300),
          velocity: fc.integer({ min: 50, max: 100 }),
          acceleration: fc.integer({ min: 80, max: 250 }),
        }),
        (laid, train, { distance, velocity, acceleration }) => {
          const device = driven(servoAxis, laid, {}, { ...noDesign, train });
          const loads = loadsOf(train)!;
          device.after(200, { enable: true, 'operating mode': 1 });
          device.pulse('home');
          device.after(200);
          device.after(40, { 'position setpoint': distance, velocity, acceleration });
          device.after(20, { 'setpoint strobe': true });
          const torques: number[] = [0];
          let shown = device.after(0);
          for (; torques.length < 3000 && !(shown('target reached') === true && torques.length > 10);) {
            shown = device.after(20);
            torques.push(Number(shown('torque actual')));
          }
          const passed = torques.length * 20;
          // What its fields can show is what it was told: they have steps.
          const told = (role: 'velocity' | 'acceleration' | 'position setpoint') =>
            device.command.number(role)!;
          const limits = {
            ...{ distance: told('position setpoint'), velocity: told('velocity'), jerk: null },
            ...{ acceleration: told('acceleration'), deceleration: told('acceleration') },
          };
          const predicted = moveProfile(limits);
          const rated = ratedTorqueOf(train.motor!)!;
          const high = (100 * torqueAt(loads, 1, limits.acceleration)) / rated;
          const low = (100 * torqueAt(loads, 1, -limits.acceleration)) / rated;
          const near = (is: number, is2: number, of: number) =>
            expect(Math.abs(is - is2)).toBeLessThanOrEqual(0.02 * Math.abs(of));
          near(passed / 1000, predicted.lasts, predicted.lasts);
          near(Number(shown('position actual')), limits.distance, limits.distance);
          // In the middle of each ramp; torque is read of a field that has steps.
          const ramp = limits.velocity / limits.acceleration / 2;
          const at = (seconds: number) => torques[Math.round(seconds / 0.02)]!;
          const most = Math.max(Math.abs(high), Math.abs(low));
          if (most < 300) {
            near(at(ramp), high, most + 25);
            near(at(predicted.lasts - ramp), low, most + 25);
          }
          const cycle = cycleOf(loads, [{ ...limits, title: '', rest: 0, carries: 0 }]);
          near((cycle.peakTorque / rated) * 100, most, most);
        },
      ),
      { numRuns: 60, seed: 230_030 },
    );
  });

  test('at rest it holds its load', () => {
    fc.assert(
      fc.property(layouts(axisOut, axisBack), anyTrain, (laid, train) => {
        const device = driven(servoAxis, laid, {}, { ...noDesign, train });
        const hold = (100 * holdingTorque(loadsOf(train)!)) / ratedTorqueOf(train.motor!)!;
        const shown = device.after(400, { enable: true, 'operating mode': 1 });
        expect(Math.abs(Number(shown('torque actual')) - hold)).toBeLessThanOrEqual(0.5 + 0.02 * hold);
      }),
      { numRuns: 20, seed: 230_031 },
    );
  });

  test('whose controller goes away, it stops with its quick stop', () => {
    fc.assert(
      fc.property(layouts(axisOut, axisBack), anyTrain, (laid, train) => {
        const device = driven(servoAxis, laid, {}, { ...noDesign, train });
        device.after(200, { enable: true, 'operating mode': 1 });
        device.pulse('home');
        device.after(200);
        device.after(40, { 'position setpoint': 320, velocity: 100, acceleration: 1000 });
        device.after(1000, { 'setpoint strobe': true });
        const velocity = device.command.number('velocity')!;
        const before = (device.state as { hangs: { position: number } }).hangs.position;
        device.after(2000, {}, false);
        const gone = (device.state as { hangs: { position: number } }).hangs.position - before;
        const { distance } = stoppingOf(velocity, train.quickStop!, 0);
        // Noticed at once here; a step of 20 ms at most is between what holds and what is seen.
        expect(Math.abs(gone - distance)).toBeLessThanOrEqual(velocity * 0.02 + 0.02 * distance);
      }),
      { numRuns: 40, seed: 230_032 },
    );
  });
});

test('profile velocity: it follows a velocity with a sign, and 0 is rest', () => {
  fc.assert(
    fc.property(layouts(axisOut, axisBack), (laid) => {
      const device = driven(servoAxis, laid);
      device.after(100, { 'operating mode': 3, enable: false });
      device.after(100, { enable: true });
      device.after(1000, { velocity: -50 });
      const moves = () => servoAxis.moves!(device.state as never, { scale: 1 });
      const told = device.command.number('velocity')!;
      // A velocity field without a sign has none below 0.
      expect(moves()).toBeCloseTo(told, 6);
      device.after(1000, { velocity: 0 });
      expect(moves()).toBe(0);
    }),
    { numRuns: 40, seed: 230_033 },
  );
});

describe('the way it goes', () => {
  const laid = fc.sample(layouts(axisOut, axisBack), { numRuns: 1, seed: 230_034 })[0]!;
  test('a motor that is mounted the other way round moves against what it counts; a scale turns it back', () => {
    const device = driven(servoAxis, laid);
    device.after(200, { enable: true, 'operating mode': 1 });
    device.pulse('home');
    device.after(200, { 'position setpoint': 900, velocity: 40 });
    device.after(400, { 'setpoint strobe': true });
    const moves = (scale: number) => servoAxis.moves!(device.state as never, { scale });
    expect(moves(1)).toBeGreaterThan(0);
    device.inject('crossed');
    expect(moves(1)).toBeLessThan(0);
    expect(moves(-1)).toBeGreaterThan(0);
  });
  test('two crossed phases of a drive', () => {
    const out: Wanted[] = [...of('start', 'stop'), { is: 'speed reference', unit: 'Hz' }];
    const one = fc.sample(layouts(out, of('running')), { numRuns: 1, seed: 230_035 })[0]!;
    const device = driven(drive, one);
    device.after(600, { 'speed reference': 5, start: true });
    const moves = () => drive.moves!(device.state as never, { scale: 1 });
    expect(moves()).toBeGreaterThan(0);
    device.inject('crossed');
    expect(moves()).toBeLessThan(0);
  });
});

test('a drive with a train: its torque is what the load asks for', () => {
  const out: Wanted[] = [...of('start', 'stop'), { is: 'speed reference', unit: 'Hz' }];
  const back: Wanted[] = [...of('running'), { is: 'torque actual', unit: '%' }];
  const train = DriveTrain.parse({
    motor: { type: 'asynchronous', inertia: 30, ratedPower: 1500, ratedSpeed: 1425, poles: 4 },
    ...{ gear: { motor: '20', shaft: '1', efficiency: 0.9 }, output: { is: 'drum', diameter: '200' } },
    load: { mass: 300, friction: 0.4 },
  });
  const loads = loadsOf(train)!;
  fc.assert(
    fc.property(layouts(out, back), (laid) => {
      const device = driven(drive, laid, {}, { ...noDesign, train });
      const shown = device.after(8000, { 'speed reference': 25, start: true });
      const axis = 750 / rpmOf(loads, 1);
      const predicted = (100 * torqueAt(loads, axis, 0)) / ratedTorqueOf(train.motor!)!;
      expect(Math.abs(Number(shown('torque actual')) - predicted)).toBeLessThanOrEqual(
        0.6 + 0.02 * predicted,
      );
    }),
    { numRuns: 20, seed: 230_036 },
  );
});

test('a safety controller by its own logic: status bits where they stand, whatever is laid out there', () => {
  const back: Wanted[] = [{ is: 'beams', count: 12 }, ...of('safety in order', 'reset wanted')];
  const safety = SafetyLogic.parse({
    blocks: [
      { id: 'c', name: 'gate', is: 'curtain', beams: 12, pitch: 30 },
      { id: 'd', name: 'back_door', is: 'door' },
      { id: 'b', name: 'reset_button', is: 'button' },
      { id: 'a', name: 'both', is: 'and', in: [{ from: 'c' }, { from: 'd' }] },
      { id: 'r', name: 'restart', is: 'reset', in: [{ from: 'a' }, { from: 'b' }] },
      { id: 'o', name: 'drives', is: 'output', in: [{ from: 'r' }] },
    ],
  });
  fc.assert(
    fc.property(layouts(of('safety reset'), back), (laid) => {
      const last = laid.feedback.size - 1;
      const status = [
        { id: 's1', from: 'o', offset: last, bit: 6 },
        { id: 's2', from: 'r', shows: 'reset wanted', offset: last, bit: 7 },
      ];
      const logic = SafetyLogic.parse({ ...safety, status });
      const design = { ...noDesign, safety: logic, links: [{ feedback: laid.feedback as never }] };
      const device = driven(lightCurtain, laid, { 'object size': 0, 'object position': 0 }, design);
      const bits = () => {
        const bytes = new Uint8Array(laid.feedback.size);
        lightCurtain.places!(device.state as never, bytes, design);
        return [(bytes[last]! >> 6) & 1, (bytes[last]! >> 7) & 1];
      };
      const shown = device.after(40);
      expect([bits(), shown('safety in order'), shown('reset wanted')]).toEqual([[0, 1], false, true]);
      device.met['reset_button'] = 1;
      device.after(40);
      device.met['reset_button'] = 0;
      device.after(40);
      expect([bits(), device.after(20)('safety in order')]).toEqual([[1, 0], true]);
      Object.assign(device.met, { 'object size': 65, 'object position': 85 });
      device.after(40);
      expect(bits()).toEqual([0, 0]);
      expect(Array.from({ length: 12 }, (_, i) => device.feedback.bit('beams', i + 1))).toEqual(
        Array.from({ length: 12 }, (_, i) => [4, 5, 6].includes(i + 1)),
      );
      Object.assign(device.met, { 'object size': 0, back_door: 0 });
      device.after(40);
      expect(bits()).toEqual([0, 0]);
      device.met['back_door'] = 1;
      device.after(40);
      // The network may ask for the reset, too.
      device.pulse('safety reset');
      expect(bits()).toEqual([1, 0]);
    }),
    { numRuns: 30, seed: 230_037 },
  );
});

describe('what hangs on an axis', () => {
  const train = DriveTrain.parse({
    motor: { type: 'synchronous', inertia: 2, ratedTorque: 4, peakTorque: 12 },
    ...{ output: { is: 'screw', lead: '10' }, load: { mass: 40, incline: 90 } },
    ...{ quickStop: 4000, brake: { torque: 8, opens: 200, closes: 120 } },
  });
  const position = (device: { state: unknown }) =>
    (device.state as { hangs: { position: number } }).hangs.position;
  const anyAxis = (check: (device: ReturnType<typeof driven<never>>) => void, planned = train) =>
    fc.assert(
      fc.property(layouts(axisOut, [...axisBack, ...of('limit positive', 'limit negative')]), (laid) =>
        check(driven(servoAxis, laid, {}, { ...noDesign, train: planned }) as never),
      ),
      { numRuns: 30, seed: 230_040 },
    );

  test('it does not move before its brake is open, and holds with its motor until the brake does', () => {
    anyAxis((device) => {
      const hold = (100 * holdingTorque(loadsOf(train)!)) / 4;
      device.after(40, { 'operating mode': 3, velocity: 50 });
      device.after(180, { enable: true });
      expect(position(device)).toBe(0);
      device.after(400);
      expect(position(device)).toBeGreaterThan(5);
      device.after(400, { velocity: 0 });
      device.after(100, { enable: false });
      const { torque } = (device.state as unknown as { hangs: { torque: number } }).hangs;
      expect(Math.abs(torque - hold)).toBeLessThan(1);
      device.after(40);
      expect((device.state as unknown as { hangs: { torque: number } }).hangs.torque).toBe(0);
    });
  });

  test('a limit switch stops the way towards it, within its quick stop; the way back is free', () => {
    anyAxis((device) => {
      device.after(300, { 'operating mode': 3, velocity: 50, enable: true });
      device.after(1000);
      const signed = (device.command.range('velocity')?.low ?? 0) < 0;
      const before = position(device);
      const velocity = device.command.number('velocity')!;
      device.met['limit switch positive'] = 1;
      const shown = device.after(500);
      const gone = position(device) - before;
      expect(gone).toBeLessThanOrEqual(stoppingOf(velocity, 4000, 0).distance + velocity * 0.04 + 1e-9);
      expect([shown('limit positive'), shown('limit negative')]).toEqual([true, false]);
      const there = position(device);
      device.after(500, { velocity: 60 });
      expect(position(device)).toBe(there);
      if (signed) {
        device.after(500, { velocity: -50 });
        expect(position(device)).toBeLessThan(there - 5);
      }
      device.inject('limit switches swapped');
      const swapped = device.after(40);
      expect([swapped('limit positive'), swapped('limit negative')]).toEqual([false, true]);
    });
  });

  test('more torque than its motor has leaves it behind; further than its limit is a fault', () => {
    // 12 N·m at most, of which the weight takes 0.62: some 14 m/s² with 10 mm a revolution.
    const gentle = { velocity: 100, acceleration: 100 };
    const faultedWith = (planned: DriveTrain) => {
      const seen: unknown[] = [];
      anyAxis((device) => {
        device.after(400, { enable: true, 'operating mode': 1, ...gentle });
        device.pulse('home');
        device.after(200);
        device.after(40, { 'position setpoint': 200 });
        seen.push(device.after(400, { 'setpoint strobe': true })('faulted'));
      }, planned);
      return [...new Set(seen)];
    };
    const weak = DriveTrain.parse({
      ...train,
      motor: { ...train.motor, peakTorque: 0.64 },
      followingError: 0.05,
    });
    expect(faultedWith({ ...train, followingError: 0.05 })).toEqual([false]);
    expect(faultedWith(weak)).toEqual([true]);
    expect(faultedWith({ ...weak, followingError: null })).toEqual([false]);
  });
});
