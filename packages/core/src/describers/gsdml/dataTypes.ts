import type { FieldType } from '../../layout/fieldTypes.js';

/** A part of a data type: most have one, a value with its status has two. */
export interface TypePart {
  bytes: number;
  field: FieldType;
  /** What stands behind the name of the item; empty for the value itself. */
  suffix: string;
}

const one = (bytes: number, field: FieldType): TypePart[] => [{ bytes, field, suffix: '' }];
const withStatus = (bytes: number, field: FieldType): TypePart[] => [
  { bytes, field, suffix: '' },
  { bytes: 1, field: 'USINT', suffix: 'status' },
];

/**
 * Bytes and meaning of the data types of GSDML, 8.2 and of IEC 61158-6-10, 5.2 (from memory); those whose length
 * belongs to the item stand below. Times of days and time stamps are structures and stay raw bytes of their true size.
 */
const types: Readonly<Record<string, TypePart[]>> = {
  Boolean: one(1, 'BITS'),
  Integer8: one(1, 'SINT'),
  Integer16: one(2, 'INT'),
  Integer32: one(4, 'DINT'),
  Integer64: one(8, 'LINT'),
  Unsigned8: one(1, 'USINT'),
  Unsigned16: one(2, 'UINT'),
  Unsigned32: one(4, 'UDINT'),
  Unsigned64: one(8, 'ULINT'),
  Float32: one(4, 'REAL'),
  Float64: one(8, 'LREAL'),
  Date: one(7, 'BYTES'),
  TimeOfDay: one(6, 'BYTES'),
  'TimeOfDay with date indication': one(6, 'BYTES'),
  'TimeOfDay without date indication': one(4, 'UDINT'),
  TimeDifference: one(6, 'BYTES'),
  'TimeDifference with date indication': one(6, 'BYTES'),
  'TimeDifference without date indication': one(4, 'UDINT'),
  NetworkTime: one(8, 'BYTES'),
  NetworkTimeDifference: one(8, 'BYTES'),
  TimeStamp: one(12, 'BYTES'),
  TimeStampDifference: one(12, 'BYTES'),
  TimeStampDifferenceShort: one(8, 'LINT'),
  F_MessageTrailer4Byte: one(4, 'BYTES'),
  F_MessageTrailer5Byte: one(5, 'BYTES'),
  N2: one(2, 'INT'),
  N4: one(4, 'DINT'),
  V2: one(2, 'WORD'),
  L2: one(2, 'WORD'),
  R2: one(2, 'UINT'),
  T2: one(2, 'UINT'),
  T4: one(4, 'UDINT'),
  D2: one(2, 'UINT'),
  E2: one(2, 'INT'),
  C4: one(4, 'DINT'),
  X2: one(2, 'INT'),
  X4: one(4, 'DINT'),
  'Unipolar2.16': one(2, 'UINT'),
  Unsigned8_S: one(1, 'USINT'),
  Unsigned16_S: one(2, 'UINT'),
  Integer16_S: one(2, 'INT'),
  'Unsigned8+Unsigned8': withStatus(1, 'USINT'),
  'Float32+Unsigned8': withStatus(4, 'REAL'),
  'Float32+Status8': withStatus(4, 'REAL'),
  'OctetString2+Unsigned8': withStatus(2, 'BYTES'),
};
/** Types of whatever length; that of their item counts. */
const withLength: Readonly<Record<string, (bytes: number) => TypePart[]>> = {
  OctetString: (bytes) => one(bytes, 'BYTES'),
  OctetString_S: (bytes) => one(bytes, 'BYTES'),
  VisibleString: (bytes) => one(bytes, 'STRING'),
  UnicodeString8: (bytes) => one(bytes, 'STRING'),
  '61131_STRING': (bytes) => one(bytes, 'BYTES'),
  '61131_WSTRING': (bytes) => one(bytes, 'BYTES'),
  'OctetString+Unsigned8': (bytes) => (bytes > 1 ? withStatus(bytes - 1, 'BYTES') : one(bytes, 'BYTES')),
};

/** What a data type is, part by part, with its bytes; undefined for one that is not known. */
export function gsdmlType(
  name: string,
  length: number | undefined,
): { bytes: number; parts: readonly TypePart[] } | undefined {
  const parts = Object.hasOwn(types, name)
    ? types[name]
    : Object.hasOwn(withLength, name)
      ? withLength[name]!(length ?? 0)
      : undefined;
  return parts && { bytes: parts.reduce((sum, p) => sum + p.bytes, 0), parts };
}
