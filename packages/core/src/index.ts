export {
  Cell,
  CommandImage,
  Controller,
  Device,
  deviceKinds,
  FeedbackImage,
  Field,
  Identity,
  Label,
  Link,
  maxImageBytes,
  Network,
  Scale,
} from './cell/model.js';
export type { Direction, Image } from './cell/model.js';
export { allImages, deviceById, fieldEnd, imageById, imagesOf, imageTitle } from './cell/find.js';
export type { ImagePlace } from './cell/find.js';
export { applyEdit, Edit, editTitle, refuseOutside } from './cell/edits.js';
export { CellFile, cellFileSchema, maxCellFileBytes, readCellFile, writeCellFile } from './cell/cellFile.js';
export { parseInput } from './cell/parse.js';
export { bitOfAddress, bothSides } from './layout/address.js';
export type { BothSides } from './layout/address.js';
export { compileCodec } from './layout/codec.js';
export type { Codec } from './layout/codec.js';
export { fieldTypeNames, fieldTypes, limitsOf } from './layout/fieldTypes.js';
export type { FieldType, Value } from './layout/fieldTypes.js';
export { fieldAtBit, freeRuns, overlapsIn, snap, typeForRun, typeResized } from './layout/placement.js';
export { labelOf, readout, shortText } from './layout/readout.js';
export type { ReadoutStep } from './layout/readout.js';
export { decimalsOf, fromEngineering, parseValue, toEngineering, valueText } from './layout/scaling.js';
export { behaviours } from './behaviours/behaviours.js';
export { check } from './checks/check.js';
export { sizeReading } from './checks/sizeReading.js';
export { identifierOf, uniqueIdentifiers } from './handover/identifiers.js';
export { structuredText, structuredTextFile } from './handover/structuredText.js';
export { signalList, signalListFile } from './handover/signalList.js';
export { finding } from './messages/finding.js';
export type { Finding, Place, Severity } from './messages/finding.js';
export { Problem, wordingOf } from './messages/problem.js';
export type { ProblemReport } from './messages/problem.js';
export type { Code, Facts } from './messages/facts.js';
