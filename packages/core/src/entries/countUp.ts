/** The last run of digits of a name, raised by `by`, keeping its width: pump_m1 → pump_m2, ch_09 → ch_10. */
export function countUp(name: string, by: number): string {
  const match = /^(.*?)(\d+)(\D*)$/.exec(name);
  if (!match) return `${name}_${by + 1}`;
  const [, head, digits, tail] = match;
  return `${head}${String(Number(digits) + by).padStart(digits!.length, '0')}${tail}`;
}

/**
 * The name of copy `by` (from 1) after a pattern in which # stands for the number, ## for one of two digits, and so on;
 * without one the name counts itself up.
 */
export function patterned(name: string, pattern: string, by: number, first: number): string {
  if (!pattern.includes('#')) return countUp(name, by);
  return pattern.replace(/#+/g, (marks) => String(first + by - 1).padStart(marks.length, '0'));
}
