/** One step of a 32-bit xorshift generator (Marsaglia, 2003): the next state, never 0. */
export function nextSeed(seed: number): number {
  let x = seed | 0 || 1;
  x ^= x << 13;
  x ^= x >>> 17;
  x ^= x << 5;
  return x | 0;
}

/** A seed as a number from −1 to 1. */
export const swing = (seed: number): number => seed / 0x8000_0000;
