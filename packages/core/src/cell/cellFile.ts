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

/** Asks each schema for its kind by its definition: `instanceof` of Zod's classes takes as long as all the rest. */
function withoutDefaults(schema: z.core.$ZodType, value: unknown): unknown {
  const { def } = (schema as z.core.$ZodTypes)._zod;
  switch (def.type) {
    case 'default':
    case 'nullable':
      return withoutDefaults(def.innerType, value);
    case 'array':
      return Array.isArray(value) ? value.map((entry) => withoutDefaults(def.element, entry)) : value;
    case 'union': {
      const { discriminator } = def as Partial<z.core.$ZodDiscriminatedUnionDef>;
      const option = discriminator && def.options.find((one) => tells(one, discriminator, value));
      return option ? withoutDefaults(option, value) : value;
    }
    case 'object': {
      if (value === null) return value;
      const kept: Record<string, unknown> = {};
      for (const [key, entry] of Object.entries(value as object)) {
        const part = def.shape[key];
        if (part && !isDefault(part, entry)) kept[key] = withoutDefaults(part, entry);
        else if (!part) kept[key] = entry;
      }
      return kept;
    }
    default:
      return value;
  }
}

/** Whether a value is of an option of a union, by the key that tells them apart. */
const tells = (option: z.core.$ZodType, key: string, value: unknown): boolean => {
  const { def } = (option as z.core.$ZodTypes)._zod;
  if (def.type !== 'object') return false;
  const part = def.shape[key];
  return part !== undefined && z.safeParse(part, (value as Record<string, unknown>)[key]).success;
};

/** Defaults by their schema: a large cell asks for each a hundred thousand times. */
const defaults = new WeakMap<z.core.$ZodType, { value: unknown; text: string } | 'none'>();
function isDefault(schema: z.core.$ZodType, entry: unknown): boolean {
  let known = defaults.get(schema);
  if (!known) {
    const { def } = (schema as z.core.$ZodTypes)._zod;
    const value = def.type === 'default' ? z.parse(schema, undefined) : undefined;
    defaults.set(schema, (known = def.type === 'default' ? { value, text: JSON.stringify(value) } : 'none'));
  }
  if (known === 'none') return false;
  const { value, text } = known;
  if (typeof value !== 'object' || value === null) return value === entry;
  // A list of thousands is not put into words to see that it is not empty.
  if (Array.isArray(value) && Array.isArray(entry) && value.length !== entry.length) return false;
  return JSON.stringify(entry) === text;
}

/** The published JSON Schema of the cell file (2020-12). */
export function cellFileSchema(): object {
  return {
    $id: `fadenkreuz-cell-${version}`,
    title: `Fadenkreuz cell file, version ${version}`,
    ...z.toJSONSchema(CellFile, { io: 'input' }),
  };
}
