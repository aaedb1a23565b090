import type { Field } from '../../layout/field.js';
import { uniqueIdentifiers } from '../../entries/identifiers.js';
import { draftField, tidy, type FieldDraft } from '../shared/fieldTexts.js';
import { gsdmlType } from './dataTypes.js';
import type { GsdmlData } from './gsdml.js';

/**
 * The fields of submodules in one direction, their stretches behind each other from byte 0 on. PROFINET sends the high
 * byte first; bit 0 of an item is the lowest of its last byte (IEC 61158-6, GSDML 8.4; from memory).
 */
export function stretchFields(
  stretches: readonly { title: string; data: GsdmlData }[],
  newId: () => string,
): Field[] {
  const drafts: { name: string; field: FieldDraft }[] = [];
  let byte = 0;
  for (const { title, data } of stretches)
    for (const item of data.items) {
      const parts = gsdmlType(item.dataType, item.bytes)?.parts ?? [
        { bytes: item.bytes, field: 'BYTES' as const, suffix: '' },
      ];
      if (item.bits.length > 0)
        for (const { offset, name } of item.bits) {
          // Bit 8 of a word is bit 0 of its first byte.
          const at = (byte + item.bytes - 1 - (offset >> 3)) * 8 + (offset & 7);
          drafts.push({ name: name || `${title}_${offset}`, field: { type: 'BOOL', at, bits: 1 } });
        }
      else {
        let at = byte;
        for (const { bytes, field: type, suffix } of parts) {
          const many = bytes > 1 && type !== 'BYTES' && type !== 'STRING';
          const text =
            type === 'STRING' ? { text: { prefix: 0 as const, encoding: 'ascii' as const, pad: 0 } } : {};
          const field = { type, at: at * 8, bits: bytes * 8, order: many ? ('big' as const) : null, ...text };
          const name = item.name || title;
          drafts.push({ name: suffix ? `${name}_${suffix}` : name, field });
          at += bytes;
        }
      }
      byte += item.bytes;
    }
  const names = uniqueIdentifiers(drafts.map((d) => tidy(d.name, 60) || 'item'));
  return drafts.flatMap(
    ({ name, field }, i) => draftField({ id: newId(), name: names[i]!.toLowerCase(), ...field }, name) ?? [],
  );
}
