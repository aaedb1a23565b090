import type { Special } from './field.js';
import { Problem } from '../messages/problem.js';
import { isNumber, limitsOf, readsOf, type Value } from './fieldTypes.js';
import { decimal, endingPlaces, exactly, fixedText, nearestWhole, ratio, type Fraction } from './ratio.js';
import type { Signal } from './signals.js';

/**
 * The chain from the raw value of a signal to what a person judges, and its exact inverse: raw → signed → decimal point
 * → factor and offset → special, limits, label. Whole numbers and scales are computed as fractions; rounding happens
 * once, when a number is written: to the nearest raw number, halves away from zero.
 */

/** What the chain takes from elsewhere in the image. */
export interface Around {
  /** The sign of a magnitude, where it lies in a bit of a field. */
  negative?: boolean | undefined;
  /** Decimal places, where another field says them. */
  places?: number | undefined;
}

export interface Reading {
  /** After the sign; undefined for bits, text and raw bytes, and for BCD that is none. */
  signed: number | bigint | undefined;
  /** In engineering units. */
  value: Fraction | undefined;
  /** The value without unit, digits as its scale makes them visible. */
  text: string;
  special?: Special['means'];
  label?: string;
  /** Texts of the bits that are set. */
  bitTexts: string[];
  /** Of a normally-closed signal: whether it acts. */
  acts?: boolean;
  /** Outside its limits. */
  beyond?: 'below' | 'above';
}

/** A scale whose steps end within so many decimals is shown exactly. */
const mostExactDecimals = 6;
/** A binary32 holds 7 significant digits, a binary64 15. */
const digitsOfFloat = (bits: number) => (bits === 32 ? 7 : 15);

const half = (bits: number) => 1n << BigInt(bits - 1);

/** Places of the decimal point as the field itself or `around` says. */
const placesOf = (signal: Signal, around: Around): number =>
  signal.decimals === null
    ? 0
    : signal.decimals.way === 'field'
      ? (around.places ?? 0)
      : signal.decimals.places;

/**
 * Decimals that are shown: those of the decimal point, and those that the scale makes visible: 1/100 two, 1/500 three
 * (steps of 0.002). Where the steps do not end, as with 1/300, as many as tell two neighbouring raw numbers apart.
 */
export function decimalsOf(signal: Signal, around: Around = {}): number {
  const places = placesOf(signal, around);
  if (!signal.scale) return places;
  const factor = ratio(signal.scale.factor).div(ratio(`${10n ** BigInt(places)}`));
  const ends = endingPlaces(factor);
  if (ends !== undefined && ends <= Math.max(mostExactDecimals, places)) return ends;
  return Math.max(0, Math.ceil(-Math.log10(Math.abs(factor.valueOf()))));
}

/** Raw number → number with its sign. */
function signedOf(signal: Signal, raw: Value, { negative }: Around): number | bigint | undefined {
  if (typeof raw === 'boolean' || typeof raw === 'string') return undefined;
  if (Number.isNaN(raw)) return readsOf(signal) === 'float' ? raw : undefined;
  if (signal.sign?.way === 'offset')
    return typeof raw === 'bigint' ? raw - half(signal.bits) : raw - 2 ** (signal.bits - 1);
  if (signal.sign?.way === 'complement') {
    const negative = BigInt(raw) >= half(signal.bits);
    if (typeof raw === 'bigint') return negative ? raw - 2n * half(signal.bits) : raw;
    return negative ? raw - 2 ** signal.bits : raw;
  }
  if (signal.sign?.way !== 'bit') return raw;
  const { field, bit } = signal.sign;
  const inside = field === signal.of && bit < signal.bits;
  const magnitude = inside ? BigInt(raw) & ~(1n << BigInt(bit)) : BigInt(raw);
  const value = negative ? -magnitude : magnitude;
  return typeof raw === 'bigint' ? value : Number(value);
}

