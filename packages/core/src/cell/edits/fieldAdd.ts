import type { z } from 'zod';
import { parseInput } from '../../entries/parse.js';
import { Field } from '../../layout/field.js';
import { checkedLater, editKind, partId } from './editKind.js';
import { refuseOutside, withImage } from './parts.js';

/** A field behind the others of its image. */
export const fieldAdd = editKind(
  'field.add',
  { image: partId, field: checkedLater<z.input<typeof Field>>() },
  {
    apply: (cell, edit) => {
      const field = parseInput(Field, edit.field, 'field');
      return withImage(cell, edit.image, (image) => {
        refuseOutside(image, [field]);
        return { ...image, fields: [...image.fields, field] };
      });
    },
    title: (_cell, { field }) => `add ${field.name ?? 'a field'}`,
  },
);
