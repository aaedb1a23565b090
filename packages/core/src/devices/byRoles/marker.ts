import type { Told } from './commands.js';
import type { RoleBehaviour } from './roleBehaviour.js';

/**
 * A marker by its roles: it prints at a rising print, or when its sequence number rises; it says with `printed`, and
 * with the same number, that it has. A number that rises while it prints waits for its turn. Where the field of the
 * format number says which formats there are, another one is a fault.
 */
interface Marker {
  /** ms that the label still takes; 0: it prints none; labels that are still to come. */
  printing: number;
  copies: number;
  format: number;
  /** The number that was printed or is being printed; undefined before the first, which says nothing. */
  sequence: number | undefined;
  printedSequence: number;
  printed: boolean;
  labels: number;
  left: number;
  faultCode: number;
  open: boolean;
}

const printMs = 600;
/** Labels of a roll; the last of them warn. */
const rollLabels = 1000;
const fewLabels = 50;
/** Numbers of our own, for there is no standard of them. */
const markerFaults = { noFormat: 4, doorOpen: 9, labelsOut: 12 } as const;

/** Whether a label is asked for, and the sequence number that has been seen now. */
function asked(state: Marker, told: Told): { prints: boolean; sequence: number | undefined } {
  const number = told.number('sequence number');
  const byBit = told.given('print', 'rising edge') || told.given('trigger', 'rising edge');
  if (number === undefined) return { prints: byBit, sequence: undefined };
  if (state.sequence === undefined) return { prints: byBit, sequence: number };
  if (state.printing > 0) return { prints: false, sequence: state.sequence };
  return { prints: byBit || told.rose('sequence number', state.sequence), sequence: number };
}

/** Why a label that is asked for cannot be printed; 0 where it can. */
function failure({ open, left }: Marker, told: Told): number {
  if (open) return markerFaults.doorOpen;
  if (left === 0) return markerFaults.labelsOut;
  const known = told.values.labelled('format number');
  const missing = known.length > 0 && !known.some(({ value }) => value === told.number('format number'));
  return missing ? markerFaults.noFormat : 0;
}

export const marker: RoleBehaviour<Marker> = {
  title: 'a marker: prints a label when it is told to',
  acts: ['print', 'sequence number', 'trigger'],
  start: () => ({
    ...{ printing: 0, copies: 0, format: 0, sequence: undefined, printedSequence: 0, printed: false },
    ...{ labels: 0, left: rollLabels, faultCode: 0, open: false },
  }),
  step: (state, told) => {
    const cleared = told.given('fault reset', 'rising edge') && !state.open;
    const left = cleared && state.left === 0 ? rollLabels : state.left;
    const before = state.open ? markerFaults.doorOpen : cleared ? 0 : state.faultCode;
    const { prints, sequence } = asked(state, told);
    const faultCode = before || (prints ? failure({ ...state, left }, told) : 0);
    const starts = prints && state.printing === 0 && faultCode === 0;
    const printing = faultCode !== 0 ? 0 : starts ? printMs : Math.max(0, state.printing - told.elapsedMs);
    const label = state.printing > 0 && printing === 0 && faultCode === 0;
    const copies = starts
      ? Math.max(1, Math.round(told.number('copies') ?? 1))
      : state.copies - Number(label);
    const ends = label && copies <= 0;
    return {
      ...state,
      ...{ faultCode, sequence, copies },
      printing: label && !ends ? printMs : printing,
      format: starts ? (told.number('format number') ?? 0) : state.format,
      printed: ends || (state.printed && !starts),
      printedSequence: ends ? (state.sequence ?? state.printedSequence + 1) : state.printedSequence,
      labels: state.labels + Number(label),
      left: Math.max(0, left - Number(label)),
    };
  },
  shows: (state) => ({
    ready: state.printing === 0 && state.faultCode === 0,
    busy: state.printing > 0,
    running: state.printing > 0,
    printed: state.printed,
    'sequence number': state.printedSequence,
    'format shown': state.format,
    count: state.labels,
    remaining: state.left,
    'door open': state.open,
    warning: state.left < fewLabels,
    faulted: state.faultCode !== 0,
    'fault code': state.faultCode,
  }),
  faults: [
    {
      id: 'open',
      title: 'open its door',
      reset: 'close it, then fault reset',
      inject: (state) => ({ ...state, open: true }),
      clear: (state) => ({ ...state, open: false }),
    },
  ],
  health: ({ faultCode }) => (faultCode === 0 ? 'good' : 'minor'),
};
