import { z } from 'zod';
import { deviceById } from '../find.js';
import { editKind, partId } from './editKind.js';

/** A device at another place in the line-up, counted from 0. */
export const deviceMove = editKind(
  'device.move',
  { device: partId, to: z.number().int().min(0) },
  {
    apply: (cell, { device, to }) => {
      const moved = deviceById(cell, device);
      const rest = cell.devices.filter((d) => d !== moved);
      return { ...cell, devices: [...rest.slice(0, to), moved, ...rest.slice(to)] };
    },
    title: (cell, { device }) => `move ${deviceById(cell, device).name}`,
  },
);
