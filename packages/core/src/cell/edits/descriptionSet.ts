import { Description } from '../description.js';
import { deviceById } from '../find.js';
import { changed, changesOf, editKind, partId } from './editKind.js';
import { withDevice } from './parts.js';

/** Entries of what a device offers; its parameters have an edit of their own. */
export const descriptionSet = editKind(
  'description.set',
  { device: partId, set: changesOf(Description, 'parameters') },
  {
    apply: (cell, { device, set }) => {
      deviceById(cell, device);
      return withDevice(cell, device, (d) => ({ ...d, description: { ...d.description, ...set } }));
    },
    title: (cell, { device, set }) => `change ${changed(set)} of ${deviceById(cell, device).name}`,
  },
);
