import { deviceById } from '../find.js';
import { Device } from '../model.js';
import { editKind } from './editKind.js';
import { refuseDeviceOutside, withDevice } from './parts.js';

/** Another device in the place of the one with the same id. */
export const deviceReplace = editKind(
  'device.replace',
  { device: Device },
  {
    apply: (cell, { device }) => {
      deviceById(cell, device.id);
      refuseDeviceOutside(device);
      return withDevice(cell, device.id, () => device);
    },
    title: (cell, { device }) => `replace ${deviceById(cell, device.id).name}`,
  },
);
