import { Field, type ByteOrder } from '../layout/field.js';
import { compileCodec } from '../layout/codec.js';
import { fieldTypes, type FieldType } from '../layout/fieldTypes.js';
import { signalsOf } from '../layout/signals.js';

/** A named place in the bytes of a device: type, first bit, and length where the type leaves it open. */
export interface PlaceOf<V> {
  type: FieldType;
  at: number;
  bits: number;
  order?: ByteOrder;
  /** Only for the type checker: what is read there. */
  value?: V;
}

const numberAt =
  (type: FieldType) =>
  (at: number, order?: ByteOrder): PlaceOf<number> => ({
    type,
    at,
    bits: fieldTypes[type].bits!,
    ...(order ? { order } : {}),
  });
export const bit = (at: number): PlaceOf<boolean> => ({ type: 'BOOL', at, bits: 1 });
export const usint = numberAt('USINT');
export const sint = numberAt('SINT');
export const uint = numberAt('UINT');
export const int = numberAt('INT');
export const word = numberAt('WORD');
export const udint = numberAt('UDINT');
export const dint = numberAt('DINT');
export const real = numberAt('REAL');
export const bits = (at: number, length: number): PlaceOf<number> => ({ type: 'BITS', at, bits: length });
export const text = (at: number, bytes: number): PlaceOf<string> => ({ type: 'STRING', at, bits: bytes * 8 });

type Shape = Record<string, PlaceOf<boolean> | PlaceOf<number> | PlaceOf<string>>;
export type ValuesOf<S extends Shape> = { [K in keyof S]: NonNullable<S[K]['value']> };

/** Bytes of a device with names: the fields of an assembly, and its values read and written together. */
export interface BytesLayout<S extends Shape> {
  size: number;
  fields: readonly Field[];
  /** What is read must not be written to: bytes that did not change give the same values again. */
  read: (bytes: Uint8Array) => Readonly<ValuesOf<S>>;
  /** Writes all values; numbers are cut to what their place holds. Bits without a name stay as they are. */
  write: (values: ValuesOf<S>, into: Uint8Array) => void;
}

const isSigned = (type: FieldType): boolean => type === 'INT' || type === 'DINT' || type === 'SINT';

function same(a: Uint8Array, b: Uint8Array): boolean {
  if (a.length !== b.length) return false;
  for (let i = 0; i < a.length; i += 1) if (a[i] !== b[i]) return false;
  return true;
}

/** Describes bytes by the names of their places; `order` is that of all multi-byte values that name none. */
export function bytesLayout<S extends Shape>(
  size: number,
  shape: S,
  order: ByteOrder = 'little',
): BytesLayout<S> {
  const entries = Object.entries(shape);
  const fields = entries.map(([name, { value: _, ...place }]) =>
    Field.parse({
      id: name,
      name,
      ...place,
      // The order of the device stands in each field, so that they can be read on their own.
      ...(place.type === 'BOOL' || place.type === 'STRING' ? {} : { order: place.order ?? order }),
      ...(place.type === 'STRING' ? { text: { prefix: 0, encoding: 'ascii', pad: 0 } } : {}),
    }),
  );
  const codec = compileCodec(signalsOf({ fields, groups: [], order }));
  const minimum = Float64Array.from(codec.signals, ({ type, bits: length }) =>
    isSigned(type) ? -(2 ** (length - 1)) : 0,
  );
  const maximum = Float64Array.from(
    codec.signals,
    ({ type, bits: length }) => 2 ** (isSigned(type) ? length - 1 : length) - 1,
  );
  const names = entries.map(([name]) => name);
  const texts = codec.signals.flatMap(({ type }, i) => (type === 'STRING' ? [i] : []));
  const reals = codec.signals.map(({ type }) => type === 'REAL');
  // Hot path: a hundred stand-ins read their command and write their feedback fifty times a second each (bench/cyclic).
  // The fields have no scale, so that engineering values and raw numbers are the same.
  const numbers = new Float64Array(names.length);
  const lastRead = new WeakMap<Uint8Array, { bytes: Uint8Array; values: ValuesOf<S> }>();
  const viewOf = (bytes: Uint8Array) => new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  return {
    size,
    fields,
    read: (bytes) => {
      // Most commands are what they were the time before.
      const last = lastRead.get(bytes);
      if (last && same(last.bytes, bytes)) return last.values;
      codec.decode(viewOf(bytes));
      const read: Record<string, unknown> = {};
      for (let i = 0; i < names.length; i += 1) read[names[i]!] = codec.valueAt(i);
      const values = Object.freeze(read) as ValuesOf<S>;
      if (last) {
        last.bytes.set(bytes);
        last.values = values;
      } else lastRead.set(bytes, { bytes: bytes.slice(), values });
      return values;
    },
    write: (values, into) => {
      const view = viewOf(into);
      for (let i = 0; i < names.length; i += 1) {
        const value = values[names[i]!] as boolean | number | string;
        if (typeof value === 'string') continue;
        const number = typeof value === 'number' ? value : value ? 1 : 0;
        numbers[i] = reals[i] ? number : Math.max(minimum[i]!, Math.min(maximum[i]!, Math.round(number)));
      }
      if (texts.length > 0) {
        codec.decode(view);
        for (const i of texts)
          codec.setValue(i, (values[names[i]!] as string).slice(0, codec.signals[i]!.bits / 8));
        codec.encode(view);
      }
      codec.encodeNumbers(numbers, view);
    },
  };
}
