import type { Cell } from '../cell/model.js';
import type { Finding } from '../messages/finding.js';

/** One check of the design: takes a cell, says what it finds, never throws. */
export type Rule = (cell: Cell) => Finding[];

/** The values that share a key, groups in the order of their first member. */
export function groupsBy<T>(values: readonly T[], keyOf: (value: T) => string): T[][] {
  const groups = new Map<string, T[]>();
  for (const value of values) {
    const key = keyOf(value);
    const group = groups.get(key);
    if (group) group.push(value);
    else groups.set(key, [value]);
  }
  return [...groups.values()];
}
