import { supervisorStates as states } from '../driveFacts.js';
import type { Field } from '../../layout/field.js';
import type { Behaviour } from '../behaviour.js';
import { cyclicOffer } from '../cyclicOffer.js';
import { bit, bytesLayout, int, udint, uint, usint } from '../bytesLayout.js';
import { nextSeed, swing } from '../disturbance.js';
import { clamp, lag, towards } from '../motions.js';

/**
 * A variable-speed drive with an asynchronous motor on the brush belt. It ramps, the motor slips under load, a jammed
 * belt or braking too fast trips it. It listens to the network only where the network has been given control.
 */
export interface DriveState {
  /** Hz, sign is the direction. */
  output: number;
  reference: number;
  running: boolean;
  reverse: boolean;
  networkControls: boolean;
  networkReference: boolean;
  /** Ramps from 0 to rated frequency, s; 0 in the command means these. */
  accelerationTime: number;
  decelerationTime: number;
  /** A. */
  current: number;
  /** V. */
  bus: number;
  /** Collected overload, 0 to 1: 1 trips. */
  heat: number;
  faultCode: number;
  /** What the last step was told, for edges. */
  told: { run: boolean; reset: boolean };
  /** After a fault or a loss a run bit that is still set does not start it. */
  blocked: boolean;
  jammed: boolean;
  /** ms */
  runningTime: number;
  seed: number;
}

const ratedHz = 50;
const poles = 4;
const ratedCurrent = 4.8;
/** rpm that are lost at rated load. */
const ratedSlip = 75;
const nominalBus = 565;
const busTrip = 760;
/** Highest reference, Hz. */
const maxHz = 87;
export const driveFaults = { overload: 0x2310, overvoltage: 0x3210, linkLoss: 0x7510 } as const;

const commands = bytesLayout(8, {
  run_forward: bit(0),
  run_reverse: bit(1),
  fault_reset: bit(2),
  net_control: bit(5),
  net_reference: bit(6),
  speed_reference: int(16),
  acceleration_time: uint(32),
  deceleration_time: uint(48),
});
/** Output assemblies 20 and 21, basic and extended speed control (CIP Vol. 1, 6-29.6; from memory); speed in rpm. */
const basicCommands = bytesLayout(4, { run_forward: bit(0), fault_reset: bit(2), speed_reference: int(16) });
const extendedCommands = bytesLayout(4, {
  run_forward: bit(0),
  run_reverse: bit(1),
  fault_reset: bit(2),
  net_control: bit(5),
  net_reference: bit(6),
  speed_reference: int(16),
});
/** Input assemblies 70 and 71, and the maker's own, which begins in the same way. */
const basicAnswers = bytesLayout(4, { faulted: bit(0), running_forward: bit(2), speed_actual: int(16) });
const statusPlaces = {
  faulted: bit(0),
  warning: bit(1),
  running_forward: bit(2),
  running_reverse: bit(3),
  ready: bit(4),
  network_controls: bit(5),
  network_reference: bit(6),
  at_reference: bit(7),
  drive_state: usint(8),
  speed_actual: int(16),
};
const extendedAnswers = bytesLayout(4, statusPlaces);
const answers = bytesLayout(12, {
  ...statusPlaces,
  motor_current: uint(32),
  dc_bus_voltage: uint(48),
  running_time: udint(64),
});

/** The standard's assemblies count speed in rpm (CIP Vol. 1, 6-29.6; from memory). */
const inRpm = (fields: readonly Field[]): Field[] =>
  fields.map((field) => (field.name.startsWith('speed') ? { ...field, unit: 'rpm' } : field));

const synchronous = (hz: number) => (hz * 120) / poles;
const toHz = (rpm: number) => (rpm * poles) / 120;
const load = (state: DriveState) =>
  state.output === 0 ? 0 : state.jammed ? 2.4 : 0.55 + 0.15 * Math.abs(state.output / ratedHz);
const slip = (state: DriveState) => Math.sign(state.output) * ratedSlip * Math.min(load(state), 1.5);
/** rpm of the shaft. */
const shaft = (state: DriveState) => {
  const field = synchronous(state.output);
  // What it cannot carry stands still; it never turns against its field.
  return state.jammed || Math.abs(slip(state)) > Math.abs(field) ? 0 : field - slip(state);
};

interface Wish {
  forward: boolean;
  reverse: boolean;
  reset: boolean;
  control: boolean;
  byNetwork: boolean;
  hz: number;
  accelerate: number;
  brake: number;
}

