import { newCell, writeCellFile, type Edit, type NewCell } from '@fadenkreuz/core';
import { Problem } from '@fadenkreuz/core';
import { z } from 'zod';
import { ChangeAnswer, type ChangeHead } from '$lib/api/changes.js';
import type { CopyRequest } from '$lib/api/cells.js';
import { send, type Answer, type Note } from '$lib/desk/send.js';

/** What came of a request: a cell that was made, or why there is none. */
type Made = { id: string } | { refused: string };

const said = ({ says, cure }: Note): string => [says, cure].filter(Boolean).join(' ');
const MadeCell = z.object({ id: z.string() });

const made = (answer: Answer<{ id: string }>): Made =>
  answer.ok ? { id: answer.value.id } : { refused: said(answer.problem) };

/** Takes a cell file in as a cell of its own. */
export const importCell = async (file: Blob): Promise<Made> =>
  made(await send('POST', '/api/cells', MadeCell, file));

/** Makes a cell without devices. */
export async function makeCell(entries: NewCell): Promise<Made> {
  try {
    return await importCell(new Blob([writeCellFile(newCell('new', entries))]));
  } catch (error) {
    if (!(error instanceof Problem)) throw error;
    return { refused: said({ says: error.message, cure: error.cure }) };
  }
}

/** A copy of a cell, without its history. */
export const copyCell = async (cell: string, request: CopyRequest): Promise<Made> =>
  made(await send('POST', `/api/cells/${cell}/copy`, MadeCell, request));

/** Makes edits one after the other, on the version that the list shows; why the first refused one was. */
export async function changeCell(
  cell: { id: string; version: number },
  person: string,
  edits: readonly Edit[],
): Promise<string | undefined> {
  let version = cell.version;
  const desk = crypto.randomUUID();
  for (const edit of edits) {
    const head: ChangeHead = { id: crypto.randomUUID(), madeOn: version, known: version, person, desk };
    const answer = await send('POST', `/api/cells/${cell.id}/changes`, ChangeAnswer, { ...head, edit });
    if (!answer.ok) return said(answer.problem);
    version = answer.value.version;
  }
  return undefined;
}

/** Deletes a cell, or brings a deleted one back; why not, where it was refused. */
export async function deleteOrRestore(
  cell: string,
  which: 'delete' | 'restore',
): Promise<string | undefined> {
  const answer = await (which === 'delete'
    ? send('DELETE', `/api/cells/${cell}`)
    : send('POST', `/api/cells/${cell}/restore`));
  return answer.ok ? undefined : said(answer.problem);
}
