import { Problem } from '../../messages/problem.js';
import type { Defects } from '../shared/defects.js';

/**
 * The grammar of an electronic data sheet (CIP Vol. 1, 7-3, from memory): sections in brackets; entries, a keyword, `=`
 * and fields with commas between them, ended by a semicolon, over as many lines as they need; comments from `$` to the
 * end of the line; texts in double quotes, of which several in a row are one. Files that break it slightly are read on,
 * and their defects are listed.
 */
export interface Section {
  name: string;
  line: number;
  entries: Entry[];
}

export interface Entry {
  keyword: string;
  line: number;
  fields: EdsField[];
}

export interface EdsField {
  /** Quotes taken off, escapes replaced. */
  text: string;
  quoted: boolean;
  /** As it was written, without comments and line breaks. */
  raw: string;
  /** 0: that of its entry. */
  line: number;
}

/**
 * A field of one word or one text, whose raw form follows from it; there are hundreds of thousands, so it is kept
 * small.
 */
class PlainField implements EdsField {
  constructor(
    readonly text: string,
    readonly quoted: boolean,
    readonly line: number,
  ) {}

  get raw(): string {
    return this.quoted ? `"${this.text}"` : this.text;
  }
}

/**
 * Most fields of a dense file are empty or one character long, on the line of their entry: each of these is made once.
 */
const shortFields = Array.from({ length: 128 }, (_, c) => new PlainField(String.fromCharCode(c), false, 0));
const emptyField = new PlainField('', false, 0);
const emptyText = new PlainField('', true, 0);

export const edsLimits = {
  characters: 5_000_000,
  sections: 500,
  entries: 100_000,
  fields: 400_000,
} as const;

const escapes: Record<string, string> = { n: '\n', t: '\t', v: '\v', b: '\b', r: '\r', f: '\f', a: '\x07' };

const codes = {
  newline: 10,
  return: 13,
  space: 32,
  quote: 34,
  dollar: 36,
  comma: 44,
  semicolon: 59,
  equals: 61,
  open: 91,
  close: 93,
  backslash: 92,
  braceOpen: 123,
  braceClose: 125,
} as const;

/** A table by character, up to 126, of what stops a scan. */
const stopTable = (stops: (c: number) => boolean) =>
  Uint8Array.from({ length: 127 }, (_, c) => Number(stops(c)));
const { quote, comma, semicolon, dollar, braceOpen, braceClose, backslash, newline, space } = codes;
/** What ends a plain word, or keeps it from being one; so does every character past the table. */
const wordStops = stopTable(
  (c) => c < space || [quote, comma, semicolon, dollar, braceOpen, braceClose].some((stop) => stop === c),
);
/** The same of a plain text. */
const textStops = stopTable((c) => [quote, backslash, newline, braceClose].some((stop) => stop === c));

/**
 * Cuts a file into sections and entries. Throws `describer.tooLarge`, and `eds.none` for a file without any section.
 */
