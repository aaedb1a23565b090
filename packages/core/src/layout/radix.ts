import type { Radix } from './field.js';
import { readsOf, type Value } from './fieldTypes.js';
import type { Signal } from './signals.js';

const scratch = new DataView(new ArrayBuffer(8));

/** The bits of a raw value as an unsigned number. */
function bitsOf(signal: Signal, raw: boolean | number | bigint): bigint {
  if (readsOf(signal) === 'float') {
    if (signal.bits === 32) {
      scratch.setFloat32(0, Number(raw));
      return BigInt(scratch.getUint32(0));
    }
    scratch.setFloat64(0, Number(raw));
    return scratch.getBigUint64(0);
  }
  if (readsOf(signal) === 'bcd') return Number.isNaN(raw) ? 0n : BigInt(`0x${BigInt(raw)}`);
  return BigInt.asUintN(signal.bits, BigInt(raw));
}

/**
 * The bits of a signal in another reading than its own: signed, 16#, 2#, as an IEEE 754 number of 32 or 64 bits, as
 * characters. Undefined where the signal has no such reading, and for `decimal`, which is the reading of its type.
 */
export function inRadix(signal: Signal, raw: Value, radix: Radix): string | undefined {
  if (typeof raw === 'string' || radix === 'decimal') return undefined;
  const bits = bitsOf(signal, raw);
  switch (radix) {
    case 'signed':
      return signal.bits > 1 ? BigInt.asIntN(signal.bits, bits).toString() : undefined;
    case 'hex':
      return `16#${bits
        .toString(16)
        .toUpperCase()
        .padStart(Math.ceil(signal.bits / 4), '0')}`;
    case 'binary':
      return `2#${bits.toString(2).padStart(signal.bits, '0')}`;
    case 'float':
      if (signal.bits === 32) {
        scratch.setUint32(0, Number(bits));
        return String(Number(scratch.getFloat32(0).toPrecision(7)));
      }
      if (signal.bits !== 64) return undefined;
      scratch.setBigUint64(0, bits);
      return String(scratch.getFloat64(0));
    case 'text':
      if (signal.bits % 8 !== 0) return undefined;
      return `'${Array.from({ length: signal.bits / 8 }, (_, i) => Number((bits >> BigInt(i * 8)) & 0xffn))
        .map((b) => (b >= 0x20 && b < 0x7f ? String.fromCharCode(b) : '·'))
        .join('')}'`;
  }
}
