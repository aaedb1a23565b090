export { LaidOut, type PointBytes } from './laidOut.js';
export { RoleDriven } from './roleDriven.js';
