import type { RoleBehaviour } from './roleBehaviour.js';

/**
 * A marker by its roles: it prints at a rising print, or when its sequence number rises; it says with `printed`, and
 * with the same number, that it has. Without a text of its own it prints an empty label.
 */
interface Marker {
  /** ms that the label still takes; 0: it prints none. */
  printing: number;
  sequence: number;
  printedSequence: number;
  printed: boolean;
  labels: number;
  faultCode: number;
  open: boolean;
}

const printMs = 600;
/** Labels of a roll; the last of them warn. */
const rollLabels = 1000;
const fewLabels = 50;
/** A number of our own, for there is no standard of them. */
const doorCode = 9;

export const marker: RoleBehaviour<Marker> = {
  title: 'a marker: prints a label when it is told to',
  acts: ['print', 'sequence number', 'trigger'],
  start: () => ({
    ...{ printing: 0, sequence: 0, printedSequence: 0, printed: false, labels: 0, faultCode: 0, open: false },
  }),
  step: (state, told) => {
    const faultCode = state.open ? doorCode : told.given('fault reset', 'rising edge') ? 0 : state.faultCode;
    const asked =
      told.given('print', 'rising edge') ||
      told.given('trigger', 'rising edge') ||
      told.given('sequence number', 'rise');
    const starts = asked && state.printing === 0 && faultCode === 0;
    const printing = faultCode !== 0 ? 0 : starts ? printMs : Math.max(0, state.printing - told.elapsedMs);
    const ends = state.printing > 0 && printing === 0 && faultCode === 0;
    const sequence = starts ? (told.number('sequence number') ?? state.sequence + 1) : state.sequence;
    return {
      ...state,
      ...{ faultCode, printing, sequence },
      printed: ends || (state.printed && !starts),
      printedSequence: ends ? sequence : state.printedSequence,
      labels: state.labels + Number(ends),
    };
  },
  shows: (state) => ({
    ready: state.printing === 0 && state.faultCode === 0,
    busy: state.printing > 0,
    running: state.printing > 0,
    printed: state.printed,
    'sequence number': state.printedSequence,
    warning: rollLabels - (state.labels % rollLabels) < fewLabels,
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
