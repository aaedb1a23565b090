import type { KeptEntry, KeptSection } from './described.js';
import type { XmlElement } from './xml.js';

/** What a reader reads of an element: the names of its attributes, and its children. */
interface Understood {
  attributes: ReadonlySet<string>;
  children: ReadonlyMap<string, Understood>;
  /** All that is in it is read, whatever it is called. */
  whole: boolean;
}
interface Reads {
  attributes: string;
  children: string;
}

/** Names with blanks between them; `*` for children: all that is in it is read. */
export const reads = (attributes: string, children = ''): Reads => ({ attributes, children });

/** A table of what is read of each element, from the root on. */
export function understoodFrom(root: string, table: Readonly<Record<string, Reads>>): Understood {
  const done = new Map<string, Understood>();
  const link = (name: string): Understood | undefined => {
    const known = done.get(name);
    const said = table[name];
    if (known || !said) return known;
    const children = new Map<string, Understood>();
    const made = {
      attributes: new Set(said.attributes.split(' ')),
      children,
      whole: said.children === '*',
    };
    done.set(name, made);
    for (const child of said.children.split(' ')) {
      const inner = link(child);
      if (inner) children.set(child, inner);
    }
    return made;
  };
  return link(root)!;
}

/** More of them are no use to a person, and only fill the memory. */
const mostKept = 5000;

/** Grammar of XML itself: name spaces, languages, types of XML Schema. */
const ofXml = (attribute: string): boolean => attribute.startsWith('xmlns') || attribute.includes(':');

/** An element with all that is in it, as entries that each say where they stand. */
function wholeOf(element: XmlElement, way: string, entries: KeptEntry[]): void {
  const { attributes, children, text } = element;
  const fields = Object.entries(attributes).map(([key, value]) => `${key}=${value}`);
  if (text) fields.push(text);
  if (fields.length > 0 || children.length === 0) entries.push({ keyword: way, fields });
  for (const inner of children) wholeOf(inner, `${way}/${inner.name}`, entries);
}

/** What tells an element from its neighbours. */
const idOf = ({ attributes: a }: XmlElement): string =>
  a['ID'] ?? a['id'] ?? a['TextId'] ?? a['textId'] ?? a['index'] ?? a['subindex'] ?? '';

/**
 * All that a file says and its reader does not read: elements and attributes, wherever they stand, in sections by the
 * element that they are or belong to. `understood` says from the root on what is read.
 */
export function keptOf(root: XmlElement, understood: Understood): KeptSection[] {
  const sections = new Map<string, KeptEntry[]>();
  let kept = 0;
  const entriesOf = (name: string): KeptEntry[] => {
    const found = sections.get(name) ?? [];
    sections.set(name, found);
    return found;
  };
  // Every element of the file comes by here: nothing is made for one that is understood.
  const walk = (element: XmlElement, known: Understood): void => {
    if (known.whole) return;
    let strange: string[] | undefined;
    for (const name in element.attributes)
      if (!known.attributes.has(name) && !ofXml(name))
        (strange ??= []).push(`${name}=${element.attributes[name]}`);
    if (strange && (kept += 1) <= mostKept)
      entriesOf(element.name).push({ keyword: idOf(element), fields: strange });
    for (const inner of element.children) {
      const next = known.children.get(inner.name);
      if (next) walk(inner, next);
      else if ((kept += 1) <= mostKept) wholeOf(inner, idOf(element), entriesOf(inner.name));
    }
  };
  walk(root, understood);
  return [...sections].map(([name, entries]) => ({ name, entries }));
}
