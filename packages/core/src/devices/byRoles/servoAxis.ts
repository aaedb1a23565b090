import { cia402 } from '../../motion/cia402.js';
import { nextState as profileState } from '../../motion/wordProfile.js';
import { clamp, glide, towards } from '../motions.js';
import {
  atEnds,
  atRest,
  braked,
  followed,
  followingLimit,
  torqueIn,
  unitOf,
  type AxisMechanics,
} from './axisMechanics.js';
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
  /** The commanded one; undefined before it has been anywhere. */
  move: { position: number; speed: number } | undefined;
  hangs: AxisMechanics;
  target: number;
  limits: { speed: number; acceleration: number };
  mode: number;
  homed: boolean;
  homing: boolean;
  acknowledged: boolean;
  limited: boolean;
  /** A limit switch ends its move. */
  ended: boolean;
  faultCode: number;
  blocked: boolean;
  /** Its motor is wired, or mounted, the other way round; and a parameter turns it round. */
  crossed: boolean;
  turned: boolean;
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
const near = ({ springs }: AxisMechanics): number => (springs ? 0.2 : 1e-6);

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

/** A moment of a move that its limit switches end: what one sees stops the way towards it, and no other. */
function withinEnds(
  { limits }: AxisMechanics,
  before: { position: number; speed: number },
  wished: { position: number; speed: number },
  stopping: number,
  seconds: number,
): { position: number; speed: number } {
  const way = Math.sign(before.speed || wished.position - before.position);
  if (!(way > 0 ? limits.positive : way < 0 && limits.negative)) return wished;
  const speed = towards(before.speed, 0, stopping * seconds);
  // It may come to rest sooner by itself.
  if (Math.abs(wished.speed) < Math.abs(speed)) return wished;
  return { position: before.position + ((before.speed + speed) / 2) * seconds, speed };
}

export const servoAxis: RoleBehaviour<Axis> = {
  title: 'an axis: goes to its position setpoint',
  acts: ['position setpoint', 'home'],
  start: () => ({
    ...{ state: 'disabled', move: undefined, hangs: atRest, target: 0, mode: 0 },
    limits: { speed: usualSpeed, acceleration: usualSpeed },
    ...{ homed: false, homing: false, acknowledged: false, limited: false, ended: false, faultCode: 0 },
    ...{ blocked: false, crossed: false, turned: false },
  }),
  step: (before, told) => {
    const seconds = told.elapsedMs / 1000;
    const begins = told.met('starts at') ?? 0;
    const at = before.move ?? { position: begins, speed: 0 };
    let axis: Axis = before.move
      ? before
      : { ...before, move: at, hangs: { ...before.hangs, position: begins }, target: begins };
    // The mode may only change while it is not enabled.
    if (axis.state !== 'enabled') axis = { ...axis, mode: told.number('operating mode') ?? axis.mode };
    if (!told.owned && axis.state === 'enabled' && told.values.has('fault reset'))
      axis = { ...axis, state: 'fault', faultCode: axisFaults.linkLoss };
    if (axis.state === 'fault' && told.given('fault reset', 'rising edge') && !axis.blocked)
      axis = { ...axis, state: 'disabled', faultCode: 0 };
    const reached = nextState(axis.state, told);
    if (reached === 'enabled' && axis.state !== 'enabled') axis = { ...axis, target: axis.hangs.position };
    axis = { ...axis, state: reached };
    axis = { ...axis, ...setpoint(axis, told) };
    const enabled = axis.state === 'enabled';
    axis = { ...axis, hangs: braked(axis.hangs, told, { enabled, moves: at.speed !== 0 }) };

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
    const stopping = train?.quickStop ? train.quickStop / unitOf(told) : usualStopping;
    const aim = stops ? at.position + (Math.sign(at.speed) * at.speed ** 2) / (2 * stopping) : axis.target;
    const limits = stops ? { speed: Math.abs(at.speed), acceleration: stopping } : axis.limits;
    const free = !axis.blocked && axis.hangs.opens === 0;
    const glides = (enabled || Math.abs(at.speed) > 1) && free;
    const wished =
      enabled && !stops && free && axis.mode === velocityMode
        ? atVelocity(at, told, seconds)
        : glides
          ? glide(at, aim, limits, seconds)
          : { position: at.position, speed: 0 };
    const move = withinEnds(axis.hangs, at, wished, stopping, seconds);
    axis = { ...axis, ended: move !== wished };
    if (axis.mode === velocityMode || axis.ended) axis = { ...axis, target: move.position };

    const hangs = followed(axis.hangs, told, [at, move], { enabled, blocked: axis.blocked });
    const lost = Math.abs(move.position - hangs.position) > followingLimit(told);
    const stuck = enabled && axis.blocked && Math.abs(axis.target - hangs.position) > near(hangs);
    const arrived = axis.homing && Math.abs(hangs.position) < near(hangs) && move.speed === 0;
    return {
      ...axis,
      ...{ move, hangs: atEnds(hangs, told) },
      turned: (told.parameter('turning direction')?.value ?? 0) !== 0,
      homed: axis.homed || arrived,
      homing: axis.homing && !arrived,
      ...(stuck || (enabled && lost) ? { state: 'fault', faultCode: axisFaults.following } : {}),
    };
  },
  shows: (axis, feedback) => {
    const { state, hangs, target, move, homing, faultCode } = axis;
    const { position } = hangs;
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
      'target reached': enabled && !homing && Math.abs(target - position) <= near(hangs) && speed === 0,
      homed: axis.homed,
      'setpoint acknowledge': axis.acknowledged,
      'limit active': axis.limited || axis.ended,
      faulted: state === 'fault',
      warning: Math.abs(hangs.torque) > 100,
      'following error': faultCode === axisFaults.following,
      'fault code': faultCode,
      'mode shown': axis.mode,
      'state number': states.indexOf(state),
      'network has control': true,
      'position actual': position,
      'position lag': (move?.position ?? position) - position,
      'speed actual': hangs.velocity,
      'torque actual': torqueIn(feedback.unit('torque actual'), hangs),
      'limit positive': hangs.limits.positive,
      'limit negative': hangs.limits.negative,
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
    {
      id: 'limit switches swapped',
      title: 'wire its limit switches to each other\u2019s places',
      reset: 'wire them again',
      inject: (state) => ({ ...state, hangs: { ...state.hangs, swapped: true } }),
      clear: (state) => ({ ...state, hangs: { ...state.hangs, swapped: false } }),
    },
  ],
  health: ({ state }) => (state === 'fault' ? 'minor' : 'good'),
};
