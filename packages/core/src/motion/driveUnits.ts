/**
 * Units in which nameplates and parameters of drives are written, as a share of the one that a train keeps: kg·cm²,
 * N·m, W, rpm, mm, A, V, Hz. Common practice, no source.
 */
const shares: Readonly<Record<string, number>> = {
  ...{
    kgcm2: 1,
    kg·cm2: 1,
    kgm2: 1e4,
    kg·m2: 1e4,
    gcm2: 1e-3,
    g·cm2: 1e-3,
    kgmm2: 1e-2,
    kg·mm2: 1e-2,
  },
  ...{ nm: 1, n·m: 1, ncm: 0.01, n·cm: 0.01, mnm: 1e-3, mn·m: 1e-3, knm: 1e3 },
  ...{ w: 1, kw: 1000, hp: 745.699_871_582, ps: 735.498_75 },
  ...{ rpm: 1, '1/min': 1, 'r/min': 1, 'min-1': 1, 'u/min': 1, 'rev/min': 1, 'rev/s': 60, '1/s': 60 },
  ...{ mm: 1, cm: 10, m: 1000, um: 1e-3, µm: 1e-3, in: 25.4, inch: 25.4, '°': 1, deg: 1, rev: 360 },
  ...{ a: 1, ma: 1e-3, v: 1, kv: 1000, mv: 1e-3, hz: 1, khz: 1000 },
};

const folded = (unit: string) =>
  unit
    .trim()
    .toLowerCase()
    .replaceAll('²', '2')
    .replaceAll('.', '·')
    .replaceAll('*', '·')
    .replaceAll(' ', '');

/** What one of a unit is in those of a train; 1 where no unit is said; undefined for one that is not known. */
export function unitShare(unit: string): number | undefined {
  if (unit.trim() === '') return 1;
  const text = folded(unit);
  return shares[text] ?? shares[text.replaceAll('·', '')];
}
/** The same for mm/s, mm/s² and what else has a time below its line: seconds are meant. */
export function ratedShare(unit: string): number | undefined {
  const [length, time] = folded(unit).split('/');
  const share = shares[length ?? ''];
  const seconds = { s: 1, s2: 1, min: 1 / 60 }[time ?? ''];
  return share === undefined || seconds === undefined ? undefined : share * seconds;
}
