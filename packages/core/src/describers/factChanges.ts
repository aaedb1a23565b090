import type { Device } from '../cell/model.js';
import { factsOfDevice, lightSection, sectionsOfDevice, type Fact } from './fact.js';
import { factsOf, type AnyDescriber } from './list.js';

export interface FactChange {
  section: string;
  name: string;
  /** Null: it was not there; null: it is gone. */
  before: string | null;
  after: string | null;
}

const wholeText = ({ text, means }: Fact) => (means ? `${text}, ${means}` : text);

/** What differs from one list of facts to another, in the order of the first, then what is new. */
export function factChanges(
  before: readonly Fact[],
  after: readonly Fact[],
  textOf: (fact: Fact) => string = wholeText,
): FactChange[] {
  // A data sheet writes spot_1.x as spot_1_x.
  const keyOf = ({ section, name }: Fact) =>
    `${section}\n${name.toLowerCase().replace(/\W+/g, '_').replace(/_$/, '')}`;
  const then = new Map(after.map((f) => [keyOf(f), f]));
  const known = new Set(before.map(keyOf));
  return [
    ...before.flatMap((fact) => {
      const now = then.get(keyOf(fact));
      const { section, name } = fact;
      if (now && textOf(now) === textOf(fact)) return [];
      return [{ section, name, before: textOf(fact), after: now ? textOf(now) : null }];
    }),
    ...after
      .filter((f) => !known.has(keyOf(f)))
      .map((f) => ({ section: f.section, name: f.name, before: null, after: textOf(f) })),
  ];
}

/**
 * What would change for a device of a cell with this describer: its revision, its images, where its signals lie, its
 * parameters, what its lights mean. Most forms of description know of no lights; then nothing is said of them.
 */
export function changesForDevice(device: Device, describer: AnyDescriber): FactChange[] {
  const after = factsOf(describer).filter((f) => sectionsOfDevice.includes(f.section));
  const lit = after.some((f) => f.section === lightSection);
  const before = factsOfDevice(device).filter((f) => lit || f.section !== lightSection);
  return factChanges(before, after, (fact) => fact.text);
}
