import { parseInput } from '../../entries/parse.js';
import { z } from 'zod';
import { printable } from '../../entries/entries.js';
import { Field } from '../../layout/field.js';
import { FeedbackImage, Group, type Image } from '../../layout/image.js';
import { imageById } from '../find.js';
import { changesOf, checkedLater, editKind, partId } from './editKind.js';
import { withImage } from './parts.js';

/** Another connection point of the description: its number and size, and its layout as choosePoint.ts made it. */
export const imagePoint = editKind(
  'image.point',
  {
    image: partId,
    /** How the point is called, for the history. */
    title: printable(80),
    set: changesOf(FeedbackImage, 'direction', 'fields', 'groups', 'derived'),
    groups: z.array(Group).max(200),
    fields: z.array(checkedLater<z.input<typeof Field>>()).max(4000),
  },
  {
    apply: (cell, edit) => {
      const fields = edit.fields.map((f) => parseInput(Field, f, 'field'));
      return withImage(
        cell,
        edit.image,
        (i) => ({ ...i, ...edit.set, groups: edit.groups, fields }) as Image,
      );
    },
    title: (cell, { image, title }) => `connect ${imageById(cell, image).device.name} to ${title}`,
  },
);
