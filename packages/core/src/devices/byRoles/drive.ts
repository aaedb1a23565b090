import { supervisorStates } from '../driveFacts.js';
import { ratedTorqueOf } from '../../motion/driveTrain.js';
import { loadsOf, rpmOf, torqueAt } from '../../motion/loads.js';
import { clamp, lag, towards } from '../motions.js';
import type { Told } from './commands.js';
import { carriesOn, networkGives } from './networkSettings.js';
import type { RoleBehaviour } from './roleBehaviour.js';

/**
 * A drive with an asynchronous motor by its roles: start by level, or one level for each direction; stop goes before
 * start; a fault, or a stop, is left only with a new start. Speeds are those of the field: Hz, rpm or per cent. Where
 * the machine says what load the motor has, it slips; a jam overloads it, braking too fast feeds its bus until it
 * trips.
 */
interface Drive {
  /** Output and reference, Hz; the sign is the direction. */
  output: number;
  reference: number;
  running: boolean;
  /** It is told to start, whether it does or not. */
  asked: boolean;
  reverse: boolean;
  /** A start that is still set does not start it. */
  blocked: boolean;
  faultCode: number;
  controls: boolean;
  byNetwork: boolean;
  /** Of the rated torque; `slips`: the machine says it. */
  load: number;
  slips: boolean;
  jammed: boolean;
  /** Of the rated current; collected overload, 1 trips; V. */
  current: number;
  heat: number;
  bus: number;
  /** From standstill to rated frequency and back, s; what was set over the network's own objects. */
  ramps: { acceleration: number; deceleration: number };
  ownRamps: { acceleration?: number; deceleration?: number };
  runningMs: number;
  /** Two phases of its motor are crossed; a parameter turns it round. */
  crossed: boolean;
  turned: boolean;
}

const ratedHz = 50;
const poles = 4;
const ratedCurrent = 4;
/** Lost at rated load, Hz: 75 rpm of four poles. */
const ratedSlip = 2.5;
/** Per Hz: synchronous speed, and per cent of the rated frequency. */
const rpmPerHz = 120 / poles;
const perHz: Readonly<Record<string, number>> = {
  ...{ rpm: rpmPerHz, '1/min': rpmPerHz, 'min-1': rpmPerHz, '%': 100 / ratedHz },
};
/** Beyond it the reference is not followed, Hz. */
const highestHz = 100;
/** From standstill to rated frequency where nothing else is said, s. */
const usualRamp = 2;
const shortestRamp = 0.05;
const usualLoad = 0.6;
const jamLoad = 2.4;
/** Of the rated current, also without load; common practice, no source. */
const magnetising = 0.4;
/** V of the bus: rectified from 400 V; where it trips; what braking adds for each Hz/s. */
const nominalBus = 565;
const busTrip = 760;
const busPerBraking = 3.1;
/** Overload, overvoltage, loss of the network, as codes of CiA 402 (IEC 61800-7-201, error codes; from memory). */
const driveFaults = { overload: 0x2310, overvoltage: 0x3210, linkLoss: 0x7510 } as const;

const factorOf = (unit: string): number => perHz[unit.trim().toLowerCase()] ?? 1;

/** What is wanted of it: a signed frequency, or nothing. */
function wanted(told: Told, state: Drive): { run: boolean; hz: number; reverse: boolean } {
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
  return {
    run: start && !isStopped(told) && told.commanded,
    hz: clamp(turned ? -hz : hz, -highestHz, highestHz),
    reverse: turned,
  };
}

/** Stop and hold go before start; an enable and a permissive that are there must be given. */
const isStopped = (told: Told): boolean =>
  (['stop', 'quick stop', 'hold'] as const).some((role) => told.on(role)) ||
  (['enable', 'permissive'] as const).some((role) => told.values.has(role) && !told.on(role));

/** The highest and the lowest speed that it is set to, Hz. */
const limitHz = (told: Told, role: 'highest speed' | 'lowest speed'): number | undefined => {
  const set = told.setting(role);
  return set && set.value > 0 ? set.value / factorOf(set.unit) : undefined;
};

/** A bit that gives the network control; without one it has it. Without a controller it stays what it was. */
const given = (told: Told, role: 'network control' | 'network reference', before: boolean): boolean =>
  told.commanded ? !told.values.has(role) || told.on(role) : before;

/** A ramp as the time from standstill to rated frequency, s; an acceleration is in the unit of the speed. */
function rampOf(told: Told, state: Drive, role: 'acceleration' | 'deceleration'): number {
  const own = state.ownRamps[role];
  const set = told.setting(role);
  if (own !== undefined && !told.number(role)) return own;
  if (set === undefined || set.value <= 0) return usualRamp;
  const unit = set.unit.trim();
  if (unit === 's' || unit === 'ms') return unit === 's' ? set.value : set.value / 1000;
  return (ratedHz * factorOf(unit.split('/')[0]!)) / set.value;
}

