import { Problem } from '@fadenkreuz/core';
import { json } from '@sveltejs/kit';
import { withDatabase } from './database.js';

/** The HTTP status that fits the code of a Problem. */
export const statusOf = (code: string): number => {
  if (code === 'cell.unknown' || code === 'cell.noSuchVersion' || code === 'cell.deleted') return 404;
  if (
    code === 'edit.conflict' ||
    code === 'edit.undoConflict' ||
    code === 'edit.ahead' ||
    code === 'cell.onBench'
  )
    return 409;
  if (/\.(away|busy|full)$/.test(code)) return 503;
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

/** Bytes of bodies that are being received, of all requests together, and how many they may be. */
let receiving = 0;
const mostReceiving = 256 * 1024 * 1024;

/**
 * The bytes of a body of at most `limit` bytes; more is not kept. Throws `file.tooLarge`, and `server.busy` while too
 * many others are being received.
 */
export async function boundedBytes(request: Request, limit: number): Promise<Uint8Array> {
  const parts: Uint8Array[] = [];
  let bytes = 0;
  let kept = 0;
  try {
    for await (const part of (request.body ?? []) as AsyncIterable<Uint8Array>) {
      bytes += part.length;
      if (bytes > limit) {
        if (bytes > limit * drainFactor) break;
        continue;
      }
      if (receiving + part.length > mostReceiving) throw new Problem('server.busy', {});
      receiving += part.length;
      kept += part.length;
      parts.push(part);
    }
  } finally {
    receiving -= kept;
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
