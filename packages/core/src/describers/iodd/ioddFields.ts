import Fraction from 'fraction.js';
import { uniqueIdentifiers } from '../../entries/identifiers.js';
import type { Field } from '../../layout/field.js';
import type { FieldType } from '../../layout/fieldTypes.js';
import { engineeringLimits } from '../shared/engineering.js';
import { draftField, labelsOf, tidy, type FieldDraft } from '../shared/fieldTexts.js';
import type { IoddData, IoddItem, IoddShown, IoddType } from './iodd.js';

/** Bytes that process data of so many bits take. */
export const dataBytes = ({ bits }: Pick<IoddData, 'bits'>): number => Math.ceil(bits / 8);

/**
 * Process data as fields that begin at `fromByte` of an image. IO-Link counts bits from the lowest of the last byte and
 * sends the highest byte first (IO-Link interface specification, annex E; IODD 1.1, 7.6; from memory).
 */
export function processDataFields(data: IoddData, fromByte: number, newId: () => string): Field[] {
  const bytes = dataBytes(data);
  const items: Pick<IoddItem, 'bitOffset' | 'name' | 'help' | 'type' | 'shown'>[] =
    data.type.items.length > 0
      ? data.type.items
      : [{ bitOffset: 0, name: data.name || data.id, help: '', type: data.type, shown: data.shown }];
  const inside = items.filter(
    (i) => i.type.bits > 0 && i.bitOffset >= 0 && i.bitOffset + i.type.bits <= bytes * 8,
  );
  const names = uniqueIdentifiers(inside.map((i, n) => i.name || `${data.name || 'item'}_${n + 1}`));
  return inside.flatMap(({ bitOffset, name: said, type, help, shown }, n) => {
    const { bits } = type;
    // The byte that holds its highest bit comes first.
    const firstByte = bytes - 1 - Math.floor((bitOffset + bits - 1) / 8);
    const [what, ends] = [fieldType(type), (bitOffset % 8) + bits > 8];
    const numeric = !['BOOL', 'BYTES', 'STRING'].includes(what);
    const at = (fromByte + firstByte) * 8 + (numeric || what === 'BOOL' ? bitOffset % 8 : 0);
    const draft: FieldDraft = {
      id: newId(),
      name: names[n]!.toLowerCase().slice(0, 64),
      type: what,
      at,
      bits,
      order: numeric && ends ? 'big' : null,
      unit: numeric ? tidy(shown?.unit ?? '', 16) : '',
      note: tidy(help, 200),
      sign: oddSigned(type) ? { way: 'complement' } : null,
      labels: labelsOf(type.labels),
      scale: numeric ? scaleOf(shown) : null,
      limits: numeric ? limitsOf(type, shown) : null,
      ...(what === 'STRING' ? { text: { prefix: 0, encoding: 'ascii', pad: 0 } } : {}),
    };
    return draftField(draft, said) ?? [];
  });
}

/** The narrowest type that reads these bits; unusual widths stay plain bit fields. */
export function fieldType({ kind, bits }: IoddType): FieldType {
  if (kind === 'boolean' || bits === 1) return 'BOOL';
  if (kind === 'float' && bits === 32) return 'REAL';
  if (kind === 'string' && bits % 8 === 0) return 'STRING';
  if (kind === 'int') return ({ 8: 'SINT', 16: 'INT', 32: 'DINT' } as const)[bits] ?? 'BITS';
  if (kind === 'uint' || kind === 'unknown')
    return ({ 8: 'USINT', 16: 'UINT', 32: 'UDINT' } as const)[bits] ?? 'BITS';
  return bits % 8 === 0 ? 'BYTES' : 'BITS';
}

/** Signed, in a width that no type has. */
const oddSigned = ({ kind, bits }: IoddType): boolean => kind === 'int' && ![8, 16, 32].includes(bits);

/** Whether a gradient or an offset can be read. */
export const isExact = (text: string): boolean => exact(text) !== undefined;

/** A number of the file as an exact one; undefined where it is none. */
function exact(text: string): Fraction | undefined {
  try {
    return new Fraction(text.trim());
  } catch {
    return undefined;
  }
}

export function scaleOf(shown: IoddShown | null): Field['scale'] {
  const factor = exact(shown?.gradient ?? '1');
  const offset = exact(shown?.offset ?? '0');
  if (!factor || !offset || factor.equals(0) || (factor.equals(1) && offset.equals(0))) return null;
  return { factor: factor.toFraction(), offset: offset.toFraction() };
}

const limitsOf = ({ ranges }: IoddType, shown: IoddShown | null): Field['limits'] =>
  ranges.length === 1 ? engineeringLimits(ranges[0]!, scaleOf(shown) ?? undefined) : null;
