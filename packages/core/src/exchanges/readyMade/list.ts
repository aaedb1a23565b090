import type { Device } from '../../cell/model.js';
import type { Exchange } from '../../cell/exchange.js';
import { Builder } from '../builder.js';
import { startAndStop, latchedStart, faultReset } from './drives.js';
import { triggerAndResult, programChange } from './inspection.js';
import { commandCode, keyedCode, printBySequence } from './codes.js';
import { enable, setpoint, setpointAtOnce, homeThenMove } from './axes.js';
import { programRun, toolRun, safetyReset, tare, outputCheck } from './machines.js';
import { moveMs, type ReadyMade, type Recipe } from './recipe.js';

const recipes: readonly Recipe[] = [
  startAndStop,
  latchedStart,
  enable,
  homeThenMove,
  setpoint,
  setpointAtOnce,
  triggerAndResult,
  programChange,
  programRun,
  toolRun,
  commandCode,
  keyedCode,
  printBySequence,
  tare,
  safetyReset,
  outputCheck,
  faultReset,
];

const fits = ({ commands, shows, also }: Recipe, b: Builder): boolean =>
  b.commands(...commands) && b.shows(...shows) && (also?.(b) ?? true);
const noId = () => '';

/** Every ready-made exchange; a new one is an entry in this list. */
export const readyMade: readonly ReadyMade[] = recipes.map((recipe) => ({
  id: recipe.id,
  title: recipe.title,
  fits: (device) => fits(recipe, new Builder(device, noId)),
  make: (device, newId) => {
    const b = new Builder(device, newId);
    recipe.build(b);
    return {
      id: newId(),
      name: `${device.name} ${recipe.id}`,
      note: '',
      preconditions: recipe.preconditions?.(b) ?? [],
      variables: recipe.variables?.(b) ?? [],
      steps: b.steps,
    };
  },
}));

/** The ready-made exchanges that a device can have. */
export const readyMadeFor = (device: Device): ReadyMade[] => readyMade.filter((one) => one.fits(device));

/**
 * Part present → run → done, over two devices: the first shows a part, the other one runs what was made for it.
 */
export function whenPresent(from: Device, inner: Exchange, newId: () => string): Exchange {
  const b = new Builder(from, newId);
  b.step('wait for a part', {
    conditions: b.waits({ 'part present': true, 'program running': false }, { stable: 100 }),
    ...{ limit: moveMs, reason: `${from.name} brings no part.` },
  });
  return {
    ...inner,
    id: newId(),
    name: `${inner.name} when ${from.name} has a part`,
    steps: [...b.steps, ...inner.steps],
  };
}
/** Whether a device shows a part. */
export const showsPart = (device: Device): boolean => new Builder(device, noId).shows('part present');
