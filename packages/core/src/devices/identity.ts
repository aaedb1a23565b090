import { z } from 'zod';
import { int, printable } from '../entries/entries.js';

/** What the Identity object, CIP class 1, answers; other protocols give what of it they have. */
export const Identity = z.strictObject({
  vendor: int(0, 0xffff),
  deviceType: int(0, 0xffff),
  productCode: int(0, 0xffff),
  majorRevision: int(1, 127),
  minorRevision: int(1, 255),
  productName: printable(32).refine((t) => /^[\x20-\x7e]*$/.test(t), 'has a character outside ASCII'),
});
export type Identity = z.infer<typeof Identity>;

/** The identity of a device of which nothing is known. */
export const unknownIdentity = {
  vendor: 0,
  deviceType: 0,
  productCode: 0,
  majorRevision: 1,
  minorRevision: 1,
  productName: '',
} satisfies Identity;
