export type { Behaviour, DeviceFault, Stimulus } from './behaviour.js';
export { plainBehaviour } from './plain/behaviour.js';
export { bitWays, movingValue, numberWays, SideValue, type MovingValue } from './sideValue.js';
export { nextSeed, swing } from './disturbance.js';
export { indicatorText, moduleStatus, networkStatus, portLight } from './indicators.js';
export type { Indicator, NetworkState } from './indicators.js';
export type { ConnectionPoint, DescriptionOf, PointUse } from './description.js';
export type { DriveChange, DriveFacts } from './driveFacts.js';
export type { Refusal } from './refusal.js';
export { lossBy } from './description.js';
export { holdsBits } from '../layout/registerTables.js';
export type { RegisterTable } from '../layout/registerTables.js';
export { roleBehaviourOf } from './byRoles/list.js';
export { Commands, type Told } from './byRoles/commands.js';
export type { RoleBehaviour } from './byRoles/roleBehaviour.js';
export { RoleImage, type RoleValues } from './byRoles/roleImage.js';
export { DescribedParameters, type DescribedParameter } from './plain/parameters.js';
export {
  atPort,
  longestPortValue,
  mailboxHead,
  mailboxStates,
  mailboxWants,
  type PortRequests,
} from './ports.js';
export { ChosenValues } from './plain/chosenValues.js';
export { lightAt, lightsAt, type LightOccasion } from './light.js';
