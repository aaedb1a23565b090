import { Ratio } from '../../entries/entries.js';
import type { Field } from '../../layout/field.js';
import { endingPlaces, exactly, fixedText, ratio } from '../../layout/ratio.js';
import type { Exact } from './exact.js';

/** What a description file says of raw numbers, as engineering values. */

type Scale = { factor: string; offset: string } | undefined;

/** The ends of a raw number, each null where it has none. */
export interface RawLimits {
  minimum: Exact | null;
  maximum: Exact | null;
}

/** The engineering value of a raw number, as a Ratio; with a decimal point where it ends. */
export function engineering(raw: Exact, scale: Scale): string {
  const exact = exactly(raw)!;
  const value = scale ? exact.mul(scale.factor).add(scale.offset) : exact;
  const places = endingPlaces(value);
  return places === undefined || places > 40 ? value.toFraction() : fixedText(value, places);
}

/** Whether an engineering value can be kept as it is: within the digits of an entry. */
const isKept = (value: string): boolean => Ratio.safeParse(value).success;

/** Whole numbers of 64 bits and common fractions are kept with whatever factor a description can state. */
const isCommon = (raw: Exact | null): boolean =>
  raw === null ||
  typeof raw === 'bigint' ||
  raw === 0 ||
  (Math.abs(raw) < 1e20 && (Number.isInteger(raw) || Math.abs(raw) > 1e-10));

/** Whether a limit is too long to be kept, for what is said of it. */
export const limitsNotKept = ({ minimum, maximum }: RawLimits, scale: () => Scale): boolean =>
  !(isCommon(minimum) && isCommon(maximum)) &&
  [minimum, maximum].some((raw) => raw !== null && !isKept(engineering(raw, scale())));

/** Raw limits as engineering values; null where there are none, or none that can be kept. */
export function engineeringLimits({ minimum, maximum }: RawLimits, scale: Scale): Field['limits'] {
  const scaled = (raw: Exact | null) => {
    const value = raw === null ? null : engineering(raw, scale);
    return value !== null && isKept(value) ? value : null;
  };
  const [a, b] = [scaled(minimum), scaled(maximum)];
  if (a === null && b === null) return null;
  // A negative factor turns the ends round.
  return scale && ratio(scale.factor).s < 0n ? { minimum: b, maximum: a } : { minimum: a, maximum: b };
}
