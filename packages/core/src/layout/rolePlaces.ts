import { codecOf } from './codec.js';
import type { Image } from './image.js';
import { factsOfRole, type Acting, type Role } from './role.js';
import type { Signal } from './signals.js';

/** Where a role stands: a signal, by its number among those of the codec, and a bit of it where it is one of many. */
export interface RolePlace {
  index: number;
  bit: number | null;
  acts: Acting | undefined;
}

type Laid = Pick<Image, 'size' | 'order' | 'groups' | 'fields'> & Partial<Pick<Image, 'swapped'>>;

const known = new WeakMap<readonly Signal[], ReadonlyMap<Role, ReadonlyMap<number, RolePlace>>>();

/** The places of all roles of an image, by role and number; 1 for a role that is not numbered. */
export function rolePlaces(image: Laid): ReadonlyMap<Role, ReadonlyMap<number, RolePlace>> {
  const { signals } = codecOf(image);
  const made = known.get(signals);
  if (made) return made;
  const places = placesIn(signals);
  known.set(signals, places);
  return places;
}

function placesIn(signals: readonly Signal[]): ReadonlyMap<Role, ReadonlyMap<number, RolePlace>> {
  const places = new Map<Role, Map<number, RolePlace>>();
  const place = (role: Role, n: number, at: RolePlace): void => {
    const own = places.get(role) ?? new Map<number, RolePlace>();
    places.set(role, own);
    if (!own.has(n)) own.set(n, at);
  };
  /** Elements of a repeated field that have had their number. */
  const counted = new Map<string, number>();
  // The sign of a number is written with it.
  const signs = new Set(
    signals.flatMap(({ sign, id }) => (sign?.way === 'bit' && sign.field !== id ? [sign.field] : [])),
  );
  signals.forEach(({ id, role, bitRoles, index: repetition, of, bits }, index) => {
    const element = repetition.length === 0 ? 0 : (counted.get(of) ?? 0);
    counted.set(of, element + 1);
    if (role && !signs.has(id)) {
      const { numbered, reads } = factsOfRole(role.is);
      const first = role.number ?? 1;
      // A string of bits has as many points as it has bits.
      if (numbered && reads === 'bit' && bits > 1)
        for (let bit = 0; bit < bits; bit += 1)
          place(role.is, first + element * bits + bit, { index, bit, acts: role.acts });
      else if (numbered || element === 0)
        place(role.is, numbered ? first + element : 1, { index, bit: null, acts: role.acts });
    }
    // Of a repeated word the bits of the first element are what a single device has.
    if (element === 0)
      for (const { bit, role: own } of bitRoles)
        place(own.is, own.number ?? 1, { index, bit, acts: own.acts });
  });
  return places;
}
