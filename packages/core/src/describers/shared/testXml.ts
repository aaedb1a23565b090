import fc from 'fast-check';

/** XML as other programs write it: for tests. */

/** An element: its name, its attributes, and what is in it. */
export interface Node {
  name: string;
  attributes: Record<string, string>;
  inside: Node[];
}

export const node = (name: string, attributes: Record<string, string> = {}, inside: Node[] = []): Node => ({
  name,
  attributes,
  inside,
});

/** Texts that XML can hold, with all that has to be written as an entity. */
export const anyText = fc
  .string({ unit: fc.constantFrom(...'abcXYZ019 äß°µ–%<>&"\'/='), minLength: 1, maxLength: 20 })
  .map((text) => text.trim() || 'x');

export const habits = fc.record({
  ends: fc.constantFrom('\n', '\r\n', '\r'),
  /** How far each level is put in; -1: all in one line. */
  indent: fc.integer({ min: -1, max: 4 }),
  quote: fc.constantFrom('"', "'"),
  comments: fc.boolean(),
  turnedAttributes: fc.boolean(),
  prefix: fc.constantFrom('', 'p', 'iodd'),
  instancePrefix: fc.constantFrom('xsi', 'i', 'schema'),
  closed: fc.boolean(),
  declaration: fc.boolean(),
  /** Attributes and elements that the reader does not know, every so many elements; 0: none. */
  strangers: fc.integer({ min: 0, max: 6 }),
});
export type Habit = typeof habits extends fc.Arbitrary<infer H> ? H : never;

/** The text of a tree in these habits, and the strangers in it, each of another name. */
export function roughXml(root: Node, habit: Habit): { text: string; strangers: string[] } {
  const strangers: string[] = [];
  let count = 0;
  const escaped = (text: string) =>
    text.replaceAll('&', '&amp;').replaceAll('<', '&lt;').replaceAll('"', '&quot;').replaceAll("'", '&#39;');
  const attributesText = (attributes: [string, string][]) =>
    (habit.turnedAttributes ? attributes.reverse() : attributes)
      .map(([name, value]) => {
        const own = name.startsWith('xsi:') ? `${habit.instancePrefix}:${name.slice(4)}` : name;
        return ` ${own}=${habit.quote}${escaped(value)}${habit.quote}`;
      })
      .join('');
  const write = ({ name, attributes, inside }: Node, depth: number): string => {
    const all = Object.entries(attributes);
    const parts = [...inside];
    // Texts are looked up by their id: what stands between them is of no use to anybody.
    const own = name === 'Text' || name.startsWith('Own') || name === 'Inner';
    if (!own && habit.strangers > 0 && (count += 1) % habit.strangers === 0) {
      const stranger = `Own${strangers.length}`;
      strangers.push(stranger);
      if (strangers.length % 2) all.push([stranger, '1 < 2']);
      else parts.push(node(stranger, { of: 'a "maker"' }, [node('Inner', { also: 'kept' })]));
    }
    const line = habit.indent < 0 ? '' : habit.ends + ' '.repeat(habit.indent * depth);
    const tag = (habit.prefix ? `${habit.prefix}:` : '') + name;
    const head = `${habit.comments ? `${line}<!-- a comment; <not> an element -->` : ''}${line}<${tag}${attributesText(all)}`;
    if (parts.length === 0 && habit.closed) return `${head}/>`;
    return `${head}>${parts.map((p) => write(p, depth + 1)).join('')}${line}</${tag}>`;
  };
  const text = write(root, 0);
  return { text: (habit.declaration ? '<?xml version="1.0" encoding="UTF-8"?>' : '') + text, strangers };
}
