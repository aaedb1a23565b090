import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { momentOf, moveProfile, within, type MoveLimits } from './moves.js';

const limits = (part: Partial<MoveLimits>): MoveLimits => ({
  ...{ distance: 100, velocity: 100, acceleration: 1000, deceleration: 1000, jerk: null },
  ...part,
});

/** Formulas of uniformly accelerated motion, and of the S-curve, as in textbooks of motion control; from memory. */
describe('worked examples', () => {
  test('trapezoid: t = s/v + v/a = 1.1 s', () => {
    const profile = moveProfile(limits({}));
    expect(profile.lasts).toBeCloseTo(1.1, 12);
    expect(momentOf(profile, 0.05)).toEqual({ position: 1.25, velocity: 50, acceleration: 1000 });
  });
  test('triangle, where the way is short: v = √(s·a), t = 2√(s/a)', () => {
    const profile = moveProfile(limits({ distance: 4 }));
    expect(profile.peakVelocity).toBeCloseTo(Math.sqrt(4000), 9);
    expect(profile.lasts).toBeCloseTo(2 * Math.sqrt(4 / 1000), 12);
  });
  test('S-curve that reaches everything: t = s/v + v/a + a/j = 1.2 s, seven segments', () => {
    const profile = moveProfile(limits({ jerk: 10_000 }));
    expect(profile.segments).toHaveLength(7 - 2);
    expect(profile.lasts).toBeCloseTo(1.2, 9);
    const slow = moveProfile(limits({ jerk: 20_000 }));
    expect(slow.segments).toHaveLength(7);
    expect(slow.lasts).toBeCloseTo(1 + 0.1 + 0.05, 9);
  });
  test('S-curve that reaches nothing: t = 4·∛(s/2j), v = s/(t/2)', () => {
    const profile = moveProfile(limits({ distance: 0.1, jerk: 10_000 }));
    const t = 4 * Math.cbrt(0.1 / (2 * 10_000));
    expect(profile.lasts).toBeCloseTo(t, 9);
    expect(profile.peakVelocity).toBeCloseTo(0.1 / (t / 2), 6);
  });
  test('no way is no move', () => {
    expect(moveProfile(limits({ distance: 0 }))).toMatchObject({ lasts: 0, segments: [] });
  });
});

const anyLimits = fc.record({
  distance: fc.double({ min: -5000, max: 5000, noNaN: true }).filter((d) => Math.abs(d) > 1e-3),
  velocity: fc.double({ min: 0.1, max: 5000, noNaN: true }),
  acceleration: fc.double({ min: 1, max: 50_000, noNaN: true }),
  deceleration: fc.double({ min: 1, max: 50_000, noNaN: true }),
  jerk: fc.option(fc.double({ min: 10, max: 1e6, noNaN: true })),
});

test('any move ends at its distance, at rest, within its limits, without a jump of velocity', () => {
  fc.assert(
    fc.property(anyLimits, (any) => {
      const profile = moveProfile(any);
      const way = Math.abs(any.distance);
      const close = (a: number, b: number, of: number) =>
        expect(Math.abs(a - b)).toBeLessThanOrEqual(1e-6 * Math.max(of, 1e-3));
      close(momentOf(profile, profile.lasts).position, any.distance, way);
      const last = profile.segments.at(-1)!;
      close(within(last, last.lasts).velocity, 0, profile.peakVelocity);
      profile.segments.forEach((segment, i) => {
        const after = profile.segments[i + 1];
        const end = within(segment, segment.lasts);
        if (after) close(end.velocity, after.velocity, profile.peakVelocity);
        if (after && any.jerk !== null) close(end.acceleration, after.acceleration, profile.peakAcceleration);
        expect(Math.abs(segment.velocity)).toBeLessThanOrEqual(any.velocity * (1 + 1e-9));
        expect(Math.abs(segment.jerk)).toBeLessThanOrEqual((any.jerk ?? 0) * (1 + 1e-9));
        expect(Math.abs(segment.acceleration)).toBeLessThanOrEqual(
          Math.max(any.acceleration, any.deceleration) * (1 + 1e-9),
        );
      });
    }),
    { numRuns: 1000, seed: 230_010 },
  );
});
