import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { testCell, testDevice } from '../cell/testCell.js';
import type { DeviceKind } from '../devices/kinds.js';
import { roleBehaviourOf } from '../devices/byRoles/list.js';
import type { Shown } from '../devices/byRoles/roleImage.js';
import { driven } from '../devices/byRoles/testDevice.js';
import { layouts, type Laid, type Wanted } from '../devices/byRoles/testLayouts.js';
import type { Setting } from '../devices/byRoles/commands.js';
import { factsOfRole, type Role } from '../layout/role.js';
import { beamsOf, conditionsOf, type Beam } from './beam.js';
import { plainBeam, type BeamChanges } from '../cell/beamChanges.js';

/**
 * Each condition of each kind is broken on stand-ins of that kind, on layouts that have nothing in common but what they
 * are for; the beam must end at the one that was broken. What keeps a device from starting is common practice, no
 * source.
 */

type Told = Partial<Record<Role, Shown>>;
interface Session {
  device: ReturnType<typeof driven>;
  open: boolean;
  runs: boolean;
  settings: Partial<Record<Role, Setting>>;
}
/** One way to keep a device from acting: before it is told to, and by what it is told. */
interface Break {
  ring: string;
  before?: (session: Session) => void;
  told?: Told;
  /** Bits that are pulsed, but stand when this is broken. */
  standing?: Role;
  /** It shows only where the device is told to act: no part of a pair. */
  bySelf?: boolean;
}
interface Case {
  kind: DeviceKind;
  action: string;
  commands: readonly Wanted[];
  answers: readonly Wanted[];
  met?: Record<string, number>;
  /** First this, for a while; then that, which makes it act. */
  prepare?: readonly Told[];
  act: Told;
  /** How long it takes until it shows that it acts, ms. */
  within?: number;
  does: (shown: (role: Role, n?: number) => unknown) => boolean;
  breaks: readonly Break[];
}

const of = (...names: Role[]): Wanted[] => names.map((is) => ({ is }));
const link: Break = { ring: 'link', before: (s) => (s.open = false) };
const idle: Break = { ring: 'run', before: (s) => (s.runs = false) };
const injected = (ring: string, fault: string): Break => ({ ring, before: (s) => s.device.inject(fault) });

