import type { ByteOrder, Field } from './field.js';
import type { Group, Image } from './image.js';
import { bytesOf } from './byteOrder.js';

/**
 * One value of an image: a field, or one element of a field that is repeated by its array or its groups. It stands at
 * its own place, under its own name and id, and in a byte order that is stated.
 */
export interface Signal extends Field {
  order: ByteOrder;
  /** Id of the field that it comes from. */
  of: string;
  /** Which repetition it is, from 0: of each group around it, outermost first, and of its array; empty: of none. */
  index: readonly number[];
}

/** A field by itself as a signal, wherever its image repeats it. */
export const asSignal = (field: Field): Signal => ({
  ...field,
  order: field.order ?? 'little',
  of: field.id,
  index: [],
});

type Layout = Pick<Image, 'fields' | 'groups' | 'order'>;

/** The groups that a field lies in, outermost first; a parent that is missing or leads back ends the chain. */
export function groupsAround(image: Pick<Image, 'groups'>, groupId: string | null): Group[] {
  const chain: Group[] = [];
  let next = groupId;
  while (next !== null) {
    const group = image.groups.find((g) => g.id === next);
    if (!group || chain.includes(group)) break;
    chain.unshift(group);
    next = group.parent;
  }
  return chain;
}

/** How many signals the fields of an image make. */
export function repetitionsOf(image: Pick<Image, 'fields' | 'groups'>): number {
  return image.fields.reduce(
    (sum, field) =>
      sum +
      groupsAround(image, field.group).reduce((n, g) => n * g.count, 1) *
        (field.array ? field.array.count : 1),
    0,
  );
}

interface Repetition {
  at: number;
  prefix: string;
  index: number[];
}

function signalsOfField(image: Layout, field: Field): Signal[] {
  const order = field.order ?? image.order ?? 'little';
  if (!field.group && !field.array) return [{ ...field, order, of: field.id, index: [] }];
  let repetitions: Repetition[] = [{ at: field.at, prefix: '', index: [] }];
  for (const { name, count, stride, first } of groupsAround(image, field.group))
    repetitions = repetitions.flatMap(({ at, prefix, index }) =>
      Array.from({ length: count }, (_, i) => ({
        at: at + i * stride,
        prefix: `${prefix}${name}_${first + i}.`,
        index: [...index, i],
      })),
    );
  const { count, stride } = field.array ?? { count: 1, stride: 0 };
  return repetitions.flatMap(({ at, prefix, index }) =>
    Array.from({ length: count }, (_, i) => {
      const whole = field.array ? [...index, i] : index;
      return {
        ...field,
        group: null,
        array: null,
        order,
        of: field.id,
        index: whole,
        id: `${field.id}#${whole.join('.')}`,
        name: `${prefix}${field.name}${field.array ? `[${i}]` : ''}`,
        at: at + i * stride,
      };
    }),
  );
}

// An image is never changed, only replaced; its signals are asked for by every view and every check.
const known = new WeakMap<Layout, readonly Signal[]>();

/** Every signal of an image in order of its place, also those that lie past its end. */
export function signalsOf(image: Layout): readonly Signal[] {
  let signals = known.get(image);
  if (!signals) {
    signals = image.fields.flatMap((field) => signalsOfField(image, field)).sort((a, b) => a.at - b.at);
    known.set(image, signals);
  }
  return signals;
}

/** The first bit behind a signal, counting every byte that it touches when they are not little-endian. */
export function signalEnd(signal: Pick<Signal, 'at' | 'bits' | 'order'>): number {
  if (signal.order === 'little') return signal.at + signal.bits;
  const { first, count } = bytesOf(signal);
  return count > 1 ? (first + count) * 8 : signal.at + signal.bits;
}

/** The signals that lie inside the image, in order of place. */
export const signalsInside = (image: Layout & Pick<Image, 'size'>): readonly Signal[] =>
  signalsOf(image).filter((s) => signalEnd(s) <= image.size * 8);

/** The first bit behind the last repetition of a field. */
export const reachOf = (image: Layout, field: Field): number =>
  Math.max(...signalsOfField(image, field).map(signalEnd));
