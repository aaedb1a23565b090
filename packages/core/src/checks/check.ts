import type { Cell } from '../cell/model.js';
import type { Finding, Severity } from '../messages/finding.js';
import {
  addressInRange,
  addressInSubnet,
  addressPlanWhole,
  addressTwice,
  gatewayBetween,
} from './addressRules.js';
import { reactionAsWanted, updateWithinLimits, withinLimits } from './budgetRules.js';
import {
  deviceNameNoIdentifier,
  deviceNameSaysNothing,
  deviceNameTooLong,
  deviceNameTwice,
  namesFollowPattern,
  safetyStatusOnly,
} from './deviceRules.js';
import {
  fieldHalvesApart,
  fieldNameTwice,
  fieldOddUnderSwap,
  fieldOverlap,
  fieldPastEnd,
  fieldsStraddle,
  orderNotStated,
} from './fieldRules.js';
import { exchangesWrong } from './exchangeRules.js';
import { trainsWrong } from './motionRules.js';
import { safetyLogicWrong } from './safetyRules.js';
import { imageAreaOverlap, imageNotWholeElements, layoutAgainstPoint } from './imageRules.js';
import { lossAgainstLink, protocolAgainstOffer, rulesOfProtocols } from './linkRules.js';
import {
  baseDoubtful,
  blockBaseDoubtful,
  derivedWrong,
  notationUnknown,
  rangeBaseDoubtful,
} from './numberingRules.js';
import {
  decimalsByParameter,
  parameterPlaceReached,
  parameterPlaceTwice,
  parameterValues,
} from './parameterRules.js';
import {
  addressStillAsked,
  lossWithoutReaction,
  networkDoesNotCommand,
  orderAgainstSetting,
  portNotReady,
  portLengthDiffers,
  limitBeyondNameplate,
  portPlaceReached,
} from './settingRules.js';
import { machineTargetUnknown, machineTwice, machineWrong } from './machineRules.js';
import { roleMissing, roleTwice, roleUnfit } from './roleRules.js';
import type { Rule } from './rule.js';
import {
  decimalsNowhere,
  factorTooFine,
  labelsOutside,
  limitsAgainstRange,
  safetyCommand,
  safetyFeedback,
  signNowhere,
  signUnused,
  unitMissing,
} from './valueRules.js';

/** Every rule, in the order of work: names and addresses, then images, then fields, then parameters. */
export const allRules: readonly Rule[] = [
  deviceNameTwice,
  deviceNameNoIdentifier,
  deviceNameTooLong,
  deviceNameSaysNothing,
  namesFollowPattern,
  addressPlanWhole,
  addressTwice,
  addressInSubnet,
  addressInRange,
  gatewayBetween,
  withinLimits,
  updateWithinLimits,
  reactionAsWanted,
  safetyStatusOnly,
  protocolAgainstOffer,
  lossAgainstLink,
  rulesOfProtocols,
  layoutAgainstPoint,
  imageNotWholeElements,
  imageAreaOverlap,
  fieldOverlap,
  fieldPastEnd,
  baseDoubtful,
  rangeBaseDoubtful,
  blockBaseDoubtful,
  notationUnknown,
  fieldNameTwice,
  fieldsStraddle,
  fieldOddUnderSwap,
  fieldHalvesApart,
  orderNotStated,
  signNowhere,
  signUnused,
  decimalsNowhere,
  unitMissing,
  limitsAgainstRange,
  factorTooFine,
  labelsOutside,
  safetyCommand,
  safetyFeedback,
  derivedWrong,
  parameterPlaceTwice,
  parameterPlaceReached,
  parameterValues,
  networkDoesNotCommand,
  lossWithoutReaction,
  addressStillAsked,
  orderAgainstSetting,
  portNotReady,
  portLengthDiffers,
  limitBeyondNameplate,
  portPlaceReached,
  machineTargetUnknown,
  machineWrong,
  machineTwice,
  roleTwice,
  roleUnfit,
  roleMissing,
  decimalsByParameter,
  exchangesWrong,
  trainsWrong,
  safetyLogicWrong,
];

const rank: Record<Severity, number> = { error: 0, warning: 1, notice: 2 };

/** All findings of a cell, errors first. */
export const check = (cell: Cell, rules: readonly Rule[] = allRules): Finding[] =>
  rules.flatMap((rule) => rule(cell)).sort((a, b) => rank[a.severity] - rank[b.severity]);
