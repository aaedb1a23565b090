import fc from 'fast-check';
import type { DeviceKind } from '../devices/kinds.js';
import { layouts, type Laid, type Wanted } from '../devices/byRoles/testLayouts.js';
import type { RoleImage } from '../devices/byRoles/roleImage.js';
import type { Acting, Role } from '../layout/role.js';
import type { Plain } from './images.js';

/** For tests: every ready-made exchange on the kinds that it fits, and what must be true of the device at its end. */

export interface Case {
  recipe: string;
  kind: DeviceKind;
  commands: readonly Wanted[];
  answers: readonly Wanted[];
  given?: Readonly<Record<string, Plain>>;
  met?: Readonly<Record<string, number>>;
  /** A fault that keeps it from its end. */
  fault?: string;
  /** What makes commands act, where it is not what is usual. */
  acts?: Partial<Record<Role, Acting>>;
  ends: (device: RoleImage, variables: ReadonlyMap<string, Plain>) => boolean;
}

const of = (...names: Role[]): Wanted[] => names.map((is) => ({ is }));
const driveOut: readonly Wanted[] = [
  ...of('start', 'stop', 'enable', 'network control', 'network reference', 'fault reset'),
  { is: 'speed reference', unit: 'Hz' },
];
const driveBack: readonly Wanted[] = [
  ...of('running', 'at speed', 'faulted', 'ready'),
  { is: 'speed actual', unit: 'Hz' },
];
const axisOut: readonly Wanted[] = [
  ...of('enable voltage', 'switch on', 'enable', 'quick stop', 'setpoint strobe', 'fault reset', 'home'),
  ...([
    { is: 'operating mode' },
    { is: 'position setpoint', unit: 'mm' },
    { is: 'velocity', unit: 'mm/s' },
  ] as const),
];
const axisBack: readonly Wanted[] = [
  ...of(
    'ready to switch on',
    'switched on',
    'enabled',
    'homed',
    'faulted',
    'setpoint acknowledge',
    'target reached',
  ),
  { is: 'position actual', unit: 'mm' },
];
const near = (value: number | undefined, to: number) => value !== undefined && Math.abs(value - to) < 0.02;

