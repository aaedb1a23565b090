import type { z } from 'zod';
import { Problem } from '../messages/problem.js';

const pathText = (path: PropertyKey[]) =>
  path.map((part, i) => (typeof part === 'number' ? `[${part}]` : `${i ? '.' : ''}${String(part)}`)).join('');

/** The value as the schema knows it; throws the Problem `input.invalid` that names the first wrong entry. */
export function parseInput<S extends z.ZodType>(schema: S, input: unknown, what: string): z.output<S> {
  const result = schema.safeParse(input);
  if (result.success) return result.data;
  const [issue] = result.error.issues;
  const more = result.error.issues.length - 1;
  const where = [what, pathText(issue?.path ?? [])].filter(Boolean).join(' ');
  const reason = (issue?.message ?? 'is not understood') + (more > 0 ? ` (and ${more} more)` : '');
  throw new Problem('input.invalid', { where, reason: reason.replace(/\.$/, '') });
}

/** The value that a JSON text stands for. Throws `file.notJson`. */
export function parseJson(text: string): unknown {
  try {
    return JSON.parse(text);
  } catch (cause) {
    throw new Problem('file.notJson', { reason: (cause as Error).message }, { cause });
  }
}
