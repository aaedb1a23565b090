import { anyDriver, type Driver } from './driver.js';
import { ethernetIpDriver } from './ethernetIp/driver.js';
import { modbusTcpDriver } from './modbusTcp/driver.js';

/** Every protocol that is spoken. */
export const drivers: readonly Driver[] = [anyDriver(ethernetIpDriver), anyDriver(modbusTcpDriver)];

/** The driver of a protocol; undefined for one that is planned with but not spoken yet. */
export const driverOf = (protocol: string): Driver | undefined =>
  drivers.find((driver) => driver.protocol === protocol);
