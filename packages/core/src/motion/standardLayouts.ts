import { Field } from '../layout/field.js';
import { cia402 } from './cia402.js';
import { speedControl } from './plainWords.js';
import { standardTelegram } from './telegrams.js';
import type { WordBit } from './wordProfile.js';

/** A layout that a profile gives for one direction, ready to be put into an image. */
export interface StandardLayout {
  id: string;
  title: string;
  source: string;
  direction: 'command' | 'feedback';
  bytes: number;
  /** With ids of their own, from byte 0 on. */
  fields(newId: () => string): Field[];
}

const identifier = (title: string) =>
  title
    .toLowerCase()
    .replaceAll(/[^a-z0-9]+/g, '_')
    .replaceAll(/^_|_$/g, '');

/** The bits of a word as fields of their own; those that say that something is not so are normally closed. */
const bitFields = (bits: readonly WordBit[], newId: () => string): Field[] =>
  bits.map(({ bit, title, role, inverted }) =>
    Field.parse({
      ...{ id: newId(), name: identifier(title), type: 'BOOL', at: bit, bits: 1 },
      ...{ normallyClosed: inverted === true, note: title },
      ...(role ? { role: { is: role } } : {}),
    }),
  );
const speedField = (name: string, role: 'speed reference' | 'speed actual', newId: () => string): Field =>
  Field.parse({ id: newId(), name, type: 'INT', at: 16, bits: 16, unit: 'rpm', role: { is: role } });

/** The bits of the basic assemblies: run forward and fault reset, faulted and running (CIP Vol. 1; from memory). */
const basicCommand = speedControl.control.filter(({ bit }) => bit === 0 || bit === 2);
const basicFeedback = speedControl.status.filter(({ bit }) => bit === 0 || bit === 2);

const speedAssembly = (
  instance: number,
  direction: StandardLayout['direction'],
  bits: readonly WordBit[],
): StandardLayout => ({
  ...{
    id: `assembly ${instance}`,
    title: `speed control, instance ${instance}`,
    source: speedControl.source,
  },
  ...{ direction, bytes: 4 },
  fields: (newId) => [
    ...bitFields(bits, newId),
    direction === 'command'
      ? speedField('speed_reference', 'speed reference', newId)
      : speedField('speed_actual', 'speed actual', newId),
  ],
});

/** All of them; a new one is an entry here. */
export const standardLayouts: readonly StandardLayout[] = [
  speedAssembly(20, 'command', basicCommand),
  speedAssembly(21, 'command', speedControl.control),
  speedAssembly(70, 'feedback', basicFeedback),
  speedAssembly(71, 'feedback', speedControl.status),
  ...(['command', 'feedback'] as const).flatMap((direction) =>
    ([1, 2, 3, 4] as const).map((n): StandardLayout => {
      const { commandBytes, feedbackBytes } = standardTelegram(n, () => '0');
      return {
        ...{ id: `telegram ${n} ${direction}`, title: `standard telegram ${n}`, direction },
        source: 'IEC 61800-7-203, standard telegrams; from memory',
        bytes: direction === 'command' ? commandBytes : feedbackBytes,
        fields: (newId) => standardTelegram(n, newId)[direction],
      };
    }),
  ),
  {
    ...{ id: 'control word', title: 'control word 6040h, bit by bit', source: cia402.source },
    ...{ direction: 'command', bytes: 2, fields: (newId) => bitFields(cia402.control, newId) },
  },
  {
    ...{ id: 'status word', title: 'status word 6041h, bit by bit', source: cia402.source },
    ...{ direction: 'feedback', bytes: 2, fields: (newId) => bitFields(cia402.status, newId) },
  },
];
