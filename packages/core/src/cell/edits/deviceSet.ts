import { deviceById } from '../find.js';
import { Device } from '../model.js';
import { changed, changesOf, editKind, partId } from './editKind.js';
import { withDevice } from './parts.js';
import { renamed } from './renamed.js';

/** Entries of a device. */
export const deviceSet = editKind(
  'device.set',
  { device: partId, set: changesOf(Device, 'links', 'description') },
  {
    apply: (cell, { device, set }) => {
      const { name } = deviceById(cell, device);
      const draft = withDevice(cell, device, (d) => ({ ...d, ...set }));
      return typeof set.name === 'string'
        ? { ...draft, machine: renamed(cell.machine, name, set.name) }
        : draft;
    },
    title: (cell, { device, set }) => `change ${changed(set)} of ${deviceById(cell, device).name}`,
  },
);
