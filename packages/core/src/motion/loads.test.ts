import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { DriveTrain, type Move } from './driveTrain.js';
import {
  brakingOf,
  cycleOf,
  fallOf,
  gravity,
  holdingTorque,
  inertiaRatio,
  loadsOf,
  rpmOf,
  stoppingOf,
  torqueAt,
} from './loads.js';
import { momentOf } from './moves.js';
import { runs } from '../testRuns.js';

const train = (part: object): DriveTrain =>
  DriveTrain.parse({ motor: { type: 'synchronous', inertia: 2 }, ...part });
const move = (part: Partial<Move>): Move => ({
  ...{ title: '', distance: 300, velocity: 300, acceleration: 1500, deceleration: 1500, jerk: null },
  ...{ rest: 0, carries: 0 },
  ...part,
});

/**
 * Formulas of handbooks of drive engineering (J = m·(p/2π)², J = J_load/i², T = F·p/2π·η, T_rms, E = ½Jω²); from
 * memory, the arithmetic is done by hand beside each.
 */
describe('worked examples', () => {
  test('screw, lead 10 mm, 100 kg: J = 100·(0.01/2π)² = 2.533 kg·cm²; 300 mm/s is 1800 rpm', () => {
    const loads = loadsOf(train({ output: { is: 'screw', lead: '10' }, load: { mass: 100 } }))!;
    expect(loads.massInertia * 1e4).toBeCloseTo(2.533, 3);
    expect(rpmOf(loads, 300)).toBeCloseTo(1800, 6);
    expect(inertiaRatio(loads)).toBeCloseTo(2.533 / 2, 3);
  });
  test('it lifts: 100 kg on a lead of 10 mm hold 1.5608 N·m; up at η = 0.9 takes 1.7342, down gives 1.4047', () => {
    const lift = train({
      output: { is: 'screw', lead: '10' },
      load: { mass: 100, incline: 90, efficiency: 0.9 },
    });
    const loads = loadsOf(lift)!;
    const hold = (100 * gravity * 0.01) / (2 * Math.PI);
    expect(hold).toBeCloseTo(1.5608, 4);
    expect(holdingTorque(loads)).toBeCloseTo(hold, 9);
    expect(torqueAt(loads, 10, 0)).toBeCloseTo(hold / 0.9, 9);
    expect(torqueAt(loads, -10, 0)).toBeCloseTo(hold * 0.9, 9);
  });
  test('belt, 20 teeth of 5 mm, gear 5 : 1: r = 15.915 mm, 20 kg are 2.0264 kg·cm² at the motor', () => {
    const gear = { motor: '5', shaft: '1' };
    const loads = loadsOf(
      train({ output: { is: 'belt', teeth: '20', pitch: '5' }, gear, load: { mass: 20 } }),
    )!;
    expect(loads.massInertia * 1e4).toBeCloseTo((20 * 0.0159155 ** 2 * 1e4) / 25, 3);
    // A guide with µ = 0.1: F = 19.613 N, T = F·r/i = 0.06243 N·m.
    const rubs = loadsOf(
      train({ output: { is: 'belt', teeth: '20', pitch: '5' }, gear, load: { mass: 20, friction: 0.1 } }),
    )!;
    expect(torqueAt(rubs, 100, 0)).toBeCloseTo(0.06243, 5);
    expect(torqueAt(rubs, -100, 0)).toBeCloseTo(-0.06243, 5);
  });
  test('rack, module 2, 25 teeth: r = 25 mm, 500 N resist with 12.5 N·m', () => {
    const loads = loadsOf(
      train({ output: { is: 'rack', teeth: '25', module: '2' }, load: { resistance: 500 } }),
    )!;
    expect(torqueAt(loads, 1, 0)).toBeCloseTo(12.5, 9);
  });
  test('rotary table behind 100 : 1: 20,000 kg·cm² are 2 kg·cm² at the motor', () => {
    const gear = { motor: '100', shaft: '1', efficiency: 0.8 };
    const loads = loadsOf(train({ output: { is: 'table' }, gear, load: { inertia: 20_000 } }))!;
    expect(loads.shaftInertia * 1e4).toBeCloseTo(2, 9);
    // 360°/s² of the table: α = 2π·100 at the motor, T = (2 + 2/0.8)·10⁻⁴·α.
    expect(torqueAt(loads, 1, 360)).toBeCloseTo((2e-4 + 2e-4 / 0.8) * 200 * Math.PI, 9);
  });
  test('rms of a third each: T, 0, −T: T·√(2/3); half the time at rest: T·√(1/3)', () => {
    const plain = train({ output: { is: 'screw', lead: '10' } });
    const third = move({ distance: 200, velocity: 100, acceleration: 100, deceleration: 100 });
    const loads = loadsOf(plain)!;
    const torque = torqueAt(loads, 1, 100);
    expect(cycleOf(loads, [third]).rmsTorque).toBeCloseTo(torque * Math.sqrt(2 / 3), 12);
    expect(cycleOf(loads, [{ ...third, rest: 3 }]).rmsTorque).toBeCloseTo(torque * Math.sqrt(1 / 3), 12);
  });
  test('what comes back from a stop is ½Jω²; a bus of 1000 µF stores 129.2 J from 565 to 760 V', () => {
    const heavy = train({ output: { is: 'table' }, load: { inertia: 998 }, supply: { capacitance: 1000 } });
    const loads = loadsOf(heavy)!;
    const spin = move({ distance: 3600, velocity: 1800, acceleration: 3600, deceleration: 3600 });
    const cycle = cycleOf(loads, [spin]);
    const omega = (1800 / 180) * Math.PI;
    expect(cycle.brakingEnergy).toBeCloseTo(0.5 * 0.1 * omega ** 2, 6);
    const braking = brakingOf(cycle, heavy);
    expect(braking.stored).toBeCloseTo(0.5e-3 * (760 ** 2 - 565 ** 2), 9);
    expect(braking.stored).toBeCloseTo(129.1875, 9);
    expect(braking.energy).toBe(0);
    const small = brakingOf(cycle, { ...heavy, supply: { ...heavy.supply, capacitance: 100 } });
    expect(small.energy).toBeCloseTo(cycle.brakingEnergy - 12.91875, 6);
    expect(small.greatestResistance).toBeCloseTo(760 ** 2 / cycle.peakBraking, 9);
  });
  test('a cable pulled at 500 mm/s, noticed after 64 ms, 5000 mm/s²: 32 + 25 mm in 164 ms', () => {
    const { distance, seconds } = stoppingOf(-500, 5000, 64);
    expect([distance, seconds]).toEqual([57, 0.164]);
  });
  test('a motor of 90 % brakes 90 % of it into the bus', () => {
    const spin = move({ distance: 3600, velocity: 1800, acceleration: 3600, deceleration: 3600 });
    const table = train({ output: { is: 'table' }, load: { inertia: 998 } });
    const cycle = cycleOf(loadsOf(table)!, [spin]);
    const whole = brakingOf(cycle, table);
    const less = brakingOf(cycle, { ...table, motor: { ...table.motor!, efficiency: 0.9 } });
    expect([less.energy / whole.energy, less.power / whole.power]).toEqual([
      expect.closeTo(0.9, 12),
      expect.closeTo(0.9, 12),
    ]);
    expect(less.greatestResistance).toBeCloseTo(whole.greatestResistance! / 0.9, 9);
  });
  test('a load that hangs freely falls with g: 100 ms are 49 mm; a screw of less than a half holds by itself', () => {
    const hung = (efficiency: number, lead: string) =>
      loadsOf(
        train({
          motor: { type: 'synchronous', inertia: 0 },
          ...{ output: { is: 'screw', lead }, load: { mass: 50, incline: 90, efficiency } },
        }),
      )!;
    expect(fallOf(hung(1, '20'), 0.1)).toBeCloseTo((9.80665 * 0.1 ** 2 * 1000) / 2, 9);
    // Of an efficiency of 0.8, driven backwards: 2 − 1/0.8 = 0.75 of it.
    expect(fallOf(hung(0.8, '20'), 0.1) / fallOf(hung(1, '20'), 0.1)).toBeCloseTo(0.75, 12);
    expect([fallOf(hung(0.5, '20'), 1), fallOf(loadsOf(train({ output: { is: 'table' } }))!, 1)]).toEqual([
      0, 0,
    ]);
  });
  test('asked for before anything is said', () => {
    expect(loadsOf(DriveTrain.parse({}))).toBeUndefined();
    expect(
      loadsOf(DriveTrain.parse({ motor: { type: 'synchronous' }, output: { is: 'table' } })),
    ).toBeUndefined();
  });
});

