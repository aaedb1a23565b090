import type { Behaviour } from '../behaviour.js';
import type { DescriptionOf } from '../description.js';
import type { Identity } from '../identity.js';

/**
 * A device of which only the description is known: its points are there in their sizes, it acts on nothing by itself,
 * and shows what is set on its own side.
 */
export const plainBehaviour = (
  { points, offer }: Pick<DescriptionOf, 'points' | 'offer'>,
  identity: Identity,
): Behaviour<null> => ({
  title: 'as it is described',
  identity,
  offer: { ...(offer ?? { protocol: '' }) },
  assemblies: points.map(({ number, title, use, size, fields }) => ({
    ...{ instance: number, title, use, size, fields: fields ?? [] },
  })),
  start: () => null,
  configure: () => null,
  step: () => null,
  // What is set on its side is written over this.
  feedback: (_state, into) => void into.fill(0),
  faults: [],
  health: () => 'good',
});
