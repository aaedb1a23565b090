import { number, result, answerMs, resultMs, notFaulted, variable, type Recipe } from './recipe.js';

export const triggerAndResult: Recipe = {
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

export const programChange: Recipe = {
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
