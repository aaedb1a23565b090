import type { Cell, Device } from '../cell/model.js';
import { identifierOf } from '../entries/identifiers.js';
import { parseExpression } from '../layout/expression.js';
import { actedOn, namesOf } from '../machine/deviceNames.js';
import { partsOf, timeName } from '../machine/machine.js';
import { finding } from '../messages/finding.js';
import { Problem } from '../messages/problem.js';
import type { Rule } from './rule.js';

/**
 * What is wrong with the lines of the machine around the devices. They are of the bench alone: one for a device that is
 * not there harms nothing.
 */

const deviceOf = ({ devices }: Cell, owner: string): Device | undefined =>
  devices.find(({ name }) => identifierOf(name) === owner);

/** A line for a device that is not there, or for something that neither acts on it nor is shown by it. */
export const machineTargetUnknown: Rule = (cell) =>
  cell.machine.flatMap((row) => {
    const [owner, what] = partsOf(row.name);
    if (owner === undefined) return [];
    const device = deviceOf(cell, owner);
    if (device && actedOn(device).includes(what)) return [];
    const missing = device ? `${what} of ${device.name}` : owner;
    return [finding('machine.targetUnknown', 'notice', {}, { line: row.name, missing })];
  });

/** An expression that cannot be read, or that names what is not there. */
export const machineWrong: Rule = (cell) => {
  const quantities = new Set(
    cell.machine.flatMap(({ name }) => {
      const [owner, what] = partsOf(name);
      return owner === undefined ? [what] : [];
    }),
  );
  return cell.machine.flatMap((row) => {
    if (row.expression === '') return [];
    try {
      const missing = parseExpression(row.expression, true).names.filter((name) => {
        const [owner, what] = partsOf(name);
        if (owner === undefined) return what !== timeName && !quantities.has(what);
        const device = deviceOf(cell, owner);
        return !device || !namesOf(device).reads.includes(what);
      });
      return missing.length > 0
        ? [finding('machine.nameUnknown', 'notice', {}, { line: row.name, missing: missing.join(', ') })]
        : [];
    } catch (error) {
      if (!(error instanceof Problem)) throw error;
      return [finding('machine.wrong', 'warning', {}, { line: row.name, reason: error.message })];
    }
  });
};

/** Two lines for one thing: the second undoes the first. */
export const machineTwice: Rule = ({ machine }) => {
  const seen = new Set<string>();
  return machine.flatMap(({ name }) => {
    const key = partsOf(name).join('.');
    if (!seen.has(key)) {
      seen.add(key);
      return [];
    }
    return [finding('machine.twice', 'warning', {}, { line: name })];
  });
};
