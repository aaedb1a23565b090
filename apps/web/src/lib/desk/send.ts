import type { ProblemReport } from '@fadenkreuz/core';

/** What the last action met, for the reader. */
export type Note = Pick<ProblemReport, 'says' | 'cure'>;

export type Answer = { ok: true; value: unknown } | { ok: false; away: boolean; problem: Note };

/** Asks the web server for something; never rejects. `away`: it may be asked again. */
export async function send(method: string, path: string, body?: unknown): Promise<Answer> {
  try {
    const response = await fetch(path, {
      method,
      ...(body === undefined
        ? {}
        : body instanceof Blob
          ? { body, headers: { 'content-type': 'application/octet-stream' } }
          : { body: JSON.stringify(body), headers: { 'content-type': 'application/json' } }),
    });
    const value: unknown = await response.json();
    if (response.ok) return { ok: true, value };
    return { ok: false, away: response.status === 503, problem: value as Note };
  } catch {
    const problem = { says: 'The web server does not answer.', cure: 'It is started again by itself.' };
    return { ok: false, away: true, problem };
  }
}
