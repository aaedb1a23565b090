import { check } from '@fadenkreuz/core';
import { cellOf } from './cellArgument.js';
import { exitCodes, print } from './output.js';

/** Prints the findings; notices alone do not fail. */
export async function runCheck(argument: string, { json = false }: { json?: boolean }): Promise<number> {
  const findings = check(await cellOf(argument));
  for (const f of findings) print(json, f, `${f.severity}: ${f.says} ${f.cure}`);
  if (findings.length === 0 && !json) print(json, {}, 'No findings.');
  return findings.some((f) => f.severity !== 'notice') ? exitCodes.findings : exitCodes.done;
}
