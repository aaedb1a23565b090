import {
  blockBytes,
  protocolById,
  readRegister,
  type Block,
  type Cell,
  type Direction,
  type ModbusTcpLink,
} from '@fadenkreuz/core';
import { holdsBits } from '@fadenkreuz/core/devices';
import { emptyImage, type ByHandEntry } from '../protocolForms.js';

/** One run of a manual's list; its start as it was typed, an address or a reference. */
export interface TypedRun {
  table: Block['table'];
  start: string;
  count: number;
}

/** What a manual's list of registers says: what is written, and what is read. */
export interface Runs extends ByHandEntry {
  command: TypedRun;
  feedback: TypedRun;
}

export const initial = (): Runs => ({
  command: { table: 'holding', start: '0', count: 2 },
  feedback: { table: 'input', start: '0', count: 2 },
  updateMs: 20,
});

/** Tables that can be written, and all of them (Modbus Application Protocol V1.1b3, 4.3). */
export const tablesFor = {
  command: ['holding', 'coils'],
  feedback: ['input', 'holding', 'discrete', 'coils'],
} as const satisfies Record<Direction, readonly Block['table'][]>;

/** The run that is meant; a reference names its table itself. Its start is NaN where the text is no register. */
export function runOf({ table, start, count }: TypedRun): Pick<Block, 'table' | 'start' | 'count'> {
  const register = readRegister(start, table);
  return { table: register?.table ?? table, start: register?.start ?? NaN, count };
}

export function linkFrom(cell: Cell, entry: Runs, newId: () => string): ModbusTcpLink {
  const poll = entry.updateMs * 1000;
  const runs = { command: runOf(entry.command), feedback: runOf(entry.feedback) };
  const image = <D extends Direction>(direction: D) => ({
    ...emptyImage(cell, direction, { instance: 1, size: blockBytes(runs[direction]) }, newId),
    // Registers come high byte first (V1.1b3, 4.2).
    order: holdsBits(runs[direction].table) ? null : ('big' as const),
  });
  const block = (name: string, direction: Direction): Block[] =>
    // An entry that is no number is refused by the model, not left out.
    runs[direction].count === 0
      ? []
      : [{ id: newId(), name, direction, ...runs[direction], poll, at: 0, fresh: null, age: null }];
  return {
    ...protocolById('modbus-tcp').create({
      id: newId(),
      command: image('command'),
      feedback: { ...image('feedback'), derived: [] },
      update: poll,
    }),
    blocks: [...block('commands', 'command'), ...block('feedback', 'feedback')],
  } as ModbusTcpLink;
}
