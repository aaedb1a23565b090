import type { Device } from '../cell/model.js';
import type { Role } from '../layout/role.js';
import { Builder } from './builder.js';
import type { Exchange, Order, Precondition, Variable } from '../cell/exchange.js';

/**
 * Ready-made exchanges: each is made of the roles that a device has, and may be edited afterwards. Common practice, no
 * source, where nothing else is said.
 */
export interface ReadyMade {
  id: string;
  title: string;
  /** Whether a device has what it needs. */
  fits(device: Device): boolean;
  make(device: Device, newId: () => string): Exchange;
}

interface Recipe {
  id: string;
  title: string;
  /** All of the command image, and one of the feedback image. */
  commands: readonly Role[];
  shows: readonly Role[];
  /** Further conditions on the device. */
  also?: (b: Builder) => boolean;
  variables?: (b: Builder) => Variable[];
  preconditions?: (b: Builder) => Precondition[];
  build: (b: Builder) => void;
}

const number = (name: string, given: number): Variable => ({ name, type: 'number', given, result: false });
const text = (name: string): Variable => ({ name, type: 'text', given: '', result: false });
const result = (name: string, type: Variable['type'], given: Variable['given']): Variable => ({
  ...{ name, type, given, result: true },
});

/** What starts and stops take: longest time until a device says it, ms. */
const startMs = 3000;
const rampMs = 30_000;
const answerMs = 1000;
const moveMs = 60_000;
const resultMs = 3000;

const notFaulted = (b: Builder): Precondition[] =>
  b.waits({ faulted: false }).map((condition) => ({
    condition,
    reason: `${b.device.name} is faulted: reset it first.`,
  }));

/** Bits that let the network command, before anything is started. */
const released = (b: Builder): Order[] =>
  b.orders({
    ...{ stop: false, 'quick stop': false, hold: false, enable: true, 'network control': true },
    ...{ 'network reference': true, 'load power': true, permissive: true },
  });
const runningBit = (b: Builder) => b.firstShown('running', 'runs forward', 'program running', 'enabled');
const startBit = (b: Builder) => b.firstCommand('start', 'forward', 'cycle start');
const isDrive = (b: Builder) => !b.commands('program number') && !b.commands('position setpoint');

const startAndStop: Recipe = {
  ...{ id: 'start and stop', title: 'start, run, stop', commands: [], shows: [] },
  also: (b) => {
    const start = startBit(b);
    return (
      isDrive(b) && start !== undefined && b.acting(start, 'level') === 'level' && runningBit(b) !== undefined
    );
  },
  variables: (b) => [
    ...(b.commands('speed reference') ? [number('speed', 10)] : []),
    ...(b.shows('speed actual') ? [result('reached', 'number', 0)] : []),
  ],
  preconditions: notFaulted,
  build: (b) => {
    const start = startBit(b)!;
    b.step('let the network command', {
      orders: [
        ...released(b),
        ...b.orders({ [start]: false }),
        ...b.orders({ 'speed reference': variable('speed') }),
      ],
      updates: 2,
    });
    b.step('start', {
      orders: b.orders({ [start]: true }),
      conditions: b.waits({ [runningBit(b)!]: true }),
      ...{ limit: startMs, reason: `${b.device.name} does not run.` },
    });
    b.step('run', {
      conditions: b.waits({ 'at speed': true }, { stable: 500 }),
      ...{ limit: rampMs, reason: `${b.device.name} does not reach its speed.` },
      results: b.shows('speed actual') ? [{ variable: 'reached', place: b.feedback('speed actual') }] : [],
    });
    b.step('stop', {
      orders: [...b.orders({ [start]: false }), ...b.orders({ stop: true }, { back: true })],
      conditions: b.waits({ [runningBit(b)!]: false }),
      ...{ updates: 2, limit: rampMs, reason: `${b.device.name} does not stop.` },
    });
  },
};

