import type { DeviceKind } from '../devices/kinds.js';
import { roles, type Role } from '../layout/role.js';
import {
  beamsClear,
  codeLeavesZero,
  commanded,
  controllerRuns,
  does,
  enabled,
  given,
  higher,
  known,
  linkStands,
  loadPower,
  networkControl,
  networkReference,
  noFault,
  noQuickStop,
  noStop,
  noStopCommand,
  notHeld,
  oneDirection,
  permitted,
  reference,
  shown,
  startAnew,
  supply,
  takenBy,
  type BeamScene,
  type Condition,
  type Taken,
} from './conditions.js';

/** What must hold for a device to do one thing, in the order in which one looks. */
export interface Chain {
  /** What it does: `run`, `trigger`. */
  action: string;
  conditions: readonly Condition[];
}

/** Before anything else: the wire, the controller, safety, supply, faults. */
const before: readonly Condition[] = [linkStands, controllerRuns, ...noStop, supply, loadPower, noFault];

const has = ({ command, feedback }: BeamScene, role: Role) => command.has(role) || feedback.has(role);

/** Turns, or says that it does. */
const turns: Taken = (scene) => {
  const bits = takenBy('running', 'runs forward', 'runs reverse', 'program running')(scene);
  if (bits !== undefined) return bits;
  const speed = scene.feedback.number('speed actual');
  return speed === undefined ? undefined : speed !== 0;
};
const asked: Taken = (scene) =>
  // A start by level is taken while it is running, whatever its ramp does.
  takenBy('running', 'enabled', 'runs forward', 'runs reverse')(scene) ?? turns(scene);

const runs = (further: readonly Condition[], idle: string): Chain => ({
  action: 'run',
  conditions: [
    ...before,
    ...further,
    given('start', 'level', asked),
    oneDirection(asked),
    startAnew('start', turns),
    does('it runs', turns, idle),
  ],
});

const drive: readonly Chain[] = [
  runs(
    [
      networkControl,
      networkReference,
      enabled,
      permitted,
      noQuickStop,
      noStopCommand,
      notHeld,
      reference('speed reference', 'speed reference'),
    ],
    'All that is known holds, and it does not run: its start may have stood since before it could start; look at its brake, its limits and its parameters.',
  ),
];
const starter: readonly Chain[] = [
  runs(
    [networkControl, enabled, permitted, noStopCommand],
    'All that is known holds, and it does not run: its start may have stood since before it could start; look at its contactor and its supply.',
  ),
];

/** The commands of the state machine of IEC 61800-7-201 one after the other, then what the axis shows of them. */
const enabling: readonly Condition[] = [
  ...before,
  commanded('enable voltage', true, 'Its voltage is not enabled, the first step of enabling.'),
  noQuickStop,
  commanded('switch on', true, 'It is not switched on, the second step of enabling.'),
  enabled,
  shown(
    'enabled',
    true,
    'enabled',
    'It does not say enabled: take all bits of enabling back and give them in turn.',
  ),
];
const positioningMode: Condition = {
  id: 'operating mode',
  title: 'positioning mode',
  look: ({ command, feedback }) => {
    const mode = feedback.number('mode shown') ?? command.number('operating mode');
    if (mode === undefined) return undefined;
    // 6 is homing (IEC 61800-7-201, modes of operation; from memory).
    return mode === 6
      ? { state: 'open', says: 'It stands in homing mode: write another mode while it is not enabled.' }
      : { state: 'closed', says: `mode ${mode}` };
  },
};
/** A limit switch stops the way towards it. */
const limitsFree: Condition = {
  id: 'limit switches',
  title: 'no limit switch in its way',
  look: ({ command, feedback }) => {
    const [positive, negative] = [feedback.bit('limit positive'), feedback.bit('limit negative')];
    if (positive === undefined && negative === undefined) return undefined;
    if (positive && negative)
      return {
        state: 'open',
        says: 'Both limit switches are pressed: look at their wires and their supply.',
      };
    const [at, to] = [feedback.number('position actual'), command.number('position setpoint')];
    const way = at === undefined || to === undefined || command.bit('relative setpoint') ? 0 : to - at;
    if ((positive && way > 0) || (negative && way < 0))
      return {
        state: 'open',
        says: `Its limit switch at the ${positive ? 'positive' : 'negative'} end is pressed, and its setpoint lies further that way: move it away from there.`,
      };
    return {
      state: 'closed',
      says: positive || negative ? 'It moves away from the one that is pressed.' : '',
    };
  },
};
const moves: Taken = (scene) => {
  const running = takenBy('running')(scene);
  if (running) return true;
  const [at, to] = [scene.feedback.number('position actual'), scene.command.number('position setpoint')];
  if (takenBy('target reached')(scene) && at !== undefined && to !== undefined)
    return scene.command.bit('relative setpoint') ? true : Math.abs(at - to) < 0.5;
  return running ?? (scene.feedback.has('target reached') ? !takenBy('target reached')(scene) : undefined);
};
const strobeTaken: Taken = (scene) => takenBy('setpoint acknowledge')(scene) ?? moves(scene);

