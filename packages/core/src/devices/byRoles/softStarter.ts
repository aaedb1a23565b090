import { lag, towards } from '../motions.js';
import type { Told } from './commands.js';
import { carriesOn, networkGives } from './networkSettings.js';
import type { RoleBehaviour } from './roleBehaviour.js';

/**
 * A soft starter by its roles: it ramps the voltage of the motor up from 30 % and down again; stop goes before start; a
 * fault is left only with a new start. A motor that has lost its load trips it after a while.
 */
interface Starter {
  /** Share of the supply voltage, of the synchronous speed, of the rated current. */
  voltage: number;
  speed: number;
  current: number;
  running: boolean;
  blocked: boolean;
  faultCode: number;
  /** Wh, and how often it has started. */
  energy: number;
  starts: number;
  unloaded: boolean;
  unloadedMs: number;
}

const ratedCurrent = 12;
const supply = 400;
/** Synchronous speed of four poles at 50 Hz, less the slip, rpm; the same in Hz of the shaft's field. */
const ratedRpm = 1450;
const ratedHz = 50;
/** Below it the motor would only hum. */
const startVoltage = 0.3;
const usualRamp = { acceleration: 4, deceleration: 6 } as const;
/** A motor without load takes so much of its current; longer than so it trips. */
const unloadedShare = 0.3;
const unloadedLimitMs = 2000;
/** Numbers of our own, for there is no standard of them: load lost, network lost. */
const starterFaults = { unloaded: 17, linkLoss: 33 } as const;

const rampOf = (told: Told, role: 'acceleration' | 'deceleration'): number => {
  const set = told.setting(role);
  if (!set || set.value <= 0) return usualRamp[role];
  return Math.max(set.unit.trim() === 'ms' ? set.value / 1000 : set.value, 0.5);
};

export const softStarter: RoleBehaviour<Starter> = {
  title: 'a soft starter: ramps the voltage of its motor up and down',
  acts: ['start', 'forward'],
  start: () => ({
    ...{ voltage: 0, speed: 0, current: 0, running: false, blocked: false, faultCode: 0 },
    ...{ energy: 0, starts: 0, unloaded: false, unloadedMs: 0 },
  }),
  step: (state, told) => {
    const seconds = told.elapsedMs / 1000;
    const role = told.values.has('start') ? 'start' : 'forward';
    const latches = told.acting(role, 'level') !== 'level';
    const goesOn = state.running && !told.owned && carriesOn(told);
    const given = told.given(role, 'level') || (latches && state.running);
    const asked = goesOn || (given && networkGives(told, 'start source'));
    const stops = told.on('stop') || (told.values.has('enable') && !told.on('enable'));
    const cleared = told.given('fault reset', 'rising edge') && !state.unloaded;
    // Lost while it runs is a fault where one can reset it.
    const lost =
      state.running && !told.owned && !goesOn && told.values.has('fault reset') ? starterFaults.linkLoss : 0;
    const before = cleared ? 0 : state.faultCode || lost;
    const unloadedMs =
      cleared || !state.unloaded ? 0 : state.unloadedMs + (state.speed > 0.8 ? told.elapsedMs : 0);
    const faultCode = before || (unloadedMs > unloadedLimitMs ? starterFaults.unloaded : 0);
    const running = asked && !stops && told.commanded && !state.blocked && faultCode === 0;
    const span = 1 - startVoltage;
    const rate = span / rampOf(told, running ? 'acceleration' : 'deceleration');
    const from = running ? Math.max(state.voltage, startVoltage) : state.voltage;
    const ramped = towards(from, running ? 1 : 0, rate * seconds);
    const voltage = faultCode !== 0 || (!running && ramped < startVoltage) ? 0 : ramped;
    const speed = lag(state.speed, voltage ** 2, seconds, 1.1);
    const load = state.unloaded ? unloadedShare : (told.met('load') ?? 1);
    const current = lag(state.current, voltage * (1 + 2.4 * (1 - speed)) * load, seconds, 0.06);
    const watts = Math.sqrt(3) * supply * voltage * current * ratedCurrent * 0.85;
    return {
      ...state,
      ...{ voltage, running, faultCode, unloadedMs },
      speed: speed < 1e-4 ? 0 : speed,
      current: current < 0.002 ? 0 : current,
      blocked: (faultCode !== 0 || state.blocked) && !latches && told.on(role),
      starts: state.starts + Number(running && !state.running),
      energy: state.energy + (watts * seconds) / 3600,
    };
  },
  shows: ({ voltage, speed, current, running, faultCode, energy, starts }, feedback) => ({
    ready: faultCode === 0,
    enabled: running,
    running,
    ramping: voltage > 0 && voltage < 1,
    'at speed': voltage === 1,
    faulted: faultCode !== 0,
    'network has control': true,
    'fault code': faultCode,
    'output voltage': voltage * (feedback.unit('output voltage').trim() === '%' ? 100 : supply),
    'motor current': current * (feedback.unit('motor current').trim() === '%' ? 100 : ratedCurrent),
    'speed actual':
      speed * (feedback.unit('speed actual').trim().toLowerCase() === 'hz' ? ratedHz : ratedRpm),
    energy: energy / (feedback.unit('energy').trim() === 'Wh' ? 1 : 1000),
    'start count': starts,
  }),
  faults: [
    {
      id: 'unloaded',
      title: 'take the load away, as of a pump that runs dry',
      reset: 'give it its load back, then fault reset and a new start',
      inject: (state) => ({ ...state, unloaded: true }),
      clear: (state) => ({ ...state, unloaded: false }),
    },
  ],
  health: ({ faultCode }) => (faultCode === 0 ? 'good' : 'minor'),
};
