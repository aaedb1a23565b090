export { Cell, Controller, Device, Naming, unknownNameplate } from './cell/model.js';
export { deviceKinds, kindOfText } from './devices/kinds.js';
export { access, Parameter } from './devices/parameter.js';
export type { ParameterPlace } from './devices/parameter.js';
export { retentions } from './devices/parameter.js';
export { ParameterCodec } from './devices/parameterCodec.js';
export type { ParameterValue } from './devices/parameterCodec.js';
export { decimalPlaces } from './devices/decimalPlaces.js';
export type { ReadValues } from './devices/decimalPlaces.js';
export { compareParameters } from './parameters/compare.js';
export type { ComparedParameter, Shown, Source } from './parameters/compare.js';
export { bytesOfHex, hexOf, hexPairs } from './bytes/hexBytes.js';
export { outcomes } from './parameters/outcome.js';
export type { Outcome } from './parameters/outcome.js';
export { withProposedRoles } from './roles/parameterRoles.js';
export { proposedSets } from './parameters/sets.js';
export type { ProposedSet, SettingSet } from './parameters/sets.js';
export { fitOf, plannedValues, restorable, Snapshot, snapshotValues } from './parameters/snapshot.js';
export type { Fit, Restorable, SnapshotValue } from './parameters/snapshot.js';
export { portRings } from './parameters/portRings.js';
export { PortDevice, PortRequests, PortRules, atPort } from './devices/ports.js';
export { firstOpen } from './trouble/ring.js';
export type { CommandOrder, Ring } from './trouble/ring.js';
export { beamsOf, conditionsOf } from './beam/beam.js';
export type { Beam, Moment } from './beam/beam.js';
export { quantitiesOfCell, settingsRead } from './beam/known.js';
export { profileOf, stationsOf, wordProfiles } from './beam/stations.js';
export type { Stations, Words } from './beam/stations.js';
export type { WordProfile } from './motion/wordProfile.js';
export { axisUnit, exactRatio, moduloIncrements, ratioText, scaleThrough } from './motion/mechanics.js';
export type { Output as MotionOutput } from './motion/driveTrain.js';
export {
  blankMotor,
  DriveTrain,
  emptyTrain,
  Motor,
  Move,
  ratedTorqueOf,
  type Follows,
} from './motion/driveTrain.js';
export { countsOf, followedScale, followingRoles, scalingOf, strayed } from './motion/following.js';
export { gearLibrary, motorLibrary, readMotors } from './motion/library.js';
export {
  brakingOf,
  fallOf,
  rpmOf,
  stoppingOf,
  torqueAt,
  type CycleLoads,
  type Loads,
} from './motion/loads.js';
export { momentOf, moveProfile, type MoveProfile } from './motion/moves.js';
export {
  askedFor,
  controlModeOf,
  figuresOf,
  travelOf,
  startUpSteps,
  torqueLimits,
  type StartUpStep,
  type TrainFigures,
} from './motion/startUp.js';
export { nameplateParameters, withNameplate } from './parameters/nameplate.js';
export { driveSettings, type DriveSetting } from './parameters/driveSettings.js';
export { turningCure, type TurningCure } from './parameters/turningCure.js';
export { flawFinding } from './checks/motionRules.js';
export { approvalStands, contentHash } from './safety/approval.js';
export {
  blockKinds,
  blockKindOf,
  objectSeen,
  restingInput,
  wiresOf,
  type InputNow,
} from './safety/blocks.js';
export { meaningOf, statusMeaning } from './safety/meaning.js';
export { SafetyRun } from './safety/network.js';
export { byteOf, feedbackOf, placedBits, signalAt } from './safety/placement.js';
export {
  emptyLogic,
  LogicBlock,
  SafetyLogic,
  StatusBit,
  type BlockType,
  type Wire as LogicWire,
} from './safety/safetyLogic.js';
export { standardLayouts } from './motion/standardLayouts.js';
export type { StandardLayout } from './motion/standardLayouts.js';
export { BeamChanges, OwnCondition } from './cell/beamChanges.js';
export { comparisons, devicesOf, Exchange, placesOf } from './cell/exchange.js';
export type {
  Condition as ExchangeCondition,
  Order as ExchangeOrder,
  Place as ExchangePlace,
  Step as ExchangeStep,
  Value as ExchangeValue,
  Variable as ExchangeVariable,
} from './cell/exchange.js';
export { findPlace, placeText as exchangePlaceText, whatText } from './exchanges/resolve.js';
export { rolePlaces } from './layout/rolePlaces.js';
export { exchangesForCopies } from './exchanges/copies.js';
export { draftFrom } from './exchanges/draft.js';
export type { HeardImage } from './exchanges/draft.js';
export { exchangeOfOrder } from './exchanges/orders.js';
export { exchangeFindings } from './exchanges/check.js';
export { conditionText, orderText, sentencesOf, stepSentence } from './exchanges/sentences.js';
export { ExchangeImages } from './exchanges/images.js';
export {
  letGoLimitMs,
  manualHome,
  manualMove,
  manualNeeds,
  manualValues,
  manualWayOf,
  type ManualWay,
} from './exchanges/manual.js';
export { readyMade, readyMadeFor, showsPart, whenPresent } from './exchanges/readyMade/list.js';
export type { ReadyMade } from './exchanges/readyMade/recipe.js';
export { ExchangeRun, updateMs } from './exchanges/run.js';
export type { Failure, RunState, StepRun } from './exchanges/run.js';
export type { BytesOf, LinkBytes, Plain } from './exchanges/images.js';
export { exchangeManual, exchangeManualFile } from './handover/exchangeManual.js';
export { ParameterSet } from './cell/parameterSet.js';
export { placedSet, readSetText, setText, setWrites, type PlacedSet } from './parameters/ownSets.js';
export { papers, type Paper } from './handover/papers.js';
export { figureText, trainRows, type TrainRow } from './motion/trainRows.js';
export { exchangeCode, exchangeCodeFile, functionBlock } from './handover/structuredText/exchangeCode.js';
export { stepsLeft, writePlan } from './parameters/writePlan.js';
export type { WriteStep } from './parameters/writePlan.js';
export { AddressRange, Network } from './cell/network.js';
export { Link, linkOver, withUpdate } from './cell/link.js';
export type { LinkOf } from './cell/link.js';
export { whatChanged } from './layout/whatChanged.js';
export type { ChangedPlace, HeldBytes, NumberGuess } from './layout/whatChanged.js';
export { elementsOf, sceneOf } from './cell/scene.js';
export { Description, descriptionByHand, offerOf } from './cell/description.js';
export { pointsFor, pointTitle } from './devices/description.js';
export type { ConnectionPoint } from './devices/description.js';
export { Identity, unknownIdentity } from './devices/identity.js';
export { registerTables } from './layout/registerTables.js';
export { protocolById, protocolOf, protocols } from './protocols/list.js';
export type { LinkBase } from './protocols/link.js';
export type { Protocol } from './protocols/protocol.js';
export { isPolled, onlyListens } from './protocols/ethernetIp/link.js';
export { readManualLine, type ManualLine } from './protocols/ethernetIp/manualLine.js';
export type { EthernetIpLink } from './protocols/ethernetIp/link.js';
export { Block, blockBytes } from './protocols/modbusTcp/link.js';
export type { ModbusTcpLink } from './protocols/modbusTcp/link.js';
export { Slot } from './protocols/profinet/link.js';
export type { ProfinetLink } from './protocols/profinet/link.js';
export { maxImageBytes } from './entries/entries.js';
export { byteOrders, Field, radixes } from './layout/field.js';
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
} from './layout/field.js';
export { CommandImage, Derived, FeedbackImage, Group } from './layout/image.js';
export type { Direction, Image } from './layout/image.js';
export { Notation, Numbering } from './layout/notation.js';
export type { NumberedBlock, SignalRange } from './layout/notation.js';
export { allImages, deviceById, imageById, imagesOf } from './cell/find.js';
export { imageTitle } from './layout/image.js';
export type { ImagePlace } from './cell/find.js';
export { applyEdit, Edit, editTitle, readEdit } from './cell/edits/edit.js';
export type { EditOf } from './cell/edits/edit.js';
export { restoring } from './cell/edits/cellRestore.js';
export { refuseOutside } from './cell/edits/parts.js';
export { newCell } from './cell/newCell.js';
export type { NewCell } from './cell/newCell.js';
export { CellFile, cellFileSchema, readCellFile, writeCellFile } from './cell/cellFile.js';
export { maxCellFileBytes } from './cell/size.js';
export { deviceFromVersion2, deviceFromVersion3 } from './cell/upgrade.js';
export { chosenNow } from './cell/chooseCyclic.js';
export { canBeChosen } from './devices/chosenSlots.js';
export type { ChosenSlots } from './devices/chosenSlots.js';
export { parseInput } from './entries/parse.js';
export { identifierOf } from './entries/identifiers.js';
export { copiesOf, firstFree } from './cell/copies.js';
export type { Copies, CopyPlan } from './cell/copies.js';
export { choosePoint, pointsOf } from './cell/choosePoint.js';
export type { PointChoice } from './cell/choosePoint.js';

