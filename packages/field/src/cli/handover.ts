import { mkdir, writeFile } from 'node:fs/promises';
import { join } from 'node:path';
import {
  exchangeCode,
  exchangeCodeFile,
  exchangeManual,
  exchangeManualFile,
  identifierOf,
  parameterCode,
  parameterCodeFile,
  signalList,
  signalListFile,
  structuredText,
  structuredTextFile,
  writeCellFile,
} from '@fadenkreuz/core';
import { cellOf } from './cellArgument.js';
import { exitCodes, print } from './output.js';

/** Writes code, signal list and cell file into a folder. */
export async function runHandover(
  argument: string,
  { json = false, out }: { json?: boolean; out: string },
): Promise<number> {
  const cell = await cellOf(argument);
  await mkdir(out, { recursive: true });
  const parameters = parameterCode(cell);
  const files = {
    [structuredTextFile(cell)]: structuredText(cell),
    ...(parameters ? { [parameterCodeFile(cell)]: parameters } : {}),
    ...(cell.exchanges.length > 0
      ? { [exchangeCodeFile(cell)]: exchangeCode(cell), [exchangeManualFile(cell)]: exchangeManual(cell) }
      : {}),
    [signalListFile(cell)]: signalList(cell),
    [`${identifierOf(cell.name)}.cell.json`]: writeCellFile(cell),
  };
  for (const [name, text] of Object.entries(files)) {
    const path = join(out, name);
    await writeFile(path, text);
    print(json, { file: path, bytes: Buffer.byteLength(text) }, path);
  }
  return exitCodes.done;
}
