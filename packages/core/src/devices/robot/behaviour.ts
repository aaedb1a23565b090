import type { Behaviour } from '../behaviour.js';
import { cyclicOffer } from '../cyclicOffer.js';
import { bit, bytesLayout, uint } from '../bytesLayout.js';
import { nextSeed, swing } from '../disturbance.js';

/**
 * A robot that turns wheels over. A program starts on the falling edge of program_start, and only while servo power,
 * motion permission and the absence of hold are there; hold is normally closed.
 */
export interface RobotState {
  servo: boolean;
  running: number;
  /** ms of the program that have passed. */
  progress: number;
  /** ms that the last program took. */
  cycleTime: number;
  done: boolean;
  home: boolean;
  gripperClosed: boolean;
  wheel: boolean;
  placed: boolean;
  fault: number;
  told: { start: boolean; reset: boolean; faultReset: boolean };
  emergencyStop: boolean;
  seed: number;
}

/** 1 picks a wheel up, 2 turns it over, 3 puts it on the scale, 4 takes it off, 9 goes home. */
export const robotPrograms: Record<number, { title: string; ms: number }> = {
  1: { title: 'pick up', ms: 2400 },
  2: { title: 'turn over', ms: 3100 },
  3: { title: 'put on the scale', ms: 2800 },
  4: { title: 'take off the scale', ms: 2600 },
  9: { title: 'home', ms: 1500 },
};
export const robotFaults = { noProgram: 11, wheelLost: 21, emergencyStop: 31, linkLoss: 41 } as const;

const commands = bytesLayout(8, {
  servo_on: bit(11),
  program_start: bit(12),
  program_reset: bit(13),
  fault_reset: bit(14),
  hold: bit(15),
  permit_motion: bit(16),
  open_gripper: bit(17),
  program_number: uint(32),
});
const answers = bytesLayout(8, {
  ready: bit(11),
  servo_is_on: bit(12),
  program_runs: bit(13),
  at_home: bit(14),
  fault: bit(15),
  emergency_stop_clear: bit(16),
  gripper_closed: bit(17),
  wheel_in_gripper: bit(18),
  program_done: bit(19),
  program_echo: uint(32),
  cycle_time: uint(48),
});
const nothing = commands.read(new Uint8Array(8));

/** What a program does when it has run to its end. */
function finished(state: RobotState, air: boolean): RobotState {
  const base = {
    ...state,
    running: 0,
    progress: 0,
    cycleTime: state.progress,
    done: true,
    home: state.running === 9,
  };
  switch (state.running) {
    case 1:
      // Without air the gripper closes on nothing.
      return { ...base, gripperClosed: air, wheel: air };
    case 3:
      return { ...base, gripperClosed: false, placed: state.wheel || state.placed, wheel: false };
    case 4:
      return { ...base, gripperClosed: air, wheel: air && state.placed, placed: state.placed && !air };
    default:
      return base;
  }
}

export const robot: Behaviour<RobotState> = {
  title: 'robot with gripper',
  identity: {
    vendor: 65_070,
    deviceType: 43,
    productCode: 3310,
    majorRevision: 1,
    minorRevision: 4,
    productName: 'Murmel MR5 arm',
  },
  offer: cyclicOffer,
  assemblies: [
    { instance: 102, use: 'command', size: commands.size, fields: commands.fields },
    { instance: 103, use: 'feedback', size: answers.size, fields: answers.fields },
    { instance: 150, use: 'configuration', size: 0, fields: [] },
  ],
  start: (seed) => ({
    servo: false,
    running: 0,
    progress: 0,
    cycleTime: 0,
    done: false,
    home: true,
    gripperClosed: false,
    wheel: false,
    placed: false,
    fault: 0,
    told: { start: false, reset: false, faultReset: false },
    emergencyStop: false,
    seed: nextSeed(seed),
  }),
  configure: (state) => state,

  step(before, { elapsedMs, command, run, met }) {
    const c = command && run ? commands.read(command) : nothing;
    const air = (met('gripper air') ?? 1) > 0;
    const told = { start: c.program_start, reset: c.program_reset, faultReset: c.fault_reset };
    let state: RobotState = { ...before, told, seed: nextSeed(before.seed) };
    const fail = (fault: number) => (state = { ...state, fault, servo: false, running: 0, progress: 0 });
    if (state.emergencyStop && state.fault === 0) fail(robotFaults.emergencyStop);
    if (!command && before.running) fail(robotFaults.linkLoss);
    if (state.wheel && !air && state.fault === 0) {
      fail(robotFaults.wheelLost);
      state = { ...state, wheel: false, gripperClosed: false };
    }
    if (c.fault_reset && !before.told.faultReset && !state.emergencyStop) state = { ...state, fault: 0 };
    state = { ...state, servo: c.servo_on && state.fault === 0 };
    if (c.open_gripper && !state.running) state = { ...state, gripperClosed: false, wheel: false };
    if (c.program_reset && !before.told.reset) state = { ...state, running: 0, progress: 0, done: false };

    const permitted = state.servo && c.permit_motion && c.hold;
    const falls = before.told.start && !c.program_start;
    if (falls && permitted && !state.running) {
      if (!robotPrograms[c.program_number]) fail(robotFaults.noProgram);
      else state = { ...state, running: c.program_number, progress: 0, done: false, home: false };
    }
    if (!state.running || !permitted) return state;
    const jitter = 1 + swing(state.seed) * 0.02;
    state = { ...state, progress: state.progress + elapsedMs * jitter };
    return state.progress >= robotPrograms[state.running]!.ms ? finished(state, air) : state;
  },

  feedback(state, into) {
    answers.write(
      {
        ready: state.servo && !state.running,
        servo_is_on: state.servo,
        program_runs: state.running !== 0,
        at_home: state.home,
        fault: state.fault !== 0,
        emergency_stop_clear: !state.emergencyStop,
        gripper_closed: state.gripperClosed,
        wheel_in_gripper: state.wheel,
        program_done: state.done,
        program_echo: state.running,
        cycle_time: state.cycleTime / 10,
      },
      into,
    );
  },
  faults: [
    {
      id: 'emergency-stop',
      title: 'emergency stop pressed',
      reset: 'release the emergency stop, then fault_reset from 0 to 1',
      inject: (s) => ({ ...s, emergencyStop: true }),
      clear: (s) => ({ ...s, emergencyStop: false }),
    },
  ],
  health: (s) => (s.fault ? 'minor' : 'good'),
};
