import { registerReference, type Block } from '@fadenkreuz/core';

export const tableTitles: Record<Block['table'], string> = {
  coils: 'coils (0…)',
  discrete: 'discrete inputs (1…)',
  holding: 'holding registers (4…)',
  input: 'input registers (3…)',
};

/** What a start and a count are understood as. */
export const stretchText = ({ table, start, count }: Pick<Block, 'table' | 'start' | 'count'>): string =>
  `${registerReference(table, start)} to ${registerReference(table, start + Math.max(1, count) - 1)}`;

/** Why a typed start is none. */
export const noRegister = (text: string) => ({
  says: `${text} is no register.`,
  cure: 'Write its address on the wire, from 0 (5000, 0x1388), or its reference (405001, 45001).',
});