const latchedStart: Recipe = {
  ...{ id: 'latched start', title: 'latched start, stop goes first', commands: ['stop'], shows: [] },
  also: (b) => {
    const start = startBit(b);
    return (
      isDrive(b) && start !== undefined && b.acting(start, 'level') !== 'level' && runningBit(b) !== undefined
    );
  },
  variables: (b) => (b.commands('speed reference') ? [number('speed', 10)] : []),
  preconditions: notFaulted,
  build: (b) => {
    const start = startBit(b)!;
    b.step('let the network command', {
      orders: [...released(b), ...b.orders({ [start]: false, 'speed reference': variable('speed') })],
      updates: 2,
    });
    b.step('start', {
      orders: b.orders({ [start]: true }, { back: true }),
      conditions: b.waits({ [runningBit(b)!]: true }),
      ...{ updates: 2, limit: startMs, reason: `${b.device.name} does not run.` },
    });
    b.step('run', { orders: b.orders({ [start]: false }), least: 1000 });
    b.step('stop', {
      orders: b.orders({ stop: true }, { back: true }),
      conditions: b.waits({ [runningBit(b)!]: false }),
      ...{ updates: 2, limit: rampMs, reason: `${b.device.name} does not stop.` },
    });
  },
};

const triggerAndResult: Recipe = {
  ...{
    id: 'trigger and result',
    title: 'trigger, result, release',
    commands: ['trigger'],
    shows: ['result valid'],
  },
  variables: (b) => [
    ...(b.shows('pass') ? [result('passed', 'bit', false)] : []),
    ...(b.shows('fail') ? [result('failed', 'bit', false)] : []),
    ...(b.shows('measured value') ? [result('value', 'number', 0)] : []),
    ...(b.shows('result text') ? [result('text', 'text', '')] : []),
  ],
  preconditions: notFaulted,
  build: (b) => {
    b.step('be ready', {
      orders: b.orders({ enable: true, trigger: false, 'result acknowledge': false }),
      conditions: b.waits({ 'trigger ready': true }),
      ...{ updates: 2, limit: resultMs, reason: `${b.device.name} does not get ready for a trigger.` },
    });
    b.step('trigger', {
      orders: b.orders({ trigger: true }),
      conditions: [
        ...b.waits({ 'trigger acknowledge': true }),
        ...(b.shows('trigger acknowledge') ? [] : b.waits({ busy: true, 'result valid': true })),
      ],
      any: true,
      ...{ updates: 2, limit: answerMs, reason: `${b.device.name} does not take the trigger.` },
    });
    b.step('wait for the result', {
      conditions: b.waits({ 'result valid': true }),
      ...{ limit: resultMs, reason: `${b.device.name} gives no result.` },
      results: [
        ...(b.shows('pass') ? [{ variable: 'passed', place: b.feedback('pass') }] : []),
        ...(b.shows('fail') ? [{ variable: 'failed', place: b.feedback('fail') }] : []),
        ...(b.shows('measured value') ? [{ variable: 'value', place: b.feedback('measured value') }] : []),
        ...(b.shows('result text') ? [{ variable: 'text', place: b.feedback('result text') }] : []),
      ],
    });
    b.step('release', {
      orders: [...b.orders({ trigger: false }), ...b.orders({ 'result acknowledge': true }, { back: true })],
      conditions: [
        ...b.waits({ 'trigger acknowledge': false }),
        ...(b.commands('result acknowledge') ? b.waits({ 'result valid': false }) : []),
      ],
      ...{ updates: 2, limit: answerMs, reason: `${b.device.name} does not take its result back.` },
    });
  },
};

const programChange: Recipe = {
  ...{
    id: 'program change',
    title: 'change the program',
    commands: ['program number', 'program change'],
    shows: [],
  },
  also: (b) => b.shows('program shown') || b.shows('program changed'),
  variables: () => [number('program', 1)],
  build: (b) => {
    b.step('write the number', {
      orders: b.orders({ 'program change': false, 'program number': variable('program') }),
      updates: 2,
    });
    b.step('change', {
      orders: b.orders({ 'program change': true }, { back: true }),
      conditions: [
        ...b.waits({ 'program changed': true, 'program shown': variable('program') }),
        ...(b.shows('program changed') ? [] : b.waits({ 'program changing': false })),
      ],
      ...{ updates: 2, limit: resultMs, reason: `${b.device.name} does not take the program.` },
    });
  },
};