const number = (min: number, max: number) => fc.double({ min, max, noNaN: true });
const outputs = fc.oneof(
  fc.record({ is: fc.constant('screw'), lead: fc.integer({ min: 2, max: 50 }).map(String) }),
  fc.record({ is: fc.constant('belt'), teeth: fc.constant('32'), pitch: fc.constantFrom('3', '5', '8') }),
  fc.record({ is: fc.constant('rack'), teeth: fc.constant('25'), module: fc.constantFrom('1', '2', '3') }),
  fc.record({ is: fc.constant('drum'), diameter: fc.integer({ min: 50, max: 600 }).map(String) }),
  fc.record({ is: fc.constant('table') }),
);
const anyTrain = fc
  .record({
    output: outputs,
    gear: fc.record({
      motor: fc.integer({ min: 1, max: 60 }).map(String),
      shaft: fc.constantFrom('1', '3'),
      efficiency: number(0.5, 1),
      inertia: number(0, 3),
    }),
    load: fc.record({
      ...{ mass: number(0, 500), inertia: number(0, 200), friction: number(0, 0.3) },
      ...{ resistance: number(0, 300), incline: number(-90, 90), counterweight: number(0, 100) },
      efficiency: number(0.4, 1),
    }),
  })
  .map(train);
const anyMove = fc.record({
  title: fc.constant(''),
  distance: number(-1000, 1000).filter((d) => Math.abs(d) > 1),
  velocity: number(20, 2000),
  acceleration: number(100, 20_000),
  deceleration: number(100, 20_000),
  jerk: fc.option(number(2000, 500_000)),
  rest: number(0, 2),
  carries: number(0, 50),
});

