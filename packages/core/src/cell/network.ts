import { z } from 'zod';
import { addressNumber } from '../bytes/ipv4.js';
import { dottedQuad, id, printable, subnet } from '../entries/entries.js';
import { deviceKinds } from '../devices/kinds.js';

/** Addresses that are kept for a kind of device, or for nobody. */
export const AddressRange = z
  .strictObject({
    id,
    first: dottedQuad,
    last: dottedQuad,
    /** Null: reserved, for what is no device of this cell. */
    kind: z.enum(deviceKinds).nullable(),
    /** Whose they are, or why they are kept. */
    title: printable(80).default(''),
  })
  .refine((r) => addressNumber(r.first) <= addressNumber(r.last), {
    path: ['last'],
    message: 'lies before the first address',
  });

/** The network of a cell, and how its addresses are given out. */
export const Network = z.strictObject({
  /** Where the controller stands. */
  subnet,
  /** Other subnets that its devices may stand in. */
  further: z.array(subnet).max(16).default([]),
  gateway: dottedQuad.nullable().default(null),
  ranges: z.array(AddressRange).max(64).default([]),
  /** Rate of its ports, Mbit/s. */
  rate: z.union([z.literal(100), z.literal(1000)]).default(100),
});

export type AddressRange = z.infer<typeof AddressRange>;
export type Network = z.infer<typeof Network>;
