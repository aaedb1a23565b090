import type { RoleBehaviour } from './roleBehaviour.js';

/**
 * A robot by its roles: a rising start runs the program whose number stands there, once; hold and a missing permissive
 * let it stand, and it goes on when they are gone; stop and a fault end the program. Home is a program of its own.
 */
interface Robot {
  /** Number of the program that runs; undefined: none. */
  program: number | undefined;
  /** ms of it that have passed. */
  progress: number;
  moving: boolean;
  enabled: boolean;
  done: boolean;
  home: boolean;
  /** Number of the last program. */
  shown: number;
  faultCode: number;
  beat: boolean;
  part: boolean;
  collided: boolean;
}

/** What a program takes, ms, and the program that goes home. */
const programMs = 2000;
const homeProgram = 0;
/** A number of our own, for there is no standard of them. */
const collisionCode = 51;

export const robot: RoleBehaviour<Robot> = {
  title: 'a robot: runs the program that it is told, once at each start',
  acts: ['start', 'cycle start', 'home'],
  start: () => ({
    ...{ program: undefined, progress: 0, moving: false, enabled: false, done: false, home: true },
    ...{ shown: 0, faultCode: 0, beat: false, part: false, collided: false },
  }),
  step: (state, told) => {
    const reset = told.given('fault reset', 'rising edge') && !state.collided;
    const faultCode = state.collided && state.moving ? collisionCode : reset ? 0 : state.faultCode;
    const enabled = faultCode === 0 && told.commanded && (!told.values.has('enable') || told.on('enable'));
    const may = enabled && !told.on('hold') && (!told.values.has('permissive') || told.on('permissive'));
    const starts =
      told.given('start', 'rising edge') || told.given('cycle start', 'rising edge')
        ? Math.round(told.number('program number') ?? 1)
        : told.given('home', 'rising edge')
          ? homeProgram
          : undefined;
    const ended = faultCode !== 0 || told.on('stop') || !enabled;
    const begins = state.program === undefined && may && !ended ? starts : undefined;
    const program = ended ? undefined : (begins ?? state.program);
    const moving = program !== undefined && may;
    const progress = begins === undefined ? state.progress + (moving ? told.elapsedMs : 0) : 0;
    const arrived = program !== undefined && progress >= programMs;
    return {
      ...state,
      ...{ enabled, faultCode, progress },
      moving: moving && !arrived,
      program: arrived ? undefined : program,
      shown: program ?? state.shown,
      done: begins === undefined && (state.done || arrived),
      home: arrived ? program === homeProgram : state.home && program === undefined,
      beat: !state.beat,
      part: (told.met('part') ?? Number(program !== undefined)) > 0,
    };
  },
  shows: (state) => ({
    ready: state.faultCode === 0 && state.program === undefined,
    enabled: state.enabled,
    running: state.moving,
    'program running': state.program !== undefined,
    'program shown': state.shown,
    busy: state.program !== undefined,
    done: state.done,
    'at home': state.home,
    faulted: state.faultCode !== 0,
    'fault code': state.faultCode,
    'part present': state.part,
    heartbeat: state.beat,
  }),
  faults: [
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
