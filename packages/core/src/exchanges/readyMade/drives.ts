import {
  number,
  result,
  startMs,
  rampMs,
  resultMs,
  notFaulted,
  released,
  runningBit,
  startBit,
  isDrive,
  variable,
  type Recipe,
} from './recipe.js';

export const startAndStop: Recipe = {
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

export const latchedStart: Recipe = {
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

export const faultReset: Recipe = {
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
