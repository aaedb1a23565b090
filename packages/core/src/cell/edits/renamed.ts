import { identifierOf } from '../../entries/identifiers.js';
import type { MachineRow } from '../machineRow.js';

/** The machine with a device under another name, wherever it is named; other lines stay the same values. */
export function renamed(machine: readonly MachineRow[], before: string, after: string): MachineRow[] {
  const [old, now] = [identifierOf(before), identifierOf(after)];
  const owner = new RegExp(`(?<![\\w.])${old}(?=\\s*\\.)`, 'g');
  const rows = machine.map((row) => {
    const [name, expression] = [row.name.replace(owner, now), row.expression.replace(owner, now)];
    return name === row.name && expression === row.expression ? row : { ...row, name, expression };
  });
  return rows.every((row, i) => row === machine[i]) ? (machine as MachineRow[]) : rows;
}
