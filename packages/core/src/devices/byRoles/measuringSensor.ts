import type { RoleBehaviour } from './roleBehaviour.js';

/**
 * A measuring sensor by its roles: its value swings slowly through the range of its field, or is what the machine says;
 * zero, rising, makes what it measures its zero; above its switching point its input acts.
 */
interface Sensor {
  ms: number;
  met: number | undefined;
  /** What it measured when zero was given, as a share of its range or as the machine says it. */
  zero: number | undefined;
  blinded: boolean;
}

/** ms of a whole swing. */
const swingMs = 10_000;
/** Where its switching signal acts, of its range. */
const switchesAt = 0.5;
/** A number of our own, for there is no standard of them. */
const blindCode = 7;

const share = (ms: number): number => 0.5 - 0.4 * Math.cos((2 * Math.PI * ms) / swingMs);

export const measuringSensor: RoleBehaviour<Sensor> = {
  title: 'a measuring sensor: its value swings through its range',
  acts: ['measured value', 'analogue input'],
  start: () => ({ ms: 0, met: undefined, zero: undefined, blinded: false }),
  step: (state, told) => {
    const ms = state.ms + told.elapsedMs;
    const met = told.met('value');
    const zeroed = told.given('zero', 'rising edge');
    return { ...state, ms, met, zero: zeroed ? (met ?? share(ms)) : state.zero };
  },
  shows: ({ ms, met, zero, blinded }, feedback) => {
    const { low, high } = feedback.range('measured value') ?? { low: 0, high: 100 };
    // A zero was taken of the swing, or of what the machine says.
    const swing = zero === undefined ? low + (high - low) * share(ms) : (high - low) * (share(ms) - zero);
    const value = met === undefined ? swing : met - (zero ?? 0);
    const part = (value - low) / (high - low);
    const over = blinded || part < 0 || part > 1;
    const shown = over ? (part < 0 ? low : high) : value;
    return {
      'measured value': shown,
      'analogue input': [shown],
      input: [part > switchesAt],
      overrange: over,
      'result valid': !over,
      stable: met !== undefined,
      ready: !blinded,
      faulted: blinded,
      'fault code': blinded ? blindCode : 0,
      'life counter': Math.floor(ms / 100) % 256,
      heartbeat: Math.floor(ms / 500) % 2 === 1,
    };
  },
  faults: [
    {
      id: 'blinded',
      title: 'cover it with dirt',
      reset: 'clean it',
      inject: (state) => ({ ...state, blinded: true }),
      clear: (state) => ({ ...state, blinded: false }),
    },
  ],
  health: ({ blinded }) => (blinded ? 'minor' : 'good'),
};
