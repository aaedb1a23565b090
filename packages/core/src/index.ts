export {
  Cell,
  Controller,
  Device,
  Identity,
  Naming,
  standIns,
  unknownIdentity,
  unknownNameplate,
} from './cell/model.js';
export { deviceKinds } from './cell/kinds.js';
export { access, Parameter } from './cell/parameter.js';
export type { ParameterPlace } from './cell/parameter.js';
export { AddressRange, Network } from './cell/network.js';
export { Block, blockBytes, connectionsOf, Link, protocols, registerTables, Slot } from './cell/link.js';
export { maxImageBytes } from './cell/entries.js';
export { byteOrders, Field, radixes } from './cell/field.js';
export type {
  BitLabel,
  ByteOrder,
  Decimals,
  Label,
  Limits,
  Radix,
  Repeat,
  Scale,
  Sign,
  Special,
  TextForm,
} from './cell/field.js';
export { CommandImage, Derived, FeedbackImage, Group } from './cell/image.js';
export type { Direction, Image } from './cell/image.js';
export { Notation, Numbering } from './cell/notation.js';
export type { SignalRange } from './cell/notation.js';
export { allImages, deviceById, imageById, imagesOf, imageTitle } from './cell/find.js';
export type { ImagePlace } from './cell/find.js';
export { applyEdit, Edit, editTitle, refuseOutside } from './cell/edits.js';
export { CellFile, cellFileSchema, maxCellFileBytes, readCellFile, writeCellFile } from './cell/cellFile.js';
export { parseInput } from './cell/parse.js';
export { identifierOf } from './cell/identifiers.js';
export { copiesOf, firstFree } from './cell/copies.js';
export type { Copies, CopyPlan } from './cell/copies.js';

export {
  bothSides,
  controllerNotation,
  deviceNotation,
  everyAddress,
  notationsOf,
  sceneOf,
  writeAddress,
} from './layout/address.js';
export type { AddressScene, BothSides } from './layout/address.js';
export { bitOfAddress } from './layout/readAddress.js';
export { runsOf, swappedByte } from './layout/byteOrder.js';
export { codecOf } from './layout/codec.js';
export type { Codec } from './layout/codec.js';
export { derivedOf, derivedReader, lightCurtainSpan, readsName } from './layout/derived.js';
export { fieldTypeNames, fieldTypes, goesAnywhere, isNumber, readsOf } from './layout/fieldTypes.js';
export type { FieldType, Value } from './layout/fieldTypes.js';
export { freeRuns, signalAtBit, snap, typeForRun, typeResized } from './layout/placement.js';
export { readout } from './layout/readout.js';
export type { ReadoutStep } from './layout/readout.js';
export { reachOf, signalsInside, signalsOf } from './layout/signals.js';
export type { Signal } from './layout/signals.js';
export { decimalsOf, rangeOf } from './layout/valueChain.js';
export {
  alignFields,
  duplicateFields,
  insertField,
  moveFields,
  packFields,
  reserveGap,
  resizeField,
} from './layout/arrange.js';
export { compareImages } from './layout/compare.js';
export type { Difference } from './layout/compare.js';
export { numberSight, numberTyped } from './layout/numberSight.js';
export type { NumberReading, NumberSight, SetBit } from './layout/numberSight.js';
export { inRadix } from './layout/radix.js';

export { columns } from './tables/columns.js';
export type { Column, Columns } from './tables/columns.js';
export { fieldTable, tableCsv } from './tables/fieldTable.js';
export { guessReading, tableCells, tableUnits } from './tables/guessReading.js';
export type { TableReading, TableUnit } from './tables/guessReading.js';
export { parameterColumns } from './tables/parameterColumns.js';
export type { ParameterColumn } from './tables/parameterColumns.js';
export { placeText, readPlace } from './tables/parameterPlace.js';
export { parameterTable } from './tables/parameterTable.js';
export { guessParameters, readParameters } from './tables/readParameters.js';
export type { ParameterReading, ReadParameters } from './tables/readParameters.js';
export { readTable } from './tables/readTable.js';
export type { ReadTable } from './tables/readTable.js';

export { behaviours } from './behaviours/behaviours.js';
export { asDescribed, lightsText, readLights, shownText } from './cell/light.js';
export type { LightMeaning } from './cell/light.js';
export { indicatorText } from './behaviours/indicators.js';
export type { Indicator } from './behaviours/indicators.js';

export { Fault, faultChoices, faultKey, faultTitle } from './trouble/faults.js';
export { causesOf } from './trouble/causes.js';
export type { Cause, Doubtful } from './trouble/causes.js';
export { doubtfulValues, measuredField } from './trouble/doubtful.js';
export { identityStatusText } from './trouble/symptoms.js';
export type { Probe, Symptoms } from './trouble/symptoms.js';
export { traceText } from './trouble/traceEvent.js';
export type { TraceEvent } from './trouble/traceEvent.js';

export { check } from './checks/check.js';
export { sizeReading } from './checks/sizeReading.js';

export { structuredText, structuredTextFile } from './handover/structuredText.js';
export { signalList, signalListFile } from './handover/signalList.js';

export { finding } from './messages/finding.js';
export type { Finding, Place, Severity } from './messages/finding.js';
export { Problem } from './messages/problem.js';
export type { ProblemReport } from './messages/problem.js';
export type { Code, Facts } from './messages/facts.js';

export { capturedBytes, wireBytes } from './budget/frames.js';
export { lineUpBudget } from './budget/lineUpBudget.js';
export type { TimeOfDevice } from './budget/lineUpBudget.js';
export { linkBudget, longerUpdate, longestUpdate } from './budget/linkBudget.js';
export type { LinkBudget } from './budget/linkBudget.js';

export { freeAddress, hostsOf, isHost, maskOf, rangesAt, subnetOf } from './lineup/addressPlan.js';
export { compareLineUp, deviceFound, lightsOf, nameplateEdit, serialText } from './lineup/found.js';
export type { AddressSource, Compared, Cure, Found, Verdict } from './lineup/found.js';
export { namingPieces, namingTrouble, patternTrouble } from './lineup/naming.js';
export { stationNameOf, stationNameTrouble } from './lineup/stationName.js';
export { addressNumber, addressPlus, dottedAddress } from './bytes/ipv4.js';
export { computerStanding } from './lineup/thisComputer.js';
export type { OwnAddress, Standing } from './lineup/thisComputer.js';
export { replacement } from './lineup/replace.js';
export type { Replacement } from './lineup/replace.js';