const cases: readonly Case[] = [
  {
    kind: 'variable-speed drive',
    action: 'run',
    commands: [
      ...of('start', 'stop', 'enable', 'quick stop', 'network control', 'network reference', 'fault reset'),
      { is: 'speed reference', unit: 'Hz' },
    ],
    answers: [
      ...of('running', 'faulted', 'ready', 'network has control', 'network has reference'),
      { is: 'speed actual', unit: 'Hz' },
    ],
    prepare: [{ enable: true, 'network control': true, 'network reference': true, 'speed reference': 20 }],
    act: { start: true },
    does: (shown) => shown('running') === true && shown('speed actual') !== 0,
    breaks: [
      link,
      idle,
      { ring: 'network control', told: { 'network control': false } },
      { ring: 'network reference', told: { 'network reference': false } },
      { ring: 'enable', told: { enable: false } },
      { ring: 'quick stop', told: { 'quick stop': true } },
      { ring: 'stop', told: { stop: true } },
      { ring: 'speed reference', told: { 'speed reference': 0 } },
      { ring: 'start given', told: { start: false } },
    ],
  },
  {
    kind: 'variable-speed drive',
    action: 'run',
    commands: [...of('forward', 'reverse', 'stop'), { is: 'speed reference', unit: 'rpm' }],
    answers: [...of('runs forward', 'runs reverse', 'faulted')],
    prepare: [{ 'speed reference': 250 }],
    act: { forward: true },
    does: (shown) => shown('runs forward') === true || shown('runs reverse') === true,
    breaks: [
      link,
      idle,
      { ring: 'stop', told: { stop: true } },
      { ring: 'directions', told: { reverse: true } },
      { ring: 'speed reference', told: { 'speed reference': 0 } },
      { ring: 'directions', told: { forward: false } },
    ],
  },
  {
    kind: 'variable-speed drive',
    action: 'run',
    commands: [
      ...of('start', 'stop', 'enable', 'permissive', 'hold', 'quick stop', 'network control'),
      { is: 'speed reference', unit: '%' },
    ],
    answers: [...of('running', 'faulted', 'network has control'), { is: 'speed actual', unit: '%' }],
    prepare: [{ enable: true, permissive: true, 'network control': true, 'speed reference': 40 }],
    act: { start: true },
    does: (shown) => shown('running') === true && shown('speed actual') !== 0,
    breaks: [
      link,
      idle,
      { ring: 'network control', told: { 'network control': false } },
      { ring: 'enable', told: { enable: false } },
      { ring: 'permissive', told: { permissive: false } },
      { ring: 'quick stop', told: { 'quick stop': true } },
      { ring: 'stop', told: { stop: true } },
      { ring: 'hold', told: { hold: true } },
      { ring: 'speed reference', told: { 'speed reference': 0 } },
      { ring: 'start given', told: { start: false } },
    ],
  },
  {
    kind: 'soft starter',
    action: 'run',
    commands: of('start', 'stop', 'enable', 'fault reset'),
    answers: of('running', 'faulted'),
    prepare: [{ enable: true }],
    act: { start: true },
    does: (shown) => shown('running') === true,
    breaks: [
      link,
      idle,
      { ring: 'enable', told: { enable: false } },
      { ring: 'stop', told: { stop: true } },
      { ring: 'start given', told: { start: false } },
    ],
  },
  {
    kind: 'motor starter',
    action: 'run',
    commands: of('start', 'stop', 'enable', 'direction'),
    answers: of('running', 'faulted'),
    prepare: [{ enable: true }],
    act: { start: true },
    does: (shown) => shown('running') === true,
    breaks: [
      link,
      idle,
      { ring: 'enable', told: { enable: false } },
      { ring: 'stop', told: { stop: true } },
      { ring: 'start given', told: { start: false } },
    ],
  },
  {
    kind: 'servo axis',
    action: 'move',
    commands: [
      ...of('enable voltage', 'switch on', 'enable', 'quick stop', 'home', 'setpoint strobe', 'fault reset'),
      { is: 'operating mode' },
      { is: 'position setpoint', unit: 'mm' },
      { is: 'velocity', unit: 'mm/s' },
    ],
    answers: [
      ...of('enabled', 'homed', 'faulted', 'setpoint acknowledge', 'target reached', 'running'),
      ...of('limit positive', 'limit negative'),
      { is: 'position actual', unit: 'mm' },
    ],
    prepare: [
      { 'operating mode': 1, 'enable voltage': true },
      { 'switch on': true },
      { enable: true },
      { home: true },
      { home: false },
      { 'position setpoint': 120, velocity: 100 },
    ],
    act: { 'setpoint strobe': true },
    does: (shown) => shown('setpoint acknowledge') === true && Number(shown('position actual')) > 0.01,
    breaks: [
      link,
      idle,
      { ...injected('faulted', 'blocked'), bySelf: true },
      { ring: 'limit switches', before: (s) => (s.device.met['limit switch positive'] = 1), bySelf: true },
      { ring: 'enable voltage', told: { 'enable voltage': false } },
      { ring: 'quick stop', told: { 'quick stop': true } },
      { ring: 'switch on', told: { 'switch on': false } },
      { ring: 'enable', told: { enable: false } },
      { ring: 'setpoint strobe given', told: { 'setpoint strobe': false } },
    ],
  },
  {
    kind: 'robot',
    action: 'run',
    commands: [
      ...of('enable', 'start', 'hold', 'stop', 'permissive', 'fault reset'),
      { is: 'program number' },
    ],
    answers: of('program running', 'ready', 'faulted', 'emergency stop'),
    prepare: [{ enable: true, permissive: true, 'program number': 3 }],
    act: { start: true },
    does: (shown) => shown('program running') === true,
    breaks: [
      link,
      idle,
      injected('emergency stop', 'emergency-stop'),
      // Its arm collides where it moves.
      { ...injected('faulted', 'collided'), told: { start: true }, bySelf: true },
      { ring: 'enable', told: { enable: false } },
      { ring: 'stop', told: { stop: true } },
      { ring: 'hold', told: { hold: true } },
      { ring: 'permissive', told: { permissive: false } },
      { ring: 'start given', standing: 'start' },
    ],
  },
  {
    kind: 'vision sensor',
    action: 'trigger',
    commands: of('enable', 'trigger', 'fault reset'),
    answers: of('trigger ready', 'trigger acknowledge', 'busy', 'result valid', 'pass', 'faulted'),
    prepare: [{ enable: true }],
    act: { trigger: true },
    within: 60,
    does: (shown) => shown('busy') === true,
    breaks: [
      link,
      idle,
      { ring: 'enable', told: { enable: false } },
      { ring: 'trigger given', told: { trigger: false } },
    ],
  },
  {
    kind: 'identification reader',
    action: 'read',
    commands: of('trigger', 'enable'),
    answers: of('busy', 'result valid', 'faulted', 'trigger ready'),
    prepare: [{ enable: true }],
    act: { trigger: true },
    within: 60,
    does: (shown) => shown('busy') === true,
    breaks: [link, idle, { ring: 'trigger given', told: { trigger: false } }],
  },
  {
    kind: 'marker',
    action: 'print',
    commands: [...of('fault reset'), { is: 'sequence number' }, { is: 'format number' }],
    answers: [
      ...of('busy', 'printed', 'faulted', 'door open'),
      { is: 'sequence number' },
      { is: 'remaining' },
    ],
    prepare: [{ 'sequence number': 1 }, { 'sequence number': 2 }, { 'sequence number': 2 }],
    act: { 'sequence number': 3 },
    within: 80,
    does: (shown) => shown('busy') === true,
    breaks: [
      link,
      idle,
      injected('door open', 'open'),
      { ring: 'sequence number higher', told: { 'sequence number': 1 } },
    ],
  },
  {
    kind: 'weigher',
    action: 'tare',
    commands: [{ is: 'command code' }],
    answers: [
      ...of('stable', 'overrange', 'warming up'),
      { is: 'command answer' },
      { is: 'gross', unit: 'kg' },
      { is: 'net', unit: 'kg' },
    ],
    met: { load: 12 },
    prepare: [{}, {}, {}, {}, {}, {}, {}],
    act: { 'command code': 2 },
    does: (shown) => shown('command answer') === 2,
    breaks: [
      link,
      idle,
      injected('overrange', 'overloaded'),
      { ring: 'command code given', told: { 'command code': 0 } },
      // Another code stood there, and none came from 0.
      { ring: 'command code given', before: (s) => void s.device.after(600, { 'command code': 1 }) },
    ],
  },
  {
    kind: 'torque tool',
    action: 'tighten',
    commands: [...of('start', 'enable', 'stop'), { is: 'program number' }],
    answers: of('running', 'done', 'pass', 'faulted'),
    prepare: [{ enable: true, 'program number': 1 }],
    act: { start: true },
    within: 100,
    does: (shown) => shown('running') === true,
    breaks: [
      link,
      idle,
      { ring: 'enable', told: { enable: false } },
      { ring: 'stop', told: { stop: true } },
      { ring: 'start given', told: { start: false } },
    ],
  },
  {
    kind: 'safety controller',
    action: 'release',
    commands: of('safety reset'),
    answers: [{ is: 'beams', count: 16 }, ...of('safety in order', 'reset wanted', 'faulted')],
    met: { 'object size': 0 },
    prepare: [{}],
    act: {},
    does: (shown) => shown('safety in order') === true,
    breaks: [
      link,
      idle,
      {
        ring: 'beams',
        before: (s) => Object.assign(s.device.met, { 'object size': 60, 'object position': 40 }),
      },
      {
        ...{ ring: 'safety reset', bySelf: true },
        before: (s) => {
          Object.assign(s.device.met, { 'object size': 60, 'object position': 40 });
          s.device.after(100);
          Object.assign(s.device.met, { 'object size': 0, 'object position': 0 });
        },
      },
    ],
  },
  {
    kind: 'valve terminal',
    action: 'outputs',
    commands: [{ is: 'output', count: 8 }],
    answers: [{ is: 'load power', count: 1 }, ...of('supply in order', 'overload', 'faulted')],
    prepare: [{}],
    act: { output: [true, false, true] },
    does: (shown) => shown('faulted') === false,
    breaks: [
      link,
      idle,
      injected('supply in order', 'unsupplied'),
      { ring: 'output', told: { output: Array<boolean>(8).fill(false) } },
    ],
  },
  {
    kind: 'measuring sensor',
    action: 'measure',
    commands: of('zero'),
    answers: [...of('result valid', 'overrange', 'faulted'), { is: 'measured value', unit: 'mm' }],
    prepare: [{}],
    act: {},
    does: (shown) => shown('result valid') === true,
    breaks: [link, idle, injected('faulted', 'blinded')],
  },
  {
    kind: 'IO-Link master',
    action: 'ports',
    commands: [{ is: 'load power', count: 4 }],
    answers: [{ is: 'port valid', count: 4 }, { is: 'load power', count: 4 }, ...of('faulted')],
    prepare: [{ 'load power': [true, true, true, true] }],
    act: {},
    within: 600,
    does: (shown) => [1, 2, 3, 4].every((n) => shown('port valid', n) === true),
    breaks: [
      link,
      idle,
      { ring: 'load power', told: { 'load power': [true, false, true, true] } },
      injected('port valid', 'unplugged'),
    ],
  },
];

