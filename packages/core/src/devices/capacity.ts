import { z } from 'zod';
import { int } from '../entries/entries.js';

/** What a device or a controller can carry, as its manual says; null where that is not known. */
export const Capacity = z.strictObject({
  /** Connections at a time. */
  connections: int(1, 10_000).nullable().default(null),
  /** Packets a second, sent and received. */
  packets: int(1, 10_000_000).nullable().default(null),
  /** The shortest update time that it can keep, µs. */
  update: int(1, 10_000_000).nullable().default(null),
});
export type Capacity = z.infer<typeof Capacity>;

export const unknownCapacity: Capacity = { connections: null, packets: null, update: null };
