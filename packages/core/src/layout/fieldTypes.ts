/**
 * The elementary types of IEC 61131-3:2013, table 10, that an image can hold, with their widths in bits; BITS is a group
 * of 1 to 64 neighbouring bits.
 */
export const fieldTypes = {
  BOOL: { bits: 1, reads: 'boolean' },
  SINT: { bits: 8, reads: 'signed' },
  INT: { bits: 16, reads: 'signed' },
  DINT: { bits: 32, reads: 'signed' },
  LINT: { bits: 64, reads: 'signed' },
  USINT: { bits: 8, reads: 'unsigned' },
  UINT: { bits: 16, reads: 'unsigned' },
  UDINT: { bits: 32, reads: 'unsigned' },
  ULINT: { bits: 64, reads: 'unsigned' },
  BYTE: { bits: 8, reads: 'unsigned' },
  WORD: { bits: 16, reads: 'unsigned' },
  DWORD: { bits: 32, reads: 'unsigned' },
  LWORD: { bits: 64, reads: 'unsigned' },
  REAL: { bits: 32, reads: 'float' },
  LREAL: { bits: 64, reads: 'float' },
  BITS: { bits: undefined, reads: 'unsigned' },
} as const satisfies Record<
  string,
  { bits: number | undefined; reads: 'boolean' | 'signed' | 'unsigned' | 'float' }
>;

export type FieldType = keyof typeof fieldTypes;

export const fieldTypeNames = Object.keys(fieldTypes) as [FieldType, ...FieldType[]];

/** A bit, a number, or, where a number would lose digits (more than 32 bits, not floating), a bigint. */
export type Value = boolean | number | bigint;

/**
 * The least and the greatest raw value of a type (IEC 61131-3:2013, table 10); for floating types the largest finite
 * magnitude of IEEE 754 binary32 and binary64.
 */
export function limitsOf(type: FieldType, bits: number): { least: number | bigint; most: number | bigint } {
  const reads = fieldTypes[type].reads;
  if (reads === 'float') {
    const most = bits === 32 ? (2 - 2 ** -23) * 2 ** 127 : Number.MAX_VALUE;
    return { least: -most, most };
  }
  const signed = reads === 'signed';
  if (bits > 32) {
    return signed
      ? { least: -(1n << BigInt(bits - 1)), most: (1n << BigInt(bits - 1)) - 1n }
      : { least: 0n, most: (1n << BigInt(bits)) - 1n };
  }
  return signed
    ? { least: -(2 ** (bits - 1)), most: 2 ** (bits - 1) - 1 }
    : { least: 0, most: 2 ** bits - 1 };
}