/** Works the device with some things broken, and looks at it. */
function worked(one: Case, laid: Laid, broken: readonly Break[]): { beam: Beam; acts: boolean } {
  const device = driven(roleBehaviourOf(one.kind)!, laid, { ...one.met });
  const session: Session = { device, open: true, runs: true, settings: {} };
  for (const told of one.prepare ?? []) device.after(600, told);
  for (const { before } of broken) before?.(session);
  const standing = broken.find((b) => b.standing)?.standing;
  // It stood there before the device could act.
  if (standing) {
    device.after(100, { enable: false });
    device.after(60, { [standing]: true });
    device.after(60, { enable: true });
  }
  const told = Object.assign({ ...one.act }, ...broken.map((b) => b.told ?? {})) as Told;
  const commanded = session.open && session.runs;
  const shown = device.after(one.within ?? 400, told, commanded);
  const plain = testDevice();
  const linked = { ...plain.links[0]!, command: laid.command, feedback: laid.feedback } as never;
  const [beam] = beamsOf({ ...plain, kind: one.kind }, linked, {
    command: device.command.bytes,
    feedback: device.feedback.bytes,
    ...{ open: session.open, runs: session.runs },
    setting: (role) => session.settings[role],
    quantity: () => undefined,
  }).filter(({ action }) => action === one.action);
  return { beam: beam!, acts: one.does(shown) };
}
const sampled = (one: Case, count: number): Laid[] =>
  fc.sample(layouts(one.commands, one.answers), { numRuns: count, seed: 220_011 });
