import type { Field } from '../cell/model.js';
import { Problem } from '../messages/problem.js';
import { fieldTypes, type Value } from './fieldTypes.js';

/** A scale whose steps end within so many decimals is shown exactly. */
const mostExactDecimals = 6;

/**
 * Decimals that the scale of a field makes visible: 1/100 shows two, 1/500 three (steps of 0.002). Where the steps do
 * not end, as with 1/300, as many as tell two neighbouring raw numbers apart.
 */
export function decimalsOf(field: Field): number {
  const { numerator, denominator } = field.scale ?? { numerator: 1, denominator: 1 };
  for (let decimals = 0; decimals <= mostExactDecimals; decimals += 1)
    if ((10 ** decimals * Math.abs(numerator)) % denominator === 0) return decimals;
  return Math.max(0, Math.ceil(Math.log10(denominator / Math.abs(numerator))));
}

/** Raw number → engineering value. */
export function toEngineering(field: Field, raw: number): number {
  if (!field.scale) return raw;
  return (raw * field.scale.numerator) / field.scale.denominator + field.scale.offset;
}

/** Engineering value → nearest raw number (half away from zero); floating types are not rounded. */
export function fromEngineering(field: Field, value: number): number {
  if (!field.scale) return value;
  const raw = ((value - field.scale.offset) * field.scale.denominator) / field.scale.numerator;
  if (fieldTypes[field.type].reads === 'float') return raw;
  // A typed 2.5 may arrive as 2.4999…96 after the division; nine digits are far beyond any scale here.
  return Math.sign(raw) * Math.round(Math.abs(Number(raw.toPrecision(15))));
}

/** A value as it is shown, without unit: digits of the scale, a thin grouping for long numbers is left to the view. */
export function valueText(field: Field, value: Value): string {
  if (typeof value === 'boolean') return value ? '1' : '0';
  if (typeof value === 'bigint') return field.scale ? scaledBig(field, value) : value.toString();
  if (fieldTypes[field.type].reads === 'float')
    return String(Number(toEngineering(field, value).toPrecision(7)));
  return toEngineering(field, value).toFixed(decimalsOf(field));
}

/** 64-bit numbers stay exact through a whole-number scale; otherwise they are shown as the nearest double. */
function scaledBig(field: Field, raw: bigint): string {
  const { numerator, denominator, offset } = field.scale!;
  if (denominator === 1 && Number.isInteger(offset))
    return (raw * BigInt(numerator) + BigInt(offset)).toString();
  return toEngineering(field, Number(raw)).toFixed(decimalsOf(field));
}

/**
 * What a person typed → the value to write: a label's text, 0 or 1 for bits, a number in engineering units, or a raw
 * number as 16#00FF or 2#1010. Throws `value.notANumber`; the codec refuses what does not fit.
 */
export function parseValue(field: Field, typed: string): Value {
  const text = typed.trim();
  const label = field.labels.find((l) => l.text.toLowerCase() === text.toLowerCase());
  if (label) return field.type === 'BOOL' ? label.value === 1 : label.value;
  const based = /^(16|8|2)#([0-9a-f_]+)$/i.exec(text);
  const digits = based?.[2]!.replaceAll('_', '');
  const raw = based ? rawNumber(digits!, Number(based[1])) : undefined;
  if (field.type === 'BOOL') {
    if (/^(1|true|on)$/i.test(text) || raw === 1n) return true;
    if (/^(0|false|off)$/i.test(text) || raw === 0n) return false;
    throw new Problem('value.notANumber', { field: field.name, value: typed });
  }
  if (raw !== undefined) return field.bits > 32 ? raw : Number(raw);
  if (field.bits > 32 && /^-?\d+$/.test(text) && !field.scale && fieldTypes[field.type].reads !== 'float')
    return BigInt(text);
  const number = text === '' ? NaN : Number(text.replace(',', '.'));
  if (!Number.isFinite(number)) throw new Problem('value.notANumber', { field: field.name, value: typed });
  return fromEngineering(field, number);
}

function rawNumber(digits: string, base: number): bigint | undefined {
  const prefix = { 16: '0x', 8: '0o', 2: '0b' }[base];
  try {
    return BigInt(`${prefix}${digits}`);
  } catch {
    return undefined;
  }
}
