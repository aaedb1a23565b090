import { z } from 'zod';
import { Exchange } from '../exchange.js';
import { Device } from '../model.js';
import { editKind } from './editKind.js';
import { withDevices } from './parts.js';

/** Copies of a device, as copies.ts makes them. */
export const deviceCopy = editKind(
  'device.copy',
  {
    devices: z.array(Device).min(1).max(200),
    /** The exchanges of the original, for each copy. */
    exchanges: z.array(Exchange).max(200).default([]),
  },
  {
    apply: (cell, { devices, exchanges }) => ({
      ...withDevices(cell, devices),
      ...(exchanges.length > 0 ? { exchanges: [...cell.exchanges, ...exchanges] } : {}),
    }),
    title: (_cell, { devices }) => `add ${devices.map((d) => d.name).join(', ')}`,
  },
);
