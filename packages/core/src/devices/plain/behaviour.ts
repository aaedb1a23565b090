import type { Behaviour } from '../behaviour.js';

/** A device of which nobody knows how it acts: it acts on nothing, and shows what is set on its own side. */
export const plainBehaviour: Behaviour<unknown> = {
  start: () => null,
  step: () => null,
  // What is set on its side is written over this.
  feedback: (into) => void into.fill(0),
  faults: [],
  health: () => 'good',
};
