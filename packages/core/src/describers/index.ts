export type * from './describer.js';
export type * from './shared/described.js';
export type * from './eds/eds.js';
export { readEds } from './eds/readEds.js';
export { writeEds } from './eds/writeEds.js';
export { fileText } from './shared/fileText.js';
export {
  connectionImages,
  connectionPoints,
  fieldsOf,
  scaleOf,
  statedValue,
} from './eds/connectionImages.js';
export type { ConnectionImages, DescribedImage } from './eds/connectionImages.js';
export { deviceOf } from './eds/edsDevice.js';
export { describerOf } from './eds/edsOfDevice.js';
export { maxDescriberBytes, readDescriber } from './read.js';
export {
  choicesOf,
  countsOf,
  descriptionOf,
  deviceOfChoice,
  factsOf,
  summaryOf,
  writersFor,
} from './list.js';
export type { AnyDescriber } from './list.js';
export type * from './gsdml/gsdml.js';
export { deviceOfGsdml, devicesOfGsdml, pluggedInto } from './gsdml/gsdmlDevice.js';
export { stretchFields } from './gsdml/gsdmlFields.js';
export { factoryPlugs, freeSlots, movesBetween, plugged } from './gsdml/plugging.js';
export type { Move, Plug, Plugged, SubmodulePlace } from './gsdml/plugging.js';
export type * from './iodd/iodd.js';
export { dataBytes, processDataFields } from './iodd/ioddFields.js';
export { hasTexts, parameterAttributes, parametersSaid } from './eds/parameterObject.js';
export type { ParameterAttribute, SaidParameter } from './eds/parameterObject.js';
export { portParameters } from './iodd/ioddParameters.js';
export {
  deviceOfTable,
  readTableDescriber,
  tableDescriberOf,
  writeTableDescriber,
} from './table/tableDescriber.js';
export type { TableDescriber } from './table/tableDescriber.js';
export { packageLimits } from './shared/package.js';
export { xmlLimits } from './shared/xml.js';
export { changesForDevice, factChanges } from './factChanges.js';
export type { FactChange } from './factChanges.js';
export type { Fact } from './fact.js';
