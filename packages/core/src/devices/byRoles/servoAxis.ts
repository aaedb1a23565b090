import { glide } from '../motions.js';
import type { RoleBehaviour } from './roleBehaviour.js';

/**
 * A servo axis by its roles: enabled by level; a rising strobe takes the position setpoint over and is acknowledged
 * until it falls; without a strobe the setpoint is followed at once. Positions and speeds are in the units of the
 * fields, which agree with each other.
 */
interface Axis {
  position: number;
  speed: number;
  target: number;
  enabled: boolean;
  homed: boolean;
  homing: boolean;
  acknowledged: boolean;
  faultCode: number;
  blockedBy: boolean;
}

/** Where nothing else is said: units of position a second, and a second to that speed. */
const usualSpeed = 100;
/** Following error, as its code of CiA 402 (IEC 61800-7-201; from memory). */
export const followingCode = 0x8611;
const near = 1e-6;

export const servoAxis: RoleBehaviour<Axis> = {
  title: 'an axis: goes to its position setpoint',
  acts: ['position setpoint', 'home'],
  start: () => ({
    ...{ position: 0, speed: 0, target: 0, enabled: false, homed: false, homing: false },
    ...{ acknowledged: false, faultCode: 0, blockedBy: false },
  }),
  step: (state, told) => {
    const { commanded, values, elapsedMs } = told;
    const reset = told.given('fault reset', 'rising edge');
    const stuck = state.blockedBy && Math.abs(state.target - state.position) > near && state.enabled;
    const faultCode = stuck ? followingCode : reset && !state.blockedBy ? 0 : state.faultCode;
    const wish = values.has('enable') ? told.on('enable') : commanded;
    const enabled = wish && faultCode === 0 && !told.on('quick stop');
    const strobe = told.on('setpoint strobe');
    const takes = values.has('setpoint strobe') ? told.given('setpoint strobe', 'rising edge') : commanded;
    const homing = enabled && (state.homing || told.on('home'));
    const asked = values.number('position setpoint') ?? 0;
    const target =
      !enabled || told.on('stop') || told.on('hold')
        ? state.position
        : homing
          ? 0
          : takes
            ? asked
            : state.target;
    const speed = Math.abs(values.number('velocity') ?? 0) || usualSpeed;
    const acceleration = Math.abs(values.number('acceleration') ?? 0) || speed;
    const moved =
      enabled && !state.blockedBy
        ? glide(state, target, { speed, acceleration }, elapsedMs / 1000)
        : { position: state.position, speed: 0 };
    const arrived = homing && Math.abs(moved.position) < near && moved.speed === 0;
    return {
      ...state,
      ...moved,
      ...{ target, enabled, faultCode },
      acknowledged: strobe && enabled && (takes || state.acknowledged),
      homing: homing && !arrived,
      homed: state.homed || arrived,
    };
  },
  shows: ({ position, speed, target, enabled, homed, acknowledged, faultCode }) => ({
    ready: faultCode === 0,
    enabled,
    running: enabled && speed !== 0,
    'target reached': enabled && Math.abs(target - position) < near && speed === 0,
    homed,
    'setpoint acknowledge': acknowledged,
    faulted: faultCode !== 0,
    warning: false,
    'following error': faultCode === followingCode,
    'fault code': faultCode,
    'position actual': position,
    'speed actual': speed,
    'torque actual': enabled ? 5 : 0,
  }),
  faults: [
    {
      id: 'blocked',
      title: 'block the axis',
      reset: 'free it, then fault reset and enable',
      inject: (state) => ({ ...state, blockedBy: true }),
      clear: (state) => ({ ...state, blockedBy: false }),
    },
  ],
  health: ({ faultCode }) => (faultCode === 0 ? 'good' : 'minor'),
};
