import { deviceById } from '../find.js';
import { editKind, partId } from './editKind.js';

/** A device and all that belongs to it is gone. */
export const deviceRemove = editKind(
  'device.remove',
  { device: partId },
  {
    apply: (cell, { device }) => {
      const gone = deviceById(cell, device);
      return { ...cell, devices: cell.devices.filter((d) => d !== gone) };
    },
    title: (cell, { device }) => `remove ${deviceById(cell, device).name}`,
  },
);
