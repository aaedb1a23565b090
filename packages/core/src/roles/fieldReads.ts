import type { Field } from '../layout/field.js';
import { readsOf } from '../layout/fieldTypes.js';
import type { FieldReads } from '../layout/role.js';

const bitStrings: readonly Field['type'][] = ['BYTE', 'WORD', 'DWORD', 'LWORD', 'BITS'];

/** How a field is read, as its roles are; undefined for raw bytes, which nobody reads. */
export function fieldReads(field: Field): FieldReads | undefined {
  const reads = readsOf(field);
  if (reads === 'bytes') return undefined;
  if (reads === 'boolean' || (field.bits === 1 && reads === 'unsigned'))
    return { reads: 'bit', bitString: false };
  return { reads: reads === 'text' ? 'text' : 'number', bitString: bitStrings.includes(field.type) };
}