test('1,000 seeded trains: rms torque, braking energy and peaks are those of a numerical integration', () => {
  fc.assert(
    fc.property(anyTrain, fc.array(anyMove, { minLength: 1, maxLength: 3 }), (any, moves) => {
      const loads = loadsOf(any)!;
      const cycle = cycleOf(loads, moves);
      let [squares, energy, peak, lasts] = [0, 0, 0, 0];
      moves.forEach(({ rest, carries }, i) => {
        const { profile } = cycle.moves[i]!;
        const steps = 200;
        // Each segment by itself: at their borders torque jumps.
        for (const segment of profile.segments) {
          const dt = segment.lasts / steps;
          for (let k = 0; k < steps; k += 1) {
            const at = momentOf(profile, segment.begin + (k + 0.5) * dt);
            const torque = torqueAt(loads, at.velocity, at.acceleration, carries);
            const power = (torque * at.velocity * loads.perUnit) / loads.perRadian;
            squares += torque ** 2 * dt;
            energy += Math.max(0, -power) * dt;
            peak = Math.max(peak, Math.abs(torque));
          }
        }
        squares += holdingTorque(loads, carries) ** 2 * rest;
        peak = Math.max(peak, Math.abs(holdingTorque(loads, carries)));
        lasts += profile.lasts + rest;
      });
      const rms = Math.sqrt(squares / lasts);
      expect(cycle.lasts).toBeCloseTo(lasts, 9);
      expect(Math.abs(cycle.rmsTorque - rms)).toBeLessThanOrEqual(1e-3 * rms + 1e-9);
      expect(Math.abs(cycle.brakingEnergy - energy)).toBeLessThanOrEqual(5e-3 * energy + 1e-6);
      expect(Math.abs(cycle.peakTorque - peak)).toBeLessThanOrEqual(1e-2 * peak + 1e-9);
    }),
    { numRuns: 1000, seed: 230_011 },
  );
});

test('dimensions: twice the masses twice the torque; in half the time four times it, and eight times the power', () => {
  fc.assert(
    fc.property(anyTrain, anyMove, number(0.2, 5), (any, one, k) => {
      const free = {
        ...any,
        load: { ...any.load, friction: 0, resistance: 0, incline: 0, counterweight: 0 },
      };
      const heavier: DriveTrain = {
        ...free,
        motor: { ...free.motor!, inertia: free.motor!.inertia! * k },
        gear: { ...free.gear, inertia: free.gear.inertia * k },
        load: { ...free.load, mass: free.load.mass * k, inertia: free.load.inertia * k },
      };
      const plain = cycleOf(loadsOf(free)!, [{ ...one, rest: 0 }]);
      const heavy = cycleOf(loadsOf(heavier)!, [{ ...one, rest: 0, carries: one.carries * k }]);
      const near = (a: number, b: number) =>
        expect(Math.abs(a - b)).toBeLessThanOrEqual(1e-6 * Math.abs(b) + 1e-9);
      near(heavy.peakTorque, plain.peakTorque * k);
      near(heavy.brakingEnergy, plain.brakingEnergy * k);
      const faster = {
        ...{ ...one, rest: 0, velocity: one.velocity * k, acceleration: one.acceleration * k ** 2 },
        ...{ deceleration: one.deceleration * k ** 2, jerk: one.jerk === null ? null : one.jerk * k ** 3 },
      };
      const fast = cycleOf(loadsOf(free)!, [faster]);
      near(fast.lasts, plain.lasts / k);
      near(fast.rmsTorque, plain.rmsTorque * k ** 2);
      near(fast.peakPower, plain.peakPower * k ** 3);
      near(fast.brakingEnergy, plain.brakingEnergy * k ** 2);
    }),
    { numRuns: runs(100), seed: 230_012 },
  );
});
