import { describe, expect, test } from 'vitest';
import { exchangeCode } from '../handover/structuredText/exchangeCode.js';
import { cellWith } from './testMachine.js';
import { layoutsOf, type Case } from './testCases.js';
import { Builder } from './builder.js';
import { exchangeFindings } from './check.js';
import { exchangesForCopies } from './copies.js';
import type { Exchange, Step } from '../cell/exchange.js';
import { readyMade, readyMadeFor, whenPresent } from './readyMade/list.js';
import { ExchangeRun } from './run.js';
import { sentencesOf } from './sentences.js';

const camera: Case = {
  ...{ recipe: 'trigger and result', kind: 'vision sensor' },
  commands: [
    { is: 'trigger' },
    { is: 'command code' },
    { is: 'program number' },
    { is: 'variable text', length: 8 },
  ],
  answers: [
    { is: 'result valid' },
    { is: 'trigger acknowledge' },
    { is: 'result text', length: 6 },
    { is: 'count' },
  ],
  ends: () => true,
};
const { cell, device } = cellWith('vision sensor', layoutsOf(camera, 1)[0]!, 'ethernet-ip');
let ids = 0;
const newId = () => `n${(ids += 1)}`;

/** An exchange of steps that are made by roles. */
function withSteps(make: (b: Builder) => void): Exchange {
  const b = new Builder(device, newId);
  make(b);
  return { id: 'e1', name: 'try', note: '', preconditions: [], variables: [], steps: b.steps };
}
const codes = (exchange: Exchange) => exchangeFindings(cell, exchange).map(({ code }) => code);
const valid = { limit: 1000, reason: 'late' } as const;

describe('what is wrong with an exchange', () => {
  const wrong: readonly [string, (b: Builder) => void][] = [
    ['exchange.noLimit', (b) => b.step('wait', { conditions: b.waits({ 'result valid': true }) })],
    [
      'exchange.neverReleased',
      (b) =>
        b.step('trigger', {
          orders: b.orders({ trigger: true }),
          conditions: b.waits({ 'result valid': true }),
          ...valid,
        }),
    ],
    [
      // 20 ms a packet: 30 ms are not two of them.
      'exchange.pulseTooShort',
      (b) => b.step('pulse', { orders: b.orders({ trigger: true }, { back: true }), least: 30 }),
    ],
    [
      'exchange.pulseTooShort',
      (b) => {
        b.step('on', { orders: b.orders({ trigger: true }), updates: 1 });
        b.step('off', { orders: b.orders({ trigger: false }), updates: 2 });
      },
    ],
    [
      'exchange.noEdge',
      (b) => {
        b.step('on', { orders: b.orders({ trigger: true }), updates: 2 });
        b.step('again', { orders: b.orders({ trigger: true }), updates: 2 });
        b.step('off', { orders: b.orders({ trigger: false }), updates: 2 });
      },
    ],
    [
      'exchange.codeRepeated',
      (b) => {
        b.step('one', { orders: b.orders({ 'command code': 1 }), updates: 2 });
        b.step('one again', { orders: b.orders({ 'command code': 1 }), updates: 2 });
      },
    ],
    [
      'exchange.commandsFeedback',
      (b) =>
        b.step('set', {
          orders: [{ place: b.feedback('result valid'), how: 'set', to: true, back: false }],
          updates: 2,
        }),
    ],
    ['exchange.neverSent', (b) => b.step('wait', { conditions: b.waits({ count: -1 }), ...valid })],
    [
      'exchange.neverSent',
      (b) => b.step('wait', { conditions: b.waits({ 'result text': 'SEVEN77' }), ...valid }),
    ],
    [
      'exchange.limitTooShort',
      (b) => {
        const orders = b.orders({ 'program number': 3 });
        b.step('wait', { orders, conditions: b.waits({ 'result valid': true }), limit: 30, reason: 'late' });
      },
    ],
    [
      'exchange.variableUnknown',
      (b) =>
        b.step('set', { orders: b.orders({ 'program number': { variable: 'speed', plus: 0 } }), updates: 2 }),
    ],
    [
      'exchange.targetUnknown',
      (b) => b.step('wait', { conditions: b.waits({ 'result valid': true }), ...valid, late: 'nowhere' }),
    ],
  ];
  test.each(wrong.map(([code, make], i) => [`${code} ${i}`, code, make] as const))(
    '%s',
    (_title, code, make) => {
      expect(codes(withSteps(make))).toContain(code);
    },
  );

  test('a role that the device has not, no steps at all', () => {
    const lost = withSteps((b) => b.step('wait', { conditions: b.waits({ count: 1 }), ...valid }));
    lost.steps[0]!.conditions[0]!.place.role = 'beams';
    expect(codes(lost)).toContain('exchange.noPlace');
    expect(codes(withSteps(() => undefined))).toEqual(['exchange.noSteps']);
  });

  test('a round without a way out, and what stands behind it', () => {
    const round = withSteps((b) => {
      const first = b.step('first', { orders: b.orders({ 'program number': 1 }), updates: 2 });
      const conditions = b.waits({ 'result valid': true });
      b.step('back', { conditions, ...valid, branches: [{ conditions, to: first }] });
      b.step('never', { orders: b.orders({ 'program number': 2 }), updates: 2 });
    });
    expect(codes(round)).toEqual(expect.arrayContaining(['exchange.deadEnd', 'exchange.neverReached']));
    const [, back] = round.steps as [Step, Step];
    const bounded = { ...round, steps: [round.steps[0]!, { ...back, branches: [] }, round.steps[2]!] };
    expect(codes(bounded)).toEqual([]);
  });
});

