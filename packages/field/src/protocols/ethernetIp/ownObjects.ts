import {
  describedObjects,
  driveObjects,
  parameterObject,
  portObject,
  type CipClass,
} from '@fadenkreuz/core/ethernet-ip';
import type { Simulated } from '../driver.js';

/**
 * The CIP objects that a device has beside those of every target: its parameters, those of a drive, and the one behind
 * which the devices at its ports stand. An attribute
 * that is only described stands beside them, unless its class is one of these.
 */
export function ownObjects({
  drive,
  described,
  description,
}: Pick<Simulated, 'drive' | 'described' | 'description'>): CipClass[] {
  const parameters = parameterObject(described);
  const ports = portObject(description.portRules?.requests ?? null, described);
  const own = [
    ...(parameters ? [parameters] : []),
    ...(ports ? [ports] : []),
    ...(drive ? driveObjects(drive.facts, drive.change) : []),
  ];
  const taken = new Set(own.map(({ id }) => id));
  return [...own, ...describedObjects(described).filter(({ id }) => !taken.has(id))];
}
