import type { Behaviour } from '../behaviour.js';
import { cyclicOffer } from '../cyclicOffer.js';
import { bit, bytesLayout, text, udint, uint } from '../bytesLayout.js';

/** A label marker: it prints when the sequence number rises, and says with the same number that it has printed. */
export interface MarkerState {
  phase: 'idle' | 'printing';
  since: number;
  format: number;
  /** Last sequence number that was told; undefined before the first, which prints nothing. */
  sequence: number | undefined;
  printed: number;
  labels: number;
  lastText: string;
  copies: number;
  error: number;
  ribbon: number;
  told: boolean;
  doorOpen: boolean;
}

const printMs = 850;
const formats = [1, 2, 3, 5];
export const markerErrors = { none: 0, noFormat: 4, doorOpen: 9, ribbonOut: 12 } as const;
const labelsPerRibbon = 1200;

const commands = bytesLayout(40, {
  clear_error: bit(0),
  format_number: uint(16),
  sequence: uint(32),
  copies: uint(48),
  batch_text: text(64, 16),
  date_text: text(192, 16),
});
const answers = bytesLayout(16, {
  ready: bit(0),
  printing: bit(1),
  error: bit(2),
  ribbon_low: bit(3),
  door_open: bit(4),
  printed_sequence: uint(16),
  format_echo: uint(32),
  error_code: uint(48),
  label_count: udint(64),
  ribbon_left: uint(96),
});

export const marker: Behaviour<MarkerState> = {
  title: 'label marker',
  identity: {
    vendor: 65_012,
    deviceType: 43,
    productCode: 640,
    majorRevision: 3,
    minorRevision: 2,
    productName: 'Gratweg LM6 marker',
  },
  // Its makers left the run/idle word out of the commands and put one before the answers.
  offer: { ...cyclicOffer, commandFormat: 'modeless', feedbackFormat: 'run-idle' },
  assemblies: [
    { instance: 140, use: 'command', size: commands.size, fields: commands.fields },
    { instance: 141, use: 'feedback', size: answers.size, fields: answers.fields },
    { instance: 142, use: 'configuration', size: 0, fields: [] },
  ],
  start: () => ({
    phase: 'idle',
    since: 0,
    format: 1,
    sequence: undefined,
    printed: 0,
    labels: 88_214,
    lastText: '',
    copies: 0,
    error: 0,
    ribbon: 1040,
    told: false,
    doorOpen: false,
  }),
  configure: (state) => state,

  step(before, { elapsedMs, command, run }) {
    let state: MarkerState = { ...before, since: before.since + elapsedMs };
    if (state.doorOpen) state = { ...state, error: markerErrors.doorOpen, phase: 'idle' };
    if (state.phase === 'printing' && state.since >= printMs) {
      const labels = { labels: state.labels + 1, ribbon: Math.max(0, state.ribbon - 1), since: 0 };
      state =
        state.copies > 1
          ? { ...state, ...labels, copies: state.copies - 1 }
          : { ...state, ...labels, phase: 'idle', copies: 0, printed: state.sequence ?? 0 };
      if (state.ribbon === 0) state = { ...state, error: markerErrors.ribbonOut, phase: 'idle' };
    }
    if (!command || !run) return { ...state, sequence: undefined };
    const c = commands.read(command);
    if (c.clear_error && !state.told && !state.doorOpen)
      state = { ...state, error: 0, ribbon: state.ribbon || labelsPerRibbon };
    state = { ...state, told: c.clear_error };
    // The number that stands there when the controller comes says nothing: only a rise prints.
    if (state.sequence === undefined) return { ...state, sequence: c.sequence };
    const rise = (c.sequence - state.sequence) & 0xffff;
    if (rise === 0 || state.phase === 'printing') return state;
    state = { ...state, sequence: c.sequence };
    if (rise >= 0x8000 || state.error) return state;
    if (!formats.includes(c.format_number)) return { ...state, error: markerErrors.noFormat };
    return {
      ...state,
      phase: 'printing',
      since: 0,
      format: c.format_number,
      copies: Math.max(1, c.copies),
      lastText: `${c.batch_text} ${c.date_text}`.trim(),
    };
  },
  feedback(state, into) {
    answers.write(
      {
        ready: state.phase === 'idle' && state.error === 0,
        printing: state.phase === 'printing',
        error: state.error !== 0,
        ribbon_low: state.ribbon < 100,
        door_open: state.doorOpen,
        printed_sequence: state.printed,
        format_echo: state.format,
        error_code: state.error,
        label_count: state.labels,
        ribbon_left: state.ribbon,
      },
      into,
    );
  },
  faults: [
    {
      id: 'door',
      title: 'the ribbon door is open',
      reset: 'close the door, then clear_error from 0 to 1',
      inject: (s) => ({ ...s, doorOpen: true }),
      clear: (s) => ({ ...s, doorOpen: false }),
    },
  ],
  health: (s) => (s.error ? 'minor' : 'good'),
};
