/** By which unit a planned size went wrong. */
export interface SizeReading {
  factor: number;
  reading: string;
}

/**
 * Says when a size is off by exactly 2 or 4, which is what happens when bytes are entered where 16- or 32-bit elements
 * are counted, or the reverse; undefined for any other difference. Sizes in bytes.
 */
export function sizeReading(planned: number, actual: number): SizeReading | undefined {
  for (const factor of [2, 4]) {
    const elements = `${factor * 8}-bit elements`;
    if (planned * factor === actual && planned > 0)
      return {
        factor,
        reading: `${planned} is the number of ${elements}: elements were entered where bytes are counted.`,
      };
    if (planned === actual * factor && actual > 0)
      return {
        factor,
        reading: `${actual} bytes were taken for ${elements}: bytes were entered where elements are counted.`,
      };
  }
  return undefined;
}
