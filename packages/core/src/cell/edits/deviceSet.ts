import { deviceById } from '../find.js';
import { Device } from '../model.js';
import { changed, changesOf, editKind, partId } from './editKind.js';
import { withDevice } from './parts.js';

/** Entries of a device. */
export const deviceSet = editKind(
  'device.set',
  { device: partId, set: changesOf(Device, 'links', 'parameters') },
  {
    apply: (cell, { device, set }) => {
      deviceById(cell, device);
      return withDevice(cell, device, (d) => ({ ...d, ...set }));
    },
    title: (cell, { device, set }) => `change ${changed(set)} of ${deviceById(cell, device).name}`,
  },
);
