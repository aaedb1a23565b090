import { readFile, stat } from 'node:fs/promises';
import demo from '@fadenkreuz/demo/ripening-store-3.json' with { type: 'json' };
import { maxCellFileBytes, Problem, readCellFile, type Cell } from '@fadenkreuz/core';

/** The cell that a CELL argument names: `demo`, or a cell file. Throws a Problem. */
export async function cellOf(argument: string): Promise<Cell> {
  if (argument === 'demo') return readCellFile(JSON.stringify(demo));
  const info = await stat(argument).catch((cause: Error) => {
    throw new Problem(
      'input.invalid',
      { where: argument, reason: `cannot be read (${cause.message})` },
      { cause },
    );
  });
  if (info.size > maxCellFileBytes)
    throw new Problem('file.tooLarge', { bytes: info.size, limit: maxCellFileBytes });
  return readCellFile(await readFile(argument, 'utf8'));
}