export {
  bothSides,
  controllerNotation,
  deviceNotation,
  everyAddress,
  notationsOf,
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
export { hasOrder, orderDoubt } from './layout/orderSight.js';
export { agesAt, staleRuns } from './layout/registerRuns.js';
export { fieldAddress } from './layout/fieldAddress.js';
export { asSignal, reachOf, signalsInside, signalsOf } from './layout/signals.js';
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
} from './cell/arrange.js';
export { compareImages } from './layout/compare.js';
export type { Difference } from './layout/compare.js';
export { numberSight, numberTyped } from './layout/numberSight.js';
export type { NumberReading, NumberSight, SetBit } from './layout/numberSight.js';
export { inRadix } from './layout/radix.js';

export { columns } from './tables/columns.js';
export type { Column, Columns } from './tables/columns.js';
export { fieldTable } from './tables/fieldTable.js';
export { readTexts, textEdits } from './tables/readTexts.js';
export type { ReadTexts, TextChange } from './tables/readTexts.js';
export { guessReading, withColumns, tableCells, tableUnits } from './tables/guessReading.js';
export type { TableReading, TableUnit } from './tables/guessReading.js';
export { parameterColumns } from './tables/parameterColumns.js';
export type { ParameterColumn } from './tables/parameterColumns.js';
export { placeText, readPlace } from './tables/parameterPlace.js';
export { keyText, readKey } from './tables/parameterKey.js';
export { parameterTable } from './tables/parameterTable.js';
export { guessParameters, readParameters } from './tables/readParameters.js';
export type { ParameterReading, ReadParameters } from './tables/readParameters.js';
export { wholeEntry } from './tables/cells.js';
export { readTable } from './tables/readTable.js';
export type { ReadTable } from './tables/readTable.js';

