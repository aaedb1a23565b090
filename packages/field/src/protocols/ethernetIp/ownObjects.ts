import { describedObjects, driveObjects, parameterObject, type CipClass } from '@fadenkreuz/core/ethernet-ip';
import type { Simulated } from '../driver.js';

/**
 * The CIP objects that a device has beside those of every target: its parameters, and those of a drive. An attribute
 * that is only described stands beside them, unless its class is one of these.
 */
export function ownObjects({ drive, described }: Pick<Simulated, 'drive' | 'described'>): CipClass[] {
  const parameters = parameterObject(described);
  const own = [
    ...(parameters ? [parameters] : []),
    ...(drive ? driveObjects(drive.facts, drive.change) : []),
  ];
  const taken = new Set(own.map(({ id }) => id));
  return [...own, ...describedObjects(described).filter(({ id }) => !taken.has(id))];
}
