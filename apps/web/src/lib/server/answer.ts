import { Problem } from '@fadenkreuz/core';
import { json } from '@sveltejs/kit';
import { withDatabase } from './database.js';

const statusOf = (code: string): number => {
  if (code === 'cell.unknown' || code === 'cell.noSuchVersion') return 404;
  if (code === 'edit.conflict' || code === 'edit.undoConflict' || code === 'edit.ahead') return 409;
  if (code.endsWith('.away') || code.endsWith('.busy')) return 503;
  if (code === 'file.tooLarge') return 413;
  return 422;
};

/**
 * Answers a request with the JSON of what `work` returns, or with the Response that it made; a Problem becomes its
 * report with a fitting status.
 */
export async function answer(work: () => Promise<unknown>): Promise<Response> {
  try {
    const result = await withDatabase(work);
    return result instanceof Response ? result : json(result);
  } catch (error) {
    if (error instanceof Problem) return json(error.report(), { status: statusOf(error.code) });
    throw error;
  }
}

/** Of a body that is too large so much is read and thrown away, that its sender can hear the answer. */
const drainFactor = 8;

/** The bytes of a body of at most `limit` bytes; more is not kept. Throws `file.tooLarge`. */
export async function boundedBytes(request: Request, limit: number): Promise<Uint8Array> {
  const parts: Uint8Array[] = [];
  let bytes = 0;
  for await (const part of (request.body ?? []) as AsyncIterable<Uint8Array>) {
    bytes += part.length;
    if (bytes <= limit) parts.push(part);
    else if (bytes > limit * drainFactor) break;
  }
  if (bytes > limit) throw new Problem('file.tooLarge', { bytes, limit });
  return Buffer.concat(parts);
}

/** The text of a body of at most `limit` bytes. Throws `file.tooLarge`. */
export async function boundedText(request: Request, limit: number): Promise<string> {
  return Buffer.from(await boundedBytes(request, limit)).toString('utf8');
}

/** The JSON of a body. Throws `file.tooLarge` and `file.notJson`. */
export async function boundedJson(request: Request, limit = 64 * 1024): Promise<unknown> {
  const text = await boundedText(request, limit);
  try {
    return JSON.parse(text);
  } catch (cause) {
    throw new Problem('file.notJson', { reason: (cause as Error).message }, { cause });
  }
}
