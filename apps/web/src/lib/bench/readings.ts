import { codecOf, inRadix, type Image, type Radix, type Signal } from '@fadenkreuz/core';

/** What one signal of an image shows. */
export interface Reading {
  signal: Signal;
  value: number | bigint | boolean | string;
  /** As it is shown. */
  text: string;
  /** As it would be typed. */
  plain: string;
}

/** The signals of an image as its bytes say; undefined while there are none. */
export function readingsOf(
  image: Image,
  bytes: Uint8Array | undefined,
  radix?: Radix,
): Reading[] | undefined {
  const codec = codecOf(image);
  if (!bytes || bytes.length < codec.bytes) return undefined;
  codec.decode(new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength));
  return codec.signals.map((signal, i) => {
    const value = codec.valueAt(i);
    const text = inRadix(signal, value, radix ?? signal.radix) ?? codec.textAt(i);
    return { signal, value, text, plain: codec.readingAt(i).text };
  });
}
