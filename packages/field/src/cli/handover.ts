import { mkdir, writeFile } from 'node:fs/promises';
import { join } from 'node:path';
import { papers } from '@fadenkreuz/core';
import { cellOf } from './cellArgument.js';
import { exitCodes, print } from './output.js';

/** Writes all that leaves with the machine into a folder: code, lists, papers, the cell file. */
export async function runHandover(
  argument: string,
  { json = false, out }: { json?: boolean; out: string },
): Promise<number> {
  const cell = await cellOf(argument);
  await mkdir(out, { recursive: true });
  for (const { file, write } of papers) {
    const text = write(cell);
    if (text === '') continue;
    const path = join(out, file(cell));
    await writeFile(path, text);
    print(json, { file: path, bytes: Buffer.byteLength(text) }, path);
  }
  return exitCodes.done;
}
