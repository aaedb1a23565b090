import { machineRowById } from '../find.js';
import { MachineRow } from '../machineRow.js';
import { changed, changesOf, editKind, partId } from './editKind.js';

/** Entries of a line of the machine around the devices. */
export const machineSet = editKind(
  'machine.set',
  { row: partId, set: changesOf(MachineRow) },
  {
    apply: (cell, { row, set }) => {
      const before = machineRowById(cell, row);
      return { ...cell, machine: cell.machine.map((r) => (r === before ? { ...r, ...set } : r)) };
    },
    title: (cell, { row, set }) =>
      `change ${changed(set)} of ${machineRowById(cell, row).name} of the machine`,
  },
);
