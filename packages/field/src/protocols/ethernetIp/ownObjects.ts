import { describedObjects, driveObjects, parameterObject, type CipClass } from '@fadenkreuz/core/ethernet-ip';
import type { Simulated } from '../driver.js';

/**
 * The CIP objects that a device has beside those of every target: its parameters, and those of a drive. An attribute
 * that is only described stands beside them, unless its class is one of these.
 */
export function ownObjects({
  parameters,
  drive,
  described,
}: Pick<Simulated, 'parameters' | 'drive' | 'described'>): CipClass[] {
  const own = [
    ...(parameters ? [parameterObject(parameters)] : []),
    ...(drive ? driveObjects(drive.facts, drive.change) : []),
  ];
  const taken = new Set(own.map(({ id }) => id));
  return [...own, ...describedObjects(described).filter(({ id }) => !taken.has(id))];
}
