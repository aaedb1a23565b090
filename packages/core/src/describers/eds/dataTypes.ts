import type { FieldType } from '../../layout/fieldTypes.js';

/**
 * Elementary data types of CIP by their codes (Vol. 1, C-6.1) that a field can have; the names are those of IEC
 * 61131-3.
 */
const byCode: Readonly<Record<number, FieldType>> = {
  0xc1: 'BOOL',
  0xc2: 'SINT',
  0xc3: 'INT',
  0xc4: 'DINT',
  0xc5: 'LINT',
  0xc6: 'USINT',
  0xc7: 'UINT',
  0xc8: 'UDINT',
  0xc9: 'ULINT',
  0xca: 'REAL',
  0xcb: 'LREAL',
  0xd1: 'BYTE',
  0xd2: 'WORD',
  0xd3: 'DWORD',
  0xd4: 'LWORD',
};

/** The field type of a data type code; undefined for strings, structures and unknown codes. */
export const fieldTypeOf = (code: number): FieldType | undefined => byCode[code];

/** The other way round; strings and raw bytes count as bytes, runs of bits as the type that holds them. */
export function dataTypeOf(type: FieldType, bits: number): number {
  for (const [code, name] of Object.entries(byCode)) if (name === type) return Number(code);
  return bits <= 8 ? 0xd1 : bits <= 16 ? 0xd2 : bits <= 32 ? 0xd3 : 0xd4;
}