function wishOf(bytes: Uint8Array | undefined, instance: number, run: boolean, state: DriveState): Wish {
  const none: Wish = {
    forward: false,
    reverse: false,
    reset: false,
    control: state.networkControls,
    byNetwork: state.networkReference,
    hz: 0,
    accelerate: 0,
    brake: 0,
  };
  if (!bytes || !run) return none;
  if (instance === 20) {
    // Assembly 20 has no bits for who controls: it always does.
    const c = basicCommands.read(bytes);
    const hz = toHz(c.speed_reference);
    return { ...none, forward: c.run_forward, reset: c.fault_reset, control: true, byNetwork: true, hz };
  }
  const wide = instance === 121;
  const c = (wide ? commands : extendedCommands).read(bytes);
  const times = wide ? commands.read(bytes) : { acceleration_time: 0, deceleration_time: 0 };
  return {
    forward: c.run_forward,
    reverse: c.run_reverse,
    reset: c.fault_reset,
    control: c.net_control,
    byNetwork: c.net_reference,
    hz: wide ? c.speed_reference / 100 : toHz(c.speed_reference),
    accelerate: times.acceleration_time / 10,
    brake: times.deceleration_time / 10,
  };
}

function stateNumber(state: DriveState): number {
  if (state.faultCode) return state.output === 0 ? states.faulted : states.faultStop;
  if (state.running) return states.enabled;
  return state.output === 0 ? states.ready : states.stopping;
}