export function readSections(text: string, defects: Defects): Section[] {
  if (text.length > edsLimits.characters) throw tooLarge('characters');
  const sections: Section[] = [];
  const end = text.length;
  let entryCount = 0;
  let fieldCount = 0;
  let at = 0;
  let line = 1;

  /** Over white space and comments. */
  const skip = (): void => {
    for (; at < end; at += 1) {
      const c = text.charCodeAt(at);
      if (c === codes.newline) line += 1;
      else if (c === codes.dollar) {
        const stop = text.indexOf('\n', at);
        at = (stop < 0 ? end : stop) - 1;
      } else if (c > codes.space) return;
    }
  };
  /** The rest of this line, without a comment. */
  const restOfLine = (): string => {
    const from = at;
    while (at < end && text.charCodeAt(at) !== codes.newline) at += 1;
    return text.slice(from, at).replace(/\$.*$/, '').trim();
  };
  /** Whether a new entry or section begins on the next line: then the semicolon before it is missing. */
  const beginsAnew = (): boolean => newEntry(text, at);

  /** A text in quotes; one that is not closed ends with its line. */
  const quoted = (): { value: string; closed: boolean } => {
    const began = line;
    let value = '';
    let from = (at += 1);
    for (; at < end; at += 1) {
      const c = text.charCodeAt(at);
      if (c === codes.quote) {
        value += text.slice(from, at);
        at += 1;
        return { value, closed: true };
      }
      if (c === codes.backslash && at + 1 < end) {
        const next = text[at + 1]!;
        value += text.slice(from, at) + (escapes[next] ?? next);
        at += 1;
        from = at + 1;
      } else if (c === codes.newline) break;
    }
    defects.add(began, 'eds.quote', {});
    let stop = at;
    const back = () => {
      while (stop > from && text.charCodeAt(stop - 1) <= codes.space) stop -= 1;
    };
    back();
    // What ends the field or the entry was meant to stand outside.
    const last = text.charCodeAt(stop - 1);
    if (stop > from && (last === codes.comma || last === codes.semicolon)) at = stop -= 1;
    back();
    return { value: value + text.slice(from, stop), closed: false };
  };

  /** Line of the entry that is being read. */
  let entryLine = 0;
  /** What the last field ended: itself, its entry, or nothing, for the file was over. */
  let ended: 'field' | 'entry' | 'nothing' = 'field';

  /**
   * A field as nearly all are: one plain word or one text, with its comma or semicolon on the same line. Undefined, and
   * nothing taken, for any other. Half of the time of a large file is saved here.
   */
  const plainField = (): EdsField | undefined => {
    const from = at;
    const isText = text.charCodeAt(at) === codes.quote;
    const stops = isText ? textStops : wordStops;
    let i = isText ? at + 1 : at;
    let c = 0;
    for (; i < end; i += 1) {
      c = text.charCodeAt(i);
      if (c < 127 ? stops[c] === 1 : !isText) break;
    }
    if (isText ? c !== codes.quote : c !== codes.comma && c !== codes.semicolon) return undefined;
    let stop = i;
    if (isText) {
      do c = text.charCodeAt((i += 1));
      while (c === codes.space);
    } else while (stop > from && text.charCodeAt(stop - 1) === codes.space) stop -= 1;
    if (i >= end || (c !== codes.comma && c !== codes.semicolon)) return undefined;
    at = i + 1;
    ended = c === codes.comma ? 'field' : 'entry';
    const begin = isText ? from + 1 : from;
    if (line === entryLine) {
      if (stop === begin) return isText ? emptyText : emptyField;
      if (stop === begin + 1 && !isText) return shortFields[text.charCodeAt(begin)]!;
    }
    return new PlainField(text.slice(begin, stop), isText, line);
  };

  /** One field, up to the comma or semicolon behind it; `ended` says which. */
  const field = (): EdsField => {
    const asked = line;
    skip();
    // Nothing more on its line, and the next one begins another entry: the last field is empty, its semicolon missing.
    if (line > asked && beginsAnew()) {
      defects.add(asked, 'eds.semicolon', {});
      ended = 'entry';
      return emptyField;
    }
    const plain = plainField();
    if (plain) return plain;
    const began = line;
    let value = '';
    let raw = '';
    let isQuoted = false;
    let depth = 0;
    /** A brace that is not closed ends with its entry, whose semicolon it has swallowed. */
    const closeBraces = (): void => {
      if (depth === 0) return;
      defects.add(began, 'eds.brace', {});
      const open = raw.endsWith(';') ? raw.slice(0, -1).trimEnd() : raw;
      raw = open + '}'.repeat(depth);
    };
    /** Over what follows; whether the entry has ended, because the next one begins and the semicolon is missing. */
    const endedBeforeNextLine = (): boolean => {
      const before = line;
      skip();
      if (line === before || !beginsAnew()) return false;
      if (depth === 0) defects.add(began, 'eds.semicolon', {});
      closeBraces();
      ended = 'entry';
      return true;
    };
    for (;;) {
      if (at >= end) {
        closeBraces();
        ended = 'nothing';
        return { text: value, quoted: isQuoted, raw, line: began };
      }
      const c = text.charCodeAt(at);
      if (c === codes.quote) {
        const from = at;
        const { value: said, closed } = quoted();
        value = (isQuoted ? value : '') + said;
        isQuoted = true;
        raw += (raw ? ' ' : '') + text.slice(from, at) + (closed ? '' : '"');
        if (endedBeforeNextLine()) return { text: value, quoted: isQuoted, raw, line: began };
        continue;
      }
      if (depth === 0 && (c === codes.comma || c === codes.semicolon)) {
        at += 1;
        ended = c === codes.comma ? 'field' : 'entry';
        return { text: value, quoted: isQuoted, raw, line: began };
      }
      const from = at;
      while (at < end) {
        const d = text.charCodeAt(at);
        if (d === codes.braceOpen) depth += 1;
        else if (d === codes.braceClose) depth = Math.max(0, depth - 1);
        else if (d === codes.newline || d === codes.dollar || d === codes.quote) break;
        else if (depth === 0 && (d === codes.comma || d === codes.semicolon)) break;
        at += 1;
      }
      const piece = text.slice(from, at).trim();
      if (piece) {
        if (!isQuoted) value += (value ? ' ' : '') + piece;
        raw += (raw ? ' ' : '') + piece;
      }
      if (endedBeforeNextLine()) return { text: value, quoted: isQuoted, raw, line: began };
    }
  };

  /**
   * Fields of the entry that is being read; each entry gets an array of its own that is no longer than it has to be.
   */
  const read: EdsField[] = [];
  for (skip(); at < end; skip()) {
    const began = line;
    if (text.charCodeAt(at) === codes.open) {
      at += 1;
      const from = at;
      const inside = restOfLine();
      const close = inside.indexOf(']');
      if (close < 0) defects.add(began, 'eds.bracket', { section: inside });
      // An entry may stand on the same line.
      else at = text.indexOf(']', from) + 1;
      sections.push({ name: (close < 0 ? inside : inside.slice(0, close)).trim(), line: began, entries: [] });
      if (sections.length > edsLimits.sections) throw tooLarge('sections');
      continue;
    }
    const from = at;
    while (at < end) {
      const c = text.charCodeAt(at);
      if (c === codes.equals || c === codes.newline || c === codes.semicolon || c === codes.dollar) break;
      at += 1;
    }
    const keyword = text.slice(from, at).trim();
    skip();
    if (text.charCodeAt(at) !== codes.equals || keyword === '') {
      if (text.charCodeAt(at) === codes.semicolon || text.charCodeAt(at) === codes.equals) at += 1;
      if (keyword) defects.add(began, 'eds.stray', { text: short(keyword) });
      continue;
    }
    at += 1;
    entryLine = began;
    read.length = 0;
    for (;;) {
      read.push(field());
      fieldCount += 1;
      if (fieldCount > edsLimits.fields) throw tooLarge('fields');
      // `field` has changed it.
      if ((ended as string) === 'nothing') defects.add(began, 'eds.semicolon', {});
      if (ended !== 'field') break;
    }
    // A comma before the semicolon leaves an empty field behind.
    const section = sections.at(-1);
    entryCount += 1;
    if (entryCount > edsLimits.entries) throw tooLarge('entries');
    if (section) section.entries.push({ keyword, line: began, fields: read.slice() });
    else defects.add(began, 'eds.outside', { keyword });
  }
  if (sections.length === 0) throw new Problem('eds.none', {});
  return sections;
}

const keywordAhead = /[A-Za-z0-9_]{1,60}[ \t]*=|\[/y;

function newEntry(text: string, at: number): boolean {
  keywordAhead.lastIndex = at;
  return keywordAhead.test(text);
}

const short = (text: string) => (text.length > 40 ? `${text.slice(0, 39)}…` : text);

const tooLarge = (what: keyof typeof edsLimits) =>
  new Problem('describer.tooLarge', { what, limit: edsLimits[what] });
