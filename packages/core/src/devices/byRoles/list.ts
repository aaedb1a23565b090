import type { DeviceKind } from '../kinds.js';
import { drive } from './drive.js';
import { identificationReader } from './identificationReader.js';
import { ioLinkMaster } from './ioLinkMaster.js';
import { lightCurtain } from './lightCurtain.js';
import { marker } from './marker.js';
import { measuringSensor } from './measuringSensor.js';
import { motorStarter } from './motorStarter.js';
import { processIo, remoteIo, valveTerminal } from './points.js';
import { robot } from './robot.js';
import type { RoleBehaviour } from './roleBehaviour.js';
import { servoAxis } from './servoAxis.js';
import { softStarter } from './softStarter.js';
import { torqueTool } from './torqueTool.js';
import { visionSensor } from './visionSensor.js';
import { weigher } from './weigher.js';

/** Forgets what kind of state a behaviour has: who keeps it only hands it back. */
const sealed = <State>(behaviour: RoleBehaviour<State>): RoleBehaviour<unknown> =>
  behaviour as RoleBehaviour<unknown>;

/** How devices act that have roles, by kind. */
const byKind: Record<Exclude<DeviceKind, 'other'>, RoleBehaviour<unknown>> = {
  'variable-speed drive': sealed(drive),
  'soft starter': sealed(softStarter),
  'servo axis': sealed(servoAxis),
  'vision sensor': sealed(visionSensor),
  weigher: sealed(weigher),
  robot: sealed(robot),
  'safety controller': sealed(lightCurtain),
  'valve terminal': sealed(valveTerminal),
  marker: sealed(marker),
  'process I/O': sealed(processIo),
  'IO-Link master': sealed(ioLinkMaster),
  'remote I/O': sealed(remoteIo),
  'motor starter': sealed(motorStarter),
  'identification reader': sealed(identificationReader),
  'torque tool': sealed(torqueTool),
  'measuring sensor': sealed(measuringSensor),
};

export const roleBehaviourOf = (kind: DeviceKind): RoleBehaviour<unknown> | undefined =>
  kind === 'other' ? undefined : byKind[kind];
