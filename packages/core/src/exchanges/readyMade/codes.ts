import { number, text, resultMs, notFaulted, variable, type Recipe } from './recipe.js';
import type { Order } from '../../cell/exchange.js';
import type { Builder } from '../builder.js';

/** A code acts only when it leaves 0, and most of them only at rest. */
function zeroAtRest(b: Builder): void {
  b.step('zero', { orders: b.orders({ 'command code': 0 }), updates: 2 });
  b.step('come to rest', {
    conditions: b.waits({ stable: true }),
    ...{ limit: 15_000, reason: `${b.device.name} does not come to rest.` },
  });
}

export const commandCode: Recipe = {
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

export const keyedCode: Recipe = {
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

export const printBySequence: Recipe = {
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
