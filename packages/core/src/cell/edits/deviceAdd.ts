import { Device } from '../model.js';
import { editKind } from './editKind.js';
import { refuseDeviceOutside, withDevices } from './parts.js';

/** A device behind all others. */
export const deviceAdd = editKind(
  'device.add',
  { device: Device },
  {
    apply: (cell, { device }) => {
      refuseDeviceOutside(device);
      return withDevices(cell, [device]);
    },
    title: (_cell, { device }) => `add ${device.name}`,
  },
);
