import { z } from 'zod';

/** What a person, instead of its program, has a simulated device show in one signal of its feedback. */

const span = { low: z.number(), high: z.number() };
const periodMs = z.number().min(20).max(3_600_000);

export const SideValue = z.discriminatedUnion('way', [
  /** One value, typed as its field shows it. */
  z.strictObject({ way: z.literal('value'), value: z.string().max(4000) }),
  /** 1 for a time, then 0. */
  z.strictObject({ way: z.literal('pulse'), ms: z.number().int().min(20).max(60_000) }),
  /** 1 and 0 in turn. */
  z.strictObject({ way: z.literal('toggle'), periodMs }),
  /** From the lower value to the higher one, again and again. */
  z.strictObject({ way: z.literal('ramp'), ...span, periodMs }),
  z.strictObject({ way: z.literal('sine'), ...span, periodMs }),
  /** One more in each period, from the lower value to the higher one and on from the lower. */
  z.strictObject({ way: z.literal('counter'), ...span, periodMs }),
  /** Any value between the two, another one in each period. */
  z.strictObject({ way: z.literal('noise'), ...span, periodMs }),
]);
export type SideValue = z.infer<typeof SideValue>;
export type MovingValue = Exclude<SideValue, { way: 'value' }>;

/** Ways that suit a single bit; the others are for numbers. */
export const bitWays = ['value', 'pulse', 'toggle'] as const satisfies readonly SideValue['way'][];
export const numberWays = [
  'value',
  'ramp',
  'sine',
  'counter',
  'noise',
] as const satisfies readonly SideValue['way'][];

/** The engineering value at this time after it was set; `random` is from 0 to 1. */
export function movingValue(moving: MovingValue, elapsedMs: number, random: number): number {
  switch (moving.way) {
    case 'pulse':
      return elapsedMs < moving.ms ? 1 : 0;
    case 'toggle':
      return elapsedMs % moving.periodMs < moving.periodMs / 2 ? 1 : 0;
    case 'ramp':
      return moving.low + (moving.high - moving.low) * ((elapsedMs % moving.periodMs) / moving.periodMs);
    case 'sine': {
      const half = (moving.high - moving.low) / 2;
      return moving.low + half + half * Math.sin((2 * Math.PI * elapsedMs) / moving.periodMs);
    }
    case 'counter': {
      const steps = Math.max(1, Math.floor(moving.high - moving.low) + 1);
      return moving.low + (Math.floor(elapsedMs / moving.periodMs) % steps);
    }
    case 'noise':
      return moving.low + (moving.high - moving.low) * random;
  }
}
