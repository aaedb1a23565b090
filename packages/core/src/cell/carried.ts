import type { Field } from '../layout/field.js';
import type { Image } from '../layout/image.js';

/** What becomes of one named part when others take the place of those that it stood among. */
export type Fate = 'kept' | 'moved' | 'gone' | 'new';

/** Parts in the place of others, and what became of each by its name. */
export interface Carried<T> {
  parts: T[];
  fates: { name: string; what: Fate }[];
}

/**
 * New parts in the place of old ones: those with the same name, whatever its capitals, and for which `same` holds stay
 * as they were, with all that was entered for them; others of the same name keep their id, so that whatever refers to
 * them still does.
 */
export function carried<T extends { id: string; name: string }>(
  before: readonly T[],
  after: readonly T[],
  same: (own: T, now: T) => boolean,
): Carried<T> {
  const fates: Carried<T>['fates'] = [];
  const known = new Map(before.map((part) => [part.name.toLowerCase(), part]));
  const parts = after.map((now) => {
    const own = known.get(now.name.toLowerCase());
    known.delete(now.name.toLowerCase());
    const what = own ? (same(own, now) ? 'kept' : 'moved') : 'new';
    fates.push({ name: now.name, what });
    if (!own) return now;
    return what === 'kept' ? own : { ...now, id: own.id };
  });
  for (const { name } of known.values()) fates.push({ name, what: 'gone' });
  return { parts, fates };
}

const samePlace = (a: Field, b: Field) => a.at === b.at && a.bits === b.bits && a.type === b.type;

/**
 * Fields of a layout in the place of an image's own; a field whose group is not among those of the layout stands alone.
 */
export function carriedFields(
  before: Pick<Image, 'fields'>,
  after: Pick<Image, 'fields' | 'groups'>,
  same: (own: Field, now: Field) => boolean = samePlace,
): Carried<Field> {
  const { parts, fates } = carried(before.fields, after.fields, same);
  const groups = new Set<string | null>(after.groups.map((g) => g.id));
  return { parts: parts.map((f) => (groups.has(f.group) ? f : { ...f, group: null })), fates };
}
