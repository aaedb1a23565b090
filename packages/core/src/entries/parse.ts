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

/** Nothing that is ours is nested as deep; what is would fill the stack of whoever walks through it. */
const deepest = 64;

function refuseDeep(value: unknown): void {
  let level: unknown[] = [value];
  for (let depth = 0; level.length > 0; depth += 1) {
    if (depth > deepest) throw new Error(`it is nested more than ${deepest} levels deep`);
    level = level.flatMap((v) => (typeof v === 'object' && v !== null ? Object.values(v) : []));
  }
}

/** The value that a JSON text stands for. Throws `file.notJson`. */
export function parseJson(text: string): unknown {
  try {
    const value: unknown = JSON.parse(text);
    refuseDeep(value);
    return value;
  } catch (cause) {
    throw new Problem('file.notJson', { reason: (cause as Error).message }, { cause });
  }
}
