/** Most letters that stand in the cell of a bit. */
const most = 3;

/** A name in so few letters that it fits above a bit: the first ones of its words, `net_control` as `nc`. */
export function initialsOf(name: string): string {
  const words = name
    .replace(/([a-z])([A-Z])/g, '$1 $2')
    .split(/[^\p{L}\p{N}]+/u)
    .filter(Boolean);
  if (words.length <= 1) return name.slice(0, most);
  return words
    .map((word) => (/^\d/.test(word) ? word : [...word][0]!))
    .join('')
    .slice(0, most);
}
