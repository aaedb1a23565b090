import { number, result, startMs, answerMs, moveMs, notFaulted, variable, type Recipe } from './recipe.js';
import type { Variable } from '../../cell/exchange.js';
import type { Builder } from '../builder.js';

/** The states of IEC 61800-7-201 one after the other, or the one bit that enables. */
export function enabling(b: Builder): void {
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

export const enable: Recipe = {
  ...{ id: 'enable', title: 'enable', commands: ['enable'], shows: ['enabled'] },
  preconditions: notFaulted,
  build: enabling,
};

/** One setpoint: strobe, acknowledge, release, arrive. */
export function setpointSteps(b: Builder, arrive: boolean): void {
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
export const setpointVariables = (b: Builder): Variable[] => [
  number('position', 0),
  ...(b.commands('velocity') ? [number('velocity', 50)] : []),
];

export const setpoint: Recipe = {
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
export const setpointAtOnce: Recipe = {
  ...setpoint,
  ...{ id: 'setpoint at once', title: 'setpoint, set at once' },
  variables: setpointVariables,
  build: (b) => {
    enabling(b);
    setpointSteps(b, false);
  },
};

/** Modes of operation of CiA 402 (IEC 61800-7-201; from memory). */
export const positioning = 1;
export const homing = 6;

/** Homes by the command that the axis has for it, else by the mode of operation; then it takes setpoints. */
export function homeSteps(b: Builder): void {
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
  const command = byBit ? 'home' : 'setpoint strobe';
  // One that was homed before still says so for a moment: that is not the answer.
  const began = b.step('begin to home', {
    ...{ orders: b.orders({ [command]: true }), conditions: b.waits({ homed: false }), updates: 2 },
    limit: answerMs,
  });
  const home = b.step('home', {
    orders: b.orders({ [command]: true }, { back: true }),
    conditions: b.waits({ homed: true }),
    ...{ updates: 2, limit: moveMs, reason: `${b.device.name} does not home.` },
  });
  b.steps.find(({ id }) => id === began)!.late = home;
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
}

export const homeThenMove: Recipe = {
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
    homeSteps(b);
    setpointSteps(b, true);
  },
};
