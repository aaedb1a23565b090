import { towards } from '../motions.js';
import type { RoleBehaviour } from './roleBehaviour.js';

/**
 * A torque tool by its roles: start, held, tightens one screw up to the torque of its program; torque and angle stand
 * with the result until the start goes and comes again. A screw that is stripped never reaches its torque.
 */
interface Tool {
  running: boolean;
  /** The start was set in the step before. */
  held: boolean;
  /** ms of this tightening. */
  ms: number;
  torque: number;
  angle: number;
  result: 'none' | 'pass' | 'fail';
  program: number;
  count: number;
  stripped: boolean;
}

/** N·m that program 1 tightens to; each further one as much more. */
const programTorque = 4;
/** How far it turns until the head of the screw lies on, and from there on. */
const freeAngle = 720;
const degreesPerSecond = 1200;
const torquePerDegree = 0.05;
/** A tightening that takes longer has failed, ms. */
const longestMs = 3000;

const target = (program: number): number => programTorque * Math.max(1, program);

export const torqueTool: RoleBehaviour<Tool> = {
  title: 'a torque tool: tightens a screw at each start',
  acts: ['start', 'enable'],
  start: () => ({
    ...{
      running: false,
      held: false,
      ms: 0,
      torque: 0,
      angle: 0,
      result: 'none',
      program: 1,
      count: 0,
      stripped: false,
    },
  }),
  step: (state, told) => {
    const may = !told.on('stop') && (!told.values.has('enable') || told.on('enable'));
    const role = told.values.has('start') ? 'start' : 'enable';
    const held = told.on(role);
    const latches = told.acting(role, 'level') !== 'level';
    const asked = latches ? told.given(role, 'level') : held && !state.held;
    const starts = asked && may && !state.running;
    const program = starts ? Math.round(told.number('program number') ?? 1) : state.program;
    const before: Tool = starts
      ? { ...state, ms: 0, torque: 0, angle: 0, result: 'none', program, running: true, held }
      : { ...state, held };
    const running = before.running && may && (held || latches) && told.commanded;
    // Whoever lets go ends it: the screw is not tight.
    if (!running) return { ...before, running: false, result: before.running ? 'fail' : before.result };
    const ms = before.ms + told.elapsedMs;
    const goal = target(program);
    const angle = before.angle + (degreesPerSecond * told.elapsedMs) / 1000;
    const rise = Math.max(0, angle - Math.max(freeAngle, before.angle)) * torquePerDegree;
    const torque = towards(before.torque, state.stripped ? goal / 4 : goal, rise);
    const tight = torque >= goal;
    const ends = tight || ms >= longestMs;
    return {
      ...before,
      ...{ ms, angle, torque, running: !ends },
      result: ends ? (tight ? 'pass' : 'fail') : 'none',
      count: before.count + Number(ends),
    };
  },
  shows: ({ running, torque, angle, result, program, count }) => ({
    ready: !running,
    running,
    busy: running,
    enabled: true,
    done: result !== 'none',
    'result valid': result !== 'none',
    pass: result === 'pass',
    fail: result === 'fail',
    'torque actual': torque,
    'angle actual': angle,
    'measured value': torque,
    'program shown': program,
    'sequence number': count % 256,
    faulted: false,
    'fault code': 0,
  }),
  faults: [
    {
      id: 'stripped',
      title: 'give it a screw that is stripped',
      reset: 'give it a sound screw',
      inject: (state) => ({ ...state, stripped: true }),
      clear: (state) => ({ ...state, stripped: false }),
    },
  ],
  health: () => 'good',
};
