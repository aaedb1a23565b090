import type { Defects } from '../shared/defects.js';
import { exactOf, narrow, type Exact } from '../shared/exact.js';
import type { Format, Stated } from './eds.js';
import type { Entry, Section } from './grammar.js';

/** Entries of a data sheet as what they hold: numbers, references, paths. */

/** The entries of a section by keyword; what was asked for is taken, the rest is kept. */
export class Part {
  readonly name: string;
  readonly line: number;
  private readonly entries = new Map<string, Entry>();
  private readonly taken = new Set<string>();

  constructor(
    section: Section,
    readonly defects: Defects,
  ) {
    this.name = section.name;
    this.line = section.line;
    for (const entry of section.entries) this.take(entry);
  }

  /** The first of two entries with one keyword counts. */
  take(entry: Entry): void {
    const key = entry.keyword.toLowerCase();
    const before = this.entries.get(key);
    if (before) this.defects.add(entry.line, 'described.twice', { what: entry.keyword, first: before.line });
    else this.entries.set(key, entry);
  }

  row(keyword: string): Row {
    const key = keyword.toLowerCase();
    const entry = this.entries.get(key);
    if (entry) this.taken.add(key);
    return new Row(entry, this.defects);
  }

  /** Entries called by a word and a number, ascending. */
  numbered(word: string): [number, Row][] {
    const rows: [number, Row][] = [];
    for (const [key, entry] of this.entries) {
      const number = key.startsWith(word) ? shortWhole(key, word.length) : undefined;
      if (number === undefined) continue;
      this.taken.add(key);
      rows.push([number, new Row(entry, this.defects)]);
    }
    return rows.sort(([a], [b]) => a - b);
  }

  lineOf(keyword: string): number {
    return this.entries.get(keyword.toLowerCase())?.line ?? this.line;
  }

  untaken(): Entry[] {
    const left: Entry[] = [];
    if (this.taken.size < this.entries.size)
      for (const [key, entry] of this.entries) if (!this.taken.has(key)) left.push(entry);
    return left;
  }
}

/** The fields of one entry by their place, from 0. */
export class Row {
  constructor(
    private readonly entry: Entry | undefined,
    private readonly defects: Defects,
  ) {}

  get count(): number {
    return this.entry?.fields.length ?? 0;
  }

  text(at = 0): string {
    return this.entry?.fields[at]?.text ?? '';
  }

  /** A number; null where the field is empty. What is no number counts as empty and is said. */
  maybe(at: number): number | null {
    const field = this.entry?.fields[at];
    if (!field || field.text === '') return null;
    const number = edsNumber(field.text);
    if (number === undefined)
      this.defects.add(this.line(at), 'eds.noNumber', {
        entry: this.entry!.keyword,
        field: at + 1,
        text: field.text.slice(0, 40),
      });
    return number ?? null;
  }

  /**
   * The raw number of a value of so many bits; hex beyond the middle of a signed type is two's complement, as files
   * write INT 0x8000 for -32768. Null where the field is empty or no number.
   */
  exact(at: number, signedBits = 0): Exact | null {
    const field = this.entry?.fields[at];
    if (!field || field.text === '') return null;
    const text = field.text;
    const short = shortWhole(text);
    if (short !== undefined) return short;
    if (/^0x[0-9a-f]{1,16}$/i.test(text)) {
      const raw = BigInt(text);
      const within = signedBits > 0 && raw < 1n << BigInt(signedBits);
      return narrow(within ? BigInt.asIntN(signedBits, raw) : raw);
    }
    return exactOf(text) ?? this.maybe(at);
  }

  number(at: number, otherwise = 0): number {
    return this.maybe(at) ?? otherwise;
  }

  /** `Param12` → 12. */
  reference(at: number, word: 'param' | 'assem'): number | null {
    const text = this.text(at);
    if (text.length <= word.length || text.length > word.length + 9) return null;
    if (text.slice(0, word.length).toLowerCase() !== word) return null;
    const digits = text.slice(word.length);
    return /^\d+$/.test(digits) ? Number(digits) : null;
  }

  stated(at: number): Stated {
    const parameter = this.reference(at, 'param');
    if (parameter !== null) return { parameter };
    const value = this.maybe(at);
    return value === null ? null : { value };
  }

  format(at: number): Format {
    const parameter = this.reference(at, 'param');
    if (parameter !== null) return { parameter };
    const assembly = this.reference(at, 'assem');
    if (assembly === null && this.text(at) !== '')
      this.defects.add(this.line(at), 'eds.noReference', { entry: this.entry!.keyword, text: this.text(at) });
    return assembly === null ? null : { assembly };
  }

  path(at: number): string {
    if (this.text(at) === '') return '';
    const text = this.text(at).trim().split(/\s+/).join(' ');
    // A path may also be a text with brackets for what is filled in later.
    if (!/^[0-9a-f ]*$/i.test(text)) return text;
    // Some files write the pairs without blanks between them.
    const pairs = text.length > 2 && /^([0-9a-f]{2})+$/i.test(text) ? text.match(/../g)!.join(' ') : text;
    return pairs.toUpperCase();
  }

  line(at = 0): number {
    return this.entry?.fields[at]?.line || this.entry?.line || 0;
  }
}

/** Decimal, hex with 0x, or a floating number; undefined for anything else. */
function edsNumber(text: string): number | undefined {
  const plain = shortWhole(text);
  if (plain !== undefined) return plain;
  const exact = exactOf(text);
  return exact === undefined ? undefined : Number(exact);
}

/**
 * A whole number of up to nine digits, as nearly all are, from a place of the text to its end; undefined for any other
 * text.
 */
function shortWhole(text: string, from = 0): number | undefined {
  if (text.length <= from || text.length > from + 9) return undefined;
  let value = 0;
  for (let i = from; i < text.length; i += 1) {
    const digit = text.charCodeAt(i) - 48;
    if (digit < 0 || digit > 9) return undefined;
    value = value * 10 + digit;
  }
  return value;
}