/** A code acts only when it leaves 0, and most of them only at rest. */
function zeroAtRest(b: Builder): void {
  b.step('zero', { orders: b.orders({ 'command code': 0 }), updates: 2 });
  b.step('come to rest', {
    conditions: b.waits({ stable: true }),
    ...{ limit: 15_000, reason: `${b.device.name} does not come to rest.` },
  });
}

const commandCode: Recipe = {
  ...{ id: 'command code', title: 'command by code, zero between' },
  ...{ commands: ['command code'], shows: ['command answer'] },
  also: (b) => !b.commands('command value'),
  variables: () => [number('code', 1)],
  build: (b) => {
    zeroAtRest(b);
    b.step('command', {
      orders: b.orders({ 'command code': variable('code') }),
      conditions: b.waits({ 'command answer': variable('code') }),
      ...{ updates: 2, limit: resultMs, reason: `${b.device.name} does not obey.` },
    });
    b.step('zero again', { orders: b.orders({ 'command code': 0 }), updates: 2 });
  },
};

const keyedCode: Recipe = {
  ...{ id: 'key word', title: 'key word, then the command', commands: ['command code', 'command value'] },
  shows: ['command answer'],
  variables: () => [number('key', 0), number('code', 1)],
  build: (b) => {
    zeroAtRest(b);
    b.step('key word', { orders: b.orders({ 'command value': variable('key') }), updates: 2 });
    b.step('command', {
      orders: b.orders({ 'command code': variable('code') }),
      conditions: b.waits({ 'command answer': variable('code') }),
      ...{ updates: 2, limit: resultMs, reason: `${b.device.name} does not obey.` },
    });
    b.step('lock again', { orders: b.orders({ 'command code': 0, 'command value': 0 }), updates: 2 });
  },
};

const printBySequence: Recipe = {
  ...{ id: 'print by number', title: 'print with texts, the number rises' },
  ...{ commands: ['sequence number'], shows: ['sequence number'] },
  variables: (b) => [
    ...(b.commands('format number') ? [number('format', 1)] : []),
    ...b.texts().map(({ name }) => text(name)),
    ...(b.commands('copies') ? [number('copies', 1)] : []),
  ],
  preconditions: notFaulted,
  build: (b) => {
    b.step('be ready', {
      conditions: b.waits({ ready: true }),
      ...{ limit: resultMs, reason: `${b.device.name} does not get ready.` },
    });
    b.step('write what to print', {
      orders: [
        ...b.orders({ 'format number': variable('format'), copies: variable('copies') }),
        ...b
          .texts()
          .map(({ name, place }): Order => ({ place, how: 'set', to: variable(name), back: false })),
      ],
      updates: 2,
    });
    b.step('raise the number', {
      orders: b.orders({ 'sequence number': 0 }, { how: 'increment' }),
      conditions: b.waits({ 'sequence number': true }, { is: 'changes' }),
      ...{ updates: 2, limit: 10_000, reason: `${b.device.name} does not print.` },
    });
  },
};

/** The states of IEC 61800-7-201 one after the other, or the one bit that enables. */
function enabling(b: Builder): void {
  const profile = b.commands('enable voltage', 'switch on');
  b.step('take all back', {
    orders: b.orders({ 'quick stop': false, 'setpoint strobe': false, hold: false, stop: false }),
    updates: profile ? 2 : 0,
  });
  b.step('enable voltage', {
    orders: b.orders({ 'enable voltage': true, ...(profile ? { 'switch on': false, enable: false } : {}) }),
    conditions: b.waits({ 'ready to switch on': true }),
    ...{ updates: 2, limit: answerMs, reason: `${b.device.name} does not get ready to switch on.` },
  });
  b.step('switch on', {
    orders: b.orders({ 'switch on': true }),
    conditions: b.waits({ 'switched on': true }),
    ...{ updates: 2, limit: answerMs, reason: `${b.device.name} does not switch on.` },
  });
  b.step('enable', {
    orders: b.orders({ enable: true }),
    conditions: b.waits({ enabled: true }),
    ...{ updates: 2, limit: startMs, reason: `${b.device.name} is not enabled.` },
  });
}

const enable: Recipe = {
  ...{ id: 'enable', title: 'enable', commands: ['enable'], shows: ['enabled'] },
  preconditions: notFaulted,
  build: enabling,
};