/** The engineering value of a raw value, with all that it means. */
export function readingOf(signal: Signal, raw: Value, around: Around = {}): Reading {
  const signed = signedOf(signal, raw, around);
  const reading: Reading = { signed, value: undefined, text: '', bitTexts: bitTextsOf(signal, raw) };
  const label = labelOf(signal, raw);
  if (label !== undefined) reading.label = label;
  if (typeof raw === 'boolean') {
    reading.text = raw ? '1' : '0';
    if (signal.normallyClosed) reading.acts = !raw;
    return reading;
  }
  if (typeof raw === 'string') return { ...reading, text: raw };
  if (signed === undefined) return { ...reading, text: 'no BCD digit' };
  const special = signal.specials.find((s) => s.value === Number(raw));
  if (special) return { ...reading, special: special.means, text: special.means };
  const number = exactly(signed);
  if (!number) return { ...reading, text: String(signed) };
  const value = pointed(signal, number, around);
  reading.value = value;
  reading.text =
    readsOf(signal) === 'float'
      ? String(Number(value.valueOf().toPrecision(digitsOfFloat(signal.bits))))
      : fixedText(value, decimalsOf(signal, around));
  const { minimum, maximum } = signal.limits ?? { minimum: null, maximum: null };
  if (minimum !== null && value.compare(ratio(minimum)) < 0) reading.beyond = 'below';
  if (maximum !== null && value.compare(ratio(maximum)) > 0) reading.beyond = 'above';
  return reading;
}

/** A number with its sign → engineering value. */
function pointed(signal: Signal, number: Fraction, around: Around): Fraction {
  const value = number.div(ratio(`${10n ** BigInt(placesOf(signal, around))}`));
  return signal.scale ? value.mul(ratio(signal.scale.factor)).add(ratio(signal.scale.offset)) : value;
}

/** The text that a signal's labels give to a raw value, if any. */
export function labelOf(signal: Signal, raw: Value): string | undefined {
  if (signal.labels.length === 0 || typeof raw === 'string' || readsOf(signal) === 'float') return undefined;
  const number = Number(raw);
  return signal.labels.find((l) => l.value === number)?.text;
}

function bitTextsOf(signal: Signal, raw: Value): string[] {
  if (signal.bitLabels.length === 0 || typeof raw === 'string' || Number.isNaN(raw)) return [];
  const bits = BigInt(raw);
  return signal.bitLabels.filter((l) => (bits >> BigInt(l.bit)) & 1n).map((l) => l.text);
}

/** Value with unit, or its label: the short form for tapes and tables. */
export function shortText(signal: Signal, raw: Value, around: Around = {}): string {
  const { text, label, special, bitTexts, acts } = readingOf(signal, raw, around);
  if (special) return special;
  if (label) return typeof raw === 'boolean' ? label : `${text} · ${label}`;
  // Of a normally closed bit that rests its number says enough.
  if (acts) return `${text} · acts`;
  const valued = signal.unit ? `${text} ${signal.unit}` : text;
  return bitTexts.length ? `${valued} · ${bitTexts.join(', ')}` : valued;
}

/** What is to be written: the raw value, and the sign where it lies in another place. */
export interface RawEntry {
  raw: Value;
  negative?: boolean;
}

/**
 * An engineering value → the raw value to write, nearest raw number, halves away from zero. Throws
 * `value.outsideLimits`, `value.doesNotFit`, `value.noSign` for a negative value without a place for its sign.
 */
export function rawOf(signal: Signal, value: Fraction, around: Around = {}): RawEntry {
  refuseBeyondLimits(signal, value);
  const unscaled = signal.scale
    ? value.sub(ratio(signal.scale.offset)).div(ratio(signal.scale.factor))
    : value;
  const number = unscaled.mul(ratio(`${10n ** BigInt(placesOf(signal, around))}`));
  if (readsOf(signal) === 'float') return { raw: number.valueOf() };
  const whole = nearestWhole(number);
  if (signal.sign?.way === 'offset') return { raw: fitting(signal, whole + half(signal.bits), value) };
  if (signal.sign?.way === 'complement') {
    if (whole >= half(signal.bits) || whole < -half(signal.bits)) refuse(signal, value.toString());
    return { raw: fitting(signal, whole < 0n ? whole + 2n * half(signal.bits) : whole, value) };
  }
  if (signal.sign?.way === 'bit') {
    const magnitude = whole < 0n ? -whole : whole;
    const inside = signal.sign.field === signal.of && signal.sign.bit < signal.bits;
    if (inside && (magnitude >> BigInt(signal.sign.bit)) & 1n) refuse(signal, value.toString());
    return { raw: fitting(signal, magnitude, value), negative: whole < 0n };
  }
  return { raw: fitting(signal, whole, value) };
}