const slip = ({ output, load, slips }: Drive): number => (slips ? Math.sign(output) * ratedSlip * load : 0);

/** What the shaft turns with, Hz; what it cannot carry stands still, and it never turns against its field. */
const turns = (state: Drive): number => {
  const lost = slip(state);
  return state.jammed || Math.abs(lost) > Math.abs(state.output) ? 0 : state.output - lost;
};
const atSpeed = ({ running, output, reference }: Drive): boolean =>
  running && Math.abs(output - reference) < 0.05;

/** The load of the motor, of its rated torque, by its drive train; undefined where none is said. */
function loadOf(told: Told, before: number, output: number, seconds: number): number | undefined {
  const { train } = told.design;
  const loads = train ? loadsOf(train) : undefined;
  const rated = loads && ratedTorqueOf(loads.train.motor!);
  if (!loads || !rated) return undefined;
  const unitsPerHz = 120 / (loads.train.motor!.poles ?? poles) / rpmOf(loads, 1);
  const change = seconds > 0 ? (output - before) / seconds : 0;
  const torque = torqueAt(loads, output * unitsPerHz, change * unitsPerHz);
  return (torque * (Math.sign(output) || 1)) / rated;
}

function stateNumber({ faultCode, output, running }: Drive): number {
  if (faultCode) return output === 0 ? supervisorStates.faulted : supervisorStates.faultStop;
  if (running) return supervisorStates.enabled;
  return output === 0 ? supervisorStates.ready : supervisorStates.stopping;
}

