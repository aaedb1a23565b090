import { clamp, lag } from '../motions.js';
import type { Told } from './commands.js';
import type { RoleBehaviour } from './roleBehaviour.js';

/**
 * A motor starter with overload relay by its roles: start by level, or one level for each direction; the relay follows
 * the warmth of the motor, trips at 100 %, and can be reset once it has cooled down.
 */
interface Starter {
  /** 1 forward, −1 reverse, 0 open. */
  contactor: number;
  /** ms since it closed. */
  closedMs: number;
  /** Of the rated current; 1 trips after a while above 1.05. */
  current: number;
  heat: number;
  tripped: boolean;
  blocked: boolean;
  overloaded: boolean;
}

const ratedCurrent = 6.3;
/** Current at the first moment, of the rated one, and how long it lasts, ms; common practice, no source. */
const inrush = 6;
const inrushMs = 250;
/**
 * Time constant of the warmth, s. At 7.2 times the rated current it trips after 3.9 s: a relay of trip class 10A is to
 * do so between 2 and 10 s (IEC 60947-4-1, table of trip classes; from memory).
 */
const warmthTime = 200;
const tripsAt = 1;
const warnsAt = 0.9;
const resetBelow = 0.6;
/** Tripping by overload: common practice, no standard of the codes. */
const overloadTrip = 1;

function wanted(told: Told, { contactor }: Starter): number {
  if (told.on('stop') || (told.values.has('enable') && !told.on('enable')) || !told.commanded) return 0;
  const [forward, reverse] = [told.on('forward'), told.on('reverse')];
  if (told.values.has('forward') || told.values.has('reverse'))
    return forward === reverse ? 0 : forward ? 1 : -1;
  const latched = told.acting('start', 'level') !== 'level' && contactor !== 0;
  return told.given('start', 'level') || latched ? (told.on('direction') ? -1 : 1) : 0;
}

export const motorStarter: RoleBehaviour<Starter> = {
  title: 'a motor starter: a contactor and an overload relay',
  acts: ['start', 'forward', 'reverse'],
  start: () => ({
    ...{ contactor: 0, closedMs: 0, current: 0, heat: 0, tripped: false, blocked: false, overloaded: false },
  }),
  step: (state, told) => {
    const asked = wanted(told, state);
    const seconds = told.elapsedMs / 1000;
    const load = state.overloaded ? 4 : (told.met('load') ?? 0.7);
    const starting = state.contactor !== 0 && state.closedMs < inrushMs;
    const current = state.contactor === 0 ? 0 : starting ? inrush : load;
    // The heat of a motor goes with the square of its current.
    const heat = clamp(lag(state.heat, current ** 2, seconds, warmthTime), 0, 10);
    const reset = told.given('fault reset', 'rising edge') && heat < resetBelow;
    const tripped = heat >= tripsAt || (state.tripped && !reset);
    const blocked = asked !== 0 && (tripped || state.blocked);
    const contactor = tripped || blocked ? 0 : asked;
    return {
      ...state,
      ...{ contactor, current, heat, tripped, blocked },
      closedMs: contactor === 0 || contactor !== state.contactor ? 0 : state.closedMs + told.elapsedMs,
    };
  },
  shows: ({ contactor, current, heat, tripped }, feedback) => ({
    ready: !tripped,
    running: contactor !== 0,
    enabled: contactor !== 0,
    'runs forward': contactor > 0,
    'runs reverse': contactor < 0,
    faulted: tripped,
    overload: tripped,
    'fault code': tripped ? overloadTrip : 0,
    warning: heat >= warnsAt,
    'thermal load': heat * 100,
    'motor current': feedback.unit('motor current').trim() === '%' ? current * 100 : current * ratedCurrent,
    'load power': [true],
  }),
  faults: [
    {
      id: 'overloaded',
      title: 'overload the motor fourfold',
      reset: 'take the load off; once it is below 60 % fault reset and a new start',
      inject: (state) => ({ ...state, overloaded: true }),
      clear: (state) => ({ ...state, overloaded: false }),
    },
  ],
  health: ({ tripped }) => (tripped ? 'minor' : 'good'),
};