describe('what an exchange can do beside the ready-made ones', () => {
  const images = { command: new Uint8Array(64), feedback: new Uint8Array(64) };
  const show = (exchange: Exchange, bits: Record<string, boolean | number>) => {
    // Feedback is put there through an exchange that commands it: the same places, written.
    const orders = Object.entries(bits).map(([role, to]) => ({
      ...{
        place: { ...exchange.steps[0]!.conditions[0]!.place, role: role as 'count' },
        how: 'set' as const,
      },
      ...{ to, back: false },
    }));
    const step = {
      ...exchange.steps[0]!,
      id: 'put',
      orders,
      conditions: [],
      limit: null,
      branches: [],
      repeat: null,
    };
    new ExchangeRun(cell, { ...exchange, preconditions: [], steps: [step] }, () => images).scan(0);
  };

  test('repeats with a number of rounds, results, a branch, a limit that goes on elsewhere', () => {
    const exchange = withSteps((b) => {
      const wait = b.step('count', {
        conditions: b.waits({ count: true }, { is: 'changes' }),
        ...{ limit: 500, reason: 'no count', late: 'done' },
        results: [{ variable: 'last', place: b.feedback('count') }],
      });
      b.steps[0]!.repeat = { to: wait, times: { variable: 'rounds', plus: 1 } };
      b.step('fail', { fails: true, reason: 'three rounds are over' });
    });
    exchange.variables = [
      { name: 'last', type: 'number', given: 0, result: true },
      { name: 'rounds', type: 'number', given: 2, result: false },
    ];
    show(exchange, { count: 0 });
    const run = new ExchangeRun(cell, exchange, () => images);
    run.scan(0);
    for (let i = 1; i <= 3; i += 1) {
      show(exchange, { count: i });
      run.scan(i * 100);
    }
    expect([run.state, run.failure, run.variables.get('last')]).toEqual([
      'failed',
      { step: 1, reason: 'three rounds are over' },
      3,
    ]);
    expect(run.steps.map(({ step, began, ended }) => [step, began, ended])).toEqual([
      [0, 0, 100],
      [0, 100, 200],
      [0, 200, 300],
    ]);
    const quiet = new ExchangeRun(cell, exchange, () => images);
    for (let now = 0; now <= 500; now += 10) quiet.scan(now);
    expect([quiet.state, quiet.steps[0]?.late]).toEqual(['done', true]);
  });

  test('an edge within the step, and a value that must hold for a time', () => {
    const exchange = withSteps((b) => {
      b.step('edge', { conditions: b.waits({ 'result valid': true }, { is: 'rises' }), ...valid });
      b.step('steady', {
        conditions: b.waits({ count: 5 }, { is: 'between', upTo: 7, stable: 50 }),
        ...valid,
      });
    });
    show(exchange, { 'result valid': true, count: 6 });
    const run = new ExchangeRun(cell, exchange, () => images);
    run.scan(0);
    run.scan(10);
    // It was there already: no edge.
    expect(run.step).toBe(0);
    show(exchange, { 'result valid': false });
    run.scan(20);
    show(exchange, { 'result valid': true });
    run.scan(30);
    expect(run.step).toBe(1);
    run.scan(40);
    show(exchange, { count: 8 });
    run.scan(60);
    show(exchange, { count: 7 });
    run.scan(70);
    run.scan(110);
    expect(run.state).toBe('running');
    run.scan(120);
    expect(run.state).toBe('done');
  });

  test('stopped, it takes back what its step gave', () => {
    const exchange = withSteps((b) => {
      const orders = b.orders({ trigger: true }, { back: true });
      b.step('hold', { orders, conditions: b.waits({ 'trigger acknowledge': true }), ...valid });
    });
    const before = images.command.slice();
    const run = new ExchangeRun(cell, exchange, () => images);
    run.scan(0);
    expect(images.command).not.toEqual(before);
    run.stop(10);
    run.scan(20);
    expect([run.state, run.steps.length]).toEqual(['stopped', 1]);
  });
});

