export type * from './describer.js';
export { readEds } from './eds/readEds.js';
export { writeEds } from './eds/writeEds.js';
export { edsLimits } from './eds/grammar.js';
export { connectionImages, connectionPoints, fieldsOf, scaleOf, statedValue } from './images.js';
export type { ConnectionImages, DescribedImage } from './images.js';
