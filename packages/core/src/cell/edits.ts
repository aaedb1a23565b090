import { z } from 'zod';
import { Problem } from '../messages/problem.js';
import { reachOf } from '../layout/signals.js';
import { Field } from './field.js';
import { imageById, deviceById } from './find.js';
import { FeedbackImage, type Image } from './image.js';
import { printable } from './entries.js';
import { Link } from './link.js';
import { Cell, cellAfter, Controller, Device, maxParameters } from './model.js';
import { Network } from './network.js';
import { Parameter } from './parameter.js';
import { parseInput } from './parse.js';

const id = z.string().max(40);
const withoutId = <S extends z.ZodObject>(schema: S, ...keys: string[]) =>
  z.strictObject(
    Object.fromEntries(
      Object.entries(schema.shape)
        .filter(([key]) => !['id', ...keys].includes(key))
        .map(([key, part]) => {
          const inner = part instanceof z.ZodDefault ? part.unwrap() : part;
          return [key, (inner as z.ZodType).optional()];
        }),
    ),
  );

/** One edit of a cell. A `set` holds only the entries that change. */
export const Edit = z.discriminatedUnion('edit', [
  z.strictObject({ edit: z.literal('cell.set'), set: withoutId(Cell, 'controller', 'network', 'devices') }),
  z.strictObject({ edit: z.literal('controller.set'), set: withoutId(Controller) }),
  z.strictObject({ edit: z.literal('network.set'), set: withoutId(Network) }),
  z.strictObject({ edit: z.literal('device.add'), device: Device }),
  z.strictObject({ edit: z.literal('device.copy'), devices: z.array(Device).min(1).max(200) }),
  z.strictObject({
    edit: z.literal('device.set'),
    device: id,
    set: withoutId(Device, 'links', 'parameters'),
  }),
  /** Another device in the place of the one with the same id. */
  z.strictObject({ edit: z.literal('device.replace'), device: Device }),
  /** To another place in the line-up, counted from 0. */
  z.strictObject({ edit: z.literal('device.move'), device: id, to: z.number().int().min(0) }),
  z.strictObject({ edit: z.literal('device.remove'), device: id }),
  /** Parameters of a device: those with a known id are replaced, others added behind them. */
  z.strictObject({
    edit: z.literal('parameters.arrange'),
    device: id,
    /** What was done, for the history. */
    title: printable(80),
    parameters: z.array(z.unknown()).max(maxParameters).default([]),
    removed: z.array(id).max(maxParameters).default([]),
  }),
  z.strictObject({
    edit: z.literal('link.set'),
    link: id,
    set: withoutId(Link, 'command', 'feedback'),
  }),
  z.strictObject({
    edit: z.literal('image.set'),
    image: id,
    set: withoutId(FeedbackImage, 'direction', 'fields'),
  }),
  /**
   * Many fields at once: those with a known id are replaced, others added. They may reach past the end, as in a cell
   * file; the checks say so.
   */
  z.strictObject({
    edit: z.literal('image.arrange'),
    image: id,
    /** What was done, for the history. */
    title: printable(80),
    set: withoutId(FeedbackImage, 'direction', 'fields').default({}),
    fields: z.array(z.unknown()).max(4000).default([]),
    removed: z.array(id).max(4000).default([]),
  }),
  z.strictObject({ edit: z.literal('field.add'), image: id, field: z.unknown() }),
  z.strictObject({
    edit: z.literal('field.set'),
    image: id,
    field: id,
    set: z.record(z.string(), z.unknown()),
  }),
  z.strictObject({ edit: z.literal('field.remove'), image: id, field: id }),
]);
export type Edit = z.input<typeof Edit>;

/**
 * The cell after an edit. The whole result is checked against the model: throws `input.invalid`, `edit.unknown`,
 * `edit.idTaken`, or `edit.fieldPastEnd` when the edit itself puts a field outside its image (an image made smaller keeps its fields; a check
 * then points at them).
 */
export function applyEdit(cell: Cell, input: Edit): Cell {
  const edit = parseInput(Edit, input, 'edit');
  const result = edited(cell, edit);
  const next = parseInput(cellAfter(cell), result, 'cell');
  // Parts that the edit did not touch stay the same values: what was worked out for them stands.
  const kept = (['controller', 'network', 'notations'] as const).filter(
    (part) => result[part] === cell[part],
  );
  return { ...next, ...Object.fromEntries(kept.map((part) => [part, cell[part]])) };
}

