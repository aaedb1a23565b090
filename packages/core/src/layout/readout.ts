import type { Field } from '../cell/model.js';
import { compileCodec } from './codec.js';
import { fieldTypes, type Value } from './fieldTypes.js';
import { valueText } from './scaling.js';

/** One step of the way from bytes to meaning. */
export interface ReadoutStep {
  step: 'bytes' | 'ordered' | 'raw' | 'scaled' | 'value' | 'label';
  /** What was done, such as 'bytes 14–15' or 'little first'. */
  title: string;
  text: string;
}

const hex = (value: number | bigint, digits: number) =>
  value.toString(16).toUpperCase().padStart(digits, '0');

/**
 * The readout of a field: bytes → ordered → raw number → scaled → value with unit → label. Bytes beyond the end of
 * `image` count as absent: the readout then ends after the first step.
 */
export function readout(field: Field, image: Uint8Array): ReadoutStep[] {
  const first = field.at >> 3;
  const last = (field.at + field.bits - 1) >> 3;
  const there = image.subarray(first, last + 1);
  const range = first === last ? `byte ${first}` : `bytes ${first}–${last}`;
  const steps: ReadoutStep[] = [
    { step: 'bytes', title: range, text: [...there].map((b) => hex(b, 2)).join(' ') || 'none' },
  ];
  if (there.length < last - first + 1) return steps;

  const whole = there.reduceRight((sum, byte) => (sum << 8n) | BigInt(byte), 0n);
  if (there.length > 1)
    steps.push({ step: 'ordered', title: 'little first', text: `16#${hex(whole, there.length * 2)}` });

  const codec = compileCodec([field]);
  codec.decode(new DataView(image.buffer, image.byteOffset, image.byteLength));
  const value = codec.valueAt(0);
  if (field.bits % 8 !== 0 || field.at % 8 !== 0) {
    const bits = BigInt.asUintN(field.bits, whole >> BigInt(field.at & 7));
    const place = field.bits === 1 ? `bit ${field.at & 7}` : `${field.bits} bits from bit ${field.at & 7}`;
    steps.push({
      step: 'raw',
      title: place,
      text: field.bits === 1 ? String(bits) : `2#${bits.toString(2).padStart(field.bits, '0')}`,
    });
  }
  if (typeof value !== 'boolean') steps.push({ step: 'raw', title: `as ${field.type}`, text: String(value) });
  if (field.scale) {
    const { numerator, denominator, offset } = field.scale;
    const factor = denominator === 1 ? `× ${numerator}` : `× ${numerator}/${denominator}`;
    const plus = offset === 0 ? '' : offset < 0 ? ` − ${-offset}` : ` + ${offset}`;
    steps.push({ step: 'scaled', title: factor + plus, text: valueText(field, value) });
  }
  if (field.unit)
    steps.push({ step: 'value', title: 'with unit', text: `${valueText(field, value)} ${field.unit}` });
  const label = labelOf(field, value);
  if (label) steps.push({ step: 'label', title: 'means', text: label });
  return steps;
}

/** The text that a field's labels give to a value, if any. */
export function labelOf(field: Field, value: Value): string | undefined {
  if (fieldTypes[field.type].reads === 'float') return undefined;
  const raw = Number(value);
  return field.labels.find((l) => l.value === raw)?.text;
}

/** Value with unit, or its label: the short form for tapes and tables. */
export function shortText(field: Field, value: Value): string {
  const label = labelOf(field, value);
  const text = valueText(field, value);
  if (label) return field.type === 'BOOL' ? label : `${text} · ${label}`;
  return field.unit ? `${text} ${field.unit}` : text;
}
