import { z } from 'zod';
import type { Cell } from '../model.js';

/** The cell with an edit made, not checked yet: an entry may be anything. */
export type Draft = Record<keyof Cell, unknown>;

/**
 * One way to change a cell: its schema, what it makes of a cell, and a sentence for the history and the undo button.
 */
export interface EditKind<Name extends string, Schema extends z.ZodType> {
  name: Name;
  schema: Schema;
  /**
   * Throws `edit.unknown`, `edit.idTaken`, `edit.fieldPastEnd`, `input.invalid`. The result is checked against the
   * model afterwards.
   */
  apply: (cell: Cell, edit: z.output<Schema>) => Draft;
  title: (cell: Cell, edit: z.output<Schema>) => string;
}

/** Makes one; its entries and its name are its schema. */
export function editKind<Name extends string, Shape extends z.ZodRawShape>(
  name: Name,
  shape: Shape,
  does: Pick<EditKind<Name, z.ZodObject<Shape & { edit: z.ZodLiteral<Name> }>>, 'apply' | 'title'>,
): EditKind<Name, z.ZodObject<Shape & { edit: z.ZodLiteral<Name> }>> {
  const schema = z.strictObject({ edit: z.literal(name), ...shape });
  return { name, schema: schema as unknown as z.ZodObject<Shape & { edit: z.ZodLiteral<Name> }>, ...does };
}

/** The id of a part of the cell, as an edit names it. */
export const partId = z.string().max(40);

type Changes<T, Without extends PropertyKey> = Partial<Omit<T, Without | 'id'>>;

/**
 * Some entries of a part, those that change; its id and what is left out cannot be. Defaults do not fill in what was
 * not said.
 */
export function changesOf<S extends z.ZodRawShape, Without extends keyof S = never>(
  schema: z.ZodObject<S>,
  ...without: Without[]
): z.ZodType<Changes<z.output<z.ZodObject<S>>, Without>, Changes<z.input<z.ZodObject<S>>, Without>> {
  const left = new Set<PropertyKey>(['id', ...without]);
  const parts = Object.entries(schema.shape as unknown as Record<string, z.ZodType>)
    .filter(([key]) => !left.has(key))
    .map(([key, part]) => [
      key,
      (part instanceof z.ZodDefault ? (part.unwrap() as z.ZodType) : part).optional(),
    ]);
  return z.strictObject(Object.fromEntries(parts)) as never;
}

/** Entries that are checked with the part that they belong to, once they are in it. */
export const checkedLater = <T extends object>(): z.ZodType<T, T> =>
  z.record(z.string(), z.unknown()) as unknown as z.ZodType<T, T>;

/** `size, start`: what an edit changes, for its title. */
export const changed = (set: object): string => Object.keys(set).join(', ');
