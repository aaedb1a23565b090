/** `0A` */
export const hexPair = (byte: number): string => byte.toString(16).toUpperCase().padStart(2, '0');

const pairs = Array.from({ length: 256 }, (_, byte) => hexPair(byte));

/** Bytes as text for files and the network: `0A 0B`. */
export function hexOf(bytes: Uint8Array): string {
  let text = '';
  for (const byte of bytes) text += text === '' ? pairs[byte]! : ` ${pairs[byte]!}`;
  return text;
}

/** The bytes of such a text; whatever is no pair of digits is left out, so the text must have been checked. */
export const bytesOfHex = (text: string): Uint8Array =>
  Uint8Array.from(text.match(/[0-9A-F]{2}/gi) ?? [], (pair) => parseInt(pair, 16));

export const hexPairs = /^([0-9A-F]{2}( [0-9A-F]{2})*)?$/;
