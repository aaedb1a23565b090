import type { Device } from '../cell/model.js';
import type { DeviceKind } from '../devices/kinds.js';
import type { Parameter } from '../devices/parameter.js';
import type { Role } from '../layout/role.js';
import { numberMeaning, type Meaning } from '../devices/settingMeaning.js';

/** A named group of values with the reason for them; it says them by role and meaning, so it fits every maker. */
export interface SettingSet {
  id: string;
  title: string;
  /** What goes wrong without it. */
  reason: string;
  /** Empty: every kind. */
  kinds: readonly DeviceKind[];
  wants: readonly Want[];
}

/** What parameters with a role are to be. */
interface Want {
  role: Role;
  /** By the label that means it, or by the number. */
  to: { meaning: Meaning } | { number: string };
}

const drives: readonly DeviceKind[] = ['variable-speed drive', 'soft starter', 'servo axis', 'motor starter'];

/** In the order in which a device is set up. */
export const settingSets: readonly SettingSet[] = [
  {
    id: 'network-commands',
    title: 'Network commands start and speed',
    reason:
      'As delivered it takes start and speed from its keypad or terminals: it is connected, and nothing moves.',
    kinds: drives,
    wants: [
      { role: 'start source', to: { meaning: 'network' } },
      { role: 'reference source', to: { meaning: 'network' } },
    ],
  },
  {
    id: 'stops-on-loss',
    title: 'Stops and drops its outputs on loss',
    reason: 'Without a reaction it goes on with the last command when the cable is pulled.',
    kinds: [],
    wants: [{ role: 'loss reaction', to: { meaning: 'stop' } }],
  },
  {
    id: 'low-end-first',
    title: 'Low end of a value first',
    reason: 'The fields of its images are laid out low byte first; values of the other order are far off.',
    kinds: [],
    wants: [{ role: 'value order', to: { meaning: 'low end first' } }],
  },
  {
    id: 'address-fixed',
    title: 'Keeps its address',
    reason: 'A device that asks for its address at each start is gone when no server answers.',
    kinds: [],
    wants: [{ role: 'address method', to: { meaning: 'fixed' } }],
  },
  {
    id: 'ports-io-link',
    title: 'Ports in IO-Link mode, with load power',
    reason: 'A port in another mode, or without load power, shows a green light and no data.',
    kinds: ['IO-Link master'],
    wants: [
      { role: 'port mode', to: { meaning: 'IO-Link' } },
      { role: 'load power', to: { meaning: 'on' } },
    ],
  },
];

/** A set as it is for one device. */
export interface ProposedSet {
  set: SettingSet;
  /** The parameters that it sets, with what is written for each. */
  values: { parameter: Parameter; to: string }[];
  /** Parameters that have the role, but no label that means what is wanted, or several. */
  unclear: Parameter[];
  /** All of its values are planned already. */
  planned: boolean;
}

/** The sets that have something to set at a device. */
export const proposedSets = ({ kind, description: { parameters } }: Device): ProposedSet[] =>
  settingSets.flatMap((set) => {
    if (set.kinds.length > 0 && !set.kinds.includes(kind) && kind !== 'other') return [];
    const values: ProposedSet['values'] = [];
    const unclear: Parameter[] = [];
    for (const { role, to } of set.wants)
      for (const parameter of parameters) {
        if (parameter.role?.is !== role || parameter.access === 'read') continue;
        const value = 'number' in to ? to.number : numberMeaning(parameter, to.meaning);
        if (value === undefined) unclear.push(parameter);
        else values.push({ parameter, to: String(value) });
      }
    if (values.length === 0 && unclear.length === 0) return [];
    return [{ set, values, unclear, planned: values.every(({ parameter, to }) => parameter.planned === to) }];
  });
