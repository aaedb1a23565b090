import type { Field } from '../../layout/field.js';
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

/** STRING and SHORT_STRING (Vol. 1, C-5.2.1.3 and C-5.2.1.5). */
const [stringCode, shortStringCode] = [0xd0, 0xda];
/** An abbreviated array (Vol. 1, C-6.2.2; from memory): what is no single value of an elementary type. */
const arrayCode = 0xa1;

/** The field type of a data type code; undefined for strings, structures and unknown codes. */
export const fieldTypeOf = (code: number): FieldType | undefined => byCode[code];

/** Bits of the count that stands before the characters of a text; undefined for codes that are no text with a count. */
export const textPrefixOf = (code: number): 8 | 16 | undefined =>
  code === stringCode ? 16 : code === shortStringCode ? 8 : undefined;

/** Whether a code is that of a signed whole number: SINT to LINT. */
export const isSignedCode = (code: number): boolean => code >= 0xc2 && code <= 0xc5;

/** The other way round; text without a count and raw bytes are arrays, runs of bits the type that holds them. */
export function dataTypeOf(type: FieldType, bits: number, text: Field['text'] = null): number {
  if (type === 'STRING' || type === 'BYTES')
    return text?.prefix === 8 ? shortStringCode : text?.prefix === 16 ? stringCode : arrayCode;
  for (const [code, name] of Object.entries(byCode)) if (name === type) return Number(code);
  return bits <= 8 ? 0xd1 : bits <= 16 ? 0xd2 : bits <= 32 ? 0xd3 : 0xd4;
}
