import type { OwnCondition } from '../cell/beamChanges.js';
import { parseExpression, type Expression } from '../layout/expression.js';
import { Problem } from '../messages/problem.js';
import type { Ring } from '../trouble/ring.js';

/** The value of a name in an expression; undefined for what is not known. */
export type Quantities = (name: string) => number | undefined;

const parsed = new Map<string, Expression | undefined>();
function readable(text: string): Expression | undefined {
  if (parsed.has(text)) return parsed.get(text);
  let expression: Expression | undefined;
  try {
    expression = parseExpression(text, true);
  } catch (error) {
    if (!(error instanceof Problem)) throw error;
  }
  if (parsed.size > 1000) parsed.clear();
  parsed.set(text, expression);
  return expression;
}

export function ownRing({ id, title, expression, cure }: OwnCondition, quantity: Quantities): Ring {
  const value = readable(expression)?.evaluate(quantity) ?? NaN;
  if (Number.isNaN(value))
    return { id, title, state: 'unknown', says: `${expression} cannot be worked out of what is known.` };
  return value === 0
    ? { id, title, state: 'open', says: cure === '' ? `${expression} does not hold.` : cure }
    : { id, title, state: 'closed', says: expression };
}
