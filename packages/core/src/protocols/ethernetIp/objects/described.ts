import type { DescribedParameter } from '../../../devices/plain/parameters.js';
import type { Attribute, CipClass, CipInstance } from '../objectModel.js';
import { statusOf } from '../refusals.js';

/** Entries that are grouped by a number of their place, ascending. */
function groups<T>(all: readonly T[], numberOf: (one: T) => number): [number, T[]][] {
  const found = new Map<number, T[]>();
  for (const one of all) found.set(numberOf(one), [...(found.get(numberOf(one)) ?? []), one]);
  return [...found].sort(([a], [b]) => a - b);
}

interface Placed {
  described: DescribedParameter;
  class: number;
  instance: number;
  attribute: number;
}

/** The attribute in which the value of a parameter stands. */
export const valueAttribute = (described: DescribedParameter): Attribute => ({
  read: () => described.bytes,
  ...(described.parameter.access === 'read' ? {} : { write: (data) => statusOf(described.write(data)) }),
});

const instanceOf = (placed: readonly Placed[]): CipInstance => ({
  attributes: Object.fromEntries(placed.map((one) => [one.attribute, valueAttribute(one.described)])),
});

/** The classes in which described parameters stand as attributes (CIP Vol. 1, 1-3); other places are left out. */
export function describedObjects(parameters: readonly DescribedParameter[]): CipClass[] {
  const placed = parameters.flatMap((described): Placed[] => {
    const { place } = described.parameter;
    return place?.way === 'attribute' ? [{ described, ...place }] : [];
  });
  return groups(placed, (p) => p.class).map(([id, ofClass]) => {
    const instances = new Map(groups(ofClass, (p) => p.instance).map(([n, own]) => [n, instanceOf(own)]));
    return {
      id,
      ...(instances.has(0) ? { own: instances.get(0)! } : {}),
      numbers: () => [...instances.keys()].filter((n) => n > 0),
      instance: (number) => instances.get(number),
    };
  });
}
