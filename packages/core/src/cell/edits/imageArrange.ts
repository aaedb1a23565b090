import { z } from 'zod';
import { printable } from '../../entries/entries.js';
import { parseInput } from '../../entries/parse.js';
import { Field } from '../../layout/field.js';
import { FeedbackImage, type Image } from '../../layout/image.js';
import { imageById } from '../find.js';
import { changesOf, checkedLater, editKind, partId } from './editKind.js';
import { arranged, fieldById, keptTogether, withImage } from './parts.js';

/**
 * Many fields at once: those with a known id are replaced, others added. They may reach past the end, as in a cell
 * file; the checks say so.
 */
export const imageArrange = editKind(
  'image.arrange',
  {
    image: partId,
    /** What was done, for the history. */
    title: printable(80),
    set: changesOf(FeedbackImage, 'direction', 'fields').default({}),
    fields: z.array(checkedLater<z.input<typeof Field>>()).max(4000).default([]),
    removed: z.array(partId).max(4000).default([]),
  },
  {
    apply: (cell, edit) => {
      const fields = new Map(edit.fields.map((f) => parseInput(Field, f, 'field')).map((f) => [f.id, f]));
      const { image } = imageById(cell, edit.image);
      for (const removed of edit.removed) fieldById(image, removed);
      return withImage(cell, edit.image, (i) =>
        keptTogether({ ...i, ...edit.set, fields: arranged(i.fields, fields, edit.removed) } as Image),
      );
    },
    title: (cell, { image, title }) => `${title} of ${imageById(cell, image).device.name}`,
  },
);