const titleOf = (one: Case) => `${one.kind}, ${one.commands.map((c) => c.is).join(', ')}`;

describe.each(cases.map((one) => [titleOf(one), one] as const))('%s', (_title, one) => {
  test('it acts, and nothing stops it', () => {
    for (const laid of sampled(one, 6)) {
      const { beam, acts } = worked(one, laid, []);
      expect({ acts, stopsAt: beam.stopsAt }).toEqual({ acts: true, stopsAt: undefined });
    }
  });

  test.each(one.breaks.map((b, i) => [`${b.ring} ${i}`, b] as const))('broken: %s', (_ring, broken) => {
    for (const laid of sampled(one, 6)) {
      const { beam, acts } = worked(one, laid, [broken]);
      expect(beam.stopsAt?.id).toBe(broken.ring);
      // A link that is down, or a controller that idles, says nothing of what the device shows.
      if (broken.ring !== 'link' && broken.told && !('output' in one.act)) expect(acts).toBe(false);
    }
  });
});

test('of two that are broken the one that comes first in the chain is named: all pairs, over 200', () => {
  const pairs = cases.flatMap((one) =>
    one.breaks.flatMap((a, i) => one.breaks.slice(i + 1).map((b) => ({ one, a, b }))),
  );
  // Two ways to break the same ring are no pair.
  const tried = pairs.filter(
    ({ a, b }) => a.ring !== b.ring && !a.standing && !b.standing && !a.bySelf && !b.bySelf,
  );
  expect(tried.length).toBeGreaterThanOrEqual(200);
  for (const { one, a, b } of tried) {
    const order = conditionsOf(one)
      .find(({ action }) => action === one.action)!
      .conditions.map(({ id }) => id);
    const [first] = [a.ring, b.ring].sort((x, y) => order.indexOf(x) - order.indexOf(y));
    const { beam } = worked(one, sampled(one, 1)[0]!, [a, b]);
    expect({ pair: `${one.kind}: ${a.ring}, ${b.ring}`, stopsAt: beam.stopsAt?.id }).toEqual({
      pair: `${one.kind}: ${a.ring}, ${b.ring}`,
      stopsAt: first,
    });
  }
});

