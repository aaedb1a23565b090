import { FeedbackImage, type Image } from '../../layout/image.js';
import { imageById } from '../find.js';
import { changed, changesOf, editKind, partId } from './editKind.js';
import { keptTogether, withImage } from './parts.js';

/** Entries of an image. */
export const imageSet = editKind(
  'image.set',
  { image: partId, set: changesOf(FeedbackImage, 'direction', 'fields') },
  {
    apply: (cell, { image, set }) => withImage(cell, image, (i) => keptTogether({ ...i, ...set } as Image)),
    title: (cell, { image, set }) =>
      `change ${changed(set)} of an image of ${imageById(cell, image).device.name}`,
  },
);
