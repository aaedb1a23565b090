/** Text of a file as an entry of the cell: one line, no control characters, not too long. */
export const tidy = (text: string, maximum: number): string =>
  text
    .normalize('NFC')
    .replace(/[\p{Cc}\p{Cs}\u200b-\u200f\u202a-\u202e\u2060-\u2069\ufeff]+/gu, ' ')
    .trim()
    .slice(0, maximum)
    .trim();

/** Labels of a file as those of a field: whole numbers, each once, with texts that can be shown. */
export function labelsOf(
  labels: readonly { value: number; text: string }[],
): { value: number; text: string }[] {
  const seen = new Set<number>();
  return labels
    .map(({ value, text }) => ({ value, text: tidy(text, 64) }))
    .filter(({ value, text }) => {
      const fits =
        Number.isInteger(value) && Math.abs(value) <= 0x7fff_ffff && text !== '' && !seen.has(value);
      seen.add(value);
      return fits;
    })
    .slice(0, 256);
}