function refuseBeyondLimits(signal: Signal, value: Fraction): void {
  const { minimum, maximum } = signal.limits ?? { minimum: null, maximum: null };
  const below = minimum !== null && value.compare(ratio(minimum)) < 0;
  const above = maximum !== null && value.compare(ratio(maximum)) > 0;
  if (below || above)
    throw new Problem('value.outsideLimits', {
      field: signal.name,
      value: value.toString(),
      minimum: minimum ?? 'any',
      maximum: maximum ?? 'any',
      unit: signal.unit,
    });
}

function fitting(signal: Signal, raw: bigint, value: Fraction): number | bigint {
  const { minimum, maximum } = limitsOf(signal.type, signal.bits);
  if (raw < BigInt(minimum) || raw > BigInt(maximum)) refuse(signal, value.toString());
  return signal.bits > 32 ? raw : Number(raw);
}

/** Throws `value.doesNotFit` with the range in engineering units. */
function refuse(signal: Signal, value: string): never {
  const { minimum, maximum } = rangeOf(signal);
  throw new Problem('value.doesNotFit', { field: signal.name, value, minimum, maximum });
}

/** The range of a signal in engineering units, as texts; a field's sign and decimal places count as they are now. */
export function rangeOf(signal: Signal, around: Around = {}): { minimum: string; maximum: string } {
  const { minimum, maximum } = limitsOf(signal.type, signal.bits);
  if (readsOf(signal) === 'float') return { minimum: String(minimum), maximum: String(maximum) };
  const ends = [minimum, maximum].map(BigInt) as [bigint, bigint];
  if (signal.sign?.way === 'offset') ends.forEach((e, i) => (ends[i] = e - half(signal.bits)));
  if (signal.sign?.way === 'complement') [ends[0], ends[1]] = [-half(signal.bits), half(signal.bits) - 1n];
  if (signal.sign?.way === 'bit') {
    const inside = signal.sign.field === signal.of && signal.sign.bit === signal.bits - 1;
    ends[1] = inside ? half(signal.bits) - 1n : ends[1];
    ends[0] = -ends[1];
  }
  const values = ends.map((e) => pointed(signal, exactly(e)!, around)).sort((a, b) => a.compare(b));
  const places = decimalsOf(signal, around);
  return { minimum: fixedText(values[0]!, places), maximum: fixedText(values[1]!, places) };
}

/**
 * What a person typed → what to write: a label's or a special's text, 0 or 1 for bits, characters or hex pairs for text
 * and raw bytes, a number in engineering units, or a raw number as 16#00FF, 8#17 or 2#1010. Throws `value.notANumber`
 * and what rawOf throws.
 */
export function parseValue(signal: Signal, typed: string, around: Around = {}): RawEntry {
  const reads = readsOf(signal);
  if (reads === 'text') return { raw: typed };
  const text = typed.trim();
  const notANumber = () => new Problem('value.notANumber', { field: signal.name, value: typed });
  if (reads === 'bytes') {
    const hex = text.replace(/[\s,:]/g, '').toUpperCase();
    if (!/^([0-9A-F]{2})*$/.test(hex)) throw notANumber();
    return { raw: (hex.match(/../g) ?? []).join(' ') };
  }
  const folded = text.toLowerCase();
  const label = signal.labels.find((l) => l.text.toLowerCase() === folded);
  if (label) return { raw: reads === 'boolean' ? label.value === 1 : label.value };
  const special = signal.specials.find((s) => s.means === folded);
  if (special) return { raw: special.value };
  const raw = basedNumber(text);
  if (reads === 'boolean') {
    if (/^(1|true|on)$/.test(folded) || raw === 1n) return { raw: true };
    if (/^(0|false|off)$/.test(folded) || raw === 0n) return { raw: false };
    throw notANumber();
  }
  if (raw !== undefined && isNumber(signal)) return { raw: signal.bits > 32 ? raw : Number(raw) };
  const value = decimal(text.replace(',', '.'));
  if (!value) throw notANumber();
  return rawOf(signal, value, around);
}

/** 16#00FF, 8#17, 2#1010_0001 or 0xFF (IEC 61131-3:2013, 6.3.1); undefined for any other text. */
export function basedNumber(text: string): bigint | undefined {
  const match = /^(?:(16|8|2)#|0([xob]))([0-9a-f_]+)$/i.exec(text);
  if (!match) return undefined;
  const prefix = match[1] ? { 16: '0x', 8: '0o', 2: '0b' }[match[1]]! : `0${match[2]!.toLowerCase()}`;
  try {
    return BigInt(prefix + match[3]!.replaceAll('_', ''));
  } catch {
    return undefined;
  }
}
