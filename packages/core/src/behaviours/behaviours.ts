import { standIns, type Device, type Identity } from '../cell/model.js';
import type { Behaviour } from './behaviour.js';
import { climateIo } from './climateIo.js';
import { ioLinkMaster } from './ioLinkMaster.js';
import { lightCurtain } from './lightCurtain.js';
import { marker } from './marker.js';
import { robot } from './robot.js';
import { servoAxis } from './servoAxis.js';
import { softStarter } from './softStarter.js';
import { speedDrive } from './speedDrive.js';
import { valveTerminal } from './valveTerminal.js';
import { visionSensor } from './visionSensor.js';
import { weigher } from './weigher.js';

/** Forgets what kind of state a behaviour has: who keeps it only hands it back. */
const sealed = <State>(behaviour: Behaviour<State>): Behaviour<unknown> => behaviour as Behaviour<unknown>;

/** Every kind of device that has a stand-in, by the name that a device of the cell gives. */
export const behaviours: Record<NonNullable<Device['standIn']>, Behaviour<unknown>> = {
  climateIo: sealed(climateIo),
  speedDrive: sealed(speedDrive),
  servoAxis: sealed(servoAxis),
  robot: sealed(robot),
  visionSensor: sealed(visionSensor),
  lightCurtain: sealed(lightCurtain),
  valveTerminal: sealed(valveTerminal),
  weigher: sealed(weigher),
  marker: sealed(marker),
  softStarter: sealed(softStarter),
  ioLinkMaster: sealed(ioLinkMaster),
};

/** The stand-in of a product: the kind of device whose nameplate has the same vendor, type and product code; null for none. */
export const standInOf = ({
  vendor,
  deviceType,
  productCode,
}: Pick<Identity, 'vendor' | 'deviceType' | 'productCode'>): Device['standIn'] =>
  standIns.find((id) => {
    const own = behaviours[id].identity;
    return own.vendor === vendor && own.deviceType === deviceType && own.productCode === productCode;
  }) ?? null;
