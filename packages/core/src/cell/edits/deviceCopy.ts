import { z } from 'zod';
import { Device } from '../model.js';
import { editKind } from './editKind.js';
import { withDevices } from './parts.js';

/** Copies of a device, as copies.ts makes them. */
export const deviceCopy = editKind(
  'device.copy',
  { devices: z.array(Device).min(1).max(200) },
  {
    apply: (cell, { devices }) => withDevices(cell, devices),
    title: (_cell, { devices }) => `add ${devices.map((d) => d.name).join(', ')}`,
  },
);
