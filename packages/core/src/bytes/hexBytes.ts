/** `0A` */
export const hexPair = (byte: number): string => byte.toString(16).toUpperCase().padStart(2, '0');

const pairs = Array.from({ length: 256 }, (_, byte) => hexPair(byte));
const spacedPairs = pairs.map((pair) => ` ${pair}`);

/** Bytes as text for files and the network: `0A 0B`. */
export function hexOf(bytes: Uint8Array): string {
  const { length } = bytes;
  if (length === 0) return '';
  let text = pairs[bytes[0]!]!;
  for (let i = 1; i < length; i += 1) text += spacedPairs[bytes[i]!]!;
  return text;
}

/** The bytes of such a text; whatever is no pair of digits is left out, so the text must have been checked. */
export const bytesOfHex = (text: string): Uint8Array =>
  Uint8Array.from(text.match(/[0-9A-F]{2}/gi) ?? [], (pair) => parseInt(pair, 16));

export const hexPairs = /^([0-9A-F]{2}( [0-9A-F]{2})*)?$/;
