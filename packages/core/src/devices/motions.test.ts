import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { glide } from './motions.js';

describe('a move with limited speed and acceleration', () => {
  const limits = fc.record({
    speed: fc.double({ min: 20, max: 2000, noNaN: true }),
    acceleration: fc.double({ min: 10, max: 20_000, noNaN: true }),
  });
  const from = fc.double({ min: -300, max: 300, noNaN: true });

  test('takes as long as a trapezoid, passes nothing, and ends at its place', () =>
    fc.assert(
      fc.property(from, from, limits, fc.constantFrom(0.005, 0.02), (start, target, limit, seconds) => {
        const distance = Math.abs(target - start);
        // From standstill to standstill: with a speed that is reached, else a triangle.
        const { speed, acceleration } = limit;
        const ramps = speed ** 2 / acceleration;
        const ideal =
          distance >= ramps
            ? distance / speed + speed / acceleration
            : 2 * Math.sqrt(distance / acceleration);
        let at = { position: start, speed: 0 };
        let steps = 0;
        while (at.position !== target || at.speed !== 0) {
          const next = glide(at, target, limit, seconds);
          // The last step lands on the place, from a little above the speed that one step takes away.
          const most = acceleration * seconds * (next.position === target ? 2.01 : 1.01);
          steps += 1;
          const broken =
            (Math.abs(next.speed) > speed * 1.01 && 'faster than its limit') ||
            (Math.abs(next.speed - at.speed) > most && 'a jump of speed') ||
            ((target - next.position) * Math.sign(target - start) < -1e-9 && 'beyond its place') ||
            (steps >= ideal / seconds + 6 && 'longer than a trapezoid');
          if (broken) expect.fail(`step ${steps}: ${broken}: ${JSON.stringify({ at, next })}`);
          at = next;
        }
        expect(steps).toBeGreaterThan(ideal / seconds - 6);
      }),
      { numRuns: 200 },
    ));

  test('turns round when the place is behind it', () => {
    let at = { position: 0, speed: 100 };
    for (let i = 0; i < 200; i += 1) at = glide(at, -10, { speed: 100, acceleration: 500 }, 0.02);
    expect(at).toEqual({ position: -10, speed: 0 });
  });
});
