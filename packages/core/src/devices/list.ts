import type { Identity } from './identity.js';
import { standIns, type StandInKind } from './standIns.js';
import type { Behaviour } from './behaviour.js';
import { climateIo } from './climateIo/behaviour.js';
import { ioLinkMaster } from './ioLinkMaster/behaviour.js';
import { lightCurtain } from './lightCurtain/behaviour.js';
import { marker } from './marker/behaviour.js';
import { robot } from './robot/behaviour.js';
import { servoAxis } from './servoAxis/behaviour.js';
import { softStarter } from './softStarter/behaviour.js';
import { speedDrive } from './speedDrive/behaviour.js';
import { valveTerminal } from './valveTerminal/behaviour.js';
import { visionSensor } from './visionSensor/behaviour.js';
import { weigher } from './weigher/behaviour.js';

/** Forgets what kind of state a behaviour has: who keeps it only hands it back. */
const sealed = <State>(behaviour: Behaviour<State>): Behaviour<unknown> => behaviour as Behaviour<unknown>;

/** Every kind of device that has a stand-in, by the name that a device of the cell gives. */
export const behaviours: Record<StandInKind, Behaviour<unknown>> = {
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

/**
 * The stand-in of a product: the kind of device whose nameplate has the same vendor, type and product code; null for
 * none.
 */
export const standInOf = ({
  vendor,
  deviceType,
  productCode,
}: Pick<Identity, 'vendor' | 'deviceType' | 'productCode'>): StandInKind | null =>
  standIns.find((id) => {
    const own = behaviours[id].identity;
    return own.vendor === vendor && own.deviceType === deviceType && own.productCode === productCode;
  }) ?? null;
