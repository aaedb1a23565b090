import type { Defects } from './defects.js';
import type { XmlElement } from './xml.js';

/**
 * The texts of a description file in one language, by id; ids that are missing are listed once and stand in their own
 * place.
 */
export class Texts {
  private readonly missing = new Set<string>();

  constructor(
    private readonly byId: ReadonlyMap<string, string>,
    /** Texts of the primary language, for what the chosen one lacks. */
    private readonly primary: ReadonlyMap<string, string>,
    private readonly language: string,
    private readonly defects: Defects,
  ) {}

  /** The text that an attribute of an element refers to; empty where it refers to none. */
  of(element: XmlElement | undefined, attribute = 'textId'): string {
    const id = element?.attributes[attribute];
    if (element === undefined || id === undefined) return '';
    const text = this.byId.get(id) ?? this.primary.get(id);
    if (text !== undefined) return text;
    if (!this.missing.has(id)) {
      this.missing.add(id);
      this.defects.add(element.line, 'described.noText', { id, language: this.language });
    }
    return id;
  }
}

/** The texts of one language element: its children are <Text> with an id and a value, under the names of the format. */
export function textsIn(
  element: XmlElement | undefined,
  { id, value }: { id: string; value: string },
): Map<string, string> {
  const texts = new Map<string, string>();
  for (const { name, attributes } of element?.children ?? [])
    if ((name === 'Text' || name === 'TextRedefine') && attributes[id] !== undefined)
      texts.set(attributes[id], attributes[value] ?? '');
  return texts;
}
