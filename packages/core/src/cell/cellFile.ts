import { z } from 'zod';
import { Problem } from '../messages/problem.js';
import { Cell } from './model.js';
import { maxCellFileBytes, refuseTooLarge } from './size.js';
import { fromVersion1, fromVersion2, fromVersion3, fromVersion4 } from './upgrade.js';
import { parseInput, parseJson } from '../entries/parse.js';

const format = 'fadenkreuz-cell';
const version = 5;

export const CellFile = z.strictObject({
  $schema: z.string().max(200).optional(),
  format: z.literal(format),
  version: z.literal(version),
  cell: Cell,
});

/** How the cell of an earlier version becomes one of today. */
const upgrades: Record<string, (cell: unknown) => unknown> = {
  1: (cell) => fromVersion4(fromVersion3(fromVersion2(fromVersion1(cell)))),
  2: (cell) => fromVersion4(fromVersion3(fromVersion2(cell))),
  3: (cell) => fromVersion4(fromVersion3(cell)),
  4: fromVersion4,
};

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
  const upgrade = upgrades[String(head.data.version)];
  if (upgrade) {
    const file = { ...(data as object), version, cell: upgrade((data as { cell?: unknown }).cell) };
    return bounded(parseInput(CellFile, file, 'cell file').cell);
  }
  if (head.data.version !== version)
    throw new Problem('file.version', {
      found: JSON.stringify(head.data.version) ?? 'nothing',
      known: version,
    });
  return bounded(parseInput(CellFile, data, 'cell file').cell);
}

/** The cell; throws `cell.tooLarge` for one that could not be written again. */
function bounded(cell: Cell): Cell {
  refuseTooLarge(cell.devices);
  return cell;
}

/**
 * The text of a cell file: keys in the order of the schema, entries that are at their default left out, two spaces, so
 * that two versions compare line by line. A cell that would be too large so has a device a line.
 */
export function writeCellFile(cell: Cell): string {
  const plain = withoutDefaults(Cell, Cell.parse(cell)) as { devices: object[] };
  const text = JSON.stringify({ format, version, cell: plain }, null, 2) + '\n';
  if (text.length <= maxCellFileBytes) return text;
  const { devices, ...head } = plain;
  const lines = devices.map((device) => JSON.stringify(device)).join(',\n');
  const around = JSON.stringify({ format, version, cell: { ...head, devices: [] } });
  return `${around.replace(/\]\}\}$/, '')}\n${lines}\n]}}\n`;
}

function withoutDefaults(schema: unknown, value: unknown): unknown {
  if (schema instanceof z.ZodDefault || schema instanceof z.ZodNullable)
    return withoutDefaults(schema.unwrap(), value);
  if (schema instanceof z.ZodArray && Array.isArray(value))
    return value.map((entry) => withoutDefaults(schema.element, entry));
  if (schema instanceof z.ZodDiscriminatedUnion)
    return withoutDefaults(
      schema.options.find((option) => (option as z.ZodType).safeParse(value).success),
      value,
    );
  if (!(schema instanceof z.ZodObject) || value === null) return value;
  const shape = schema.shape as Record<string, unknown>;
  const kept = Object.entries(value as object).filter(([key, entry]) => {
    const part = shape[key];
    return !(part instanceof z.ZodDefault && JSON.stringify(part.parse(undefined)) === JSON.stringify(entry));
  });
  return Object.fromEntries(kept.map(([key, entry]) => [key, withoutDefaults(shape[key], entry)]));
}

/** The published JSON Schema of the cell file (2020-12). */
export function cellFileSchema(): object {
  return {
    $id: `fadenkreuz-cell-${version}`,
    title: `Fadenkreuz cell file, version ${version}`,
    ...z.toJSONSchema(CellFile, { io: 'input' }),
  };
}
