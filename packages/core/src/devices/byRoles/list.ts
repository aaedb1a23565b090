import type { DeviceKind } from '../kinds.js';
import { drive } from './drive.js';
import type { RoleBehaviour } from './roleBehaviour.js';
import { servoAxis } from './servoAxis.js';
import { visionSensor } from './visionSensor.js';
import { weigher } from './weigher.js';

/** Forgets what kind of state a behaviour has: who keeps it only hands it back. */
const sealed = <State>(behaviour: RoleBehaviour<State>): RoleBehaviour<unknown> =>
  behaviour as RoleBehaviour<unknown>;

/** How devices act that have roles, by kind. */
const byKind: Partial<Record<DeviceKind, RoleBehaviour<unknown>>> = {
  'variable-speed drive': sealed(drive),
  'soft starter': sealed(drive),
  'servo axis': sealed(servoAxis),
  'vision sensor': sealed(visionSensor),
  weigher: sealed(weigher),
};

export const roleBehaviourOf = (kind: DeviceKind): RoleBehaviour<unknown> | undefined => byKind[kind];
