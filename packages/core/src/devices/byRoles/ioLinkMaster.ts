import type { Role } from '../../layout/role.js';
import type { Told } from './commands.js';
import type { RoleBehaviour } from './roleBehaviour.js';
import type { RoleValues } from './roleImage.js';

/**
 * An IO-Link master by its roles, with a device at each port: data are valid once a port has load power and stands in
 * IO-Link mode; it tells the mode and the power that it was given.
 */
interface Master {
  /** By port, from number 1 on. */
  valid: readonly boolean[];
  powered: readonly boolean[];
  modes: readonly number[];
  /** ms that each port has been what it is. */
  since: readonly number[];
  ms: number;
  /** The device of port 1 is unplugged. */
  unplugged: boolean;
}

/** What a device takes to start up behind a port; common practice, no source. */
const startMs = 300;

const portsOf = (values: RoleValues, ...roles: Role[]): number =>
  Math.max(0, ...roles.map((role) => values.numbers(role).at(-1) ?? 0));

/** Whether a mode is IO-Link: the label says so; without labels every mode but 0. */
function inIoLink({ values }: Told, n: number): boolean {
  if (!values.numbers('port mode').includes(n)) return true;
  const mode = values.number('port mode', n) ?? 0;
  const label = values.label('port mode', n);
  return /[a-z]/i.test(label) ? /io-?link/i.test(label) : mode !== 0;
}

export const ioLinkMaster: RoleBehaviour<Master> = {
  title: 'an IO-Link master: a device at each port, once the port has power and mode',
  acts: ['port mode', 'port valid', 'load power'],
  start: () => ({ valid: [], powered: [], modes: [], since: [], ms: 0, unplugged: false }),
  step: (state, told) => {
    const { values } = told;
    const ports = Math.max(portsOf(values, 'port mode', 'load power', 'output'), 4);
    const all = Array.from({ length: ports }, (_, i) => i + 1);
    const powered = all.map((n) => values.bit('load power', n) !== false);
    const up = all.map((n) => powered[n - 1]! && inIoLink(told, n) && !(state.unplugged && n === 1));
    const since = all.map((_, i) => (up[i] ? (state.since[i] ?? 0) + told.elapsedMs : 0));
    return {
      ...state,
      ...{ powered, since, ms: state.ms + told.elapsedMs },
      modes: all.map((n) => values.number('port mode', n) ?? 0),
      valid: since.map((ms) => ms >= startMs),
    };
  },
  shows: ({ valid, powered, modes, ms, unplugged }, feedback) => ({
    'port valid': valid,
    'load power': powered,
    'port mode': modes,
    input: valid.map((one, i) => one && Math.floor(ms / (1500 + 100 * i)) % 2 === 1),
    'analogue input': valid.map((one, i) => {
      const { low, high } = feedback.range('analogue input', i + 1) ?? { low: 0, high: 100 };
      return one ? low + (high - low) * (0.5 - 0.4 * Math.cos(ms / (2000 + 100 * i))) : Math.max(low, 0);
    }),
    faulted: unplugged,
    ready: valid.some(Boolean),
  }),
  faults: [
    {
      id: 'unplugged',
      title: 'unplug the device of port 1',
      reset: 'plug it in again',
      inject: (state) => ({ ...state, unplugged: true }),
      clear: (state) => ({ ...state, unplugged: false }),
    },
  ],
  health: ({ unplugged }) => (unplugged ? 'minor' : 'good'),
};
