export type { AssemblySpec, Behaviour, Stimulus } from './behaviour.js';
export { behaviours } from './behaviours.js';
export { climateIo, type ClimateState } from './climateIo.js';
