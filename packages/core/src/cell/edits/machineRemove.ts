import { machineRowById } from '../find.js';
import { editKind, partId } from './editKind.js';

/** A line of the machine around the devices is gone. */
export const machineRemove = editKind(
  'machine.remove',
  { row: partId },
  {
    apply: (cell, { row }) => {
      const gone = machineRowById(cell, row);
      return { ...cell, machine: cell.machine.filter((r) => r !== gone) };
    },
    title: (cell, { row }) => `remove ${machineRowById(cell, row).name} of the machine`,
  },
);
