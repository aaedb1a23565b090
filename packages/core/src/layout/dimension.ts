/** What a unit measures, as far as roles ask for it. */

export const dimensions = ['speed', 'position', 'torque', 'current', 'voltage', 'mass'] as const;
export type Dimension = (typeof dimensions)[number];

/** Units as manuals write them; per cent may stand for any (common practice, no source). */
const units: readonly [Dimension, RegExp][] = [
  [
    'speed',
    /^(rpm|r\/min|1\/min|min-1|min⁻¹|u\/min|hz|(m|mm|cm|µm|inch|in|ft|°|deg|rad|rev|inc)\/(s|min|h))$/,
  ],
  ['position', /^(mm|cm|m|µm|um|in|inch|ft|°|deg|rad|rev|inc|counts?)$/],
  ['torque', /^(nm|n·m|ncm|mnm|n m|lbf·?ft|lbf·?in)$/],
  ['current', /^(a|ma|µa)$/],
  ['voltage', /^(v|mv|kv)$/],
  ['mass', /^(kg|g|mg|t|lb|oz)$/],
];

/** What a unit measures; undefined for none, per cent, and any other quantity. */
export const dimensionOf = (unit: string): Dimension | undefined =>
  units.find(([, pattern]) => pattern.test(unit.trim().toLowerCase()))?.[0];
