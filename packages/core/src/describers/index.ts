export type * from './describer.js';
export { readEds } from './eds/readEds.js';
export { writeEds } from './eds/writeEds.js';
export { fileText } from './fileText.js';
export { connectionImages, connectionPoints, fieldsOf, scaleOf, statedValue } from './images.js';
export type { ConnectionImages, DescribedImage } from './images.js';
export { deviceOf } from './device.js';
export type { DevicePlace } from './device.js';
export { describerOf } from './describerOf.js';
export { maxDescriberBytes, readDescriber, summaryOf } from './anyDescriber.js';
export type { AnyDescriber, DescriberSummary } from './anyDescriber.js';
export type * from './gsdml/gsdml.js';
export { deviceOfGsdml, plugsOf } from './gsdml/gsdmlDevice.js';
export { stretchFields } from './gsdml/gsdmlFields.js';
export { factoryPlugs, freeSlots, movesBetween, plugged } from './gsdml/plugging.js';
export type { Move, Plug, Plugged, SubmodulePlace } from './gsdml/plugging.js';
export type * from './iodd/iodd.js';
export { dataBytes, processDataFields } from './iodd/ioddFields.js';
export {
  deviceOfTable,
  readTableDescriber,
  tableDescriberOf,
  writeTableDescriber,
} from './table/tableDescriber.js';
export type { TableDescriber } from './table/tableDescriber.js';
export { packageLimits } from './package.js';
export { xmlLimits } from './xml.js';
export { choicesOf, deviceOfChoice } from './choices.js';
export type { Choice } from './choices.js';
export { changesForDevice, factChanges, factsOf } from './facts.js';
export type { Fact, FactChange } from './facts.js';
