/** A run of registers or bits, first and count. */
export interface Block {
  start: number;
  count: number;
}

/**
 * The questions that read these places: neighbours in one question as far as it may ask (`most`), never a place that
 * was not named, because reading a gap is refused by many devices. Overlaps are read once. Counts of 0 are left out.
 */
export function readPlan(places: readonly Block[], maximum: number): Block[] {
  const sorted = places.filter((p) => p.count > 0).sort((a, b) => a.start - b.start);
  const runs: Block[] = [];
  for (const place of sorted) {
    const last = runs.at(-1);
    const end = place.start + place.count;
    if (last && place.start <= last.start + last.count) last.count = Math.max(last.count, end - last.start);
    else runs.push({ ...place });
  }
  return runs.flatMap(({ start, count }) =>
    Array.from({ length: Math.ceil(count / maximum) }, (_, i) => ({
      start: start + i * maximum,
      count: Math.min(maximum, count - i * maximum),
    })),
  );
}