/** One setpoint: strobe, acknowledge, release, arrive. */
function setpointSteps(b: Builder, arrive: boolean): void {
  b.step('write the setpoint', {
    orders: b.orders({
      ...{ 'setpoint strobe': false, 'position setpoint': variable('position') },
      ...{ velocity: variable('velocity') },
    }),
    updates: 2,
  });
  b.step('strobe', {
    orders: b.orders({ 'setpoint strobe': true }, { back: true }),
    conditions: b.waits({ 'setpoint acknowledge': true }),
    ...{ updates: 2, limit: answerMs, reason: `${b.device.name} does not take the setpoint.` },
  });
  b.step('release', {
    conditions: b.waits({ 'setpoint acknowledge': false }),
    ...{ updates: 2, limit: answerMs, reason: `${b.device.name} does not release its acknowledge.` },
  });
  if (!arrive) return;
  b.step('arrive', {
    conditions: b.waits({ 'target reached': true }),
    ...{ limit: moveMs, reason: `${b.device.name} does not arrive.` },
    results: b.shows('position actual')
      ? [{ variable: 'reached', place: b.feedback('position actual') }]
      : [],
  });
}
const setpointVariables = (b: Builder): Variable[] => [
  number('position', 0),
  ...(b.commands('velocity') ? [number('velocity', 50)] : []),
];

const setpoint: Recipe = {
  ...{
    id: 'setpoint',
    title: 'setpoint with acknowledge',
    commands: ['position setpoint', 'setpoint strobe'],
  },
  shows: ['target reached'],
  variables: (b) => [
    ...setpointVariables(b),
    ...(b.shows('position actual') ? [result('reached', 'number', 0)] : []),
  ],
  preconditions: (b) => [
    ...notFaulted(b),
    ...b.waits({ homed: true }).map((condition) => ({
      condition,
      reason: `${b.device.name} is not homed: a setpoint is ignored.`,
    })),
  ],
  build: (b) => {
    enabling(b);
    setpointSteps(b, true);
  },
};
const setpointAtOnce: Recipe = {
  ...setpoint,
  ...{ id: 'setpoint at once', title: 'setpoint, set at once' },
  variables: setpointVariables,
  build: (b) => {
    enabling(b);
    setpointSteps(b, false);
  },
};

/** Modes of operation of CiA 402 (IEC 61800-7-201; from memory). */
const positioning = 1;
const homing = 6;

const homeThenMove: Recipe = {
  ...{
    id: 'home and move',
    title: 'home, then position',
    commands: ['position setpoint', 'setpoint strobe'],
  },
  shows: ['target reached', 'homed'],
  also: (b) => b.commands('home') || b.commands('operating mode'),
  variables: (b) => [
    ...setpointVariables(b),
    ...(b.shows('position actual') ? [result('reached', 'number', 0)] : []),
  ],
  preconditions: notFaulted,
  build: (b) => {
    const byBit = b.commands('home');
    // The mode is taken over only while the axis is not enabled.
    b.step('choose homing', {
      orders: b.orders({
        ...{ enable: false, 'setpoint strobe': false },
        'operating mode': byBit ? positioning : homing,
      }),
      updates: 2,
    });
    enabling(b);
    b.step('home', {
      orders: b.orders({ [byBit ? 'home' : 'setpoint strobe']: true }, { back: true }),
      conditions: b.waits({ homed: true }),
      ...{ updates: 2, limit: moveMs, reason: `${b.device.name} does not home.` },
    });
    if (!byBit) {
      b.step('choose positioning', {
        orders: b.orders({ enable: false, 'operating mode': positioning }),
        conditions: b.waits({ enabled: false }),
        ...{ updates: 2, limit: answerMs, reason: `${b.device.name} stays enabled.` },
      });
      b.step('enable again', {
        orders: b.orders({ enable: true }),
        conditions: b.waits({ enabled: true, 'mode shown': positioning }),
        ...{ updates: 2, limit: startMs, reason: `${b.device.name} is not enabled for positioning.` },
      });
    }
    setpointSteps(b, true);
  },
};