const bitsOf = ({ commands, act }: Case) =>
  commands.filter(
    ({ is, count }) => !count && factsOfRole(is).reads === 'bit' && typeof act[is] !== 'number',
  );

test.each(cases.filter((one) => bitsOf(one).length > 0).map((one) => [titleOf(one), one] as const))(
  '%s: whatever it is told, nothing stops it only where it acts',
  (_title, one) => {
    const bits = bitsOf(one);
    fc.assert(
      fc.property(
        fc.constantFrom(...sampled(one, 4)),
        fc.array(fc.array(fc.constantFrom(...bits.map(({ is }) => is)), { maxLength: 2 }), { maxLength: 3 }),
        (laid, turned) => {
          const told: Told = {};
          for (const role of turned.flat()) told[role] = told[role] !== true;
          const { beam, acts } = worked(one, laid, [{ ring: '', told }]);
          if (!beam.stopsAt && beam.rings.every(({ state }) => state === 'closed')) expect(acts).toBe(true);
        },
      ),
      { numRuns: 60, seed: 220_012 },
    );
  },
);

describe('changes of a chain', () => {
  const cell = testCell();
  const [device] = cell.devices;
  const moment = {
    ...{ command: new Uint8Array(64), feedback: new Uint8Array(64), open: true, runs: true },
    setting: () => undefined,
  };
  test('a condition of somebody’s own stands where it was put, and holds while its expression is not 0', () => {
    const kind = 'valve terminal' as const;
    const laid = sampled(
      cases.find((c) => c.kind === kind)!,
      1,
    )[0]!;
    const link = { ...device!.links[0]!, ...laid } as never;
    const own = {
      ...{ id: 'c1', action: 'outputs', before: 'output', title: 'a wheel at the turner' },
      ...{ expression: 'wheel_turner_r1.part_present', cure: 'Bring one.' },
    };
    const beam = { leftOut: ['load power', 'supply in order', 'faulted', 'overload'], own: [own] };
    const look = (value: number | undefined, changes: BeamChanges = beam) =>
      beamsOf({ ...device!, kind, beam: changes }, link, { ...moment, quantity: () => value })[0]!;
    expect(look(0).stopsAt).toMatchObject({ title: 'a wheel at the turner', says: 'Bring one.' });
    expect(look(1).stopsAt?.id).toBe('output');
    expect(look(undefined).rings.find(({ id }) => id === 'c1')?.state).toBe('unknown');
    expect(look(1).rings.map(({ id }) => id)).not.toContain('load power');
    expect(look(1, plainBeam).rings.map(({ id }) => id)).toContain('load power');
  });
});
