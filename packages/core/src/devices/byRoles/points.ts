import type { Role } from '../../layout/role.js';
import { clamp, lag } from '../motions.js';
import type { Told } from './commands.js';
import type { RoleBehaviour, ShownRoles } from './roleBehaviour.js';
import type { RoleValues } from './roleImage.js';

/**
 * Devices of points by their roles: what they put out comes back to their inputs of the same number, as at a valve with
 * its end position or at a module on a test bench; inputs without an output of their number move by themselves. What
 * the machine has them measure goes through their filter, and their offset is added.
 */
interface Points {
  /** What the outputs are, from number 1 on. */
  outputs: readonly boolean[];
  inputs: readonly boolean[];
  analogue: readonly (number | undefined)[];
  offset: number;
  /** ms since start, and since each output was another. */
  ms: number;
  since: readonly number[];
  commanded: boolean;
  /** Steps with a running controller. */
  cycles: number;
  shorted: boolean;
  unsupplied: boolean;
}

/** How slowly an analogue value follows what is put out, ms, where nothing else is set. */
const followsMs = 300;
/** What moves by itself turns over in so many ms, each point a little slower than the one before. */
const turnMs = 2000;

/** Values of a numbered role from number 1 on. */
const each = <T>(values: RoleValues, role: Role, of: (n: number) => T, none: T): T[] =>
  Array.from({ length: values.numbers(role).at(-1) ?? 0 }, (_, i) =>
    values.numbers(role).includes(i + 1) ? of(i + 1) : none,
  );

/** An analogue point, as it is measured or put out, behind its filter; undefined: nothing says it. */
function analogueValue(state: Points, told: Told, n: number, live: boolean): number | undefined {
  const measured = told.met(`measured ${n}`);
  const set = told.values.number('analogue output', n);
  const aim = measured ?? (set === undefined ? undefined : live ? set : 0);
  if (aim === undefined) return undefined;
  const filter = told.setting('filter time');
  const filterMs = filter ? filter.value * (filter.unit.trim() === 's' ? 1000 : 1) : followsMs;
  const before = state.analogue[n - 1];
  return before === undefined && measured !== undefined
    ? aim
    : lag(before ?? 0, aim, told.elapsedMs, Math.max(filterMs, 1));
}

const stepOf =
  (travelMs: number) =>
  (state: Points, told: Told): Points => {
    const { values, elapsedMs } = told;
    const powered = values.bit('load power') !== false && !state.shorted && !state.unsupplied;
    const live = powered && told.outputsStand;
    const outputs = each(values, 'output', (n) => live && values.bit('output', n) === true, false);
    const since = outputs.map((on, i) => (on === state.outputs[i] ? (state.since[i] ?? 0) + elapsedMs : 0));
    const analogues = Math.max(
      values.numbers('analogue output').at(-1) ?? 0,
      told.shown('analogue input').at(-1) ?? 0,
      told.shown('measured value').length,
    );
    return {
      ...state,
      ...{ outputs, since, ms: state.ms + elapsedMs, commanded: told.commanded },
      cycles: state.cycles + Number(told.commanded),
      inputs: outputs.map((on, i) => (since[i]! >= travelMs ? on : (state.inputs[i] ?? false))),
      analogue: Array.from({ length: analogues }, (_, i) => analogueValue(state, told, i + 1, live)),
      offset: told.setting('offset')?.value ?? 0,
    };
  };

const rising = (ms: number, n: number): boolean => Math.floor(ms / (turnMs + 100 * n)) % 2 === 1;
const swinging = (ms: number, n: number): number =>
  0.5 - 0.4 * Math.cos((2 * Math.PI * ms) / (4 * turnMs + 200 * n));

function shows(state: Points, feedback: RoleValues): ShownRoles {
  const { ms, shorted, unsupplied } = state;
  const analogue = (role: Role) =>
    each(
      feedback,
      role,
      (n) => {
        const { low, high } = feedback.range(role, n) ?? { low: 0, high: 100 };
        const known = state.analogue[n - 1];
        if (known === undefined) return low + (high - low) * swinging(ms, n);
        return clamp(known + (n === 1 ? state.offset : 0), low, high);
      },
      0,
    );
  const counts = (feedback.range('life counter')?.high ?? 255) + 1;
  const faulted = shorted || unsupplied;
  return {
    input: each(feedback, 'input', (n) => state.inputs[n - 1] ?? rising(ms, n), false),
    'analogue input': analogue('analogue input'),
    'measured value': analogue('measured value')[0] ?? 0,
    'load power': Array.from({ length: feedback.numbers('load power').at(-1) ?? 0 }, () => !unsupplied),
    'supply in order': !unsupplied,
    'network has control': state.commanded,
    overload: shorted,
    faulted,
    'fault code': shorted ? 1 : unsupplied ? 2 : 0,
    ready: !faulted,
    heartbeat: Math.floor(ms / 500) % 2 === 1,
    'life counter': state.cycles % counts,
  };
}

interface Kind {
  title: string;
  /** From an output to its input, ms. */
  travelMs: number;
  /** What its supply is called. */
  supply: string;
}
const points = ({ title, travelMs, supply }: Kind): RoleBehaviour<Points> => ({
  title,
  acts: ['output', 'input', 'analogue output', 'analogue input', 'measured value'],
  start: () => ({
    ...{ outputs: [], inputs: [], analogue: [], offset: 0, ms: 0, since: [], commanded: false },
    ...{ cycles: 0, shorted: false, unsupplied: false },
  }),
  step: stepOf(travelMs),
  shows,
  faults: [
    {
      id: 'unsupplied',
      title: `take its ${supply} away`,
      reset: `by itself when the ${supply} is back`,
      inject: (state) => ({ ...state, unsupplied: true }),
      clear: (state) => ({ ...state, unsupplied: false }),
    },
    {
      id: 'shorted',
      title: 'short-circuit an output',
      reset: 'take the short circuit away',
      inject: (state) => ({ ...state, shorted: true }),
      clear: (state) => ({ ...state, shorted: false }),
    },
  ],
  health: ({ shorted, unsupplied }) => (shorted || unsupplied ? 'minor' : 'good'),
});

export const valveTerminal = points({
  title: 'a valve terminal: end positions follow the valves',
  ...{ travelMs: 35, supply: 'compressed air' },
});
export const remoteIo = points({
  title: 'inputs and outputs: an input follows the output of its number',
  ...{ travelMs: 80, supply: 'load voltage' },
});
export const processIo = points({
  title: 'inputs and outputs of a process: values follow what is put out',
  ...{ travelMs: 80, supply: 'load voltage' },
});
