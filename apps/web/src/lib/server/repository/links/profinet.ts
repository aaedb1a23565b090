import { Slot, type LinkOf } from '@fadenkreuz/core';
import { rowOf, type LinkTable } from './linkTable.js';

interface ProfinetRow {
  id: string;
  command_rpi: number;
  feedback_rpi: number;
  timeout_multiplier: LinkOf<'profinet'>['timeoutMultiplier'];
  slots: Slot[];
}

export const profinetTable: LinkTable<'profinet'> = {
  protocol: 'profinet',
  tables: ['link_profinet'],
  toRows: ({ id, commandRpi, feedbackRpi, timeoutMultiplier, slots }) => {
    const row: ProfinetRow = {
      id,
      command_rpi: commandRpi,
      feedback_rpi: feedbackRpi,
      timeout_multiplier: timeoutMultiplier,
      slots,
    };
    return { link_profinet: [row] };
  },
  fromRows: ({ link_profinet }) => {
    const of = rowOf<ProfinetRow>(link_profinet);
    return (id) => {
      const row = of(id);
      return {
        commandRpi: row.command_rpi,
        feedbackRpi: row.feedback_rpi,
        timeoutMultiplier: row.timeout_multiplier,
        // The change log keeps the entries of such a value in an order of its own.
        slots: row.slots.map((slot) => Slot.parse(slot)),
      };
    };
  },
};
