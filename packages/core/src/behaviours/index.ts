export type { AssemblySpec, Behaviour, DeviceFault, Reached, Stimulus } from './behaviour.js';
export { behaviours } from './behaviours.js';
export { climateIo, type ClimateState } from './climateIo.js';
export { nextSeed, swing } from './disturbance.js';
export { indicatorText, moduleStatus, networkStatus, portLight } from './indicators.js';
export type { Indicator, NetworkState } from './indicators.js';
export { morning, type World } from './world.js';
