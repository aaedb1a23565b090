/**
 * How one parameter of a series of requests ended: its value was read; it was written and read back as written; it
 * stands there as another value than was written; the device refused; nobody knows whether it was taken; it was not
 * tried any more.
 */
export const outcomes = ['read', 'written', 'changed', 'refused', 'unknown', 'not tried'] as const;
export type Outcome = (typeof outcomes)[number];
