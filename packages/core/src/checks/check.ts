import type { Cell } from '../cell/model.js';
import type { Finding, Severity } from '../messages/finding.js';
import {
  addressInSubnet,
  addressTwice,
  deviceNameNoIdentifier,
  deviceNameTwice,
  safetyStatusOnly,
} from './deviceRules.js';
import { fieldNameTwice, fieldOverlap, fieldPastEnd } from './fieldRules.js';
import { imageAgainstDevice, imageAreaOverlap, imageNotWholeElements } from './imageRules.js';
import type { Rule } from './rule.js';

/** Every rule, in the order of work: names and addresses, then images, then fields. */
export const allRules: readonly Rule[] = [
  deviceNameTwice,
  deviceNameNoIdentifier,
  addressTwice,
  addressInSubnet,
  safetyStatusOnly,
  imageAgainstDevice,
  imageNotWholeElements,
  imageAreaOverlap,
  fieldOverlap,
  fieldPastEnd,
  fieldNameTwice,
];

const rank: Record<Severity, number> = { error: 0, warning: 1, notice: 2 };

/** All findings of a cell, errors first. */
export const check = (cell: Cell, rules: readonly Rule[] = allRules): Finding[] =>
  rules.flatMap((rule) => rule(cell)).sort((a, b) => rank[a.severity] - rank[b.severity]);
