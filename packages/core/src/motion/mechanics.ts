import { Fraction } from 'fraction.js';
import { Ratio } from '../entries/entries.js';
import { exactly, ratio } from '../layout/ratio.js';
import type { Output } from './driveTrain.js';

/**
 * Units from mechanics: what one increment of an encoder, one revolution of a motor, one hertz of its supply moves. All
 * of it in exact fractions, so that nothing drifts however far an axis goes. The factors are those of CiA 402 (gear
 * ratio 6091h, feed constant 6092h, position encoder resolution 608Fh; from memory).
 */

/** π to 20 places: as a fraction, what is computed with it is exact in itself. */
const pi = ratio('3.14159265358979323846');

export interface Mechanics {
  /** Increments of the encoder in one revolution of the motor. */
  increments: string;
  /** Revolutions of the motor for so many of the shaft. */
  gear: { motor: string; shaft: string };
  output: Output;
  /** The shaft turns against the motor, or the axis counts against the shaft. */
  reversed: boolean;
}

/** The unit of an axis: degrees of a table, else mm. */
export const axisUnit = (output: Output | null | undefined): 'mm' | '°' =>
  output?.is === 'table' ? '°' : 'mm';

/** mm or degrees in one revolution of the shaft: the feed constant. */
export function feedOf(output: Output): { feed: Fraction; unit: 'mm' | '°' } {
  switch (output.is) {
    case 'screw':
      return { feed: ratio(output.lead), unit: 'mm' };
    case 'belt':
      return { feed: ratio(output.teeth).mul(ratio(output.pitch)), unit: 'mm' };
    case 'rack':
      return { feed: ratio(output.teeth).mul(ratio(output.module)).mul(pi), unit: 'mm' };
    case 'pulley':
    case 'drum':
      return { feed: ratio(output.diameter).mul(pi), unit: 'mm' };
    case 'table':
      return { feed: new Fraction(360), unit: '°' };
  }
}

export interface UnitScaling {
  unit: 'mm' | '°';
  /** mm or degrees of one increment, of one revolution of the motor; the sign is the direction. */
  perIncrement: Fraction;
  perRevolution: Fraction;
  /** mm/s or °/s at one revolution of the motor a minute. */
  perRpm: Fraction;
  /** What 32 bits with a sign can count, in units: the smallest and the greatest position. */
  range: { least: Fraction; greatest: Fraction };
}

/** What a drive train makes of increments and revolutions. Numbers must not be 0. */
export function unitScaling({ increments, gear, output, reversed }: Mechanics): UnitScaling {
  const { feed, unit } = feedOf(output);
  const turned = ratio(gear.shaft).div(ratio(gear.motor));
  const perRevolution = feed.mul(turned).mul(reversed ? -1 : 1);
  const perIncrement = perRevolution.div(ratio(increments));
  const whole = new Fraction(2n ** 31n);
  const span = perIncrement.abs();
  return {
    ...{ unit, perRevolution, perIncrement },
    perRpm: perRevolution.div(60),
    range: { least: span.mul(whole).neg(), greatest: span.mul(whole.sub(1)) },
  };
}

/** Increments in the range after which a rotary axis begins anew; not whole, it would drift with each turn. */
export const moduloIncrements = (range: string, { perIncrement }: UnitScaling): Fraction =>
  ratio(range).div(perIncrement.abs());

/** Speed of a motor at a frequency: poles are counted, not pairs; slip is a share of the synchronous speed. */
export const rpmAt = (hertz: Fraction, poles: number, slip = new Fraction(0)): Fraction =>
  hertz.mul(120).div(poles).mul(new Fraction(1).sub(slip));

/** A scale through two points: what the raw number was at two known values. Undefined where both are one. */
export function scaleThrough(
  a: { raw: number; value: string },
  b: { raw: number; value: string },
): { factor: Fraction; offset: Fraction } | undefined {
  if (a.raw === b.raw) return undefined;
  const [from, to] = [exactly(a.raw)!, exactly(b.raw)!];
  const factor = ratio(b.value).sub(ratio(a.value)).div(to.sub(from));
  return { factor, offset: ratio(a.value).sub(factor.mul(from)) };
}

/** A number as it is typed, exactly; undefined where it is none. */
export const exactRatio = (text: string): Fraction | undefined =>
  Ratio.safeParse(text.trim()).success ? ratio(text.trim()) : undefined;

/** A fraction as the entry of a field: 1/1000, 5/9, -10. */
export const ratioText = (value: Fraction): string => value.toFraction();
