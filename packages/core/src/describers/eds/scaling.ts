import type { Field } from '../../layout/field.js';
import { ratio } from '../../layout/ratio.js';
import type { Scaling } from './eds.js';

/** The scaling of a raw number that is the value itself. */
export const plainScaling: Scaling = {
  multiplier: 1,
  divider: 1,
  base: 1,
  offset: 0,
  multiplierLink: null,
  dividerLink: null,
  baseLink: null,
  offsetLink: null,
};

/** The largest whole numbers that the scaling fields of a data sheet take. */
const most16 = 0xffff;

/** (raw + offset) × multiplier × base / divider; a scale that does not fit its whole numbers is left out. */
export function scalingOf(scale: Field['scale'] | undefined): Scaling {
  if (!scale) return plainScaling;
  const factor = ratio(scale.factor);
  const offset = ratio(scale.offset).div(factor);
  const [multiplier, divider] = [Number(factor.n * factor.s), Number(factor.d)];
  if (Math.abs(multiplier) > most16 || divider > most16 || offset.d !== 1n) return plainScaling;
  return { ...plainScaling, multiplier, divider, offset: Number(offset.n * offset.s) };
}
