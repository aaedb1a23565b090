import {
  number,
  result,
  startMs,
  answerMs,
  moveMs,
  resultMs,
  notFaulted,
  startBit,
  variable,
  type Recipe,
} from './recipe.js';

export const programRun: Recipe = {
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

export const toolRun: Recipe = {
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
export const safetyReset: Recipe = {
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

export const tare: Recipe = {
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

export const outputCheck: Recipe = {
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