const axis: readonly Chain[] = [
  {
    action: 'move',
    conditions: [
      ...enabling,
      notHeld,
      shown('homed', true, 'homed', 'It is not homed: a setpoint is ignored in silence. Home it first.', {
        role: 'home',
        title: 'Home it',
      }),
      positioningMode,
      limitsFree,
      given('setpoint strobe', 'rising edge', strobeTaken),
      does(
        'it moves',
        moves,
        'All that is known holds, and it does not move: look at its limits and its brake.',
      ),
    ],
  },
  {
    action: 'enable',
    conditions: [...enabling, does('it is enabled', takenBy('enabled'), 'It does not say enabled.')],
  },
];

const programTaken = takenBy('program running', 'running', 'busy');
const robot: readonly Chain[] = [
  {
    action: 'run',
    conditions: [
      ...before,
      enabled,
      noStopCommand,
      notHeld,
      permitted,
      known('program number', 'program'),
      oneStart(programTaken),
      does(
        'its program runs',
        programTaken,
        'All that is known holds, and no program runs: give start anew; it acts once at each edge.',
      ),
    ],
  },
];
/** Start, where it has one, else cycle start. */
function oneStart(taken: Taken): Condition {
  const [start, cycle] = [given('start', 'rising edge', taken), given('cycle start', 'rising edge', taken)];
  return { ...start, look: (scene) => start.look(scene) ?? cycle.look(scene) };
}

const inspects = takenBy('trigger acknowledge', 'busy', 'exposing', 'result valid');
const hasProgram: Condition = {
  id: 'program shown',
  title: 'a program that inspects',
  look: ({ command, feedback }) => {
    const shownNow = feedback.number('program shown');
    const label = command.labelled('program number').find(({ value }) => value === shownNow)?.text;
    if (label === undefined) return undefined;
    return /picture|image/i.test(label)
      ? {
          state: 'open',
          says: `Program ${shownNow} ${label} inspects nothing: there is neither pass nor fail.`,
        }
      : { state: 'closed', says: `${shownNow} ${label}` };
  },
};
const ready = (role: Role, without: string) => shown(role, true, roles[role].title, without);
/** A bit that says ready goes away while the device works, and is no obstacle then. */
const readyOr = (role: Role, taken: Taken, without: string): Condition => {
  const plain = ready(role, without);
  return {
    ...plain,
    look: (scene) =>
      taken(scene)
        ? scene.feedback.has(role)
          ? { state: 'closed', says: 'It works.' }
          : undefined
        : plain.look(scene),
  };
};
const vision: readonly Chain[] = [
  {
    action: 'trigger',
    conditions: [
      ...before,
      enabled,
      readyOr(
        'trigger ready',
        inspects,
        'It is not ready for a trigger: one that comes now is lost. Wait until it has finished.',
      ),
      hasProgram,
      given('trigger', 'rising edge', inspects),
      does(
        'it inspects',
        inspects,
        'All that is known holds, and it does not inspect: look at its light and its triggers.',
      ),
    ],
  },
];

const reads = takenBy('busy', 'result valid', 'fail');
const reader: readonly Chain[] = [
  {
    action: 'read',
    conditions: [
      ...before,
      enabled,
      readyOr('trigger ready', reads, 'It is not ready for a trigger: wait until it has finished.'),
      given('trigger', 'rising edge', reads),
      {
        ...shown('part present', true, 'a tag before it', 'There is no tag before it.'),
        id: 'part present',
      },
      does(
        'it has read',
        reads,
        'All that is known holds, and it has not read: look at its distance from the tag.',
      ),
    ],
  },
];

const prints = takenBy('busy', 'running', 'printed');
const printing = takenBy('busy', 'running');
const marker: readonly Chain[] = [
  {
    action: 'print',
    conditions: [
      linkStands,
      controllerRuns,
      ...noStop,
      shown('door open', false, 'door closed', 'Its door is open: close it, then reset.'),
      {
        id: 'remaining',
        title: 'labels',
        look: ({ feedback }) => {
          const left = feedback.number('remaining');
          if (left === undefined) return undefined;
          return left > 0
            ? { state: 'closed', says: `${left} left` }
            : { state: 'open', says: 'It has no labels left: put a roll in.' };
        },
      },
      noFault,
      known('format number', 'format'),
      {
        ...given('print', 'rising edge', printing),
        look: (s) => given('print', 'rising edge', prints).look(s),
      },
      higher('sequence number', (scene) =>
        printing(scene) ||
        scene.command.number('sequence number') === scene.feedback.number('sequence number')
          ? prints(scene)
          : false,
      ),
      does(
        'it prints',
        prints,
        'All that is known holds, and it does not print: look at its ribbon and its labels.',
      ),
    ],
  },
];

