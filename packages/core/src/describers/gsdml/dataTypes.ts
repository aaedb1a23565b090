import type { FieldType } from '../../layout/fieldTypes.js';

/**
 * Bytes and meaning of the data types of GSDML, 8.2 (from memory); types without a length of their own take the item's.
 */
const types: Readonly<Record<string, { bytes: number; field: FieldType }>> = {
  Boolean: { bytes: 1, field: 'BITS' },
  Integer8: { bytes: 1, field: 'SINT' },
  Integer16: { bytes: 2, field: 'INT' },
  Integer32: { bytes: 4, field: 'DINT' },
  Integer64: { bytes: 8, field: 'LINT' },
  Unsigned8: { bytes: 1, field: 'USINT' },
  Unsigned16: { bytes: 2, field: 'UINT' },
  Unsigned32: { bytes: 4, field: 'UDINT' },
  Unsigned64: { bytes: 8, field: 'ULINT' },
  Float32: { bytes: 4, field: 'REAL' },
  Float64: { bytes: 8, field: 'LREAL' },
  Date: { bytes: 7, field: 'BYTES' },
  TimeOfDay: { bytes: 6, field: 'BYTES' },
  'TimeOfDay with date indication': { bytes: 6, field: 'BYTES' },
  'TimeOfDay without date indication': { bytes: 4, field: 'UDINT' },
  'TimeDifference with date indication': { bytes: 6, field: 'BYTES' },
  'TimeDifference without date indication': { bytes: 4, field: 'UDINT' },
  NetworkTime: { bytes: 8, field: 'BYTES' },
  NetworkTimeDifference: { bytes: 8, field: 'BYTES' },
  F_MessageTrailer4Byte: { bytes: 4, field: 'BYTES' },
  F_MessageTrailer5Byte: { bytes: 5, field: 'BYTES' },
  'Unsigned8+Unsigned8': { bytes: 2, field: 'BYTES' },
  'Float32+Unsigned8': { bytes: 5, field: 'BYTES' },
  'Float32+Status8': { bytes: 5, field: 'BYTES' },
};
const withLength: Readonly<Record<string, FieldType>> = { OctetString: 'BYTES', VisibleString: 'STRING' };

/** What a data type is, with its bytes; undefined for one that is not known. */
export function gsdmlType(
  name: string,
  length: number | undefined,
): { bytes: number; field: FieldType } | undefined {
  const own = types[name];
  if (own) return own;
  const open = withLength[name];
  return open && { bytes: length ?? 0, field: open };
}
