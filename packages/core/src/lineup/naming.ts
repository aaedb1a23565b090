import type { Cell, Device, Naming } from '../cell/model.js';
import type { DeviceKind } from '../devices/kinds.js';

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
  const found = matched(pattern, name);
  if (!found) return `it is not made as ${pattern}`;
  const wanted = classOf(designation);
  if (!wanted) return undefined;
  const { class: letters, number } = found;
  if (letters !== undefined && letters.toUpperCase() !== wanted.letters)
    return `its letter ${letters} is not the ${wanted.letters} of ${designation}`;
  if (number !== undefined && Number(number) !== Number(wanted.number))
    return `its number ${number} is not the ${wanted.number} of ${designation}`;
  return undefined;
}

/** A pattern in its parts: what stands for itself, and pieces. */
type Part = { text: string } | { piece: Piece; whole: RegExp };

const partsOf = (pattern: string): Part[] =>
  pattern
    .split(/(\{\w+\})/)
    .filter(Boolean)
    .map((part) => {
      const piece = /^\{(\w+)\}$/.exec(part)?.[1] as Piece | undefined;
      return piece ? { piece, whole: new RegExp(`^${pieces[piece].matches}$`, 'u') } : { text: part };
    });

/**
 * What the pieces of a pattern are in a name, the first of each kind; undefined when it is not made so. Each piece
 * takes as much as it can. No place of the name is tried twice for one part, so that no pattern takes long, whatever it
 * is.
 */
function matched(pattern: string, name: string): Partial<Record<Piece, string>> | undefined {
  const parts = partsOf(pattern);
  const failed = new Set<number>();
  const from = (part: number, at: number): [Piece, string][] | undefined => {
    const one = parts[part];
    if (!one) return at === name.length ? [] : undefined;
    const place = part * (name.length + 1) + at;
    if (failed.has(place)) return undefined;
    if ('text' in one) {
      const rest = name.startsWith(one.text, at) ? from(part + 1, at + one.text.length) : undefined;
      if (rest) return rest;
    } else
      for (let end = name.length; end > at; end -= 1) {
        const own = name.slice(at, end);
        const rest = one.whole.test(own) ? from(part + 1, end) : undefined;
        if (rest) return [[one.piece, own], ...rest];
      }
    failed.add(place);
    return undefined;
  };
  const found = from(0, 0);
  return found && Object.fromEntries(found.reverse());
}

/**
 * Words and class letters (IEC 81346-2: M drives by electric energy, B converts a measured quantity, K processes
 * signals, P presents information, Q opens and closes; the others common practice, no source) of a kind of device.
 */
const usualNames: Readonly<Record<DeviceKind, readonly [words: string, letter: string]>> = {
  'variable-speed drive': ['drive', 'M'],
  'soft starter': ['starter', 'M'],
  'motor starter': ['motor', 'Q'],
  'servo axis': ['axis', 'A'],
  robot: ['robot', 'R'],
  'vision sensor': ['camera', 'V'],
  'safety controller': ['safety', 'K'],
  'valve terminal': ['valves', 'Q'],
  weigher: ['scale', 'B'],
  marker: ['marker', 'P'],
  'process I/O': ['process', 'U'],
  'remote I/O': ['io', 'U'],
  'IO-Link master': ['hub', 'G'],
  'identification reader': ['reader', 'B'],
  'torque tool': ['tool', 'M'],
  'measuring sensor': ['sensor', 'B'],
  other: ['part', 'X'],
};

/**
 * A name for the next device of a kind, made as the cell's pattern says: words of the kind, the class letter that
 * devices of this kind have in the plan, and the next number that no name of that letter has.
 */
export function nextName({ naming, devices }: Pick<Cell, 'naming' | 'devices'>, kind: DeviceKind): string {
  const [words, usual] = usualNames[kind];
  const planned = devices.filter((d) => d.kind === kind).flatMap((d) => classOf(d.designation) ?? []);
  const letter = planned.at(-1)?.letters ?? usual;
  const pattern =
    naming.pattern && !patternTrouble(naming.pattern) ? naming.pattern : '{words}_{class}{number}';
  const taken = new Set(devices.map(({ name }) => name.toLowerCase()));
  const numbers = devices.flatMap((d) => {
    const own = classOf(d.designation);
    return own?.letters === letter ? [Number(own.number)] : [];
  });
  const made = (number: number) =>
    pattern.replaceAll(/\{(\w+)\}/g, (_, piece: Piece) => {
      if (piece === 'class') return letter.toLowerCase();
      if (piece === 'number') return String(number);
      return piece === 'Words' ? words[0]!.toUpperCase() + words.slice(1) : words;
    });
  const counts = pattern.includes('{number}');
  for (let n = Math.max(0, ...numbers) + 1; ; n += 1) {
    const name = counts ? made(n) : n === 1 ? made(n) : `${made(n)}${n}`;
    if (!taken.has(name.toLowerCase())) return name;
  }
}