/** A sentence for the history and the undo button. */
export function editTitle(cell: Cell, edit: Edit): string {
  const field = () => {
    if (edit.edit !== 'field.set' && edit.edit !== 'field.remove') return '';
    return (
      imageById(cell, edit.image).image.fields.find((f: Field) => f.id === edit.field)?.name ?? 'a field'
    );
  };
  const changed = (set: Record<string, unknown>) => Object.keys(set).join(', ');
  switch (edit.edit) {
    case 'cell.set':
      return `change ${changed(edit.set)} of the cell`;
    case 'controller.set':
      return `change ${changed(edit.set)} of the controller`;
    case 'network.set':
      return `change ${changed(edit.set)} of the network`;
    case 'device.add':
      return `add ${edit.device.name}`;
    case 'device.copy':
      return `add ${edit.devices.map((d) => (d as Device).name).join(', ')}`;
    case 'image.arrange':
      return `${edit.title} of ${imageById(cell, edit.image).device.name}`;
    case 'parameters.arrange':
      return `${edit.title} of ${deviceById(cell, edit.device).name}`;
    case 'device.set':
      return `change ${changed(edit.set)} of ${deviceById(cell, edit.device).name}`;
    case 'device.replace':
      return `replace ${deviceById(cell, edit.device.id).name}`;
    case 'device.move':
      return `move ${deviceById(cell, edit.device).name}`;
    case 'device.remove':
      return `remove ${deviceById(cell, edit.device).name}`;
    case 'link.set':
      return `change ${changed(edit.set)} of a link`;
    case 'image.set':
      return `change ${changed(edit.set)} of an image of ${imageById(cell, edit.image).device.name}`;
    case 'field.add':
      return `add ${(edit.field as Field).name ?? 'a field'}`;
    case 'field.remove':
      return `remove ${field()}`;
    case 'field.set':
      return 'at' in edit.set || 'bits' in edit.set
        ? `place ${field()}`
        : `change ${changed(edit.set)} of ${field()}`;
  }
}

type ParsedEdit = z.output<typeof Edit>;

/** The cell with the edit made, not checked yet: an entry may be anything. */
type Draft = Record<keyof Cell, unknown>;

function edited(cell: Cell, edit: ParsedEdit): Draft {
  switch (edit.edit) {
    case 'cell.set':
      return { ...cell, ...edit.set };
    case 'controller.set':
      return { ...cell, controller: { ...cell.controller, ...edit.set } };
    case 'network.set':
      return { ...cell, network: { ...cell.network, ...edit.set } };
    case 'device.add':
      for (const link of edit.device.links)
        for (const image of [link.command, link.feedback]) refuseOutside(image);
      return withDevices(cell, [edit.device]);
    case 'device.copy':
      return withDevices(cell, edit.devices);
    case 'device.set':
      deviceById(cell, edit.device);
      return {
        ...cell,
        devices: cell.devices.map((d) => (d.id === edit.device ? { ...d, ...edit.set } : d)),
      };
    case 'device.replace':
      deviceById(cell, edit.device.id);
      for (const link of edit.device.links)
        for (const image of [link.command, link.feedback]) refuseOutside(image);
      return {
        ...cell,
        devices: cell.devices.map((d) => (d.id === edit.device.id ? edit.device : d)),
      };
    case 'device.move': {
      const moved = deviceById(cell, edit.device);
      const rest = cell.devices.filter((d) => d !== moved);
      return { ...cell, devices: [...rest.slice(0, edit.to), moved, ...rest.slice(edit.to)] };
    }
    case 'device.remove':
      deviceById(cell, edit.device);
      return { ...cell, devices: cell.devices.filter((d) => d.id !== edit.device) };
    case 'parameters.arrange': {
      const { parameters: present } = deviceById(cell, edit.device);
      const missing = edit.removed.find((gone) => !present.some((p) => p.id === gone));
      if (missing !== undefined) throw new Problem('edit.unknown', { what: 'parameter', id: missing });
      const entered = new Map(
        edit.parameters.map((p) => parseInput(Parameter, p, 'parameter')).map((p) => [p.id, p]),
      );
      const parameters = arranged(present, entered, edit.removed);
      return {
        ...cell,
        devices: cell.devices.map((d) => (d.id === edit.device ? { ...d, parameters } : d)),
      };
    }
    case 'link.set': {
      const known = cell.devices.some((d) => d.links.some((l) => l.id === edit.link));
      if (!known) throw new Problem('edit.unknown', { what: 'link', id: edit.link });
      return withLinks(cell, (link) => (link.id === edit.link ? { ...link, ...edit.set } : link));
    }
    case 'image.set':
      return withImage(cell, edit.image, (image) => keptTogether({ ...image, ...edit.set } as Image));
    case 'image.arrange': {
      const fields = new Map(edit.fields.map((f) => parseInput(Field, f, 'field')).map((f) => [f.id, f]));
      const { image } = imageById(cell, edit.image);
      for (const removed of edit.removed) fieldById(image, removed);
      return withImage(cell, edit.image, (i) =>
        keptTogether({
          ...i,
          ...edit.set,
          fields: arranged(i.fields, fields, edit.removed),
        } as Image),
      );
    }
    case 'field.add': {
      const field = parseInput(Field, edit.field, 'field');
      return withImage(cell, edit.image, (image) => {
        refuseOutside(image, [field]);
        return { ...image, fields: [...image.fields, field] };
      });
    }
    case 'field.set': {
      const { image } = imageById(cell, edit.image);
      const field = fieldById(image, edit.field);
      const next = parseInput(Field, { ...field, ...edit.set, id: field.id }, `field ${field.name}`);
      if (reachOf(image, next) > reachOf(image, field)) refuseOutside(image, [next]);
      return withImage(cell, edit.image, (i) => ({
        ...i,
        fields: i.fields.map((f) => (f.id === next.id ? next : f)),
      }));
    }
    case 'field.remove':
      fieldById(imageById(cell, edit.image).image, edit.field);
      return withImage(cell, edit.image, (i) => ({
        ...i,
        fields: i.fields.filter((f) => f.id !== edit.field),
      }));
  }
}