const orders = (scene: BeamScene) => has(scene, 'command code');
const usable: readonly Condition[] = [
  ...before,
  shown('warming up', false, 'warm', 'It is still warming up: its values are not to be used.'),
  shown('overrange', false, 'within its range', 'There is too much on it: take it off.'),
  shown('stable', true, 'at rest', 'It is not at rest: zero and tare act only at rest.'),
];
const weigher: readonly Chain[] = [
  {
    action: 'tare',
    conditions: [
      ...usable,
      {
        ...given('tare', 'rising edge', takenBy('tare applied')),
        look: (s) => (orders(s) ? undefined : given('tare', 'rising edge', takenBy('tare applied')).look(s)),
      },
      codeLeavesZero,
      does(
        'its order is obeyed',
        (scene) =>
          orders(scene)
            ? scene.feedback.number('command answer') === undefined
              ? undefined
              : scene.feedback.number('command answer') === scene.command.number('command code')
            : takenBy('tare applied')(scene),
        'All that is known holds, and the order is not obeyed: only a code that comes from 0, or an edge, counts.',
      ),
    ],
  },
];

const tightens = takenBy('running', 'busy', 'done', 'result valid');
const tool: readonly Chain[] = [
  {
    action: 'tighten',
    conditions: [
      ...before,
      enabled,
      noStopCommand,
      known('program number', 'program'),
      given('start', 'rising edge', tightens),
      does('it tightens', tightens, 'All that is known holds, and it does not tighten: give start anew.'),
    ],
  },
];

const points: readonly Chain[] = [
  {
    action: 'outputs',
    conditions: [
      ...before,
      shown('overload', false, 'no overload', 'An output is overloaded: look for the short circuit.'),
      {
        id: 'output',
        title: 'an output is set',
        look: ({ command }) => {
          const numbers = command.numbers('output');
          if (numbers.length === 0) return undefined;
          const on = numbers.filter((n) => command.bit('output', n));
          return on.length > 0
            ? { state: 'closed', says: `Output ${on.slice(0, 8).join(', ')} is set.` }
            : { state: 'open', says: 'No output is set.', idle: true };
        },
      },
    ],
  },
];

const curtain: readonly Chain[] = [
  {
    action: 'release',
    conditions: [
      linkStands,
      controllerRuns,
      shown('emergency stop', false, 'emergency stop released', 'An emergency stop is pressed: release it.'),
      supply,
      noFault,
      beamsClear,
      {
        ...shown(
          'reset wanted',
          false,
          'reset',
          'It waits for a reset: look whether somebody stands there, then reset.',
          {
            role: 'safety reset',
            title: 'Give safety reset',
          },
        ),
        id: 'safety reset',
      },
      does(
        'safety in order',
        takenBy('safety in order'),
        'It is not released, and does not say why: look at the device.',
      ),
    ],
  },
];
const sensor: readonly Chain[] = [
  {
    action: 'measure',
    conditions: [
      ...before,
      shown('overrange', false, 'within its range', 'What it measures lies outside its range.'),
      does(
        'its value counts',
        (s) => takenBy('result valid', 'ready')(s),
        'It says that its value does not count.',
      ),
    ],
  },
];
const ports: readonly Chain[] = [
  {
    action: 'ports',
    conditions: [
      linkStands,
      controllerRuns,
      loadPower,
      {
        id: 'port valid',
        title: 'ports valid',
        look: ({ feedback }) => {
          const numbers = feedback.numbers('port valid');
          if (numbers.length === 0) return undefined;
          const dead = numbers.filter((n) => feedback.bit('port valid', n) === false);
          return dead.length === 0
            ? { state: 'closed', says: 'All ports say something.' }
            : {
                state: 'open',
                says: `Port ${dead.join(', ')} says nothing that counts: look under Ports at power, mode and device.`,
              };
        },
      },
      noFault,
    ],
  },
];

/** By kind of device, what it is made for first; common practice, no source. */
const byKind: Readonly<Record<DeviceKind, readonly Chain[]>> = {
  'variable-speed drive': drive,
  'soft starter': starter,
  'motor starter': starter,
  'servo axis': axis,
  robot,
  'vision sensor': vision,
  'identification reader': reader,
  marker,
  weigher,
  'torque tool': tool,
  'safety controller': curtain,
  'valve terminal': points,
  'remote I/O': points,
  'process I/O': points,
  'IO-Link master': ports,
  'measuring sensor': sensor,
  other: [],
};

export const chainsOf = (kind: DeviceKind): readonly Chain[] => byKind[kind];
