import type { Outcome } from '@fadenkreuz/core';

/** How a parameter of a series ended, as a person reads it. */
export const outcomeTitles: Readonly<Record<Outcome, string>> = {
  read: 'read',
  written: 'in the device as written',
  changed: 'in the device with another value',
  refused: 'refused',
  unknown: 'not known whether taken',
  'not tried': 'not tried',
};
