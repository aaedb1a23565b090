import type { ProblemReport } from '@fadenkreuz/core';
import { z } from 'zod';

/** What the last action met, for the reader, and what can be done about it at once. */
export interface Note extends Pick<ProblemReport, 'says' | 'cure'> {
  action?: { title: string; go: () => void };
}

export type Answer<T = unknown> = { ok: true; value: T } | { ok: false; away: boolean; problem: Note };

const Refusal = z.object({ says: z.string(), cure: z.string().default('') });
const unreadable: Note = {
  says: 'The web server gave an answer that is not understood.',
  cure: 'Load the page again; it may be an older one than the server.',
};

/**
 * Asks the web server for something, and parses what it answers; never rejects. `away`: nothing was decided, and the
 * same may be asked again: no answer, a part that is away, or an error of the server itself.
 */
export async function send<S extends z.ZodType = z.ZodUnknown>(
  method: string,
  path: string,
  schema?: S,
  body?: unknown,
  /** No answer within this time counts as none, ms; 0: it may take as long as it takes. */
  withinMs = 0,
): Promise<Answer<z.output<S>>> {
  try {
    const response = await fetch(path, {
      method,
      ...(withinMs > 0 ? { signal: AbortSignal.timeout(withinMs) } : {}),
      ...(body === undefined
        ? {}
        : body instanceof Blob
          ? { body, headers: { 'content-type': 'application/octet-stream' } }
          : { body: JSON.stringify(body), headers: { 'content-type': 'application/json' } }),
    });
    const value: unknown = await response.json().catch(() => undefined);
    if (response.ok) {
      const parsed = (schema ?? z.unknown()).safeParse(value);
      if (parsed.success) return { ok: true, value: parsed.data as z.output<S> };
      return { ok: false, away: false, problem: unreadable };
    }
    const refusal = Refusal.safeParse(value);
    const problem = refusal.success
      ? refusal.data
      : { says: `The web server answered with ${response.status}.`, cure: 'It is asked again by itself.' };
    return { ok: false, away: response.status >= 500, problem };
  } catch {
    const problem = { says: 'The web server does not answer.', cure: 'It is started again by itself.' };
    return { ok: false, away: true, problem };
  }
}
