import { lag } from '../motions.js';
import type { Told } from './commands.js';
import type { RoleBehaviour } from './roleBehaviour.js';

/**
 * A weigher by its roles, with a part on it that is put down and taken off again in turn where the machine says
 * nothing: gross, net and tare in the unit of the fields, stable once it has come to rest; tare and zero act on their
 * rising edge, a command code when it leaves zero, and only at rest.
 */
interface Weigher {
  /** kg on the pan, and as they are measured. */
  load: number;
  measured: number;
  zero: number;
  tare: number;
  /** ms since the load changed, and since power-on. */
  restingMs: number;
  ms: number;
  /** The command code that it has obeyed last, and how many it has. */
  answer: number;
  obeyed: number;
  overloaded: boolean;
  broken: boolean;
}

/** Grams. */
const usualDecimals = 3;
const partKg = 12.5;
const rangeKg = 60;
const overloadKg = 84;
/** How long a part lies there, and the pan is empty, ms. */
const turnMs = 6000;
/** Before that its values are not to be used, ms. */
const warmUpMs = 3000;
/** Time of the filter, ms; how near to the load counts as rest, and to 0 as zero, kg. */
const filterMs = 150;
const restKg = 0.005;
const zeroKg = 0.02;

/** kg in other units of mass (NIST SP 811, B.8). */
const perKg: Readonly<Record<string, number>> = {
  kg: 1,
  g: 1000,
  t: 0.001,
  lb: 1 / 0.453_592_37,
  oz: 16 / 0.453_592_37,
};

type Order = 'zero' | 'tare' | 'clear tare';

/** What a command code asks for that has just left zero, by the words of its labels; 1 and 2 where it has none. */
function codeAsked(told: Told): Order | undefined {
  if (!told.given('command code', 'leaving zero')) return undefined;
  const label = told.values.label('command code').toLowerCase();
  if (/(clear|delete|lösch).*tar[ea]/.test(label)) return 'clear tare';
  if (/zero|null/.test(label) || label === '1') return 'zero';
  return /tar[ea]/.test(label) || label === '2' ? 'tare' : undefined;
}

function orderOf(told: Told, byCode: Order | undefined): Order | undefined {
  if (told.given('zero', 'rising edge')) return 'zero';
  return told.given('tare', 'rising edge') ? 'tare' : byCode;
}

/** What an order does to zero and tare; nothing where it is not obeyed. */
function obeyed(
  order: Order | undefined,
  { measured, zero }: Pick<Weigher, 'measured' | 'zero'>,
  at: { stable: boolean; preset: number | undefined },
): Partial<Pick<Weigher, 'zero' | 'tare'>> | undefined {
  if (order === 'clear tare') return { tare: 0 };
  if (order === 'tare' && at.preset !== undefined) return { tare: at.preset };
  if (!at.stable) return undefined;
  return order === 'zero' ? { zero: measured } : order === 'tare' ? { tare: measured - zero } : undefined;
}

/** kg that lie on it. */
function loadOf({ load, broken, overloaded, restingMs }: Weigher, told: Told): number {
  if (broken || overloaded) return overloadKg;
  const turns = restingMs + told.elapsedMs >= turnMs;
  return told.met('load') ?? (turns ? (load === 0 ? partKg : 0) : Math.min(load, partKg));
}

export const weigher: RoleBehaviour<Weigher> = {
  title: 'a weigher: a part is put on it and taken off',
  acts: ['gross', 'net'],
  start: () => ({
    ...{ load: 0, measured: 0, zero: 0, tare: 0, restingMs: 0, ms: 0 },
    ...{ answer: 0, obeyed: 0, overloaded: false, broken: false },
  }),
  step: (state, told) => {
    const { values, elapsedMs } = told;
    const byCode = codeAsked(told);
    const load = loadOf(state, told);
    const measured = lag(state.measured, load, elapsedMs, filterMs);
    const given = told.number('tare value') ?? 0;
    const preset = given > 0 ? given / (perKg[values.unit('tare value').trim()] ?? 1) : undefined;
    const stable = Math.abs(measured - load) < restKg;
    const change = obeyed(orderOf(told, byCode), { ...state, measured }, { stable, preset });
    // A preset acts by itself where nothing orders it.
    const orders = values.has('command code') || values.has('tare');
    const code = byCode && change ? (told.number('command code') ?? 0) : undefined;
    return {
      ...state,
      ...{ load, measured, ms: state.ms + elapsedMs },
      ...(preset !== undefined && !orders ? { tare: preset } : {}),
      ...change,
      restingMs: load === state.load ? state.restingMs + elapsedMs : 0,
      answer: code ?? state.answer,
      obeyed: state.obeyed + Number(change !== undefined),
    };
  },
  shows: (state, feedback) => {
    const { load, measured, zero, tare, ms } = state;
    const gross = measured - zero;
    const as = (role: 'gross' | 'net' | 'tare value', kg: number) =>
      kg * (perKg[feedback.unit(role).trim()] ?? 1);
    const over = gross > rangeKg;
    const counts = (role: 'life counter' | 'sequence number') => (feedback.range(role)?.high ?? 255) + 1;
    return {
      // Before the values, which are counted in them.
      decimals: usualDecimals,
      gross: as('gross', gross),
      net: as('net', gross - tare),
      'tare value': as('tare value', tare),
      'tare applied': tare !== 0,
      stable: Math.abs(measured - load) < restKg && !over,
      'at zero': Math.abs(gross) < zeroKg,
      'warming up': ms < warmUpMs,
      'result valid': ms >= warmUpMs && !over,
      sign: gross - tare < -restKg,
      overrange: over,
      faulted: over,
      'command answer': state.answer,
      'sequence number': state.obeyed % counts('sequence number'),
      'life counter': Math.floor(ms / 10) % counts('life counter'),
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
    {
      id: 'cell-broken',
      title: 'break its load cell',
      reset: 'renew the load cell',
      inject: (state) => ({ ...state, broken: true }),
      clear: (state) => ({ ...state, broken: false, load: 0 }),
    },
  ],
  health: ({ broken }) => (broken ? 'major' : 'good'),
};
