import { SaxesParser } from 'saxes';
import { Problem } from '../../messages/problem.js';
import type { Defects } from './defects.js';
import { exactOf, type Exact } from './exact.js';

/** One element of a description file; prefixes of names are taken off. */
export interface XmlElement {
  name: string;
  attributes: Record<string, string>;
  children: XmlElement[];
  text: string;
  line: number;
}

export const xmlLimits = { characters: 20_000_000, elements: 400_000, depth: 64, errors: 200 } as const;

/** Names without their prefix, each text once: a file has few names, and comparing one text with itself is quick. */
class Names {
  private readonly known = new Map<string, string>();

  bare(name: string): string {
    const known = this.known.get(name);
    if (known !== undefined) return known;
    const bare = name.slice(name.indexOf(':') + 1);
    // A hostile file could have nothing but names of its own.
    if (this.known.size < mostNames) this.known.set(name, bare);
    return bare;
  }
}
const mostNames = 1000;

/**
 * Attributes of one element, without anything inherited. Objects that one function makes share the list of their names,
 * which those of `Object.create(null)` do not: all attributes of a large file are gone through for what nobody reads.
 */
const Attributes = function () {} as unknown as new () => Record<string, string>;
Attributes.prototype = Object.create(null);

/**
 * The root element of an XML text. What breaks the grammar is listed and read past, as far as it can be. Throws
 * `describer.tooLarge` for too many elements or a nesting too deep, `xml.declares` for a document type (entities could
 * fill the memory), and `xml.broken` when there is no element at all.
 */
export function readXml(text: string, defects: Defects): XmlElement {
  if (text.length > xmlLimits.characters) throw tooLarge('characters');
  // Without namespaces: only names count here, and the parser is twice as quick.
  const parser = new SaxesParser({ xmlns: false, position: true });
  const open: XmlElement[] = [];
  let root: XmlElement | undefined;
  const names = new Names();
  let elements = 0;
  let errors = 0;
  let firstError = '';
  parser.on('error', ({ message }) => {
    firstError ||= message;
    // Each of them takes its time, and a file with so many is no XML.
    if ((errors += 1) > xmlLimits.errors)
      throw new Problem('xml.broken', {
        reason: `more than ${xmlLimits.errors} places break the grammar; the first: ${firstError.replace(/\.$/, '')}`,
      });
    defects.add(parser.line, 'xml.broken', {
      reason: message.replace(/^\d+:\d+:\s*/, '').replace(/\.$/, ''),
    });
  });
  parser.on('doctype', () => {
    throw new Problem('xml.declares', {});
  });
  parser.on('opentagstart', (tag) => void (tag.attributes = new Attributes()));
  parser.on('opentag', ({ name, attributes }) => {
    if ((elements += 1) > xmlLimits.elements) throw tooLarge('elements');
    if (open.length >= xmlLimits.depth) throw tooLarge('depth');
    const element = { name: names.bare(name), attributes, children: [], text: '', line: parser.line };
    open.at(-1)?.children.push(element);
    root ??= element;
    open.push(element);
  });
  parser.on('closetag', () => void open.pop());
  parser.on('text', (part) => {
    const inside = open.at(-1);
    if (inside && part.trim() !== '') inside.text += part;
  });
  parser.on('cdata', (part) => {
    const inside = open.at(-1);
    if (inside) inside.text += part;
  });
  parser.write(text).close();
  if (!root) throw new Problem('xml.broken', { reason: firstError || 'it has no element' });
  return root;
}

const tooLarge = (what: 'characters' | 'elements' | 'depth') =>
  new Problem('describer.tooLarge', {
    what: { characters: 'characters', elements: 'elements', depth: 'levels of elements' }[what],
    limit: xmlLimits[what],
  });

/** The first child of a name. */
export const child = (element: XmlElement | undefined, name: string): XmlElement | undefined =>
  element?.children.find((c) => c.name === name);

/** All children of a name. */
export const childrenOf = (element: XmlElement | undefined, name: string): XmlElement[] =>
  element?.children.filter((c) => c.name === name) ?? [];

/** The element at the end of a way of names. */
export const within = (element: XmlElement | undefined, ...names: string[]): XmlElement | undefined =>
  names.reduce<XmlElement | undefined>(child, element);

/**
 * The attribute as an exact number: decimal or 0x…; undefined when it is not there, and a defect when it is none.
 */
export function exactAt(element: XmlElement, name: string, defects: Defects): Exact | undefined {
  const text = element.attributes[name]?.trim();
  if (text === undefined || text === '') return undefined;
  const value = exactOf(text);
  if (value === undefined)
    defects.add(element.line, 'described.noNumber', {
      entry: `${element.name} ${name}`,
      text: text.slice(0, 40),
    });
  return value;
}

/** The attribute as a number that need not have all its digits: a count, a place, an index. */
export function numberAt(element: XmlElement, name: string, defects: Defects): number | undefined {
  const value = exactAt(element, name, defects);
  return value === undefined ? undefined : Number(value);
}

/** A number without which the element means nothing: what lacks it is said to be left out, and undefined. */
export function neededExactAt(element: XmlElement, name: string, defects: Defects): Exact | undefined {
  const value = exactAt(element, name, defects);
  if (value === undefined && !element.attributes[name]?.trim())
    defects.add(element.line, 'described.lacks', { entry: element.name, name });
  return value;
}

/** The same for a number that need not have all its digits. */
export function neededAt(element: XmlElement, name: string, defects: Defects): number | undefined {
  const value = neededExactAt(element, name, defects);
  return value === undefined ? undefined : Number(value);
}
