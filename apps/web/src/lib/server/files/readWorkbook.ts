import { Problem } from '@fadenkreuz/core';
import { strFromU8, unzipSync } from 'fflate';
import { SaxesParser, type SaxesTagPlain } from 'saxes';

/** Tables out of workbooks (Office Open XML, ECMA-376, parts 18 and 22), as far as a table needs. */

export const maxWorkbookBytes = 2 * 1024 * 1024;
/** What the parts that are read may unpack to: a small file can be packed a thousandfold. */
const maxUnpackedBytes = 48 * 1024 * 1024;
/** Cells beyond are not looked at, wherever a file says that they are. */
const maxRows = 4001;
const maxColumns = 64;

/** The cells of the first sheet that has any, as texts. Throws `file.notAWorkbook` and `file.tooLarge`. */
export function readWorkbook(bytes: Uint8Array): string[][] {
  try {
    const parts = partsOf(bytes);
    const part = (name: string) => {
      const found = parts[name];
      return found && strFromU8(found);
    };
    const workbook = part('xl/workbook.xml');
    if (!workbook) throw new Error('it has no sheets');
    const shared = sharedTexts(part('xl/sharedStrings.xml') ?? '');
    for (const name of sheetNames(workbook, part('xl/_rels/workbook.xml.rels') ?? '')) {
      const rows = sheetRows(part(name) ?? '', shared);
      if (rows.length > 0) return rows;
    }
    return [];
  } catch (cause) {
    if (cause instanceof Problem) throw cause;
    throw new Problem('file.notAWorkbook', { reason: (cause as Error).message.slice(0, 120) }, { cause });
  }
}

/** The parts that hold texts. A part never becomes longer than its entry says: a size that lies cuts it off. */
function partsOf(bytes: Uint8Array): Record<string, Uint8Array> {
  let unpacked = 0;
  return unzipSync(bytes, {
    filter: ({ name, originalSize }) => {
      if (!/^xl\/(workbook|sharedStrings|worksheets\/[^/]+|_rels\/workbook)\.xml(\.rels)?$/.test(name))
        return false;
      unpacked += originalSize;
      if (unpacked > maxUnpackedBytes)
        throw new Problem('file.tooLarge', { bytes: unpacked, limit: maxUnpackedBytes });
      return true;
    },
  });
}

interface Listener {
  open?: (name: string, attributes: Record<string, string>) => void;
  text?: (text: string) => void;
  /** `true` ends the reading: all that is wanted has been seen. */
  close?: (name: string) => unknown;
}

/** Thrown to leave the parser. */
class Enough extends Error {}

const bare = (name: string) => name.slice(name.indexOf(':') + 1);

/** Reads one XML part, without entities of its own. Throws at the first thing that is wrong with it. */
function readXml(text: string, { open, text: take, close }: Listener): void {
  const parser = new SaxesParser({ xmlns: false });
  parser.on('error', (error) => {
    throw error;
  });
  parser.on('doctype', () => {
    throw new Error('it declares a document type');
  });
  if (open) parser.on('opentag', ({ name, attributes }: SaxesTagPlain) => open(bare(name), attributes));
  if (take) {
    parser.on('text', take);
    parser.on('cdata', take);
  }
  parser.on('closetag', ({ name }) => {
    if (close?.(bare(name)) === true) throw new Enough();
  });
  try {
    parser.write(text).close();
  } catch (error) {
    if (!(error instanceof Enough)) throw error;
  }
}

/** Names of the sheets' parts, in the order of the workbook. */
function sheetNames(workbook: string, relations: string): string[] {
  const targets = new Map<string, string>();
  if (relations)
    readXml(relations, {
      open: (name, { Id, Target }) => {
        if (name === 'Relationship' && Id && Target) targets.set(Id, Target.replace(/^\/?(xl\/)?/, 'xl/'));
      },
    });
  const names: string[] = [];
  readXml(workbook, {
    open: (name, attributes) => {
      const id = Object.entries(attributes).find(([key]) => bare(key) === 'id' && key !== 'id')?.[1];
      const target = name === 'sheet' && id !== undefined && targets.get(id);
      if (target) names.push(target);
    },
  });
  return names.slice(0, 50);
}

/** Texts that cells share. Runs of one text are joined; how it is pronounced is no part of it (18.4.6). */
function sharedTexts(text: string): string[] {
  const texts: string[] = [];
  if (!text) return texts;
  let now = '';
  let inText = false;
  let spoken = false;
  readXml(text, {
    open: (name) => {
      if (name === 'si') now = '';
      else if (name === 'rPh') spoken = true;
      else if (name === 't') inText = !spoken;
    },
    text: (part) => {
      if (inText) now += part;
    },
    close: (name) => {
      if (name === 'si') texts.push(unescaped(now));
      else if (name === 'rPh') spoken = false;
      else if (name === 't') inText = false;
    },
  });
  return texts;
}

/** Characters that XML cannot hold are written as _x000B_ (22.4.2.2). */
const unescaped = (text: string) =>
  text.replace(/_x([0-9a-f]{4})_/gi, (_, code: string) => String.fromCharCode(parseInt(code, 16)));

/** `BC12` → column 55 and row 12, from 1. */
function placeOf(reference: string): { column: number; row: number } | undefined {
  const match = /^\$?([A-Z]{1,3})\$?(\d{1,10})$/i.exec(reference);
  if (!match) return undefined;
  const column = [...match[1]!.toUpperCase()].reduce((n, c) => n * 26 + c.charCodeAt(0) - 64, 0);
  return { column, row: Number(match[2]) };
}

function sheetRows(text: string, shared: readonly string[]): string[][] {
  const rows: string[][] = [];
  let row = 0;
  let column = 0;
  let type = '';
  let value = '';
  let taking = false;
  const put = (cell: string) => {
    const plain = cell.trim();
    if (plain === '' || row < 1 || row > maxRows || column < 1 || column > maxColumns) return;
    while (rows.length < row) rows.push([]);
    const own = rows[row - 1]!;
    while (own.length < column) own.push('');
    own[column - 1] = plain;
  };
  if (text)
    readXml(text, {
      open: (name, attributes) => {
        if (name === 'row') {
          row = attributes['r'] === undefined ? row + 1 : Number(attributes['r']);
          column = 0;
        } else if (name === 'c') {
          const place = placeOf(attributes['r'] ?? '');
          if (place) row = place.row;
          column = place?.column ?? column + 1;
          type = attributes['t'] ?? 'n';
          value = '';
        } else if (name === 'v' || name === 't') taking = true;
      },
      text: (part) => {
        if (taking) value += part;
      },
      close: (name) => {
        if (name === 'v' || name === 't') taking = false;
        else if (name === 'c') put(cellText(type, value, shared));
        // Merged cells, rules and pictures stand behind.
        return name === 'sheetData' || row > maxRows;
      },
    });
  return rows;
}

/** A cell as a text (18.18.11); what a formula gave stands beside it. */
function cellText(type: string, value: string, shared: readonly string[]): string {
  switch (type) {
    case 's':
      return shared[Number(value)] ?? '';
    case 'b':
      return value === '1' ? 'true' : value === '0' ? 'false' : '';
    case 'n': {
      // 0.1 is kept as 0.10000000000000001.
      const number = Number(value);
      return value !== '' && Number.isFinite(number) ? String(number) : value;
    }
    default:
      return unescaped(value);
  }
}
