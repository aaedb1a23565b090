import type { Behaviour } from './behaviour.js';
import { climateIo } from './climateIo.js';

/** Every kind of device that has a stand-in, by the name that a device of the cell gives. The state is the behaviour's own. */
export const behaviours: Record<'climateIo', Behaviour<unknown>> = {
  climateIo: climateIo as Behaviour<unknown>,
};