test('copies of a device get its exchanges: places by role, fields by their name, steps of their own', () => {
  const exchange = readyMade.find(({ id }) => id === 'trigger and result')!.make(device, newId);
  const own = { ...exchange, steps: exchange.steps.map((s) => ({ ...s, late: exchange.steps[0]!.id })) };
  const [signal] = device.links[0]!.command.fields;
  own.steps[0]!.orders[0]!.place = { ...own.steps[0]!.orders[0]!.place, role: null, field: signal!.id };
  const link = device.links[0]!;
  const fields = link.command.fields.map((f) => ({ ...f, id: `copy-${f.id}` }));
  const copy = {
    ...device,
    id: 'd9',
    name: 'unit_a2',
    links: [{ ...link, command: { ...link.command, fields } }],
  };
  const [made, ...rest] = exchangesForCopies({ exchanges: [own] }, device, [copy as never], newId);
  expect(rest).toEqual([]);
  expect(made!.name).toBe('unit_a2 trigger and result');
  expect(made!.steps[0]!.orders[0]!.place).toMatchObject({ device: 'd9', field: `copy-${signal!.id}` });
  expect(made!.steps[1]!.late).toBe(made!.steps[0]!.id);
  expect(new Set([...made!.steps, ...own.steps].map((s) => s.id)).size).toBe(2 * own.steps.length);
  expect(
    exchangeFindings({ ...cell, devices: [device, copy as never] }, made!).filter(
      (f) => f.severity === 'error',
    ),
  ).toEqual([]);
});

test('a device is offered what it has the roles for, in words, and behind a part of another one', () => {
  expect(readyMadeFor(device).map(({ id }) => id)).toEqual(['trigger and result']);
  const exchange = readyMade.find(({ id }) => id === 'trigger and result')!.make(device, newId);
  expect(sentencesOf(cell, exchange)[1]).toBe(
    '2. trigger: Set trigger; stay for at least 2 update times; wait until trigger acknowledge is 1, at most 1000 ms, else fail: unit_a1 does not take the trigger.',
  );
  const robot = { ...device, id: 'd2', name: 'turner' };
  const both = whenPresent(robot, exchange, newId);
  // It shows no part: there is nothing to wait for.
  expect(both.steps.map(({ title }) => title)).toEqual(exchange.steps.map(({ title }) => title));
});

test('an exchange that names what is not there is a comment among the code, and keeps nothing from being written', () => {
  const good = readyMade.find(({ id }) => id === 'trigger and result')!.make(device, newId);
  const lost = { ...good, id: 'lost', name: 'lost', steps: good.steps.map((s) => ({ ...s, id: newId() })) };
  const place = { ...lost.steps[0]!.orders[0]!.place, device: 'gone' };
  lost.steps[0] = { ...lost.steps[0]!, orders: [{ ...lost.steps[0]!.orders[0]!, place }] };
  const code = exchangeCode({ ...cell, exchanges: [lost, good] });
  expect(code).toMatch(/\(\* lost is not written: .*there is no trigger/);
  expect(code).toContain('FUNCTION_BLOCK unit_a1_trigger_and_result');
});