const faultReset: Recipe = {
  ...{ id: 'fault reset', title: 'reset a fault', commands: ['fault reset'], shows: ['faulted'] },
  build: (b) => {
    // A start that stands would be refused, or begin at once.
    b.step('take starts back', {
      orders: b.orders({
        ...{ start: false, forward: false, reverse: false, 'cycle start': false, trigger: false },
        ...{ 'setpoint strobe': false, 'fault reset': false },
      }),
      updates: 2,
    });
    b.step('reset', {
      orders: b.orders({ 'fault reset': true }, { back: true }),
      conditions: b.waits({ faulted: false }),
      ...{
        updates: 2,
        limit: resultMs,
        reason: `${b.device.name} stays faulted: its reason is still there.`,
      },
    });
  },
};

const programRun: Recipe = {
  ...{ id: 'program run', title: 'permissives, start, done', commands: [], shows: ['program running'] },
  also: (b) => startBit(b) !== undefined && b.commands('program number'),
  variables: () => [number('program', 1)],
  preconditions: (b) => [
    ...notFaulted(b),
    ...b.waits({ 'emergency stop': false }).map((condition) => ({
      condition,
      reason: `The emergency stop of ${b.device.name} is pressed.`,
    })),
  ],
  build: (b) => {
    const start = startBit(b)!;
    const falls = b.acting(start, 'rising edge') === 'falling edge';
    b.step('permissives', {
      orders: b.orders({
        ...{ hold: false, stop: false, enable: true, permissive: true },
        ...{ [start]: false, 'program number': variable('program') },
      }),
      conditions: b.waits({ enabled: true }),
      ...{ updates: 2, limit: startMs, reason: `${b.device.name} is not enabled.` },
    });
    // Of a start that acts on its falling edge the edge comes with the step behind.
    if (falls) b.step('give start', { orders: b.orders({ [start]: true }), updates: 2 });
    b.step(falls ? 'take start back' : 'start', {
      orders: b.orders({ [start]: !falls }),
      conditions: b.waits({ 'program running': true }),
      ...{ updates: 2, limit: startMs, reason: `${b.device.name} does not start its program.` },
    });
    b.step('run', {
      orders: b.orders({ [start]: false }),
      conditions: b.waits({ 'program running': false }),
      ...{ limit: moveMs, reason: `The program of ${b.device.name} does not end.` },
    });
    const done = b.waits({ done: true });
    if (done.length > 0)
      b.step('done', {
        conditions: done,
        ...{ limit: answerMs, reason: `The program of ${b.device.name} ended before it was done.` },
      });
  },
};

const toolRun: Recipe = {
  ...{ id: 'tighten', title: 'start, done, verdict', commands: ['start'], shows: ['done'] },
  also: (b) => (b.shows('pass') || b.shows('torque actual')) && !b.shows('program running'),
  variables: (b) => [
    ...(b.commands('program number') ? [number('program', 1)] : []),
    ...(b.shows('pass') ? [result('passed', 'bit', false)] : []),
    ...(b.shows('torque actual') ? [result('torque', 'number', 0)] : []),
  ],
  preconditions: notFaulted,
  build: (b) => {
    b.step('make ready', {
      orders: b.orders({ start: false, stop: false, enable: true, 'program number': variable('program') }),
      updates: 2,
    });
    b.step('start', {
      orders: b.orders({ start: true }),
      conditions: b.waits({ running: true }),
      ...{ updates: 2, limit: startMs, reason: `${b.device.name} does not start.` },
    });
    b.step('wait until it is done', {
      conditions: b.waits({ done: true }),
      ...{ limit: 10_000, reason: `${b.device.name} does not finish.` },
      results: [
        ...(b.shows('pass') ? [{ variable: 'passed', place: b.feedback('pass') }] : []),
        ...(b.shows('torque actual') ? [{ variable: 'torque', place: b.feedback('torque actual') }] : []),
      ],
    });
    b.step('release', { orders: b.orders({ start: false }), updates: 2 });
  },
};

/**
 * Whoever resets while something is still in the way has reset nothing, and a new edge is asked for: it is tried again
 * until the way is free.
 */
