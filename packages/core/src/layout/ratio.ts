import { Fraction } from 'fraction.js';

export type { Fraction };

/** Few entries recur in thousands of fields and parameters: 1, 0, 1/10. Fractions are never changed. */
const known = new Map<string, Fraction>();
const mostKnown = 10_000;

/** The exact number of a Ratio entry such as 5/9, 0.002 or -10. */
export function ratio(text: string): Fraction {
  const before = known.get(text);
  if (before) return before;
  const [numerator, denominator = '1'] = text.split('/');
  const exact = new Fraction(numerator!).div(new Fraction(denominator));
  if (known.size >= mostKnown) known.clear();
  known.set(text, exact);
  return exact;
}

/** A Ratio entry as the nearest double, where exactness does not matter. */
export function ratioNumber(text: string): number {
  const [numerator, denominator = '1'] = text.split('/');
  return Number(numerator) / Number(denominator);
}

/** A whole number or a double's decimal digits as an exact fraction; undefined for NaN and infinities. */
export function exactly(value: number | bigint): Fraction | undefined {
  if (typeof value === 'bigint') return new Fraction(value);
  return Number.isFinite(value) ? decimal(String(value)) : undefined;
}

/** Beyond it, a double is infinite (IEEE 754). */
const greatestExponent = 308;

/** A decimal text, with an exponent if there is one, as an exact fraction; undefined when it is none. */
export function decimal(text: string): Fraction | undefined {
  const match = /^([+-]?)(\d+(?:\.\d*)?|\.\d+)(?:e([+-]?\d{1,3}))?$/i.exec(text);
  if (!match) return undefined;
  const [, sign, digits, exponent = '0'] = match;
  if (Math.abs(Number(exponent)) > greatestExponent) return undefined;
  const power = new Fraction(10n ** BigInt(Math.abs(Number(exponent))));
  const magnitude = new Fraction(digits!.replace(/\.$/, '').replace(/^\./, '0.'));
  const value = Number(exponent) < 0 ? magnitude.div(power) : magnitude.mul(power);
  return sign === '-' ? value.neg() : value;
}

/** The nearest whole number; halves go away from zero. */
export function nearestWhole(value: Fraction): bigint {
  const magnitude = (2n * value.n + value.d) / (2n * value.d);
  return value.s < 0n ? -magnitude : magnitude;
}

/** Decimal text with so many places, rounded like nearestWhole. */
export function fixedText(value: Fraction, places: number): string {
  const whole = nearestWhole(value.mul(new Fraction(10n ** BigInt(places))));
  const digits = (whole < 0n ? -whole : whole).toString().padStart(places + 1, '0');
  const sign = whole < 0n ? '-' : '';
  return places === 0
    ? sign + digits
    : `${sign}${digits.slice(0, digits.length - places)}.${digits.slice(digits.length - places)}`;
}

/** Places after which the decimal expansion of a fraction ends; undefined when it does not end. */
export function endingPlaces(value: Fraction): number | undefined {
  let rest = value.d;
  let twos = 0;
  let fives = 0;
  for (; rest % 2n === 0n; rest /= 2n) twos += 1;
  for (; rest % 5n === 0n; rest /= 5n) fives += 1;
  return rest === 1n ? Math.max(twos, fives) : undefined;
}
