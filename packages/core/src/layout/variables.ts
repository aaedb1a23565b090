import { uniqueIdentifiers } from '../entries/identifiers.js';
import type { Field } from './field.js';
import type { Group, Image } from './image.js';
import { groupsAround, signalsInside, type Signal } from './signals.js';

/**
 * The variables that controller code has for the fields of an image: a field is a member of a structure, or an array of
 * them where it is repeated; a group is an array of structures, or one structure where it comes once.
 */
export type Variable =
  | { kind: 'field'; name: string; field: Field }
  | { kind: 'group'; name: string; group: Group; members: readonly Variable[] };

interface Variables {
  members: readonly Variable[];
  /** Names of fields and groups by id; each name is the only one of its structure. */
  names: ReadonlyMap<string, string>;
}

type Layout = Pick<Image, 'fields' | 'groups' | 'order' | 'size'>;

// An image is never changed, only replaced.
const known = new WeakMap<Layout, Variables>();

/** The variables of an image in order of place; fields that lie past its end have none. */
export function variablesOf(image: Layout): Variables {
  const found = known.get(image);
  if (found) return found;
  const names = new Map<string, string>();
  const inside = new Set(signalsInside(image).map((s) => s.of));
  const fields = image.fields.filter((f) => inside.has(f.id));
  const within = (parent: string | null): readonly Variable[] => {
    const parts = new Map<string, { at: number; field: Field; group?: Group }>();
    for (const field of fields) {
      const chain = groupsAround(image, field.group);
      const depth = parent === null ? 0 : chain.findIndex((g) => g.id === parent) + 1;
      if (parent !== null && depth === 0) continue;
      const group = chain[depth];
      const id = group?.id ?? field.id;
      const first = parts.get(id);
      if (!first || field.at < first.at) parts.set(id, { at: field.at, field, ...(group && { group }) });
    }
    const ordered = [...parts.entries()].sort(([, a], [, b]) => a.at - b.at);
    const own = uniqueIdentifiers(ordered.map(([, { group, field }]) => (group ?? field).name));
    return ordered.map(([id, { group, field }], i): Variable => {
      names.set(id, own[i]!);
      return group
        ? { kind: 'group', name: own[i]!, group, members: within(id) }
        : { kind: 'field', name: own[i]!, field };
    });
  };
  const variables = { members: within(null), names };
  known.set(image, variables);
  return variables;
}

/** How code reaches a signal within the structure of its image: `channel[2].level`, `valve[0]`. */
export function pathOf(image: Layout, signal: Signal): string {
  const { names } = variablesOf(image);
  const field = image.fields.find((f) => f.id === signal.of)!;
  const groups = groupsAround(image, field.group).map(({ id, count, first }, i) =>
    count > 1 ? `${names.get(id)}[${first + signal.index[i]!}].` : `${names.get(id)}.`,
  );
  const last = field.array ? `[${signal.index.at(-1)}]` : '';
  return `${groups.join('')}${names.get(field.id)}${last}`;
}
