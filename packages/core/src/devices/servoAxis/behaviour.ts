import type { Behaviour } from '../behaviour.js';
import { cyclicOffer } from '../cyclicOffer.js';
import { bit, bits, bytesLayout, dint, int, sint, udint, uint } from '../bytesLayout.js';
import { nextSeed, swing } from '../disturbance.js';
import { clamp, glide, lag } from '../motions.js';

/**
 * The servo axis of the rack lift: control and status word of the drive profile of IEC 61800-7-201 (CiA 402),
 * positioning with setpoint acknowledge, homing, limits, following error. The lift has mass: what it lifts shows in
 * torque and lag.
 */
export interface AxisState {
  machine: 'disabled' | 'ready' | 'switchedOn' | 'enabled' | 'quickStop' | 'fault';
  /** mm and mm/s of the commanded move. */
  move: { position: number; speed: number };
  target: number;
  limits: { speed: number; acceleration: number };
  /** mm where the car really is. */
  position: number;
  velocity: number;
  /** Share of the rated torque. */
  torque: number;
  mode: number;
  homed: boolean;
  homing: boolean;
  reached: boolean;
  acknowledged: boolean;
  limited: boolean;
  faultCode: number;
  told: { newSetpoint: boolean; faultReset: boolean };
  blocked: boolean;
  seed: number;
}

/** Modes of operation: profile position, homing. */
const modes = { position: 1, homing: 6 } as const;
/** Error codes of IEC 61800-7-201, table of them (from memory): following error, position limit. */
export const axisFaults = { following: 0x8611, linkLoss: 0x7510 } as const;
/** mm */
const travel = { minimum: -5, maximum: 1800 };
const maxFollowing = 25;
const maxSpeed = 900;
const unit = 1000;
/** kg; the car alone is balanced. Share of the rated torque that a kilogram more takes. */
const balanced = 60;
const torquePerLoad = 0.0075;

const commands = bytesLayout(20, {
  switch_on: bit(0),
  enable_voltage: bit(1),
  quick_stop_inactive: bit(2),
  enable_operation: bit(3),
  new_setpoint: bit(4),
  change_at_once: bit(5),
  relative: bit(6),
  fault_reset: bit(7),
  halt: bit(8),
  mode: sint(16),
  target_position: dint(32),
  profile_velocity: udint(64),
  acceleration: udint(96),
  torque_limit: uint(128),
});
const answers = bytesLayout(20, {
  ready_to_switch_on: bit(0),
  switched_on: bit(1),
  operation_enabled: bit(2),
  fault: bit(3),
  voltage_enabled: bit(4),
  quick_stop_inactive: bit(5),
  switch_on_disabled: bit(6),
  warning: bit(7),
  remote: bit(9),
  target_reached: bit(10),
  internal_limit: bit(11),
  setpoint_acknowledge: bit(12),
  following_error: bit(13),
  homed: bit(15),
  mode_display: sint(16),
  axis_state: bits(24, 8),
  position_actual: dint(32),
  velocity_actual: dint(64),
  position_lag: dint(96),
  torque_actual: int(128),
  error_code: uint(144),
});

type Told = ReturnType<typeof commands.read>;
const nothing = commands.read(new Uint8Array(20));

/** The state machine of the profile, clause 5.3: one transition a step. */
function nextState(machine: AxisState['machine'], c: Told): AxisState['machine'] {
  if (machine === 'fault') return machine;
  if (!c.enable_voltage) return 'disabled';
  if (!c.quick_stop_inactive)
    return machine === 'enabled' || machine === 'quickStop' ? 'quickStop' : 'disabled';
  switch (machine) {
    case 'disabled':
      return c.switch_on ? machine : 'ready';
    case 'ready':
      return c.switch_on ? 'switchedOn' : machine;
    case 'switchedOn':
      return !c.switch_on ? 'ready' : c.enable_operation ? 'enabled' : machine;
    case 'enabled':
      return !c.switch_on ? 'ready' : c.enable_operation ? machine : 'switchedOn';
    case 'quickStop':
      return 'disabled';
  }
}

function setpoint(state: AxisState, c: Told): AxisState {
  const rises = c.new_setpoint && !state.told.newSetpoint;
  if (!c.new_setpoint) return { ...state, acknowledged: false };
  // A setpoint is taken on the rising edge, and only while the last one has been reached or may be changed at once.
  if (!rises || state.machine !== 'enabled' || state.mode !== modes.position) return state;
  if (!state.homed) return state;
  const wanted = c.target_position / unit + (c.relative ? state.target : 0);
  const target = clamp(wanted, travel.minimum, travel.maximum);
  return {
    ...state,
    target,
    limited: target !== wanted,
    reached: false,
    acknowledged: true,
    limits: {
      speed: clamp(c.profile_velocity / unit, 0, maxSpeed),
      acceleration: Math.max(c.acceleration / unit, 10),
    },
  };
}

