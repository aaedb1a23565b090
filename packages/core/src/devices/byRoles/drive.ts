import { clamp, towards } from '../motions.js';
import type { Told } from './commands.js';
import type { RoleBehaviour } from './roleBehaviour.js';

/**
 * A drive with an asynchronous motor by its roles: start by level, or one level for each direction; stop goes before
 * start; a fault, or a stop, is left only with a new start. Speeds are those of the field: Hz, rpm or per cent.
 */
interface Drive {
  /** Output and reference, Hz; the sign is the direction. */
  output: number;
  reference: number;
  running: boolean;
  /** A start that is still set does not start it. */
  blocked: boolean;
  faultCode: number;
  /** Of the rated torque. */
  load: number;
  jammed: boolean;
}

/** Per Hz: synchronous speed of four poles, and per cent of the rated frequency. */
const perHz: Readonly<Record<string, number>> = { rpm: 30, '1/min': 30, 'min-1': 30, '%': 2 };
/** Beyond it the reference is not followed, Hz. */
const highestHz = 100;
/** From standstill to rated frequency where nothing else is said, s. */
const usualRamp = 2;
const ratedHz = 50;
const ratedCurrent = 4;
const usualLoad = 0.6;
/** Of the rated current, also without load; common practice, no source. */
const magnetising = 0.4;
/** Overload, as its code of CiA 402 (IEC 61800-7-201, error codes; from memory). */
export const overloadCode = 0x2310;

const factorOf = (unit: string): number => perHz[unit.trim().toLowerCase()] ?? 1;

/** What is wanted of it: a signed frequency, or nothing. */
function wanted(told: Told, state: Drive): { run: boolean; hz: number } {
  const { values } = told;
  const [forward, reverse] = [told.on('forward'), told.on('reverse')];
  const either = values.has('forward') || values.has('reverse');
  // Both directions at once is no direction.
  const asked = either ? forward !== reverse : false;
  const latches = told.acting('start', 'level') !== 'level';
  const started = told.given('start', 'level') || (latches && state.running);
  const start = values.has('start') ? started && (!either || asked) : asked;
  const hz = (told.number('speed reference') ?? 0) / factorOf(values.unit('speed reference'));
  const turned = (either && reverse) || told.on('direction');
  const run = start && !isStopped(told) && told.commanded && state.faultCode === 0;
  return { run, hz: clamp(turned ? -hz : hz, -highestHz, highestHz) };
}

/** Stop goes before start; an enable that is there must be given. */
const isStopped = (told: Told): boolean =>
  told.on('stop') || told.on('quick stop') || (told.values.has('enable') && !told.on('enable'));

/** A ramp in Hz/s: a time from standstill to rated frequency, or an acceleration in the unit of the speed. */
function ramp(values: Told['values'], role: 'acceleration' | 'deceleration'): number {
  const value = values.number(role);
  if (value === undefined || value <= 0) return ratedHz / usualRamp;
  const unit = values.unit(role).trim();
  if (unit === 's' || unit === 'ms') return ratedHz / (unit === 's' ? value : value / 1000);
  return value / factorOf(unit.split('/')[0]!);
}

export const drive: RoleBehaviour<Drive> = {
  title: 'a drive: ramps to its speed reference, and back',
  acts: ['speed reference', 'start', 'forward', 'reverse'],
  start: () => ({
    ...{ output: 0, reference: 0, running: false, blocked: false },
    ...{ faultCode: 0, load: usualLoad, jammed: false },
  }),
  step: (state, told) => {
    const { run, hz } = wanted(told, state);
    const tripped = state.jammed && state.output !== 0;
    const cleared = told.given('fault reset', 'rising edge') && !state.jammed ? 0 : state.faultCode;
    const faultCode = tripped ? overloadCode : cleared;
    const running = run && !state.blocked && faultCode === 0;
    const seconds = told.elapsedMs / 1000;
    const target = running ? hz : 0;
    const faster = Math.abs(target) > Math.abs(state.output);
    const rate = ramp(told.values, faster ? 'acceleration' : 'deceleration') * seconds;
    // A drive that has tripped lets its motor coast.
    const output =
      faultCode !== 0 ? towards(state.output, 0, ratedHz * seconds) : towards(state.output, target, rate);
    return {
      ...state,
      ...{ output, reference: hz, running, faultCode, load: told.met('load') ?? usualLoad },
      // After a fault a start that is still set must go first.
      blocked: (faultCode !== 0 || state.blocked) && startIsSet(told),
    };
  },
  shows: (state, feedback) => {
    const { output, reference, running, faultCode, load } = state;
    const turning = running || Math.abs(output) > 0.01;
    return {
      ready: faultCode === 0,
      enabled: running,
      running: turning,
      'runs forward': turning && output > 0,
      'runs reverse': turning && output < 0,
      faulted: faultCode !== 0,
      warning: false,
      'at speed': running && Math.abs(output - reference) < 0.05,
      'network has control': true,
      'network has reference': true,
      'fault code': faultCode,
      'speed actual': output * factorOf(feedback.unit('speed actual')),
      'motor current': turning ? ratedCurrent * Math.hypot(magnetising, load) : 0,
      'torque actual': turning ? load * 100 * Math.sign(output) : 0,
    };
  },
  faults: [
    {
      id: 'jammed',
      title: 'jam what it drives',
      reset: 'free it, then fault reset and a new start',
      inject: (state) => ({ ...state, jammed: true }),
      clear: (state) => ({ ...state, jammed: false }),
    },
  ],
  health: ({ faultCode }) => (faultCode === 0 ? 'good' : 'minor'),
};

const startIsSet = (told: Told): boolean =>
  (told.acting('start', 'level') === 'level' && told.on('start')) || told.on('forward') || told.on('reverse');
