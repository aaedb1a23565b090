/**
 * The inner loops of the codec, one for each kind of raw number. Hot path: each is kept apart and its byte order is
 * written out, because a loop that meets one kind only runs several times as fast as one that asks for the kind each
 * time (bench/layout.bench.ts).
 */

/** Signals that are fetched in the same way. */
export interface Run {
  signals: Uint16Array;
  bytes: Uint16Array;
  /** Lowest bit within the byte; for single bits. */
  shifts: Uint8Array;
}

type Fetch = (run: Run, held: Uint8Array, view: DataView, into: Float64Array) => void;
type Store = (run: Run, held: Uint8Array, view: DataView, from: Float64Array) => void;

export const fetchBits: Fetch = ({ signals, bytes, shifts }, held, _view, into) => {
  for (let k = 0; k < signals.length; k += 1) into[signals[k]!] = (held[bytes[k]!]! >> shifts[k]!) & 1;
};
const fetchU8: Fetch = ({ signals, bytes }, held, _view, into) => {
  for (let k = 0; k < signals.length; k += 1) into[signals[k]!] = held[bytes[k]!]!;
};
const fetchI8: Fetch = ({ signals, bytes }, held, _view, into) => {
  for (let k = 0; k < signals.length; k += 1) into[signals[k]!] = (held[bytes[k]!]! << 24) >> 24;
};
const fetchU16Little: Fetch = ({ signals, bytes }, _held, view, into) => {
  for (let k = 0; k < signals.length; k += 1) into[signals[k]!] = view.getUint16(bytes[k]!, true);
};
const fetchU16Big: Fetch = ({ signals, bytes }, _held, view, into) => {
  for (let k = 0; k < signals.length; k += 1) into[signals[k]!] = view.getUint16(bytes[k]!, false);
};
const fetchI16Little: Fetch = ({ signals, bytes }, _held, view, into) => {
  for (let k = 0; k < signals.length; k += 1) into[signals[k]!] = view.getInt16(bytes[k]!, true);
};
const fetchI16Big: Fetch = ({ signals, bytes }, _held, view, into) => {
  for (let k = 0; k < signals.length; k += 1) into[signals[k]!] = view.getInt16(bytes[k]!, false);
};
const fetchU32Little: Fetch = ({ signals, bytes }, _held, view, into) => {
  for (let k = 0; k < signals.length; k += 1) into[signals[k]!] = view.getUint32(bytes[k]!, true);
};
const fetchU32Big: Fetch = ({ signals, bytes }, _held, view, into) => {
  for (let k = 0; k < signals.length; k += 1) into[signals[k]!] = view.getUint32(bytes[k]!, false);
};
const fetchI32Little: Fetch = ({ signals, bytes }, _held, view, into) => {
  for (let k = 0; k < signals.length; k += 1) into[signals[k]!] = view.getInt32(bytes[k]!, true);
};
const fetchI32Big: Fetch = ({ signals, bytes }, _held, view, into) => {
  for (let k = 0; k < signals.length; k += 1) into[signals[k]!] = view.getInt32(bytes[k]!, false);
};
const fetchF32Little: Fetch = ({ signals, bytes }, _held, view, into) => {
  for (let k = 0; k < signals.length; k += 1) into[signals[k]!] = view.getFloat32(bytes[k]!, true);
};
const fetchF32Big: Fetch = ({ signals, bytes }, _held, view, into) => {
  for (let k = 0; k < signals.length; k += 1) into[signals[k]!] = view.getFloat32(bytes[k]!, false);
};
const fetchF64Little: Fetch = ({ signals, bytes }, _held, view, into) => {
  for (let k = 0; k < signals.length; k += 1) into[signals[k]!] = view.getFloat64(bytes[k]!, true);
};
const fetchF64Big: Fetch = ({ signals, bytes }, _held, view, into) => {
  for (let k = 0; k < signals.length; k += 1) into[signals[k]!] = view.getFloat64(bytes[k]!, false);
};

export const storeBits: Store = ({ signals, bytes, shifts }, held, _view, from) => {
  for (let k = 0; k < signals.length; k += 1) {
    const byte = bytes[k]!;
    const bit = 1 << shifts[k]!;
    held[byte] = from[signals[k]!] === 0 ? held[byte]! & ~bit : held[byte]! | bit;
  }
};
const store8: Store = ({ signals, bytes }, held, _view, from) => {
  for (let k = 0; k < signals.length; k += 1) held[bytes[k]!] = from[signals[k]!]!;
};
const store16Little: Store = ({ signals, bytes }, _held, view, from) => {
  for (let k = 0; k < signals.length; k += 1) view.setInt16(bytes[k]!, from[signals[k]!]!, true);
};
const store16Big: Store = ({ signals, bytes }, _held, view, from) => {
  for (let k = 0; k < signals.length; k += 1) view.setInt16(bytes[k]!, from[signals[k]!]!, false);
};
const store32Little: Store = ({ signals, bytes }, _held, view, from) => {
  for (let k = 0; k < signals.length; k += 1) view.setInt32(bytes[k]!, from[signals[k]!]!, true);
};
const store32Big: Store = ({ signals, bytes }, _held, view, from) => {
  for (let k = 0; k < signals.length; k += 1) view.setInt32(bytes[k]!, from[signals[k]!]!, false);
};
const storeF32Little: Store = ({ signals, bytes }, _held, view, from) => {
  for (let k = 0; k < signals.length; k += 1) view.setFloat32(bytes[k]!, from[signals[k]!]!, true);
};
const storeF32Big: Store = ({ signals, bytes }, _held, view, from) => {
  for (let k = 0; k < signals.length; k += 1) view.setFloat32(bytes[k]!, from[signals[k]!]!, false);
};
const storeF64Little: Store = ({ signals, bytes }, _held, view, from) => {
  for (let k = 0; k < signals.length; k += 1) view.setFloat64(bytes[k]!, from[signals[k]!]!, true);
};
const storeF64Big: Store = ({ signals, bytes }, _held, view, from) => {
  for (let k = 0; k < signals.length; k += 1) view.setFloat64(bytes[k]!, from[signals[k]!]!, false);
};

export interface Loops {
  fetch: Fetch;
  store: Store;
}

/** The loops of a whole type by its reading, bits and byte order; undefined where there are none. */
export function loopsFor(
  reads: 'signed' | 'unsigned' | 'float',
  bits: number,
  big: boolean,
): Loops | undefined {
  const pick = (little: [Fetch, Store], other: [Fetch, Store]): Loops => {
    const [fetch, store] = big ? other : little;
    return { fetch, store };
  };
  switch (`${reads} ${bits}`) {
    case 'unsigned 8':
      return { fetch: fetchU8, store: store8 };
    case 'signed 8':
      return { fetch: fetchI8, store: store8 };
    case 'unsigned 16':
      return pick([fetchU16Little, store16Little], [fetchU16Big, store16Big]);
    case 'signed 16':
      return pick([fetchI16Little, store16Little], [fetchI16Big, store16Big]);
    case 'unsigned 32':
      return pick([fetchU32Little, store32Little], [fetchU32Big, store32Big]);
    case 'signed 32':
      return pick([fetchI32Little, store32Little], [fetchI32Big, store32Big]);
    case 'float 32':
      return pick([fetchF32Little, storeF32Little], [fetchF32Big, storeF32Big]);
    case 'float 64':
      return pick([fetchF64Little, storeF64Little], [fetchF64Big, storeF64Big]);
    default:
      return undefined;
  }
}
