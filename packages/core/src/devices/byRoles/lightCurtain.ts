import type { RoleBehaviour } from './roleBehaviour.js';

/**
 * A safety controller with a light curtain by its roles, as far as its status goes: an object passes through the beams
 * in turn; after an interruption it waits for its reset, where it has one. Nothing of it is a safety function.
 */
interface Curtain {
  /** Lowest edge and size of what is in the way, mm; a size of 0: nothing. */
  position: number;
  size: number;
  /** ms since the last object came. */
  since: number;
  interrupted: boolean;
  waits: boolean;
  steps: number;
  misaligned: boolean;
}

/** mm from beam to beam: common practice for a hand, no source. */
const pitch = 20;
/** How often an object comes, how long it stays, ms, and what it is, mm. */
const everyMs = 8000;
const staysMs = 2000;
const usualObject = { position: 60, size: 50 };

/** Whether a beam, counted from 1, is interrupted. */
const dark = ({ position, size, misaligned }: Curtain, n: number): boolean =>
  (misaligned && n === 1) || (size > 0 && (n - 1) * pitch >= position && (n - 1) * pitch <= position + size);

export const lightCurtain: RoleBehaviour<Curtain> = {
  title: 'a safety controller: status of a light curtain through which an object passes',
  acts: ['beams', 'safety in order', 'muted', 'object size'],
  start: () => ({
    ...{ position: 0, size: 0, since: 0, interrupted: false, waits: false, steps: 0, misaligned: false },
  }),
  step: (state, told) => {
    const since = (state.since + told.elapsedMs) % everyMs;
    const own = since > everyMs - staysMs ? usualObject : { position: 0, size: 0 };
    const size = told.met('object size') ?? own.size;
    const position = told.met('object position') ?? own.position;
    const interrupted = size > 0 || state.misaligned;
    const reset = told.given('safety reset', 'rising edge');
    return {
      ...state,
      ...{ since, size, position, interrupted, steps: state.steps + 1 },
      waits: interrupted ? told.values.has('safety reset') : state.waits && !reset,
    };
  },
  shows: (state, feedback) => ({
    beams: Array.from({ length: feedback.numbers('beams').at(-1) ?? 0 }, (_, i) => dark(state, i + 1)),
    'safety in order': !state.interrupted && !state.waits,
    'emergency stop': false,
    muted: false,
    'object size': state.size,
    'object position': state.size > 0 ? state.position : 0,
    faulted: state.misaligned,
    'fault code': state.misaligned ? 1 : 0,
    input: [!state.interrupted],
    'life counter': state.steps % 256,
    heartbeat: state.steps % 2 === 0,
  }),
  faults: [
    {
      id: 'misaligned',
      title: 'put its first beam out of line',
      reset: 'align it, then reset',
      inject: (state) => ({ ...state, misaligned: true }),
      clear: (state) => ({ ...state, misaligned: false }),
    },
  ],
  health: ({ misaligned }) => (misaligned ? 'minor' : 'good'),
};
