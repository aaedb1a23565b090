import type { z } from 'zod';
import { parseInput } from '../../entries/parse.js';
import { Problem } from '../../messages/problem.js';
import { MachineRow } from '../machineRow.js';
import { checkedLater, editKind } from './editKind.js';

/** A line behind the others of the machine around the devices. */
export const machineAdd = editKind(
  'machine.add',
  { row: checkedLater<z.input<typeof MachineRow>>() },
  {
    apply: (cell, edit) => {
      const row = parseInput(MachineRow, edit.row, 'row');
      if (cell.machine.some(({ id }) => id === row.id)) throw new Problem('edit.idTaken', { id: row.id });
      return { ...cell, machine: [...cell.machine, row] };
    },
    title: (_cell, { row }) => `add ${row.name} to the machine`,
  },
);
