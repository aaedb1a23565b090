import { z } from 'zod';
import { parseInput } from '../../entries/parse.js';
import { describedByLinks } from '../description.js';
import { checkedAfter, type Cell, type Device } from '../model.js';
import type { Draft } from './editKind.js';
import { editKinds } from './list.js';

type AnyKind = (typeof editKinds)[number];
type ParsedEdit = z.output<AnyKind['schema']>;

/** One edit of a cell. A `set` holds only the entries that change. */
export type Edit = z.input<AnyKind['schema']>;
export const Edit: z.ZodType<ParsedEdit, Edit> = z.discriminatedUnion(
  'edit',
  editKinds.map((kind) => kind.schema) as never,
) as never;

/** An edit of one kind. */
export type EditOf<Name extends Edit['edit']> = Extract<Edit, { edit: Name }>;

/** An edit that comes from outside, or that a finding offers. Throws `input.invalid`. */
export const readEdit = (input: unknown): ParsedEdit => parseInput(Edit, input, 'edit');

interface Does {
  apply: (cell: Cell, edit: ParsedEdit) => Draft;
  title: (cell: Cell, edit: ParsedEdit) => string;
}
const byName = new Map<string, Does>(editKinds.map((kind) => [kind.name, kind as unknown as Does]));

/**
 * The cell after an edit. The whole result is checked against the model: throws `input.invalid`, `edit.unknown`,
 * `edit.idTaken`, or `edit.fieldPastEnd` when the edit itself puts a field outside its image (an image made smaller
 * keeps its fields; a check then points at them). Parts that the edit does not touch stay the same values: what was
 * worked out for them stands.
 */
export function applyEdit(cell: Cell, input: Edit): Cell {
  const edit = readEdit(input);
  return checkedAfter(cell, followed(cell, byName.get(edit.edit)!.apply(cell, edit)));
}

/** A sentence for the history and the undo button, by the cell before the edit. */
export function editTitle(cell: Cell, input: Edit): string {
  const edit = readEdit(input);
  return byName.get(edit.edit)!.title(cell, edit);
}

/** What is known of devices made by hand follows their links; a draft that is no cell is left for its check. */
function followed(cell: Cell, draft: Draft): Draft {
  if (draft.devices === cell.devices || !Array.isArray(draft.devices)) return draft;
  const known = new Set<unknown>(cell.devices);
  const devices = draft.devices.map((device: unknown) => {
    if (known.has(device)) return device;
    try {
      return describedByLinks(device as Device);
    } catch {
      return device;
    }
  });
  return { ...draft, devices };
}