export const drive: RoleBehaviour<Drive> = {
  title: 'a drive: ramps to its speed reference, and back',
  acts: ['speed reference', 'start', 'forward', 'reverse'],
  start: () => ({
    ...{ output: 0, reference: 0, running: false, asked: false, reverse: false, blocked: false },
    ...{ faultCode: 0, controls: false, byNetwork: false, load: usualLoad, slips: false, jammed: false },
    ...{ current: 0, heat: 0, bus: nominalBus, runningMs: 0, crossed: false, turned: false },
    ...{ ramps: { acceleration: usualRamp, deceleration: usualRamp }, ownRamps: {} },
  }),
  step: (state, told) => {
    const wish = wanted(told, state);
    const controls = given(told, 'network control', state.controls) && networkGives(told, 'start source');
    const byNetwork =
      given(told, 'network reference', state.byNetwork) && networkGives(told, 'reference source');
    const seconds = told.elapsedMs / 1000;
    const cleared = told.given('fault reset', 'rising edge') && !state.jammed;
    // A controller that is lost while it runs is a fault of its own, where one can reset it.
    const goesOn = state.running && !told.owned && carriesOn(told);
    const lost =
      state.running && !told.owned && !goesOn && told.values.has('fault reset') ? driveFaults.linkLoss : 0;
    const before = cleared ? 0 : state.faultCode || lost;
    const running = ((wish.run && controls) || goesOn) && !state.blocked && before === 0;
    const [most, least] = [limitHz(told, 'highest speed'), limitHz(told, 'lowest speed')];
    const wished = goesOn ? state.reference : byNetwork ? wish.hz : 0;
    const hz =
      Math.sign(wished) *
      Math.max(Math.min(Math.abs(wished), most ?? highestHz), wished === 0 ? 0 : (least ?? 0));
    const target = running ? hz : 0;
    const faster = Math.abs(target) > Math.abs(state.output) && target * state.output >= 0;
    const ramps = {
      acceleration: Math.max(rampOf(told, state, 'acceleration'), shortestRamp),
      deceleration: Math.max(rampOf(told, state, 'deceleration'), shortestRamp),
    };
    const rate = ratedHz / (faster ? ramps.acceleration : ramps.deceleration);
    // A drive that has tripped lets its motor coast.
    const output = towards(state.output, target, (before === 0 ? rate : ratedHz) * seconds);
    const met = told.met('load');
    const load = state.jammed ? jamLoad : (met ?? loadOf(told, state.output, output, seconds) ?? usualLoad);
    const carries = output !== 0 && before === 0;
    const current = lag(state.current, carries ? Math.hypot(magnetising, load) : 0, seconds, 0.08);
    const over = current - 1.2;
    const heat = clamp((cleared ? 0 : state.heat) + (over > 0 ? over * 0.3 : -0.02) * seconds, 0, 1);
    const braking = before === 0 && Math.abs(output) < Math.abs(state.output) ? rate : 0;
    const bus = lag(state.bus, nominalBus + braking * busPerBraking, seconds, 0.05);
    const trip = bus > busTrip ? driveFaults.overvoltage : heat >= 1 ? driveFaults.overload : 0;
    const faultCode = before || trip;
    return {
      ...state,
      ...{ output, reference: hz, running: running && trip === 0, asked: wish.run, reverse: wish.reverse },
      ...{ faultCode, controls, byNetwork, load, slips: met !== undefined, current, heat, bus, ramps },
      // After a fault a start that is still set must go first.
      blocked: (faultCode !== 0 || state.blocked) && startIsSet(told),
      runningMs: state.runningMs + (running ? told.elapsedMs : 0),
      turned: (told.parameter('turning direction')?.value ?? 0) !== 0,
    };
  },
  shows: (state, feedback) => {
    const { output, running, faultCode, load, heat } = state;
    const turning = running || Math.abs(output) > 0.01;
    return {
      ready: faultCode === 0,
      enabled: running,
      running: turning,
      'runs forward': turning && output > 0,
      'runs reverse': turning && output < 0,
      ramping: turning && !atSpeed(state),
      faulted: faultCode !== 0,
      warning: heat > 0.7,
      'at speed': atSpeed(state),
      'network has control': state.controls,
      'network has reference': state.byNetwork,
      'state number': stateNumber(state),
      'fault code': faultCode,
      'warning code': heat > 0.7 ? driveFaults.overload : 0,
      'speed actual': turns(state) * factorOf(feedback.unit('speed actual')),
      'motor current': state.current < 0.01 ? 0 : state.current * ratedCurrent,
      'bus voltage': state.bus,
      'torque actual': turning ? load * 100 * Math.sign(output) : 0,
      'operating time': state.runningMs / (feedback.unit('operating time') === 'h' ? 3_600_000 : 1000),
    };
  },
  moves: (state, { scale }) => turns(state) * scale * (state.crossed ? -1 : 1) * (state.turned ? -1 : 1),
  drive: {
    facts: (s) => ({
      motor: {
        ...{ type: 7, catalogue: 'QM-90L4', ratedCurrent, ratedVoltage: 400, ratedPower: 1500 },
        ...{ ratedFrequency: ratedHz, poles, baseSpeed: (ratedHz - ratedSlip) * rpmPerHz },
      },
      state: stateNumber(s),
      runForward: s.asked && !s.reverse,
      runReverse: s.asked && s.reverse,
      runningForward: s.output > 0,
      runningReverse: s.output < 0,
      ready: s.faultCode === 0,
      faulted: s.faultCode !== 0,
      warning: s.heat > 0.7,
      faultCode: s.faultCode,
      warningCode: s.heat > 0.7 ? driveFaults.overload : 0,
      networkControls: s.controls,
      networkReference: s.byNetwork,
      atReference: atSpeed(s),
      speedActual: turns(s) * rpmPerHz,
      speedReference: s.reference * rpmPerHz,
      current: s.current * ratedCurrent,
      accelerationTime: s.ramps.acceleration * 1000,
      decelerationTime: s.ramps.deceleration * 1000,
    }),
    change: (s, { networkControls, networkReference, resetFault, accelerationTime, decelerationTime }) => ({
      ...s,
      controls: networkControls ?? s.controls,
      byNetwork: networkReference ?? s.byNetwork,
      faultCode: resetFault && !s.jammed ? 0 : s.faultCode,
      ownRamps: {
        ...s.ownRamps,
        ...(accelerationTime === undefined ? {} : { acceleration: accelerationTime / 1000 }),
        ...(decelerationTime === undefined ? {} : { deceleration: decelerationTime / 1000 }),
      },
    }),
  },
  faults: [
    {
      id: 'jammed',
      title: 'jam what it drives: it trips on overload',
      reset: 'free it, then fault reset and a new start',
      inject: (state) => ({ ...state, jammed: true }),
      clear: (state) => ({ ...state, jammed: false }),
    },
    {
      id: 'crossed',
      title: 'cross two phases of its motor: it turns the other way round',
      reset: 'turn its direction round in the drive, or change the two phases',
      inject: (state) => ({ ...state, crossed: true }),
      clear: (state) => ({ ...state, crossed: false }),
    },
  ],
  health: ({ faultCode }) => (faultCode === 0 ? 'good' : 'minor'),
};

const startIsSet = (told: Told): boolean =>
  (told.acting('start', 'level') === 'level' && told.on('start')) || told.on('forward') || told.on('reverse');
