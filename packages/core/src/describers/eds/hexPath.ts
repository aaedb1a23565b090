/** Paths stand in a data sheet as hex pairs: `20 04 24 65 30 03`. */

/** Bytes as such a text. */
export const hexPairs = (bytes: Uint8Array): string =>
  [...bytes].map((b) => b.toString(16).toUpperCase().padStart(2, '0')).join(' ');

/** The bytes of such a text; what is no pair of hex digits is passed over. */
export const bytesOfPath = (path: string): Uint8Array =>
  Uint8Array.from(
    path.match(/(?<![0-9A-F])[0-9A-F]{2}(?![0-9A-F])/gi)?.map((pair) => parseInt(pair, 16)) ?? [],
  );