const safetyReset: Recipe = {
  ...{ id: 'restart', title: 'acknowledge a restart', commands: ['safety reset'], shows: ['reset wanted'] },
  variables: () => [number('tries', 30)],
  build: (b) => {
    b.step('be asked', {
      orders: b.orders({ 'safety reset': false }),
      conditions: b.waits({ 'reset wanted': true }),
      ...{ limit: moveMs, reason: `${b.device.name} does not ask for a reset.` },
    });
    const accepted = b.waits({ 'reset wanted': false });
    const acknowledge = b.step('acknowledge', {
      orders: b.orders({ 'safety reset': true }, { back: true }),
      conditions: accepted,
      ...{ updates: 2, limit: answerMs, reason: `${b.device.name} still asks.` },
      branches: [{ conditions: accepted, to: 'done' }],
    });
    const again = b.step('let go, and try again', {
      ...{ orders: b.orders({ 'safety reset': false }), updates: 2 },
      repeat: { to: acknowledge, times: { variable: 'tries', plus: 0 } },
    });
    b.steps.find(({ id }) => id === acknowledge)!.late = again;
    b.step('give up', {
      ...{ fails: true, reason: `${b.device.name} still asks: something stands in its way.` },
    });
  },
};

const tare: Recipe = {
  ...{ id: 'tare', title: 'tare at rest', commands: ['tare'], shows: ['tare applied'] },
  build: (b) => {
    b.step('come to rest', {
      orders: b.orders({ tare: false }),
      conditions: b.waits({ stable: true }),
      ...{ updates: 2, limit: 15_000, reason: `${b.device.name} does not come to rest.` },
    });
    b.step('tare', {
      orders: b.orders({ tare: true }, { back: true }),
      conditions: b.waits({ 'tare applied': true }),
      ...{ updates: 2, limit: answerMs, reason: `${b.device.name} does not take its tare.` },
    });
  },
};

const outputCheck: Recipe = {
  ...{ id: 'output', title: 'switch an output and see it', commands: ['output'], shows: ['input'] },
  build: (b) => {
    b.step('switch on', {
      orders: b.orders({ output: true }),
      conditions: b.waits({ input: true }),
      ...{ updates: 2, limit: resultMs, reason: `${b.device.name} does not show its input.` },
    });
    b.step('switch off', {
      orders: b.orders({ output: false }),
      conditions: b.waits({ input: false }),
      ...{ updates: 2, limit: resultMs, reason: `${b.device.name} still shows its input.` },
    });
  },
};

const variable = (name: string) => ({ variable: name, plus: 0 });

const recipes: readonly Recipe[] = [
  startAndStop,
  latchedStart,
  enable,
  homeThenMove,
  setpoint,
  setpointAtOnce,
  triggerAndResult,
  programChange,
  programRun,
  toolRun,
  commandCode,
  keyedCode,
  printBySequence,
  tare,
  safetyReset,
  outputCheck,
  faultReset,
];

const fits = ({ commands, shows, also }: Recipe, b: Builder): boolean =>
  b.commands(...commands) && b.shows(...shows) && (also?.(b) ?? true);
const noId = () => '';

/** Every ready-made exchange; a new one is an entry in this list. */
export const readyMade: readonly ReadyMade[] = recipes.map((recipe) => ({
  id: recipe.id,
  title: recipe.title,
  fits: (device) => fits(recipe, new Builder(device, noId)),
  make: (device, newId) => {
    const b = new Builder(device, newId);
    recipe.build(b);
    return {
      id: newId(),
      name: `${device.name} ${recipe.id}`,
      note: '',
      preconditions: recipe.preconditions?.(b) ?? [],
      variables: recipe.variables?.(b) ?? [],
      steps: b.steps,
    };
  },
}));

/** The ready-made exchanges that a device can have. */
export const readyMadeFor = (device: Device): ReadyMade[] => readyMade.filter((one) => one.fits(device));

/**
 * Part present → run → done, over two devices: the first shows a part, the other one runs what was made for it.
 */
export function whenPresent(from: Device, inner: Exchange, newId: () => string): Exchange {
  const b = new Builder(from, newId);
  b.step('wait for a part', {
    conditions: b.waits({ 'part present': true, 'program running': false }, { stable: 100 }),
    ...{ limit: moveMs, reason: `${from.name} brings no part.` },
  });
  return {
    ...inner,
    id: newId(),
    name: `${inner.name} when ${from.name} has a part`,
    steps: [...b.steps, ...inner.steps],
  };
}
/** Whether a device shows a part. */
export const showsPart = (device: Device): boolean => new Builder(device, noId).shows('part present');