export const cases: readonly Case[] = [
  {
    ...{ recipe: 'start and stop', kind: 'variable-speed drive', commands: driveOut, answers: driveBack },
    ...{ given: { speed: 12.5 }, fault: 'jammed' },
    ends: (device, results) => device.bit('running') === false && near(Number(results.get('reached')), 12.5),
  },
  {
    ...{ recipe: 'start and stop', kind: 'soft starter', commands: of('start', 'stop', 'fault reset') },
    ...{ answers: of('running', 'at speed', 'faulted'), fault: 'unloaded' },
    ends: (device) => device.bit('running') === false,
  },
  {
    ...{ recipe: 'start and stop', kind: 'motor starter', commands: of('start', 'stop', 'enable') },
    answers: of('running', 'faulted'),
    ends: (device) => device.bit('running') === false,
  },
  {
    ...{ recipe: 'latched start', kind: 'motor starter', commands: of('start', 'stop', 'enable') },
    ...{ answers: of('running', 'faulted'), acts: { start: 'rising edge' } },
    ends: (device) => device.bit('running') === false,
  },
  {
    ...{ recipe: 'latched start', kind: 'variable-speed drive', commands: driveOut, answers: driveBack },
    ...{ given: { speed: 12.5 }, acts: { start: 'rising edge' } },
    ends: (device) => device.bit('running') === false,
  },
  {
    ...{ recipe: 'fault reset', kind: 'variable-speed drive', commands: driveOut, answers: driveBack },
    ends: (device) => device.bit('faulted') === false,
  },
  {
    ...{ recipe: 'enable', kind: 'servo axis', commands: axisOut, answers: axisBack },
    ends: (device) => device.bit('enabled') === true,
  },
  {
    ...{ recipe: 'home and move', kind: 'servo axis', commands: axisOut, answers: axisBack },
    ...{ given: { position: 120.5, velocity: 100 }, fault: 'blocked' },
    ends: (device, results) =>
      near(device.number('position actual'), 120.5) && near(Number(results.get('reached')), 120.5),
  },
  {
    recipe: 'home and move',
    kind: 'servo axis',
    commands: axisOut.filter(({ is }) => is !== 'home'),
    answers: [...axisBack, { is: 'mode shown' }],
    ...{ given: { position: 80.25, velocity: 100 }, fault: 'blocked' },
    ends: (device) => near(device.number('position actual'), 80.25),
  },
  {
    recipe: 'setpoint',
    kind: 'servo axis',
    commands: axisOut.filter(({ is }) => is !== 'home' && is !== 'operating mode'),
    answers: axisBack.filter(({ is }) => is !== 'homed'),
    ...{ given: { position: -40, velocity: 60 } },
    ends: (device) => near(device.number('position actual'), -40),
  },
  {
    recipe: 'setpoint at once',
    kind: 'servo axis',
    commands: axisOut.filter(({ is }) => is !== 'home' && is !== 'operating mode'),
    answers: axisBack.filter(({ is }) => is !== 'homed'),
    ...{ given: { position: 40, velocity: 60 } },
    ends: (device) => Number(device.number('position actual')) > 0,
  },
  {
    ...{ recipe: 'trigger and result', kind: 'vision sensor' },
    commands: of('enable', 'trigger', 'result acknowledge', 'fault reset'),
    answers: of('trigger ready', 'trigger acknowledge', 'busy', 'result valid', 'pass', 'fail', 'faulted'),
    ends: (device, results) => device.bit('result valid') === false && results.get('passed') === true,
  },
  {
    // Without light it inspects and finds nothing: neither pass nor fail.
    ...{ recipe: 'trigger and result', kind: 'identification reader' },
    commands: of('trigger', 'result acknowledge'),
    answers: of('busy', 'result valid', 'pass', 'fail', 'faulted'),
    ends: (device, results) => device.bit('result valid') === false && results.get('passed') !== undefined,
  },
  {
    ...{ recipe: 'program change', kind: 'vision sensor', given: { program: 7 } },
    commands: [...of('enable', 'trigger', 'program change'), { is: 'program number' }],
    answers: [...of('program changed', 'program changing', 'trigger ready'), { is: 'program shown' }],
    ends: (device) => device.number('program shown') === 7,
  },
  {
    ...{ recipe: 'program run', kind: 'robot', given: { program: 3 }, fault: 'emergency-stop' },
    commands: [
      ...of('enable', 'start', 'hold', 'stop', 'permissive', 'fault reset'),
      { is: 'program number' },
    ],
    answers: [
      ...of('enabled', 'program running', 'done', 'faulted', 'emergency stop'),
      { is: 'program shown' },
    ],
    ends: (device) => device.number('program shown') === 3 && device.bit('done') === true,
  },
  {
    ...{ recipe: 'tighten', kind: 'torque tool', given: { program: 2 } },
    commands: [...of('start', 'stop', 'enable'), { is: 'program number' }],
    answers: [...of('running', 'done', 'pass', 'faulted'), { is: 'torque actual', unit: 'N.m' }],
    ends: (_device, results) => results.get('passed') === true && Number(results.get('torque')) >= 7.99,
  },
  {
    ...{ recipe: 'command code', kind: 'weigher', given: { code: 2 }, met: { load: 12 } },
    commands: [{ is: 'command code' }],
    answers: [
      ...of('stable'),
      { is: 'command answer' },
      { is: 'gross', unit: 'kg' },
      { is: 'net', unit: 'kg' },
    ],
    ends: (device) => near(device.number('net'), 0),
  },
  {
    ...{ recipe: 'key word', kind: 'weigher', given: { code: 2, key: 4711 }, met: { load: 12 } },
    commands: [{ is: 'command code' }, { is: 'command value' }],
    answers: [...of('stable'), { is: 'command answer' }, { is: 'net', unit: 'kg' }],
    ends: (device) => near(device.number('net'), 0),
  },
  {
    ...{ recipe: 'tare', kind: 'weigher', met: { load: 12 } },
    commands: of('tare'),
    answers: [...of('stable', 'tare applied'), { is: 'net', unit: 'kg' }],
    ends: (device) => near(device.number('net'), 0),
  },
  {
    ...{
      recipe: 'print by number',
      kind: 'marker',
      given: { format: 1, variable_text: 'LOT 47/11', copies: 1 },
      fault: 'open',
    },
    commands: [
      ...of('fault reset'),
      ...([
        { is: 'sequence number' },
        { is: 'format number' },
        { is: 'copies' },
        { is: 'variable text' },
      ] as const),
    ],
    answers: [...of('busy', 'ready', 'faulted'), { is: 'sequence number' }, { is: 'count' }],
    ends: (device) => device.number('count') === 1,
  },
  {
    // The object that comes stays for two seconds: the first tries reset nothing.
    ...{ recipe: 'restart', kind: 'safety controller', commands: of('safety reset') },
    answers: [{ is: 'beams', count: 12 }, ...of('safety in order', 'reset wanted')],
    ends: (device) => device.bit('reset wanted') === false && device.bit('safety in order') === true,
  },
  {
    ...{ recipe: 'output', kind: 'valve terminal' },
    commands: [{ is: 'output', count: 8 }],
    answers: [{ is: 'input', count: 8 }],
    ends: (device) => device.bit('input', 1) === false,
  },
];

/** A layout in which commands act by what a case wants. */
const acting = (laid: Laid, acts: Partial<Record<Role, Acting>>): Laid => {
  const own = <R extends { is: Role }>(role: R): R =>
    acts[role.is] ? { ...role, acts: acts[role.is] } : role;
  const fields = laid.command.fields.map((f) => ({
    ...f,
    role: f.role && own(f.role),
    bitRoles: f.bitRoles.map((b) => ({ ...b, role: own(b.role) })),
  }));
  return { ...laid, command: { ...laid.command, fields } };
};

export const titleOf = ({ recipe, kind, commands }: Case) =>
  `${recipe} on a ${kind} with ${commands.length} commands`;

/** The same layouts each time; none of them is one of the demo. */
export const layoutsOf = ({ commands, answers, acts = {} }: Case, count: number): Laid[] =>
  fc.sample(layouts(commands, answers), { numRuns: count, seed: 220_033 }).map((laid) => acting(laid, acts));