export { asDescribed, lightsText, ownLights, portLights, readLights, shownText } from './devices/light.js';
export type { LightMeaning } from './devices/light.js';
export { indicatorText, lightStates, SeenLight, seenIndicator } from './devices/indicators.js';
export type { Indicator } from './devices/indicators.js';

export { actingByRoles } from './cell/acting.js';
export { formerKind, formerRole } from './cell/formerStandIns.js';
export { faultChoices, faultTitle, ownFaults } from './trouble/faults.js';
export { Fault, faultKey } from './devices/fault.js';
export { causesOf } from './trouble/causes.js';
export type { Doubtful } from './trouble/causes.js';
export type { Cause } from './protocols/cause.js';
export { isHeldUp } from './trouble/commonCauses.js';
export { actingStops, doubtfulValues, measuredField } from './trouble/doubtful.js';
export { identityStatusText } from './protocols/symptoms.js';
export type { Probe, Symptoms } from './protocols/symptoms.js';
export { traceText } from './trouble/traceEvent.js';
export type { TraceEvent } from './trouble/traceEvent.js';

export { check } from './checks/check.js';
export { sizeReading } from './protocols/sizeReading.js';

export { structuredText, structuredTextFile } from './handover/structuredText/structuredText.js';
export { parameterCode, parameterCodeFile } from './handover/structuredText/parameterCode.js';
export { signalList, signalListFile } from './handover/signalList.js';

export { finding } from './messages/finding.js';
export type { Finding, Place, Severity } from './messages/finding.js';
export { Problem } from './messages/problem.js';
export type { ProblemReport } from './messages/problem.js';
export type { Code, Facts } from './messages/facts.js';

export { capturedBytes, wireBytes } from './protocols/frames.js';
export { lineUpBudget } from './lineup/lineUpBudget.js';
export type { TimeOfDevice } from './lineup/lineUpBudget.js';
export { linkBudget, longerUpdate, longestUpdate } from './protocols/linkBudget.js';
export type { LinkBudget } from './protocols/linkBudget.js';

export { hostsOf } from './bytes/subnet.js';
export { freeAddress, isHost, maskOf, rangesAt, subnetOf } from './lineup/addressPlan.js';
export { compareLineUp, deviceFound, lightsOf, nameplateEdit, serialText } from './lineup/found.js';
export type { AddressSource, Compared, Cure, Found, Verdict } from './lineup/found.js';
export { namingPieces, namingTrouble, nextName, patternTrouble } from './lineup/naming.js';
export { stationNameOf, stationNameTrouble } from './protocols/profinet/stationName.js';
export { addressNumber, addressPlus, dottedAddress } from './bytes/ipv4.js';
export { computerStanding } from './lineup/thisComputer.js';
export type { OwnAddress, Standing } from './lineup/thisComputer.js';
export { replacement } from './lineup/replace.js';
export type { Replacement } from './lineup/replace.js';
export { tableCsv } from './tables/csv.js';
export { readRegister, registerReference } from './layout/registerRuns.js';
export { readLabels } from './tables/labels.js';
export { imageStretches } from './protocols/imageStretches.js';
export { bitWays, numberWays, type SideValue } from './devices/sideValue.js';
export { rolesOfFields } from './layout/field.js';
export { factsOfRole, roleEntry, roleNames, roles, roleText, type Role, type RoleOf } from './layout/role.js';
export { rolesOfKind } from './roles/kindRoles.js';
export { Machine, partsOf, type ReadDevice } from './machine/machine.js';
export { actedOn, namesOf } from './machine/deviceNames.js';
export { MachineRow } from './cell/machineRow.js';
export { quantitiesOf, type Quantity } from './devices/surroundings.js';
export { proposeRoles, rolesByName, type RoleProposal } from './roles/propose.js';
