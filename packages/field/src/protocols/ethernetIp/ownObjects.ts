import { driveObjects, parameterObject, type CipClass } from '@fadenkreuz/core/ethernet-ip';
import type { Simulated } from '../driver.js';

/** The CIP objects that a device has beside those of every target: its parameters, and those of a drive. */
export const ownObjects = ({ parameters, drive }: Pick<Simulated, 'parameters' | 'drive'>): CipClass[] => [
  ...(parameters ? [parameterObject(parameters)] : []),
  ...(drive ? driveObjects(drive.facts, drive.change) : []),
];
