import type { Device, Naming } from '../cell/model.js';

/** The pieces that a naming pattern is made of, and what each stands for. */
const pieces = {
  words: { matches: '[a-z]+(?:_[a-z]+)*', says: 'small words with _ between them: the machine part' },
  word: { matches: '[a-z]+', says: 'one small word' },
  Words: { matches: '(?:[A-Z][a-z]+)+', says: 'words with a capital each' },
  class: { matches: '[A-Za-z]{1,3}', says: 'the letters of the designation’s last part (IEC 81346-2)' },
  number: { matches: '[0-9]+', says: 'a number; the one of the designation, where it has one' },
  text: { matches: '.+', says: 'anything' },
} as const;
type Piece = keyof typeof pieces;

/** What may stand in braces in a pattern, for whoever writes one. */
export const namingPieces: readonly { piece: string; says: string }[] = Object.entries(pieces).map(
  ([piece, { says }]) => ({ piece: `{${piece}}`, says }),
);

/** What is wrong with a pattern; undefined when nothing is. */
export function patternTrouble(pattern: string): string | undefined {
  const unknown = [...pattern.matchAll(/\{([^{}]*)\}/g)].find(([, piece]) => !Object.hasOwn(pieces, piece!));
  if (unknown) return `${unknown[0]} is no piece of a pattern`;
  if (/[{}]/.test(pattern.replace(/\{[^{}]*\}/g, ''))) return 'a brace has no partner';
  return undefined;
}

/**
 * Class letters and number of the last part of a designation: =RS3+U1-M1 → M and 1 (IEC 81346-1: prefix, letters,
 * number).
 */
export function classOf(designation: string): { letters: string; number: string } | undefined {
  const match = /[-=+]([A-Z]{1,3})(\d+)$/.exec(designation);
  return match ? { letters: match[1]!, number: match[2]! } : undefined;
}

/** Why a device's name does not follow the cell's pattern; undefined when it does. */
export function namingTrouble(
  { pattern }: Naming,
  { name, designation }: Pick<Device, 'name' | 'designation'>,
): string | undefined {
  if (pattern === '' || patternTrouble(pattern)) return undefined;
  const match = matcherOf(pattern).exec(name);
  if (!match) return `it is not made as ${pattern}`;
  const wanted = classOf(designation);
  if (!wanted) return undefined;
  const { class: letters, number } = match.groups ?? {};
  if (letters !== undefined && letters.toUpperCase() !== wanted.letters)
    return `its letter ${letters} is not the ${wanted.letters} of ${designation}`;
  if (number !== undefined && Number(number) !== Number(wanted.number))
    return `its number ${number} is not the ${wanted.number} of ${designation}`;
  return undefined;
}

const escaped = (text: string) => text.replace(/[.*+?^${}()|[\]\\]/g, '\\$&');

/** Names have at most 64 characters, and no piece repeats inside itself without a separator: matching is quick. */
function matcherOf(pattern: string): RegExp {
  const named = new Set<string>();
  const source = pattern.split(/(\{\w+\})/).map((piece) => {
    const kind = /^\{(\w+)\}$/.exec(piece)?.[1] as Piece | undefined;
    if (!kind) return escaped(piece);
    // A group has its name once only.
    const first = !named.has(kind);
    named.add(kind);
    return first ? `(?<${kind}>${pieces[kind].matches})` : `(?:${pieces[kind].matches})`;
  });
  return new RegExp(`^${source.join('')}$`, 'u');
}
