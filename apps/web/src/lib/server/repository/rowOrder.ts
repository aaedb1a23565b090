/** Rows in the order that their lists had. */
export const byPosition = <T extends { position: number }>(list: readonly T[]): T[] =>
  [...list].sort((a, b) => a.position - b.position);

/** Rows by what they belong to. */
export function grouped<T>(list: readonly T[], keyOf: (item: T) => string): Map<string, T[]> {
  const groups = new Map<string, T[]>();
  for (const item of list) {
    const group = groups.get(keyOf(item));
    if (group) group.push(item);
    else groups.set(keyOf(item), [item]);
  }
  return groups;
}
