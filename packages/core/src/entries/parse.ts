import type { z } from 'zod';
import { Problem } from '../messages/problem.js';
import { plainIssue } from './plainIssue.js';

const pathText = (path: PropertyKey[]) =>
  path.map((part, i) => (typeof part === 'number' ? `[${part}]` : `${i ? '.' : ''}${String(part)}`)).join('');

/** A place of an edit as who made it would say it: `start of block 1`, not `edit set.blocks[0].start`. */
function entryText(path: PropertyKey[]): string {
  const parts = path[0] === 'set' ? path.slice(1) : path;
  const words: string[] = [];
  for (const part of parts)
    if (typeof part === 'number') words.push(`${(words.pop() ?? 'entry').replace(/s$/, '')} ${part + 1}`);
    else words.push(String(part));
  return words.reverse().join(' of ');
}

/** The value as the schema knows it; throws the Problem `input.invalid` that names the first wrong entry. */
export function parseInput<S extends z.ZodType>(schema: S, input: unknown, what: string): z.output<S> {
  const result = schema.safeParse(input, { error: plainIssue });
  if (result.success) return result.data;
  const [issue] = result.error.issues;
  const more = result.error.issues.length - 1;
  const path = issue?.path ?? [];
  const where =
    what === 'edit' && path.length > 0 ? entryText(path) : [what, pathText(path)].filter(Boolean).join(' ');
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
