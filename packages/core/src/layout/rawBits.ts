import { Problem } from '../messages/problem.js';
import { limitsOf, readsOf, type Value } from './fieldTypes.js';
import type { Signal } from './signals.js';

/** Numbers as the bits that stand for them, and back. */

/** Half away from zero; a quotient such as 2.4999…96 that stands for 2.5 is taken as 2.5. */
export const nearest = (value: number) =>
  value < 0 ? -Math.floor(-value * (1 + 2 ** -50) + 0.5) : Math.floor(value * (1 + 2 ** -50) + 0.5);

const scratch = new DataView(new ArrayBuffer(8));

/** Numbers of 32 and of 64 bits (IEEE 754). */
export function floatOf(bits: number): number {
  scratch.setUint32(0, bits);
  return scratch.getFloat32(0);
}
export function doubleOf(bits: bigint): number {
  scratch.setBigUint64(0, bits);
  return scratch.getFloat64(0);
}

/** BCD digits of up to 32 bits as a number; NaN when one is above 9. */
export function bcdOf(bits: number): number {
  let value = 0;
  for (let rest = bits, weight = 1; rest > 0; rest = Math.floor(rest / 16), weight *= 10) {
    if (rest % 16 > 9) return NaN;
    value += (rest % 16) * weight;
  }
  return value;
}

/**
 * A raw number that its type can hold; throws `value.doesNotFit` for others. Infinity and NaN are values of IEEE 754.
 */
export function checkedRaw(signal: Signal, value: Value): number | bigint {
  const { minimum, maximum } = limitsOf(signal.type, signal.bits);
  const given = typeof value === 'boolean' ? Number(value) : value;
  if (typeof given === 'string') return refuseValue(signal, given);
  const outside = given < minimum || given > maximum;
  if (readsOf(signal) === 'float') {
    if (outside && Number.isFinite(Number(given))) refuseValue(signal, String(value));
    return Number(given);
  }
  if (outside || (typeof given === 'number' && !Number.isInteger(given))) refuseValue(signal, String(value));
  return given;
}

/** The bits with which a raw number, known to fit, is written. */
export function bitsOfNumber(signal: Signal, value: number | bigint): bigint {
  switch (readsOf(signal)) {
    case 'float':
      if (signal.bits === 32) {
        scratch.setFloat32(0, Number(value));
        return BigInt(scratch.getUint32(0));
      }
      scratch.setFloat64(0, Number(value));
      return scratch.getBigUint64(0);
    case 'bcd':
      return BigInt(`0x${BigInt(value)}`);
    default:
      return BigInt.asUintN(signal.bits, BigInt(value));
  }
}

/** Throws `value.doesNotFit`. */
export function refuseValue(signal: Signal, value: string): never {
  const { minimum, maximum } = limitsOf(signal.type, signal.bits);
  throw new Problem('value.doesNotFit', {
    field: signal.name,
    value,
    minimum: String(minimum),
    maximum: String(maximum),
  });
}
