import { cia402 } from '../../motion/cia402.js';
import { nextState as profileState } from '../../motion/wordProfile.js';
import { ratedTorqueOf } from '../../motion/driveTrain.js';
import { unitShare } from '../../motion/driveUnits.js';
import { loadsOf, torqueAt } from '../../motion/loads.js';
import { clamp, glide, lag, towards } from '../motions.js';
import type { Told } from './commands.js';
import type { RoleBehaviour } from './roleBehaviour.js';

/**
 * A servo axis by its roles: enabled by level, or by the commands of the state machine of IEC 61800-7-201 (CiA 402)
 * where it has them; a rising strobe takes the position setpoint over and is acknowledged until it falls; without a
 * strobe the setpoint is followed at once. Positions and speeds are in the units of the fields, which agree with each
 * other. Where the machine says what it moves, the mass shows in torque and lag.
 */
interface Axis {
  state: (typeof states)[number];
  /** Of the commanded move, and where it really is; undefined before it has been anywhere. */
  move: { position: number; speed: number } | undefined;
  position: number;
  velocity: number;
  target: number;
  limits: { speed: number; acceleration: number };
  /** Per cent of the rated torque. */
  torque: number;
  mode: number;
  homed: boolean;
  homing: boolean;
  acknowledged: boolean;
  limited: boolean;
  faultCode: number;
  blocked: boolean;
  /** The machine says what it moves. */
  loaded: boolean;
  /** N·m that are 100 % of the torque, where its drive train says it. */
  ratedTorque: number | undefined;
  /** Its motor is wired, or mounted, the other way round; and a parameter turns it round. */
  crossed: boolean;
  turned: boolean;
  /** Units between its ends, where its setpoint has limits. */
  ends: { low: number; high: number } | undefined;
}

/** The states of the profile; the place of each is the number that it shows. */
const states = ['disabled', 'ready', 'switched on', 'enabled', 'quick stop', 'fault'] as const;

/** Modes of operation of CiA 402 that are another than positioning (IEC 61800-7-201; from memory). */
const homingMode = 6;
const velocityMode = 3;
/** Where nothing else is said: units of position a second, and a second to that speed. */
const usualSpeed = 100;
const usualAcceleration = 500;
const usualStopping = 2000;
/** Following error and loss of the network, as codes of CiA 402 (IEC 61800-7-201; from memory). */
const axisFaults = { following: 0x8611, linkLoss: 0x7510 } as const;
/** How near to its target counts as there: exactly, or behind a mass. */
const near = (loaded: boolean): number => (loaded ? 0.2 : 1e-6);
/** kg that are balanced; per cent of the rated torque for a kilogram more, and for an acceleration of the mass. */
const balanced = 60;
const torquePerLoad = 0.75;
const torquePerForce = 1 / 9000;
const idleTorque = 5;

/** The state machine of the profile; a fault is left by its reset alone, which is seen to elsewhere. */
function nextByProfile(state: Axis['state'], told: Told): Axis['state'] {
  const bits = [told.on('switch on'), told.on('enable voltage'), !told.on('quick stop'), told.on('enable')];
  const control = bits.reduce((word, on, bit) => word | (Number(on) << bit), 0);
  return profileState(cia402, state, control, control).state as Axis['state'];
}

function nextState(state: Axis['state'], told: Told): Axis['state'] {
  const { values } = told;
  if (state === 'fault') return state;
  if (values.has('switch on') && values.has('enable voltage')) return nextByProfile(state, told);
  const wish = values.has('enable') ? told.on('enable') : told.commanded;
  return wish && !told.on('quick stop') ? 'enabled' : 'disabled';
}

/** The setpoint that it takes over in this step, if it does; within the limits of its field. */
function setpoint(axis: Axis, told: Told): Partial<Axis> {
  const { values } = told;
  const byStrobe = values.has('setpoint strobe');
  const takes = byStrobe ? told.given('setpoint strobe', 'rising edge') : told.commanded;
  const strobe = told.on('setpoint strobe');
  const needsHome = values.has('operating mode');
  if (
    axis.state !== 'enabled' ||
    axis.mode === homingMode ||
    axis.mode === velocityMode ||
    (needsHome && !axis.homed) ||
    !takes
  )
    return { acknowledged: strobe && axis.acknowledged };
  const wanted = (values.number('position setpoint') ?? 0) + (told.on('relative setpoint') ? axis.target : 0);
  const { low, high } = values.range('position setpoint') ?? { low: wanted, high: wanted };
  const target = clamp(wanted, low, high);
  const speed = Math.abs(values.number('velocity') ?? 0) || usualSpeed;
  const acceleration = Math.abs(told.setting('acceleration')?.value ?? 0) || speed;
  return {
    ...{ target, limits: { speed, acceleration } },
    ...{ limited: target !== wanted, acknowledged: strobe },
  };
}

