/** A number with what it means. */
export interface NumberText {
  value: number;
  text: string;
}

/**
 * `0 = off; 1 = IO-Link`, also parted by commas or lines, with colons for equals signs, numbers as 0x1F or 16#1F; what
 * stands before the first number is `unread`, so that it can be kept. A comma parts only where a number follows it:
 * texts have commas of their own.
 */
export function readLabels(text: string): { labels: NumberText[]; unread: string } {
  const start = /(?:^|[;,\n\r]+)\s*([+-]?\d+|0x[0-9a-f]+|16#[0-9a-f]+)\s*[=:]/giu;
  const starts = [...text.matchAll(start)];
  const labels = starts.map((match, i) => ({
    value: Number(match[1]!.replace(/^16#/, '0x')),
    text: text
      .slice(match.index + match[0].length, starts[i + 1]?.index)
      .replace(/[;\s]+$/u, '')
      .trim(),
  }));
  const unread = text.slice(0, starts[0]?.index ?? text.length).trim();
  return { labels, unread };
}

/** A note that keeps the labels of a table which have no numbers: what is not understood is not lost. */
export const noteWith = (note: string, unread: string): string =>
  [note, unread && `values: ${unread}`].filter(Boolean).join('; ').slice(0, 200).trim();
