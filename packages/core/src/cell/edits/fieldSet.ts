import type { z } from 'zod';
import { parseInput } from '../../entries/parse.js';
import { Field } from '../../layout/field.js';
import { reachOf } from '../../layout/signals.js';
import { imageById } from '../find.js';
import { changed, checkedLater, editKind, partId } from './editKind.js';
import { fieldById, fieldName, refuseOutside, withImage } from './parts.js';

/** Entries of a field. */
export const fieldSet = editKind(
  'field.set',
  { image: partId, field: partId, set: checkedLater<Partial<Omit<z.input<typeof Field>, 'id'>>>() },
  {
    apply: (cell, edit) => {
      const { image } = imageById(cell, edit.image);
      const field = fieldById(image, edit.field);
      const next = parseInput(Field, { ...field, ...edit.set, id: field.id }, `field ${field.name}`);
      if (reachOf(image, next) > reachOf(image, field)) refuseOutside(image, [next]);
      return withImage(cell, edit.image, (i) => ({
        ...i,
        fields: i.fields.map((f) => (f.id === next.id ? next : f)),
      }));
    },
    title: (cell, { image, field, set }) =>
      'at' in set || 'bits' in set
        ? `place ${fieldName(cell, image, field)}`
        : `change ${changed(set)} of ${fieldName(cell, image, field)}`,
  },
);