/** One step towards the velocity that is commanded. */
function atVelocity(
  { position, speed }: { position: number; speed: number },
  told: Told,
  seconds: number,
): { position: number; speed: number } {
  const wanted = told.number('velocity') ?? 0;
  const acceleration = Math.abs(told.setting('acceleration')?.value ?? 0) || usualAcceleration;
  const next = towards(speed, wanted, acceleration * seconds);
  return { position: position + ((speed + next) / 2) * seconds, speed: next };
}

/** Torque in the unit of its field: per cent of the rated one, or N·m and the like. */
function torqueIn(unit: string, { torque, ratedTorque }: Axis): number {
  const share = unit === '%' ? undefined : unitShare(unit);
  return ratedTorque === undefined || share === undefined || unit === ''
    ? torque
    : (torque * ratedTorque) / 100 / share;
}

export const servoAxis: RoleBehaviour<Axis> = {
  title: 'an axis: goes to its position setpoint',
  acts: ['position setpoint', 'home'],
  start: () => ({
    ...{ state: 'disabled', move: undefined, position: 0, velocity: 0, target: 0, torque: 0, mode: 0 },
    limits: { speed: usualSpeed, acceleration: usualSpeed },
    ...{ homed: false, homing: false, acknowledged: false, limited: false, faultCode: 0 },
    ...{ blocked: false, loaded: false, ratedTorque: undefined, crossed: false, turned: false },
    ends: undefined,
  }),
  step: (before, told) => {
    const seconds = told.elapsedMs / 1000;
    const begins = before.move ? before.position : (told.met('starts at') ?? 0);
    const at = before.move ?? { position: begins, speed: 0 };
    let axis: Axis = before.move ? before : { ...before, move: at, position: begins, target: begins };
    // The mode may only change while it is not enabled.
    if (axis.state !== 'enabled') axis = { ...axis, mode: told.number('operating mode') ?? axis.mode };
    if (!told.owned && axis.state === 'enabled' && told.values.has('fault reset'))
      axis = { ...axis, state: 'fault', faultCode: axisFaults.linkLoss };
    if (axis.state === 'fault' && told.given('fault reset', 'rising edge') && !axis.blocked)
      axis = { ...axis, state: 'disabled', faultCode: 0 };
    const reached = nextState(axis.state, told);
    if (reached === 'enabled' && axis.state !== 'enabled') axis = { ...axis, target: axis.position };
    axis = { ...axis, state: reached };
    axis = { ...axis, ...setpoint(axis, told) };
    const enabled = axis.state === 'enabled';

    const begin = axis.mode === homingMode ? told.given('setpoint strobe', 'rising edge') : told.on('home');
    if (enabled && begin && !axis.homing) {
      const speed = Math.abs(told.number('velocity') ?? 0) || usualSpeed;
      const acknowledged = axis.mode === homingMode || axis.acknowledged;
      axis = { ...axis, homing: true, homed: false, target: 0, acknowledged };
      axis = {
        ...axis,
        limits: { speed, acceleration: Math.abs(told.number('acceleration') ?? 0) || speed * 4 },
      };
    }
    if (!enabled) axis = { ...axis, homing: false };
    const stops = !enabled || told.on('stop') || told.on('hold');
    const { train } = told.design;
    const unit = unitShare(told.values.unit('position setpoint')) ?? 1;
    const stopping = train?.quickStop ? train.quickStop / unit : usualStopping;
    const aim = stops ? at.position + (Math.sign(at.speed) * at.speed ** 2) / (2 * stopping) : axis.target;
    const limits = stops ? { speed: Math.abs(at.speed), acceleration: stopping } : axis.limits;
    const moves = (enabled || Math.abs(at.speed) > 1) && !axis.blocked;
    const move =
      enabled && !stops && !axis.blocked && axis.mode === velocityMode
        ? atVelocity(at, told, seconds)
        : moves
          ? glide(at, aim, limits, seconds)
          : { position: at.position, speed: 0 };
    if (axis.mode === velocityMode) axis = { ...axis, target: move.position };

    // Behind the command what it moves follows like a spring that its mass stretches.
    const load = told.met('load');
    const mass = balanced + (load ?? 0);
    const loads = train ? loadsOf(train) : undefined;
    const rated = loads && ratedTorqueOf(loads.train.motor!);
    const follows = load !== undefined && !loads;
    const position =
      !follows || axis.blocked
        ? move.position
        : lag(axis.position, move.position, seconds, 0.004 + mass / 20_000);
    const velocity = seconds > 0 ? (position - axis.position) / seconds : 0;
    const force = (mass * (move.speed - at.speed)) / Math.max(seconds, 1e-3);
    const asked =
      loads && rated
        ? (100 * torqueAt(loads, move.speed * unit, ((move.speed - at.speed) / seconds) * unit, load)) / rated
        : undefined;
    const torque = asked ?? (load === undefined ? idleTorque : load * torquePerLoad + force * torquePerForce);
    const stuck = enabled && axis.blocked && Math.abs(axis.target - position) > near(axis.loaded);
    const arrived = axis.homing && Math.abs(position) < near(follows) && move.speed === 0;
    return {
      ...axis,
      ...{ move, position, loaded: follows, ratedTorque: rated },
      turned: (told.parameter('turning direction')?.value ?? 0) !== 0,
      ends: told.values.range('position setpoint'),
      velocity: !follows ? move.speed : lag(axis.velocity, velocity, seconds, 0.02),
      torque: enabled ? clamp(lag(axis.torque, torque, seconds, 0.01), -300, 300) : 0,
      homed: axis.homed || arrived,
      homing: axis.homing && !arrived,
      ...(stuck ? { state: 'fault', faultCode: axisFaults.following } : {}),
    };
  },
  shows: (axis, feedback) => {
    const { state, position, target, move, homing, faultCode } = axis;
    const enabled = state === 'enabled';
    const on = enabled || state === 'switched on' || state === 'quick stop';
    const speed = move?.speed ?? 0;
    return {
      ready: faultCode === 0,
      'ready to switch on': state === 'ready' || on,
      'switched on': on,
      enabled: enabled || state === 'quick stop',
      'voltage enabled': state !== 'disabled' && state !== 'fault',
      'quick stop active': state === 'quick stop' || state === 'fault',
      'switch on disabled': state === 'disabled',
      running: enabled && speed !== 0,
      'target reached': enabled && !homing && Math.abs(target - position) <= near(axis.loaded) && speed === 0,
      homed: axis.homed,
      'setpoint acknowledge': axis.acknowledged,
      'limit active': axis.limited,
      faulted: state === 'fault',
      warning: Math.abs(axis.torque) > 100,
      'following error': faultCode === axisFaults.following,
      'fault code': faultCode,
      'mode shown': axis.mode,
      'state number': states.indexOf(state),
      'network has control': true,
      'position actual': position,
      'position lag': (move?.position ?? position) - position,
      'speed actual': axis.velocity,
      'torque actual': torqueIn(feedback.unit('torque actual'), axis),
      'limit positive': axis.ends !== undefined && position >= axis.ends.high,
      'limit negative': axis.ends !== undefined && position <= axis.ends.low,
    };
  },
  moves: (axis, { scale }) =>
    (axis.move?.speed ?? 0) * scale * (axis.crossed ? -1 : 1) * (axis.turned ? -1 : 1),
  faults: [
    {
      id: 'blocked',
      title: 'block the axis: a following error when it should move',
      reset: 'free it, then fault reset and enable',
      inject: (state) => ({ ...state, blocked: true }),
      clear: (state) => ({ ...state, blocked: false }),
    },
    {
      id: 'crossed',
      title: 'mount its motor the other way round: it moves against what it counts',
      reset: 'turn its direction round in the drive, or mount it again',
      inject: (state) => ({ ...state, crossed: true }),
      clear: (state) => ({ ...state, crossed: false }),
    },
  ],
  health: ({ state }) => (state === 'fault' ? 'minor' : 'good'),
};
