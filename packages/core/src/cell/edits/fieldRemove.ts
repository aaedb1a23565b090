import { imageById } from '../find.js';
import { editKind, partId } from './editKind.js';
import { fieldById, fieldName, withImage } from './parts.js';

/** A field is gone; its bits stay. */
export const fieldRemove = editKind(
  'field.remove',
  { image: partId, field: partId },
  {
    apply: (cell, edit) => {
      fieldById(imageById(cell, edit.image).image, edit.field);
      return withImage(cell, edit.image, (i) => ({
        ...i,
        fields: i.fields.filter((f) => f.id !== edit.field),
      }));
    },
    title: (cell, { image, field }) => `remove ${fieldName(cell, image, field)}`,
  },
);
