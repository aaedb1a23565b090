import { z } from 'zod';
import { Problem } from '../messages/problem.js';
import { Cell } from './model.js';
import { parseInput } from './parse.js';

/** 500 devices with 100 described fields each stay below this. */
export const maxCellFileBytes = 8 * 1024 * 1024;
const format = 'fadenkreuz-cell';
const version = 1;

export const CellFile = z.strictObject({
  $schema: z.string().max(200).optional(),
  format: z.literal(format),
  version: z.literal(version),
  cell: Cell,
});

/**
 * Reads a cell file. Throws a Problem (`file.…`, `input.invalid`) that names the place; fields may lie past the end of
 * their image, which is a finding of the checks.
 */
export function readCellFile(text: string): Cell {
  const bytes = text.length;
  if (bytes > maxCellFileBytes) throw new Problem('file.tooLarge', { bytes, limit: maxCellFileBytes });
  const data = parseJson(text);
  const head = z.looseObject({ format: z.literal(format), version: z.unknown() }).safeParse(data);
  if (!head.success) throw new Problem('file.notACell', { found: JSON.stringify(text.slice(0, 40)) });
  if (head.data.version !== version)
    throw new Problem('file.version', {
      found: JSON.stringify(head.data.version) ?? 'nothing',
      known: version,
    });
  return parseInput(CellFile, data, 'cell file').cell;
}

/** The text of a cell file: keys in the order of the schema, two spaces, so that two versions compare line by line. */
export function writeCellFile(cell: Cell): string {
  return JSON.stringify({ format, version, cell: Cell.parse(cell) }, null, 2) + '\n';
}

/** The published JSON Schema of the cell file (2020-12). */
export function cellFileSchema(): object {
  return {
    $id: 'fadenkreuz-cell-1',
    title: 'Fadenkreuz cell file, version 1',
    ...z.toJSONSchema(CellFile, { io: 'input' }),
  };
}

function parseJson(text: string): unknown {
  try {
    return JSON.parse(text);
  } catch (cause) {
    throw new Problem('file.notJson', { reason: (cause as Error).message }, { cause });
  }
}