/** Throws `edit.fieldPastEnd` for the first of these fields that does not lie inside the image. */
export function refuseOutside(image: Image, fields: readonly Field[] = image.fields): void {
  const outside = fields.find((f) => reachOf(image, f) > image.size * 8);
  if (outside)
    throw new Problem('edit.fieldPastEnd', {
      field: outside.name,
      endsAtBit: reachOf(image, outside) - 1,
      imageBits: image.size * 8 - 1,
    });
}

/** A list with some of its entries replaced, some gone, and new ones behind the others. */
function arranged<T extends { id: string }>(
  present: readonly T[],
  entered: ReadonlyMap<string, T>,
  removed: readonly string[],
): T[] {
  const gone = new Set(removed);
  const known = new Set(present.map((p) => p.id));
  return [
    ...present.filter((p) => !gone.has(p.id)).map((p) => entered.get(p.id) ?? p),
    ...[...entered.values()].filter((p) => !known.has(p.id)),
  ];
}

/** Fields whose group has gone stand alone. */
function keptTogether(image: Image): Image {
  const known = new Set<string | null>(image.groups.map((g) => g.id));
  return {
    ...image,
    fields: image.fields.map((f) => (f.group && !known.has(f.group) ? { ...f, group: null } : f)),
  };
}

function withDevices(cell: Cell, devices: readonly Device[]): Draft {
  const taken = devices.find((device) => cell.devices.some((d) => d.id === device.id));
  if (taken) throw new Problem('edit.idTaken', { id: taken.id });
  return { ...cell, devices: [...cell.devices, ...devices] };
}

function fieldById(image: Image, fieldId: string): Field {
  const field = image.fields.find((f) => f.id === fieldId);
  if (!field) throw new Problem('edit.unknown', { what: 'field', id: fieldId });
  return field;
}

/** The cell with some links changed; devices of which no link changes stay the same values. */
function withLinks(cell: Cell, change: (link: Link) => unknown): Draft {
  return {
    ...cell,
    devices: cell.devices.map((device) => {
      const links = device.links.map(change);
      return links.every((link, i) => link === device.links[i]) ? device : { ...device, links };
    }),
  };
}

function withImage(cell: Cell, imageId: string, change: (image: Image) => unknown): Draft {
  imageById(cell, imageId);
  return withLinks(cell, (link) => {
    if (link.command.id === imageId) return { ...link, command: change(link.command) };
    if (link.feedback.id === imageId) return { ...link, feedback: change(link.feedback) };
    return link;
  });
}