export const servoAxis: Behaviour<AxisState> = {
  title: 'servo axis of a lift',
  identity: {
    vendor: 65_010,
    deviceType: 0x25,
    productCode: 5150,
    majorRevision: 4,
    minorRevision: 2,
    productName: 'Quellwerk SA5 servo',
  },
  offer: cyclicOffer,
  assemblies: [
    { instance: 104, use: 'command', size: commands.size, fields: commands.fields },
    { instance: 105, use: 'feedback', size: answers.size, fields: answers.fields },
    { instance: 106, use: 'configuration', size: 0, fields: [] },
    { instance: 198, use: 'input-only', size: 0, fields: [] },
  ],

  start: (seed) => ({
    machine: 'disabled',
    move: { position: 340, speed: 0 },
    target: 340,
    limits: { speed: 0, acceleration: 500 },
    position: 340,
    velocity: 0,
    torque: 0,
    mode: 0,
    homed: false,
    homing: false,
    reached: false,
    acknowledged: false,
    limited: false,
    faultCode: 0,
    told: { newSetpoint: false, faultReset: false },
    blocked: false,
    seed: nextSeed(seed),
  }),
  configure: (state) => state,

  step(before, { elapsedMs, command, run, met }) {
    const seconds = elapsedMs / 1000;
    const c = command && run ? commands.read(command) : nothing;
    const seed = nextSeed(before.seed);
    let state: AxisState = { ...before, seed, mode: before.machine === 'enabled' ? before.mode : c.mode };
    if (!command && before.machine === 'enabled')
      state = { ...state, machine: 'fault', faultCode: axisFaults.linkLoss };
    if (state.machine === 'fault' && c.fault_reset && !before.told.faultReset && !state.blocked)
      state = { ...state, machine: 'disabled', faultCode: 0 };
    state = setpoint({ ...state, machine: nextState(state.machine, c) }, c);
    const enabled = state.machine === 'enabled';

    if (enabled && state.mode === modes.homing && c.new_setpoint && !state.homing && !before.told.newSetpoint)
      state = { ...state, homing: true, homed: false, target: 0, limits: { speed: 80, acceleration: 400 } };
    if (!enabled || state.mode !== modes.homing) state = { ...state, homing: false };
    const stops = !enabled || c.halt;
    const aim = stops
      ? state.move.position + Math.sign(state.move.speed) * state.move.speed ** 2 * 0.0005
      : state.target;
    const limits = stops ? { speed: Math.abs(state.move.speed), acceleration: 2000 } : state.limits;
    const move =
      enabled || Math.abs(state.move.speed) > 1
        ? glide(state.move, aim, limits, seconds)
        : { ...state.move, speed: 0 };

    // Behind the command the car follows like a spring that its mass stretches; a blocked car stays where it is.
    const load = met('load') ?? 0;
    const mass = balanced + load;
    const followed = state.blocked
      ? state.position
      : lag(state.position, move.position, seconds, 0.004 + mass / 20_000);
    const velocity = seconds > 0 ? (followed - state.position) / seconds : 0;
    const weight = load * torquePerLoad;
    const torque = enabled
      ? weight +
        (mass / 9000) * ((move.speed - before.move.speed) / Math.max(seconds, 1e-3) / 100) +
        swing(seed) * 0.004
      : 0;
    const lagging = move.position - followed;
    const tripped = enabled && Math.abs(lagging) > maxFollowing;
    const homedNow = state.homing && move.position === 0 && Math.abs(lagging) < 0.5;
    return {
      ...state,
      move: tripped ? { position: followed, speed: 0 } : move,
      position: followed,
      velocity: lag(state.velocity, velocity, seconds, 0.02),
      torque: clamp(lag(state.torque, torque, seconds, 0.01), -3, 3),
      homed: state.homed || homedNow,
      homing: state.homing && !homedNow,
      reached: enabled && !state.homing && Math.abs(state.target - followed) < 0.2 && move.speed === 0,
      machine: tripped ? 'fault' : state.machine,
      faultCode: tripped ? axisFaults.following : state.faultCode,
      told: { newSetpoint: c.new_setpoint, faultReset: c.fault_reset },
    };
  },

  feedback(state, into) {
    const { machine } = state;
    const on = machine === 'switchedOn' || machine === 'enabled' || machine === 'quickStop';
    answers.write(
      {
        ready_to_switch_on: machine === 'ready' || on,
        switched_on: on,
        operation_enabled: machine === 'enabled' || machine === 'quickStop',
        fault: machine === 'fault',
        voltage_enabled: machine !== 'disabled' && machine !== 'fault',
        quick_stop_inactive: machine !== 'quickStop' && machine !== 'fault',
        switch_on_disabled: machine === 'disabled',
        warning: Math.abs(state.torque) > 1,
        remote: true,
        target_reached: state.reached,
        internal_limit: state.limited,
        setpoint_acknowledge: state.acknowledged,
        following_error: state.faultCode === axisFaults.following,
        homed: state.homed,
        mode_display: state.mode,
        axis_state: ['disabled', 'ready', 'switchedOn', 'enabled', 'quickStop', 'fault'].indexOf(machine),
        position_actual: state.position * unit,
        velocity_actual: state.velocity * unit,
        position_lag: (state.move.position - state.position) * unit,
        torque_actual: state.torque * 1000,
        error_code: state.faultCode,
      },
      into,
    );
  },
  faults: [
    {
      id: 'blocked',
      title: 'the car is blocked, following error when it should move',
      reset: 'free the car, then fault_reset from 0 to 1',
      inject: (s) => ({ ...s, blocked: true }),
      clear: (s) => ({ ...s, blocked: false }),
    },
  ],
  health: (s) => (s.machine === 'fault' ? 'minor' : 'good'),
};
