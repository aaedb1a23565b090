import type { Behaviour } from '../behaviour.js';
import { cyclicOffer } from '../cyclicOffer.js';
import { bit, bits, bytesLayout, udint, uint, usint, word } from '../bytesLayout.js';
import { nextSeed, swing } from '../disturbance.js';
import { lag } from '../motions.js';

/**
 * A weigher of two channels. It settles and drifts; it publishes magnitude and sign apart and the decimal point in a
 * byte of its own; it obeys a command code once, and again only after a zero came between.
 */
export interface ScaleState {
  /** kg that lie on channel 1, as the cell sees them. */
  seen: number;
  /** kg since the last zeroing. */
  drift: number;
  zero: number;
  tare: number;
  tared: boolean;
  /** Last code that was told, obeyed or not. */
  told: number;
  obeyed: number;
  /** Rises with each code that was obeyed. */
  exchange: number;
  still: boolean;
  counter: number;
  /** ms since power-on. */
  uptime: number;
  cellBroken: boolean;
  seed: number;
}

export const scaleCommands = { zero: 20, tare: 21, clearTare: 22 } as const;
const decimals = 3;
const capacity = 60;
const warmUpMs = 3000;
const zeroBand = 0.02;

const commands = bytesLayout(8, { command: uint(0), channel: uint(16), preset_tare: udint(32) });
const answers = bytesLayout(22, {
  gross_1: udint(0),
  net_1: udint(32),
  gross_2: udint(64),
  exchange: word(96),
  warming_up: bit(112),
  weight_ok: bit(113),
  overload: bit(114),
  gross_1_negative: bit(116),
  net_1_negative: bit(117),
  still: bit(120),
  at_zero: bit(121),
  tare_applied: bit(124),
  keys_locked: bit(126),
  decimals_1: usint(128),
  decimals_2: usint(136),
  last_command: uint(144),
  counter: bits(160, 12),
});

const gross = (state: ScaleState) => state.seen + state.drift - state.zero;

function obey(state: ScaleState, code: number, presetTare: number): ScaleState {
  const done = (part: Partial<ScaleState>): ScaleState => ({
    ...state,
    ...part,
    obeyed: code,
    exchange: (state.exchange + 1) & 0xffff,
  });
  switch (code) {
    case scaleCommands.zero:
      // Zeroing is only allowed near zero and at rest.
      return state.still && Math.abs(gross(state)) < 1.2 ? done({ zero: state.zero + gross(state) }) : state;
    case scaleCommands.tare:
      if (presetTare > 0) return done({ tare: presetTare, tared: true });
      return state.still ? done({ tare: gross(state), tared: true }) : state;
    case scaleCommands.clearTare:
      return done({ tare: 0, tared: false });
    default:
      return state;
  }
}

export const weigher: Behaviour<ScaleState> = {
  title: 'weigher with two channels',
  identity: {
    vendor: 65_011,
    deviceType: 43,
    productCode: 305,
    majorRevision: 1,
    minorRevision: 8,
    productName: 'Silberdistel W2 weigher',
  },
  offer: cyclicOffer,
  assemblies: [
    { instance: 101, use: 'command', size: commands.size, fields: commands.fields },
    { instance: 100, use: 'feedback', size: answers.size, fields: answers.fields },
    { instance: 103, use: 'configuration', size: 0, fields: [] },
    { instance: 198, use: 'input-only', size: 0, fields: [] },
  ],
  start: (seed) => ({
    seen: 0,
    drift: 0,
    zero: 0,
    tare: 0,
    tared: false,
    told: 0,
    obeyed: 0,
    exchange: 0,
    still: false,
    counter: 0,
    uptime: 0,
    cellBroken: false,
    seed: nextSeed(seed),
  }),
  configure: (state) => state,

  step(before, { elapsedMs, command, run, met }) {
    const seconds = elapsedMs / 1000;
    const seed = nextSeed(before.seed);
    const load = before.cellBroken ? capacity * 1.4 : (met('load') ?? 0);
    const seen = lag(before.seen, load + swing(seed) * 0.0015, seconds, 0.18);
    // Warm electronics drift by a gram an hour, cold ones faster.
    const drift = before.drift + seconds * (before.uptime < warmUpMs ? 4e-4 : 3e-7);
    const still = Math.abs(load - seen) < 0.004;
    const state: ScaleState = {
      ...before,
      seen,
      drift,
      still,
      seed,
      counter: (before.counter + 1) & 0xfff,
      uptime: before.uptime + elapsedMs,
    };
    if (!command || !run) return state;
    const { command: code, preset_tare } = commands.read(command);
    const told = { ...state, told: code };
    return code === before.told ? told : obey(told, code, preset_tare / 10 ** decimals);
  },
  feedback(state, into) {
    const scale = 10 ** decimals;
    const g = Math.round(gross(state) * scale);
    const n = Math.round((gross(state) - state.tare) * scale);
    const overload = gross(state) > capacity;
    answers.write(
      {
        gross_1: Math.abs(g),
        net_1: Math.abs(n),
        gross_2: 0,
        exchange: state.exchange,
        warming_up: state.uptime < warmUpMs,
        weight_ok: state.uptime >= warmUpMs && !overload,
        overload,
        gross_1_negative: g < 0,
        net_1_negative: n < 0,
        still: state.still,
        at_zero: Math.abs(gross(state)) < zeroBand,
        tare_applied: state.tared,
        keys_locked: true,
        decimals_1: decimals,
        decimals_2: decimals,
        last_command: state.obeyed,
        counter: state.counter,
      },
      into,
    );
  },
  faults: [
    {
      id: 'cell-broken',
      title: 'the load cell is broken',
      reset: 'renew the load cell',
      inject: (s) => ({ ...s, cellBroken: true }),
      clear: (s) => ({ ...s, cellBroken: false }),
    },
  ],
  health: (s) => (s.cellBroken ? 'major' : 'good'),
};
