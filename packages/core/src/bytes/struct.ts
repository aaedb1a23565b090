import { Reader } from './reader.js';
import { written, type Writer } from './writer.js';

/** One part of a message: how it is read and how it is written. A struct of parts is a part again. */
export interface Part<T> {
  read(from: Reader): T;
  write(to: Writer, value: T): void;
}

type PartValue<P> = P extends Part<infer T> ? T : never;

export const u8: Part<number> = { read: (r) => r.u8(), write: (w, v) => w.u8(v) };
export const u16: Part<number> = { read: (r) => r.u16(), write: (w, v) => w.u16(v) };
export const u32: Part<number> = { read: (r) => r.u32(), write: (w, v) => w.u32(v) };
export const i16: Part<number> = { read: (r) => (r.u16() << 16) >> 16, write: (w, v) => w.u16(v & 0xffff) };
export const i32: Part<number> = { read: (r) => r.u32() | 0, write: (w, v) => w.u32(v >>> 0) };
export const flag: Part<boolean> = { read: (r) => (r.u8() & 1) === 1, write: (w, v) => w.u8(v ? 1 : 0) };
export const u16be: Part<number> = { read: (r) => r.u16be(), write: (w, v) => w.u16be(v) };
export const u32be: Part<number> = { read: (r) => r.u32be(), write: (w, v) => w.u32be(v) };

/** A fixed number of bytes; a shorter value is padded with zeros. */
export const bytes = (count: number): Part<Uint8Array> => ({
  read: (r) => r.take(count).slice(),
  write: (w, v) => {
    w.put(v.subarray(0, count));
    for (let i = v.length; i < count; i += 1) w.u8(0);
  },
});

/** Everything up to the end of the message. */
export const restOfBytes: Part<Uint8Array> = { read: (r) => r.rest().slice(), write: (w, v) => w.put(v) };

/** SHORT_STRING: one byte of length, then ISO 8859-1 characters (CIP Vol. 1, C-2.1). */
export const shortString: Part<string> = {
  read: (r) => String.fromCharCode(...r.take(r.u8())),
  write: (w, v) => {
    const characters = Uint8Array.from(v.slice(0, 255), (c) => c.charCodeAt(0));
    w.u8(characters.length);
    w.put(characters);
  },
};

/**
 * STRING: 16 bits of length, then ISO 8859-1 characters; padded to a whole word (CIP Vol. 1, C-2.1; Vol. 2, 5-3.2.2.5).
 */
export const paddedString: Part<string> = {
  read: (r) => {
    const length = r.u16();
    const text = String.fromCharCode(...r.take(length));
    if (length % 2 && r.left > 0) r.u8();
    return text;
  },
  write: (w, v) => {
    const characters = Uint8Array.from(v, (c) => c.charCodeAt(0));
    w.u16(characters.length);
    w.put(characters);
    if (characters.length % 2) w.u8(0);
  },
};

/** Parts in the order of their keys. */
export function struct<S extends Record<string, Part<never> | Part<unknown>>>(
  shape: S,
): Part<{ [K in keyof S]: PartValue<S[K]> }> {
  const keys = Object.keys(shape) as (keyof S)[];
  const parts = Object.values(shape) as Part<unknown>[];
  return {
    read: (from) => {
      const value = {} as { [K in keyof S]: PartValue<S[K]> };
      for (let i = 0; i < keys.length; i += 1)
        value[keys[i]!] = parts[i]!.read(from) as PartValue<S[keyof S]>;
      return value;
    },
    write: (to, value) => {
      for (let i = 0; i < keys.length; i += 1) parts[i]!.write(to, value[keys[i]!]);
    },
  };
}

/** The bytes of a value. */
export function encode<T>(part: Part<T>, value: T): Uint8Array {
  return written((to) => part.write(to, value));
}

/** The bytes of a value that is a string of numbers of one width. */
export const list = (part: Part<number>, count: number): Part<number[]> => ({
  read: (r) => Array.from({ length: count }, () => part.read(r)),
  write: (w, values) => {
    for (let i = 0; i < count; i += 1) part.write(w, values[i] ?? 0);
  },
});

/**
 * The value of bytes, from place `at` on; `what` names the message in errors. Throws `bytes.short`; bytes behind the
 * value are left alone.
 */
export function decode<T>(part: Part<T>, from: Uint8Array, what: string, at = 0): T {
  return part.read(new Reader(from, what, at));
}
