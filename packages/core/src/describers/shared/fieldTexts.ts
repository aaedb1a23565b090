import { Field } from '../../layout/field.js';
import type { z } from 'zod';
import type { Exact } from './exact.js';

/** What a field is made of. */
export type FieldDraft = Partial<z.input<typeof Field>>;

/** Text of a file as an entry of the cell: one line, no control characters, not too long. */
export const tidy = (text: string, maximum: number): string =>
  text
    .normalize('NFC')
    .replace(/[\p{Cc}\p{Cs}\u200b-\u200f\u202a-\u202e\u2060-\u2069\ufeff]+/gu, ' ')
    .trim()
    .slice(0, maximum)
    .trim();

/** What labels can be for, and how many a field has. */
const mostLabels = 256;
const labelLength = 64;
const canHaveLabel = (value: Exact): value is number =>
  typeof value === 'number' && Number.isInteger(value) && value >= -0x8000_0000 && value <= 0xffff_ffff;

/** A value of a description file, and what it means. */
export interface DescribedLabel {
  value: Exact;
  text: string;
}

/** Labels of a file as those of a field: whole numbers, each once, with texts that can be shown. */
export function labelsOf(labels: readonly DescribedLabel[]): { value: number; text: string }[] {
  const byValue = new Map<number, { value: number; text: string }>();
  for (const { value, text } of labels) {
    const tidied = tidy(text, labelLength);
    if (canHaveLabel(value) && tidied !== '' && !byValue.has(value) && byValue.size < mostLabels)
      byValue.set(value, { value, text: tidied });
  }
  return [...byValue.values()];
}

/** Whether a label is kept as it is, without looking at each of its characters. */
const isPlain = ({ value, text }: DescribedLabel): boolean =>
  canHaveLabel(value) && text.length <= labelLength;

const distinct = (labels: readonly DescribedLabel[]): boolean =>
  labels.length < 2 || new Set(labels.map((l) => l.value)).size === labels.length;

/** How many labels of a file a field cannot keep, or only in part; undefined where it keeps them all. */
export function unkeptLabels(labels: readonly DescribedLabel[]): { lost: number; cut: number } | undefined {
  if (labels.length <= mostLabels && labels.every(isPlain) && distinct(labels)) return undefined;
  const named = labels.filter(({ text }) => text !== '');
  const lost = named.length - labelsOf(labels).length;
  const cut = named.filter(({ text }) => tidy(text, Infinity).length > labelLength).length;
  return lost > 0 || cut > 0 ? { lost: Math.max(0, lost), cut } : undefined;
}

/**
 * A field of a description file that calls it `fileName`. Where the model refuses what is said beside its name and
 * place, the field without it; undefined for one that has no place in an image.
 */
export function draftField(draft: FieldDraft, fileName: string): Field | undefined {
  const { id, name, type, at, bits, order, text } = draft;
  const said = tidy(fileName, 120);
  const sourceName = said === name ? '' : said;
  const parsed = Field.safeParse({ ...draft, sourceName });
  if (parsed.success) return parsed.data;
  return Field.safeParse({ id, name, type, at, bits, order, text, sourceName }).data;
}
