import type { RoleBehaviour } from './roleBehaviour.js';

/**
 * A safety controller with a light curtain by its roles, as far as its status goes: an object passes through the beams
 * in turn and is seen in steps of them; after an interruption it waits for its reset, where it has one. Nothing of it
 * is a safety function.
 */
interface Curtain {
  /** Lowest edge and size of what is in the way, mm above the lowest beam; a size of 0: nothing. */
  position: number;
  size: number;
  /** Numbers of the beams that do not arrive. */
  dark: readonly number[];
  /** ms since the last object came. */
  since: number;
  waits: boolean;
  steps: number;
  misaligned: boolean;
}

/** mm from beam to beam: common practice for a hand, no source. */
const pitch = 20;
const usualBeams = 16;
/** How often an object comes, how long it stays, ms, and what it is, mm. */
const everyMs = 8000;
const staysMs = 2000;
const usualObject = { position: 60, size: 50 };
/** The beam that looks past its receiver. */
const misalignedBeam = 1;

/** The beams, of so many, that an object leaves dark; the first stands at 0. */
const darkBeams = ({ position, size }: Pick<Curtain, 'position' | 'size'>, count: number): number[] =>
  Array.from({ length: count }, (_, i) => i + 1).filter(
    (n) => size > 0 && (n - 1) * pitch >= position && (n - 1) * pitch <= position + size,
  );

export const lightCurtain: RoleBehaviour<Curtain> = {
  title: 'a safety controller: status of a light curtain through which an object passes',
  acts: ['beams', 'safety in order', 'safety tripped', 'muted', 'object size'],
  start: () => ({ position: 0, size: 0, dark: [], since: 0, waits: false, steps: 0, misaligned: false }),
  step: (state, told) => {
    const since = (state.since + told.elapsedMs) % everyMs;
    const own = since > everyMs - staysMs ? usualObject : { position: 0, size: 0 };
    const size = told.met('object size') ?? own.size;
    const position = told.met('object position') ?? own.position;
    const seen = darkBeams({ position, size }, told.shown('beams').at(-1) ?? usualBeams);
    const dark = state.misaligned ? [...new Set([misalignedBeam, ...seen])] : seen;
    const reset = told.given('safety reset', 'rising edge');
    return {
      ...state,
      ...{ since, size, position, dark, steps: state.steps + 1 },
      // After an interruption somebody must look and reset.
      waits: dark.length > 0 ? told.values.has('safety reset') : state.waits && !reset,
    };
  },
  shows: ({ dark, waits, misaligned, steps }, feedback) => {
    const inOrder = dark.length === 0 && !waits;
    const [low = 0] = dark;
    return {
      beams: Array.from({ length: feedback.numbers('beams').at(-1) ?? 0 }, (_, i) => dark.includes(i + 1)),
      ready: !misaligned,
      'safety in order': inOrder,
      'safety tripped': !inOrder,
      'reset wanted': waits,
      'emergency stop': false,
      muted: false,
      'object size': dark.length === 0 ? 0 : (dark.at(-1)! - low + 1) * pitch,
      'object position': dark.length === 0 ? 0 : (low - 1) * pitch,
      faulted: misaligned,
      'fault code': misaligned ? 1 : 0,
      input: [dark.length === 0],
      'life counter': steps % 256,
      heartbeat: steps % 2 === 0,
    };
  },
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
