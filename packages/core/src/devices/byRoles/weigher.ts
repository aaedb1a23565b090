import { lag } from '../motions.js';
import type { Told } from './commands.js';
import type { RoleBehaviour } from './roleBehaviour.js';

/**
 * A weigher by its roles, with a part on it that is put down and taken off again in turn: gross, net and tare in the
 * unit of the fields, stable once it has come to rest; tare and zero act on their rising edge and only at rest.
 */
interface Weigher {
  /** kg on the pan, and as they are measured. */
  load: number;
  measured: number;
  zero: number;
  tare: number;
  /** ms since the load changed. */
  restingMs: number;
  /** The command code that it has taken. */
  answer: number;
  overloaded: boolean;
}

const usualDecimals = 2;
const partKg = 12.5;
const rangeKg = 30;
const overloadKg = 34;
/** How long a part lies there, and the pan is empty, ms. */
const turnMs = 6000;
/** Time of the filter, and how near to the load counts as rest. */
const filterMs = 150;
const restKg = 0.005;

/** kg in other units of mass (NIST SP 811, B.8). */
const perKg: Readonly<Record<string, number>> = {
  kg: 1,
  g: 1000,
  t: 0.001,
  lb: 1 / 0.453_592_37,
  oz: 16 / 0.453_592_37,
};

/** What a command code asks for that has just left zero, by the words of its labels; 1 and 2 where it has none. */
function codeAsked(told: Told): 'zero' | 'tare' | undefined {
  if (!told.given('command code', 'leaving zero')) return undefined;
  const label = told.values.label('command code').toLowerCase();
  if (/zero|null/.test(label) || label === '1') return 'zero';
  return /tar[ea]/.test(label) || label === '2' ? 'tare' : undefined;
}

export const weigher: RoleBehaviour<Weigher> = {
  title: 'a weigher: a part is put on it and taken off',
  acts: ['gross', 'net'],
  start: () => ({
    ...{ load: 0, measured: 0, zero: 0, tare: 0, restingMs: 0 },
    ...{ answer: 0, overloaded: false },
  }),
  step: (state, told) => {
    const { values, elapsedMs } = told;
    const asked = codeAsked(told);
    const lies = told.met('load');
    const turns = state.restingMs + elapsedMs >= turnMs;
    const load = state.overloaded
      ? overloadKg
      : lies !== undefined
        ? lies
        : turns
          ? state.load === 0
            ? partKg
            : 0
          : Math.min(state.load, partKg);
    const measured = lag(state.measured, load, elapsedMs, filterMs);
    const stable = Math.abs(measured - load) < restKg;
    const gross = measured - state.zero;
    const given = told.number('tare value');
    return {
      ...state,
      ...{ load, measured, answer: told.number('command code') ?? 0 },
      restingMs: load === state.load ? state.restingMs + elapsedMs : 0,
      zero: (told.given('zero', 'rising edge') || asked === 'zero') && stable ? measured : state.zero,
      tare:
        (told.given('tare', 'rising edge') || asked === 'tare') && stable
          ? gross
          : given !== undefined && given > 0
            ? given / (perKg[values.unit('tare value').trim()] ?? 1)
            : state.tare,
    };
  },
  shows: ({ load, measured, zero, tare, answer }, feedback) => {
    const gross = measured - zero;
    const as = (role: 'gross' | 'net' | 'tare value', kg: number) =>
      kg * (perKg[feedback.unit(role).trim()] ?? 1);
    const over = gross > rangeKg;
    return {
      // Before the values, which are counted in them.
      decimals: usualDecimals,
      gross: as('gross', gross),
      net: as('net', gross - tare),
      'tare value': as('tare value', tare),
      stable: Math.abs(measured - load) < restKg && !over,
      sign: gross - tare < -restKg,
      overrange: over,
      faulted: over,
      'command answer': answer,
    };
  },
  faults: [
    {
      id: 'overloaded',
      title: 'put too much on it',
      reset: 'take it off',
      inject: (state) => ({ ...state, overloaded: true }),
      clear: (state) => ({ ...state, overloaded: false, load: 0 }),
    },
  ],
  health: () => 'good',
};
