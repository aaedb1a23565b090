import type { Behaviour } from '../behaviour.js';
import { bit, bytesLayout, uint, udint } from '../bytesLayout.js';
import { nextSeed, swing } from '../disturbance.js';
import { clamp, lag, towards } from '../motions.js';

/**
 * A soft starter of the brine pump on Modbus TCP. It ramps the motor voltage up and down; 32-bit values stand with
 * their low word first; without a controller it stops by itself after its watchdog.
 */
export interface StarterState {
  /** Share of the supply voltage. */
  voltage: number;
  speed: number;
  current: number;
  running: boolean;
  local: boolean;
  fault: number;
  told: { start: boolean; reset: boolean };
  blocked: boolean;
  /** s */
  rampUp: number;
  rampDown: number;
  /** kWh */
  energy: number;
  starts: number;
  dry: boolean;
  dryMs: number;
  seed: number;
}

const ratedCurrent = 12;
const supply = 400;
export const starterFaults = { dryRun: 17, watchdog: 33 } as const;

/** Registers 3100 to 3103; a bit of a register stands in its second byte for bits 0 to 7. */
const commands = bytesLayout(
  8,
  { start: bit(8), stop: bit(9), fault_reset: bit(10), ramp_up: uint(16), ramp_down: uint(32) },
  'big',
);
/** Registers 3000 to 3009. */
const answers = bytesLayout(
  20,
  {
    running: bit(8),
    ramping: bit(9),
    at_full_voltage: bit(10),
    fault: bit(11),
    local_control: bit(12),
    motor_voltage: uint(16),
    motor_current: uint(32),
    fault_code: uint(48),
    energy: udint(64, 'bigSwapped'),
    start_count: udint(96, 'bigSwapped'),
    motor_speed: uint(128),
  },
  'big',
);

export const softStarter: Behaviour<StarterState> = {
  title: 'soft starter of a pump, Modbus TCP',
  identity: {
    vendor: 65_010,
    deviceType: 43,
    productCode: 910,
    majorRevision: 1,
    minorRevision: 3,
    productName: 'Quellwerk SS3 soft starter',
  },
  offer: { protocol: 'modbus-tcp', watchdogMs: 3000 },
  assemblies: [
    {
      ...{ instance: 1, use: 'command', size: commands.size, fields: commands.fields },
      registers: { table: 'holding', start: 3100 },
    },
    {
      ...{ instance: 2, use: 'feedback', size: answers.size, fields: answers.fields },
      registers: { table: 'holding', start: 3000 },
    },
  ],
  start: (seed) => ({
    voltage: 0,
    speed: 0,
    current: 0,
    running: false,
    local: false,
    fault: 0,
    told: { start: false, reset: false },
    blocked: false,
    rampUp: 4,
    rampDown: 6,
    energy: 71_934,
    starts: 66_214,
    dry: false,
    dryMs: 0,
    seed: nextSeed(seed),
  }),
  configure: (state) => state,

  step(before, { elapsedMs, command, met }) {
    const seconds = elapsedMs / 1000;
    const seed = nextSeed(before.seed);
    let state: StarterState = { ...before, seed };
    if (!command) {
      if (before.running) state = { ...state, running: false, fault: starterFaults.watchdog, blocked: true };
    } else {
      const c = commands.read(command);
      const clear = c.fault_reset && !before.told.reset && !state.dry;
      if (clear) state = { ...state, fault: 0, dryMs: 0 };
      if (!c.start) state = { ...state, blocked: false };
      const runs = c.start && !c.stop && !state.blocked && !state.fault;
      state = {
        ...state,
        running: runs,
        starts: state.starts + (runs && !before.running ? 1 : 0),
        rampUp: c.ramp_up ? c.ramp_up / 10 : state.rampUp,
        rampDown: c.ramp_down ? c.ramp_down / 10 : state.rampDown,
        told: { start: c.start, reset: c.fault_reset },
      };
    }
    const rate = state.running ? 0.7 / Math.max(state.rampUp, 0.5) : 0.7 / Math.max(state.rampDown, 0.5);
    // It starts from 30 % of the voltage, below which the motor would only hum.
    const begin = state.running && state.voltage < 0.3 ? 0.3 : state.voltage;
    const falling = towards(begin, state.running ? 1 : 0, rate * seconds);
    const voltage = state.fault || (!state.running && falling < 0.3) ? 0 : falling;
    const speed = lag(state.speed, voltage ** 2, seconds, 1.1);
    // A dry pump takes half the current; brine behind a closed valve a little more.
    const water = state.dry ? 0.3 : (met('load') ?? 1);
    const pull = voltage * (1 + 2.4 * (1 - speed)) * ratedCurrent * water;
    const current = lag(state.current, voltage > 0 ? pull * (1 + swing(seed) * 0.01) : 0, seconds, 0.06);
    const dryMs = state.dry && speed > 0.8 ? state.dryMs + elapsedMs : state.dryMs;
    const tripped = dryMs > 2000 && !state.fault;
    return {
      ...state,
      voltage,
      speed: speed < 1e-4 ? 0 : speed,
      current: current < 0.02 ? 0 : current,
      dryMs,
      fault: tripped ? starterFaults.dryRun : state.fault,
      running: state.running && !tripped,
      blocked: state.blocked || tripped,
      energy: state.energy + (Math.sqrt(3) * supply * voltage * current * 0.85 * seconds) / 3.6e6,
    };
  },
  feedback(state, into) {
    answers.write(
      {
        running: state.running,
        ramping: state.voltage > 0 && state.voltage < 1,
        at_full_voltage: state.voltage === 1,
        fault: state.fault !== 0,
        local_control: state.local,
        motor_voltage: clamp(state.voltage, 0, 1) * supply * 10,
        motor_current: state.current * 100,
        fault_code: state.fault,
        energy: state.energy * 10,
        start_count: state.starts,
        motor_speed: state.speed * 1450,
      },
      into,
    );
  },
  faults: [
    {
      id: 'dry-run',
      title: 'the pump runs dry',
      reset: 'fill the pump, then fault_reset from 0 to 1 and a new start',
      inject: (s) => ({ ...s, dry: true }),
      clear: (s) => ({ ...s, dry: false }),
    },
  ],
  health: (s) => (s.fault ? 'minor' : 'good'),
};
