import { lag } from '../motions.js';
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
  tareWas: boolean;
  zeroWas: boolean;
  overloaded: boolean;
}

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

export const weigher: RoleBehaviour<Weigher> = {
  title: 'a weigher: a part is put on it and taken off',
  acts: ['tare', 'zero', 'tare value', 'command code'],
  start: () => ({
    ...{ load: 0, measured: 0, zero: 0, tare: 0, restingMs: 0, tareWas: false, zeroWas: false },
    overloaded: false,
  }),
  step: (state, { commanded, values, elapsedMs }) => {
    const [tare, zero] = [commanded && values.bit('tare') === true, commanded && values.bit('zero') === true];
    const turns = state.restingMs + elapsedMs >= turnMs;
    const load = state.overloaded
      ? overloadKg
      : turns
        ? state.load === 0
          ? partKg
          : 0
        : Math.min(state.load, partKg);
    const measured = lag(state.measured, load, elapsedMs, filterMs);
    const stable = Math.abs(measured - load) < restKg;
    const gross = measured - state.zero;
    const given = commanded ? values.number('tare value') : undefined;
    return {
      ...state,
      ...{ load, measured, tareWas: tare, zeroWas: zero },
      restingMs: load === state.load ? state.restingMs + elapsedMs : 0,
      zero: zero && !state.zeroWas && stable ? measured : state.zero,
      tare:
        tare && !state.tareWas && stable
          ? gross
          : given !== undefined && given > 0
            ? given / (perKg[values.unit('tare value').trim()] ?? 1)
            : state.tare,
    };
  },
  shows: ({ load, measured, zero, tare }, unit) => {
    const gross = measured - zero;
    const as = (role: 'gross' | 'net' | 'tare value', kg: number) => kg * (perKg[unit(role).trim()] ?? 1);
    const over = gross > rangeKg;
    return {
      gross: as('gross', gross),
      net: as('net', gross - tare),
      'tare value': as('tare value', tare),
      stable: Math.abs(measured - load) < restKg && !over,
      sign: gross - tare < -restKg,
      overrange: over,
      faulted: over,
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
