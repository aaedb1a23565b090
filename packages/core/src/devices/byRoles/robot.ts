import type { Told } from './commands.js';
import type { RoleBehaviour } from './roleBehaviour.js';

/**
 * A robot by its roles: a rising start runs the program whose number stands there, once; hold and a missing permissive
 * let it stand, and it goes on when they are gone; stop and a fault end the program. Home is a program of its own.
 * Where the field of the program number says which programs there are, another one is a fault.
 */
interface Robot {
  /** Number of the program that runs; undefined: none. */
  program: number | undefined;
  /** ms of it that have passed; ms that the last one took. */
  progress: number;
  cycleMs: number;
  moving: boolean;
  enabled: boolean;
  done: boolean;
  home: boolean;
  /** Number of the last program. */
  shown: number;
  faultCode: number;
  beat: boolean;
  part: boolean;
  closed: boolean;
  collided: boolean;
  stopped: boolean;
}

/** What a program takes, ms. */
const programMs = 2000;
/** The program that goes home, where none of its own is called so. */
const homeProgram = 0;
/** Numbers of our own, for there is no standard of them. */
const robotFaults = {
  ...{ noProgram: 11, partLost: 21, emergencyStop: 31, linkLoss: 41, collision: 51 },
} as const;

/** Number of a program by a word of its label. */
const programCalled = (told: Told, word: RegExp): number | undefined =>
  told.values.labelled('program number').find(({ text }) => word.test(text))?.value;

/** Why it stops in this step; 0 for nothing. */
function failure(state: Robot, told: Told, starts: number | undefined): number {
  if (state.stopped) return robotFaults.emergencyStop;
  if (state.collided && state.moving) return robotFaults.collision;
  const resettable = told.values.has('fault reset');
  if (!told.owned && state.program !== undefined && resettable) return robotFaults.linkLoss;
  if (state.part && state.closed && (told.met('gripper air') ?? 1) <= 0) return robotFaults.partLost;
  const known = told.values.labelled('program number');
  const missing = known.length > 0 && !known.some(({ value }) => value === starts);
  return starts !== undefined && starts !== homeProgram && missing ? robotFaults.noProgram : 0;
}

/** The program that is to begin now. */
function started(told: Told): number | undefined {
  if (told.given('start', 'rising edge') || told.given('cycle start', 'rising edge'))
    return Math.round(told.number('program number') ?? 1);
  return told.given('home', 'rising edge') ? (programCalled(told, /home/i) ?? homeProgram) : undefined;
}

/** What its gripper is and has after a program: one that picks or takes closes it, one that puts opens it. */
function gripped(state: Robot, told: Told, ended: number | undefined): Pick<Robot, 'closed' | 'part'> {
  const air = (told.met('gripper air') ?? 1) > 0;
  const there = (told.met('part') ?? 1) > 0;
  if (told.on('open gripper') && state.program === undefined) return { closed: false, part: false };
  const { closed, part } = state;
  if (ended === undefined) return { closed, part };
  const label = told.values.labelled('program number').find(({ value }) => value === ended)?.text ?? '';
  if (/\b(put|place|drop)/i.test(label)) return { closed: false, part: false };
  return /\b(pick|take|grip)/i.test(label) ? { closed: air, part: air && there } : { closed, part };
}

export const robot: RoleBehaviour<Robot> = {
  title: 'a robot: runs the program that it is told, once at each start',
  acts: ['start', 'cycle start', 'home'],
  start: () => ({
    ...{ program: undefined, progress: 0, cycleMs: 0, moving: false, enabled: false, done: false },
    ...{ home: true, shown: 0, faultCode: 0, beat: false, part: false, closed: false },
    ...{ collided: false, stopped: false },
  }),
  step: (state, told) => {
    const starts = started(told);
    const reset = told.given('fault reset', 'rising edge') && !state.collided && !state.stopped;
    const powered = told.commanded && (!told.values.has('enable') || told.on('enable'));
    const permitted = !told.on('hold') && (!told.values.has('permissive') || told.on('permissive'));
    const free = state.program === undefined && powered && permitted && state.faultCode === 0;
    const faultCode = failure(state, told, free ? starts : undefined) || (reset ? 0 : state.faultCode);
    const enabled = faultCode === 0 && powered;
    const may = enabled && permitted;
    const resets = told.on('stop');
    const ended = faultCode !== 0 || resets || !told.owned;
    const begins = state.program === undefined && may && !ended ? starts : undefined;
    const program = ended ? undefined : (begins ?? state.program);
    const moving = program !== undefined && may;
    const progress = begins === undefined ? state.progress + (moving ? told.elapsedMs : 0) : 0;
    const arrived = program !== undefined && progress >= programMs;
    const lost = faultCode === robotFaults.partLost;
    return {
      ...state,
      ...{ enabled, faultCode, progress },
      moving: moving && !arrived,
      cycleMs: arrived ? progress : state.cycleMs,
      program: arrived ? undefined : program,
      shown: program ?? state.shown,
      done: begins === undefined && !resets && (state.done || arrived),
      home: arrived
        ? program === (programCalled(told, /home/i) ?? homeProgram)
        : state.home && program === undefined,
      beat: !state.beat,
      ...(lost ? { closed: false, part: false } : gripped(state, told, arrived ? program : undefined)),
    };
  },
  shows: (state) => ({
    ready: state.faultCode === 0 && state.program === undefined,
    enabled: state.enabled,
    running: state.moving,
    'program running': state.program !== undefined,
    'program shown': state.program ?? state.shown,
    busy: state.program !== undefined,
    done: state.done,
    'at home': state.home,
    faulted: state.faultCode !== 0,
    'fault code': state.faultCode,
    'emergency stop': state.stopped,
    'part present': state.part,
    'gripper closed': state.closed,
    'cycle time': state.cycleMs / 1000,
    heartbeat: state.beat,
  }),
  faults: [
    {
      id: 'emergency-stop',
      title: 'press its emergency stop',
      reset: 'release the emergency stop, then fault reset',
      inject: (state) => ({ ...state, stopped: true }),
      clear: (state) => ({ ...state, stopped: false }),
    },
    {
      id: 'collided',
      title: 'let it collide in its next program',
      reset: 'free it, then fault reset and a new start',
      inject: (state) => ({ ...state, collided: true }),
      clear: (state) => ({ ...state, collided: false }),
    },
  ],
  health: ({ faultCode }) => (faultCode === 0 ? 'good' : 'minor'),
};