export const speedDrive: Behaviour<DriveState> = {
  title: 'variable-speed drive',
  identity: {
    vendor: 65_010,
    deviceType: 2,
    productCode: 2117,
    majorRevision: 2,
    minorRevision: 11,
    productName: 'Quellwerk FQ2 drive',
  },
  offer: cyclicOffer,
  assemblies: [
    { instance: 121, title: 'own words', use: 'command', size: commands.size, fields: commands.fields },
    {
      instance: 20,
      title: 'basic speed control',
      use: 'command',
      size: 4,
      fields: inRpm(basicCommands.fields),
    },
    {
      instance: 21,
      title: 'extended speed control',
      use: 'command',
      size: 4,
      fields: inRpm(extendedCommands.fields),
    },
    { instance: 171, title: 'own words', use: 'feedback', size: answers.size, fields: answers.fields },
    {
      instance: 70,
      title: 'basic speed control',
      use: 'feedback',
      size: 4,
      fields: inRpm(basicAnswers.fields),
    },
    {
      instance: 71,
      title: 'extended speed control',
      use: 'feedback',
      size: 4,
      fields: inRpm(extendedAnswers.fields),
    },
    { instance: 151, use: 'configuration', size: 0, fields: [] },
    { instance: 198, use: 'input-only', size: 0, fields: [] },
  ],

  start: (seed) => ({
    output: 0,
    reference: 0,
    running: false,
    reverse: false,
    networkControls: false,
    networkReference: false,
    accelerationTime: 3,
    decelerationTime: 3,
    current: 0,
    bus: nominalBus,
    heat: 0,
    faultCode: 0,
    told: { run: false, reset: false },
    blocked: false,
    jammed: false,
    runningTime: 41_208 * 3_600_000,
    seed: nextSeed(seed),
  }),
  configure: (state) => state,

  step(before, { elapsedMs, command, instance, run }) {
    const seconds = elapsedMs / 1000;
    const wish = wishOf(command, instance, run, before);
    const seed = nextSeed(before.seed);
    let state: DriveState = {
      ...before,
      seed,
      networkControls: wish.control,
      networkReference: wish.byNetwork,
    };
    // A lost controller stops it: that is a fault of its own while it ran under network control.
    if (!command && before.running) state = { ...state, faultCode: driveFaults.linkLoss, blocked: true };

    const told = wish.forward || wish.reverse;
    if (wish.reset && !before.told.reset && state.faultCode && !state.jammed)
      state = { ...state, faultCode: 0, heat: 0, blocked: told };
    if (!told) state = { ...state, blocked: false };
    // Both directions at once mean none.
    const start =
      state.networkControls && wish.forward !== wish.reverse && !state.blocked && !state.faultCode;
    const reference = start && state.networkReference ? clamp(Math.abs(wish.hz), 0, maxHz) : 0;
    const signed = wish.reverse ? -reference : reference;
    const faster = Math.abs(signed) > Math.abs(state.output) && signed * state.output >= 0;
    const ramp = faster ? wish.accelerate || state.accelerationTime : wish.brake || state.decelerationTime;
    const rate = ratedHz / Math.max(ramp, 0.05);
    // A fault takes the current away: the belt runs out.
    const output = state.faultCode
      ? lag(state.output, 0, seconds, 0.4)
      : towards(state.output, signed, rate * seconds);
    const braking = !faster && Math.abs(output) < Math.abs(state.output) ? rate : 0;
    state = {
      ...state,
      running: start,
      reverse: wish.reverse,
      reference: signed,
      output: Math.abs(output) < 0.01 ? 0 : output,
      told: { run: told, reset: wish.reset },
    };
    const accelerating = faster && state.output !== signed ? 0.5 : 0;
    const amps =
      state.output === 0 || state.faultCode ? 0 : ratedCurrent * (0.35 + load(state) * 0.6 + accelerating);
    const current = lag(state.current, amps, seconds, 0.08);
    // Braking feeds the bus; the chopperless drive bears about 60 Hz/s.
    const bus = lag(state.bus, nominalBus + braking * 3.1 + swing(seed) * 2, seconds, 0.05);
    const over = current / ratedCurrent - 1.2;
    const heat = clamp(state.heat + (over > 0 ? over * seconds * 0.25 : -seconds * 0.02), 0, 1);
    const trip = bus > busTrip ? driveFaults.overvoltage : heat >= 1 ? driveFaults.overload : 0;
    return {
      ...state,
      current: current < 0.01 ? 0 : current,
      bus,
      heat,
      faultCode: state.faultCode || trip,
      blocked: state.blocked || trip !== 0,
      running: state.running && trip === 0,
      runningTime: state.runningTime + (state.running ? elapsedMs : 0),
    };
  },

  feedback(state, into, instance) {
    const rpm = shaft(state);
    const status = {
      faulted: state.faultCode !== 0,
      warning: state.heat > 0.7,
      running_forward: state.output > 0,
      running_reverse: state.output < 0,
      ready: state.faultCode === 0,
      network_controls: state.networkControls,
      network_reference: state.networkReference,
      at_reference: state.running && Math.abs(state.output - state.reference) < 0.05,
      drive_state: stateNumber(state),
    };
    if (instance === 70) basicAnswers.write({ ...status, speed_actual: rpm }, into);
    else if (instance === 71) extendedAnswers.write({ ...status, speed_actual: rpm }, into);
    else
      answers.write(
        {
          ...status,
          speed_actual: toHz(rpm) * 100,
          motor_current: state.current * 100,
          dc_bus_voltage: state.bus * 10,
          running_time: Math.floor(state.runningTime / 3_600_000),
        },
        into,
      );
  },

  parameters: [
    {
      ...{ number: 1, name: 'Acceleration time', unit: 's', help: 'From 0 to rated frequency' },
      ...{
        type: 'UINT',
        minimum: 1,
        maximum: 6000,
        default: 30,
        divisor: 10,
        decimals: 1,
        access: 'read-write',
      },
      get: (s) => Math.round(s.accelerationTime * 10),
      set: (s, raw) => ({ ...s, accelerationTime: raw / 10 }),
    },
    {
      ...{ number: 2, name: 'Deceleration time', unit: 's', help: 'From rated frequency to 0' },
      ...{
        type: 'UINT',
        minimum: 1,
        maximum: 6000,
        default: 30,
        divisor: 10,
        decimals: 1,
        access: 'read-write',
      },
      get: (s) => Math.round(s.decelerationTime * 10),
      set: (s, raw) => ({ ...s, decelerationTime: raw / 10 }),
    },
    {
      ...{ number: 3, name: 'Fault code', unit: '', help: 'Of the last fault' },
      ...{ type: 'UINT', minimum: 0, maximum: 0xffff, default: 0, access: 'read' },
      get: (s) => s.faultCode,
    },
  ],
  drive: {
    facts: (s) => ({
      motor: {
        type: 7,
        catalogue: 'QM-90L4',
        ratedCurrent,
        ratedVoltage: 400,
        ratedPower: 2200,
        ratedFrequency: ratedHz,
        poles,
        baseSpeed: synchronous(ratedHz) - ratedSlip,
      },
      state: stateNumber(s),
      runForward: s.told.run && !s.reverse,
      runReverse: s.told.run && s.reverse,
      runningForward: s.output > 0,
      runningReverse: s.output < 0,
      ready: s.faultCode === 0,
      faulted: s.faultCode !== 0,
      warning: s.heat > 0.7,
      faultCode: s.faultCode,
      warningCode: s.heat > 0.7 ? driveFaults.overload : 0,
      networkControls: s.networkControls,
      networkReference: s.networkReference,
      atReference: s.running && Math.abs(s.output - s.reference) < 0.05,
      speedActual: shaft(s),
      speedReference: synchronous(s.reference),
      current: s.current,
      accelerationTime: s.accelerationTime * 1000,
      decelerationTime: s.decelerationTime * 1000,
    }),
    change: (s, { networkControls, networkReference, resetFault, accelerationTime, decelerationTime }) => ({
      ...s,
      networkControls: networkControls ?? s.networkControls,
      networkReference: networkReference ?? s.networkReference,
      faultCode: resetFault && !s.jammed ? 0 : s.faultCode,
      accelerationTime: accelerationTime === undefined ? s.accelerationTime : accelerationTime / 1000,
      decelerationTime: decelerationTime === undefined ? s.decelerationTime : decelerationTime / 1000,
    }),
  },

  faults: [
    {
      id: 'jam',
      title: 'belt jams, the drive trips on overload',
      reset: 'fault_reset from 0 to 1 once the belt is free, then a new start',
      inject: (s) => ({ ...s, jammed: true }),
      clear: (s) => ({ ...s, jammed: false }),
    },
  ],
  health: (s) => (s.faultCode ? 'minor' : 'good'),
};
