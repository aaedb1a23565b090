/**
 * The elementary types of IEC 61131-3:2013, table 10, that an image can hold, with their widths in bits; and runs of
 * bits, BCD digits, characters and raw bytes, whose length belongs to the field.
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
  BCD: { bits: undefined, reads: 'bcd' },
  STRING: { bits: undefined, reads: 'text' },
  BYTES: { bits: undefined, reads: 'bytes' },
} as const satisfies Record<string, { bits: number | undefined; reads: string }>;

export type FieldType = keyof typeof fieldTypes;
export type Reads = (typeof fieldTypes)[FieldType]['reads'];

export const fieldTypeNames = Object.keys(fieldTypes) as [FieldType, ...FieldType[]];

/** How the raw bits of a type are read. */
export const readsOf = (field: { type: FieldType }): Reads => fieldTypes[field.type].reads;

/** Whether the raw value is a number: neither a bit, nor characters, nor raw bytes. */
export const isNumber = (field: { type: FieldType }): boolean =>
  !['boolean', 'text', 'bytes'].includes(readsOf(field));

/** Whether a field of this type may begin at any bit. */
export const goesAnywhere = (type: FieldType): boolean =>
  type === 'BOOL' || type === 'BITS' || type === 'BCD';

/**
 * A raw value: a bit; a number or, where a number would lose digits (more than 32 bits, not floating), a bigint; the
 * characters of a text; raw bytes as hex pairs. BCD with a digit above 9 is NaN.
 */
export type Value = boolean | number | bigint | string;

/**
 * The least and the greatest raw value of a type (IEC 61131-3:2013, table 10); for floating types the largest finite
 * magnitude of IEEE 754 binary32 and binary64; for BCD as many nines as it has digits. Bits count as numbers 0 and 1;
 * characters and raw bytes have no limits.
 */
export function limitsOf(
  type: FieldType,
  bits: number,
): { minimum: number | bigint; maximum: number | bigint } {
  const reads = fieldTypes[type].reads;
  if (reads === 'float') {
    const maximum = bits === 32 ? (2 - 2 ** -23) * 2 ** 127 : Number.MAX_VALUE;
    return { minimum: -maximum, maximum };
  }
  if (reads === 'bcd') {
    const maximum = 10n ** BigInt(bits / 4) - 1n;
    return bits > 32 ? { minimum: 0n, maximum } : { minimum: 0, maximum: Number(maximum) };
  }
  const signed = reads === 'signed';
  if (bits > 32) {
    return signed
      ? { minimum: -(1n << BigInt(bits - 1)), maximum: (1n << BigInt(bits - 1)) - 1n }
      : { minimum: 0n, maximum: (1n << BigInt(bits)) - 1n };
  }
  return signed
    ? { minimum: -(2 ** (bits - 1)), maximum: 2 ** (bits - 1) - 1 }
    : { minimum: 0, maximum: 2 ** bits - 1 };
}

/** Characters that a text can have at most. */
export const roomOf = ({
  bits,
  text,
}: {
  bits: number;
  text: { prefix: number } | null | undefined;
}): number => {
  const room = (bits - (text?.prefix ?? 0)) / 8;
  return text?.prefix === 8 ? Math.min(room, 255) : room;
};
