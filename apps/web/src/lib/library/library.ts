import { Problem } from '@fadenkreuz/core';
import type { AnyDescriber, DescriberSummary } from '@fadenkreuz/core/describers';
import { z } from 'zod';
import { readDescriber } from './readDescriber.js';
import { send } from '../desk/send.js';

/** One describer of the library. */
export interface LibraryLine extends DescriberSummary {
  id: string;
  fileName: string;
}

const Lines = z.array(
  z.custom<LibraryLine>(
    (line) => typeof line === 'object' && line !== null && 'id' in line && 'source' in line,
  ),
);

/** What the library has for these words; rejects with the server's problem as an Error. */
export async function searchLibrary(text: string): Promise<LibraryLine[]> {
  const answer = await send('GET', `/api/library?text=${encodeURIComponent(text)}`, Lines);
  if (!answer.ok) throw new Error(answer.problem.says);
  return answer.value;
}

/** The file of a describer. */
export async function libraryFile({ id, fileName }: LibraryLine): Promise<File> {
  const response = await fetch(`/api/library/${id}`);
  if (!response.ok) throw new Problem('describer.notInLibrary', { id });
  return new File([await response.blob()], fileName);
}

/** The describer itself, read in a worker. */
export async function libraryDescriber(line: LibraryLine): Promise<AnyDescriber> {
  const understood = await readDescriber(await libraryFile(line));
  if ('problem' in understood) throw new Problem(understood.problem.code, understood.problem.facts as never);
  return understood.describer;
}

/** Describers of one product, revision by revision. */
export const sameProduct = (
  lines: readonly LibraryLine[],
  { vendor, product, protocol }: Pick<LibraryLine, 'vendor' | 'product' | 'protocol'>,
): LibraryLine[] =>
  lines.filter((l) => l.vendor === vendor && l.product === product && l.protocol === protocol);
