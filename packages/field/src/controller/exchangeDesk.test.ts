import { readyMade, type Cell, type Exchange } from '@fadenkreuz/core';
import { afterEach, describe, expect, test } from 'vitest';
import { Bench } from '../bench/bench.js';
import { climateCell, demoDevice, until } from '../testBench.js';

let bench: Bench | undefined;
afterEach(async () => {
  await bench?.stop();
  bench = undefined;
});

let ids = 0;
const newId = () => `n${(ids += 1)}`;

/** A bench with one device of the demo and an exchange of its own; its machine is not there. */
async function started(
  name: string,
  recipe: string,
  address: string,
): Promise<{ exchange: Exchange; bench: Bench }> {
  const device = { ...demoDevice(name, address) };
  device.links = device.links.map((l) => ({ ...l, timeoutMultiplier: 64 }) as typeof l);
  const exchange = readyMade.find((r) => r.id === recipe)!.make(device, newId);
  const cell: Cell = { ...climateCell(), devices: [device], exchanges: [exchange] };
  bench = new Bench(cell);
  await bench.start();
  await bench.allow();
  await until(() => bench!.report().every((l) => l.state === 'open' && l.received > 2));
  return { exchange, bench };
}
const options = { times: 1, given: {}, byStep: false };
const over = (exchange: Exchange) =>
  until(() => bench!.exchanges.story(exchange.id)?.status.state !== 'running');

describe('exchanges on a bench', () => {
  test('a camera inspects three times: waits are measured, values noted, results kept', async () => {
    const { exchange } = await started('rind_camera_v1', 'trigger and result', '10.99.40.81');
    bench!.exchanges.run(exchange.id, { ...options, times: 3 });
    expect(() => bench!.exchanges.run(exchange.id, options)).toThrow(/runs already/);
    await over(exchange);
    await until(() => bench!.exchanges.story(exchange.id)!.ended.length === 3);
    const { ended, samples, places } = bench!.exchanges.story(exchange.id)!;
    expect(ended.map(({ state, results }) => [state, results['passed'], results['failed']])).toEqual([
      ['done', true, false],
      ['done', true, false],
      ['done', true, false],
    ]);
    const result = ended[0]!.steps.find(({ step }) => exchange.steps[step]!.title === 'wait for the result')!;
    // The stand-in takes 120 ms for an inspection, and two updates pass on the way.
    expect(result.ended - result.began).toBeGreaterThan(60);
    const trigger = places.findIndex((p) => p.role === 'trigger');
    expect(samples.filter((s) => s.place === trigger).map((s) => s.value)).toEqual([false, true, false]);
    expect(
      bench!.trace.since(0).some(({ event }) => event.what === 'exchange' && event.state === 'done'),
    ).toBe(true);
  });

  test('by step it waits for a person; stopped, it takes back what its step gave', async () => {
    const { exchange } = await started('rind_camera_v1', 'trigger and result', '10.99.40.81');
    bench!.exchanges.run(exchange.id, { ...options, byStep: true });
    const status = () => bench!.exchanges.story(exchange.id)!.status;
    await until(() => status().step === 0 && status().waits);
    bench!.exchanges.release(exchange.id);
    await until(() => status().step === 1);
    // It is acknowledged long before; the limit of the step does not count while a person looks.
    await new Promise((resolve) => setTimeout(resolve, 1300));
    expect(status()).toMatchObject({ step: 1, state: 'running', waits: true });
    bench!.exchanges.stop(exchange.id);
    expect(status().state).toBe('stopped');
  });

  test('a camera without light gives neither pass nor fail; then its precondition names the fault', async () => {
    const { exchange } = await started('rind_camera_v1', 'trigger and result', '10.99.40.81');
    bench!.inject(bench!.designed.devices[0]!.id, { fault: 'device', id: 'dark' });
    bench!.exchanges.run(exchange.id, options);
    await over(exchange);
    // Without light it finds nothing: neither pass nor fail.
    const { ended } = bench!.exchanges.story(exchange.id)!;
    expect(ended[0]).toMatchObject({ state: 'done', results: { passed: false, failed: false } });
    // And is faulted: the next one does not begin.
    bench!.exchanges.run(exchange.id, options);
    await over(exchange);
    expect(bench!.exchanges.story(exchange.id)!.status.failure).toEqual({
      step: null,
      reason: 'rind_camera_v1 is faulted: reset it first.',
    });
  });

  test('when writing is not allowed any more, what runs ends', async () => {
    const { exchange } = await started('brine_pump_m2', 'start and stop', '10.99.40.83');
    bench!.exchanges.run(exchange.id, options);
    await until(() => bench!.exchanges.story(exchange.id)!.status.step === 2);
    await bench!.forbid();
    expect(bench!.exchanges.story(exchange.id)!.status.state).toBe('stopped');
  });

  test('what is not there, or has no link, is refused', async () => {
    const { exchange } = await started('rind_camera_v1', 'trigger and result', '10.99.40.81');
    expect(() => bench!.exchanges.run('another', options)).toThrow(/no exchange another/);
    bench!.inject(bench!.designed.devices[0]!.id, { fault: 'cable-pulled' });
    await until(() => bench!.report()[0]!.state !== 'open');
    expect(() => bench!.exchanges.run(exchange.id, options)).toThrow(/rind_camera_v1/);
  });
});

describe('commands that arrive', () => {
  const counted = () => Buffer.from(bench!.report()[0]!.feedback, 'base64');

  test('a pulse is held until it is acknowledged, and for two updates at least', async () => {
    const { bench: running } = await started('rind_camera_v1', 'trigger and result', '10.99.40.81');
    const device = running.designed.devices[0]!;
    const id = (name: string) => device.links[0]!.command.fields.find((f) => f.name === name)!.id;
    running.write(device.id, id('online_request'), '1');
    await new Promise((resolve) => setTimeout(resolve, 200));
    const before = counted();
    running.order(device.id, { title: '', field: id('trigger'), bit: null, how: 'pulse', value: true });
    await until(() => running.standInOf(device.id)!.commanded.bytes[0]! !== 0);
    await until(() => !counted().equals(before));
    // It goes back by itself.
    await until(
      () =>
        (running.report()[0]!.command && Buffer.from(running.report()[0]!.command, 'base64')[0]! & 1) === 0,
    );
  });

  test('a code that is given anew is 0 for two updates before; +1 rises; two writes within an update are told', async () => {
    const { bench: running } = await started('wheel_scale_b1', 'command code', '10.99.40.82');
    const device = running.designed.devices[0]!;
    const [code] = device.links[0]!.command.fields.filter((f) => f.name === 'command');
    const command = () => Buffer.from(running.report()[0]!.command, 'base64');
    running.order(device.id, { title: '', field: code!.id, bit: null, how: 'renew', value: 22 });
    expect(command()[0]).toBe(0);
    await until(() => command().includes(22));
    running.order(device.id, { title: '', field: code!.id, bit: null, how: 'increment', value: 0 });
    await until(() => command().includes(23));
    running.write(device.id, code!.id, '20');
    running.write(device.id, code!.id, '21');
    expect(running.trace.since(0).filter(({ event }) => event.what === 'overwritten')).toHaveLength(1);
  });
});
