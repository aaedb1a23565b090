import { derivedOf, type Direction, type Image, type Link } from '@fadenkreuz/core';
import { toField, toFieldRow, type FieldRow } from './fieldRow.js';
import { byPosition, grouped } from './rowOrder.js';

interface ImageRow {
  id: string;
  link_id: string;
  direction: Direction;
  instance: number;
  size: number;
  start: number;
  byte_order: Image['order'];
  swapped: boolean;
  numbering: Image['numbering'];
}

interface GroupRow {
  id: string;
  image_id: string;
  position: number;
  name: string;
  count: number;
  stride: number;
  parent_id: string | null;
  first: number;
}

interface DerivedRow {
  id: string;
  image_id: string;
  position: number;
  name: string;
  expression: string;
  uncertainty: string;
  unit: string;
  note: string;
}

/** The rows of all images of a cell. */
export interface ImageRows {
  image: ImageRow[];
  field_group: GroupRow[];
  field: FieldRow[];
  derived: DerivedRow[];
}

/** Adds the rows of one image. */
export function pushImageRows(rows: ImageRows, image: Image, linkId: string): void {
  const { id, direction, instance, size, start, order, swapped, numbering } = image;
  rows.image.push({
    id,
    link_id: linkId,
    direction,
    instance,
    size,
    start,
    byte_order: order,
    swapped,
    numbering,
  });
  image.groups.forEach(({ parent, ...group }, position) =>
    rows.field_group.push({ image_id: id, position, parent_id: parent, ...group }),
  );
  image.fields.forEach((field, position) => rows.field.push(toFieldRow(field, id, position)));
  derivedOf(image).forEach((derived, position) => rows.derived.push({ image_id: id, position, ...derived }));
}

/** Both images of a link, out of the rows; keys in the order of the schema. */
export function imagesOfRows(rows: ImageRows): (linkId: string) => Pick<Link, 'command' | 'feedback'> {
  const fieldsOf = grouped(byPosition(rows.field), (f) => f.image_id);
  const groupsOf = grouped(byPosition(rows.field_group), (g) => g.image_id);
  const derivedIn = grouped(byPosition(rows.derived), (d) => d.image_id);
  const imagesByLink = grouped(rows.image, (i) => i.link_id);
  const imageOf = (linkId: string, direction: Direction) => {
    const row = imagesByLink.get(linkId)!.find((i) => i.direction === direction)!;
    return {
      id: row.id,
      instance: row.instance,
      size: row.size,
      start: row.start,
      order: row.byte_order,
      swapped: row.swapped,
      numbering: row.numbering,
      groups: (groupsOf.get(row.id) ?? []).map(({ id, name, count, stride, parent_id, first }) => ({
        ...{ id, name, count, stride },
        parent: parent_id,
        first,
      })),
      fields: (fieldsOf.get(row.id) ?? []).map(toField),
    };
  };
  return (linkId) => {
    const feedback = imageOf(linkId, 'feedback');
    const derived = (derivedIn.get(feedback.id) ?? []).map(
      ({ id, name, expression, uncertainty, unit, note }) => ({
        id,
        name,
        expression,
        uncertainty,
        unit,
        note,
      }),
    );
    return {
      command: { ...imageOf(linkId, 'command'), direction: 'command' },
      feedback: { ...feedback, derived, direction: 'feedback' },
    };
  };
}
