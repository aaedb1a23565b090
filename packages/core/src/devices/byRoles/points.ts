import type { Role } from '../../layout/role.js';
import type { Told } from './commands.js';
import type { RoleBehaviour } from './roleBehaviour.js';
import type { RoleValues } from './roleImage.js';
import { lag } from '../motions.js';

/**
 * Devices of points by their roles: what they put out comes back to their inputs of the same number, as at a valve with
 * its end position or at a module on a test bench; inputs without an output of their number move by themselves.
 */
interface Points {
  /** What the outputs are, from number 1 on. */
  outputs: readonly boolean[];
  inputs: readonly boolean[];
  analogue: readonly number[];
  /** ms since start, and since each output was another. */
  ms: number;
  since: readonly number[];
  shorted: boolean;
}

/** How long a valve takes, ms; and how slowly an analogue value follows. */
const travelMs = 80;
const followsMs = 300;
/** What moves by itself turns over in so many ms, each point a little slower than the one before. */
const turnMs = 2000;

/** Values of a numbered role from number 1 on. */
const each = <T>(values: RoleValues, role: Role, of: (n: number) => T, none: T): T[] =>
  Array.from({ length: values.numbers(role).at(-1) ?? 0 }, (_, i) =>
    values.numbers(role).includes(i + 1) ? of(i + 1) : none,
  );

/** Outputs keep what they were told, without a controller, too: what loss does to them is said by their description. */
function step(state: Points, { values, elapsedMs }: Told): Points {
  const powered = values.bit('load power') !== false;
  const outputs = each(
    values,
    'output',
    (n) => powered && !state.shorted && values.bit('output', n) === true,
    false,
  );
  const since = outputs.map((on, i) => (on === state.outputs[i] ? (state.since[i] ?? 0) + elapsedMs : 0));
  const asked = each(values, 'analogue output', (n) => values.number('analogue output', n) ?? 0, 0);
  return {
    ...state,
    ...{ outputs, since, ms: state.ms + elapsedMs },
    inputs: outputs.map((on, i) => (since[i]! >= travelMs ? on : (state.inputs[i] ?? false))),
    analogue: asked.map((value, i) => lag(state.analogue[i] ?? 0, value, elapsedMs, followsMs)),
  };
}

const rising = (ms: number, n: number): boolean => Math.floor(ms / (turnMs + 100 * n)) % 2 === 1;
const swinging = (ms: number, n: number): number =>
  0.5 - 0.4 * Math.cos((2 * Math.PI * ms) / (4 * turnMs + 200 * n));

function shows(state: Points, feedback: RoleValues): ReturnType<RoleBehaviour<Points>['shows']> {
  const { ms } = state;
  const analogue = (role: Role) =>
    each(
      feedback,
      role,
      (n) => {
        const { low, high } = feedback.range(role, n) ?? { low: 0, high: 100 };
        return state.analogue[n - 1] ?? low + (high - low) * swinging(ms, n);
      },
      0,
    );
  return {
    input: each(feedback, 'input', (n) => state.inputs[n - 1] ?? rising(ms, n), false),
    'analogue input': analogue('analogue input'),
    'measured value': analogue('measured value')[0] ?? 0,
    'load power': Array.from({ length: feedback.numbers('load power').at(-1) ?? 0 }, () => true),
    overload: state.shorted,
    faulted: state.shorted,
    'fault code': state.shorted ? 1 : 0,
    ready: !state.shorted,
    heartbeat: Math.floor(ms / 500) % 2 === 1,
    'life counter': Math.floor(ms / 100) % 256,
  };
}

const points = (title: string): RoleBehaviour<Points> => ({
  title,
  acts: ['output', 'input', 'analogue output', 'analogue input', 'measured value'],
  start: () => ({ outputs: [], inputs: [], analogue: [], ms: 0, since: [], shorted: false }),
  step,
  shows,
  faults: [
    {
      id: 'shorted',
      title: 'short-circuit an output',
      reset: 'take the short circuit away',
      inject: (state) => ({ ...state, shorted: true }),
      clear: (state) => ({ ...state, shorted: false }),
    },
  ],
  health: ({ shorted }) => (shorted ? 'minor' : 'good'),
});

export const valveTerminal = points('a valve terminal: end positions follow the valves');
export const remoteIo = points('inputs and outputs: an input follows the output of its number');
export const processIo = points('inputs and outputs of a process: values follow what is put out');
