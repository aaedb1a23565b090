import { describe, expect, test } from 'vitest';
import { Bench } from '../bench/bench.js';
import { Schedule } from '../timing/schedule.js';
import { StandIn } from '../standIns/standIn.js';
import { climateSeen, climateCell, until } from '../testBench.js';
import { benchAddress, onlyLoopback, Reach } from './reach.js';

describe('what may be sent to', () => {
  const reach = new Reach(['192.168.40.0/24', '10.1.0.0/16']);
  test.each([
    ['127.0.0.1', true, true],
    ['127.255.3.4', true, true],
    ['192.168.40.71', false, true],
    ['192.168.41.71', false, false],
    ['10.1.255.255', false, true],
    ['8.8.8.8', false, false],
    ['0.0.0.0', false, false],
    ['255.255.255.255', false, false],
    ['::1', false, false],
    ['localhost', false, false],
    ['127.1', false, false],
  ])('%s: without a subnet %s, with two %s', (address, alone, allowed) => {
    const may = (r: Reach) => {
      try {
        r.require(address);
        return true;
      } catch (error) {
        expect(error).toMatchObject({ code: 'bench.outsideLoopback', facts: { address } });
        return false;
      }
    };
    expect([may(onlyLoopback), may(reach)]).toEqual([alone, allowed]);
  });

  test.each(['192.168.40.0', 'x/24', '192.168.40.0/33', '', '::/0', '10.1/16'])('%j is no subnet', (text) =>
    expect(() => new Reach([text])).toThrow(/is no IPv4 subnet/),
  );

  test('a planned address becomes one of loopback', () =>
    expect(benchAddress('192.168.40.21')).toBe('127.168.40.21'));
});

describe('a device of no known kind', () => {
  const realDevice = () =>
    climateCell((_link, device) => Object.assign(device, { simulated: false, address: '127.99.44.71' }));

  test('is played as it is described while no real one may be reached', async () => {
    const bench = new Bench(realDevice());
    await bench.start();
    await until(() => bench.report()[0]!.state === 'open');
    expect(bench.report()[0]).toMatchObject({ real: false, sends: '', address: '127.99.44.71' });
    await bench.stop();
  });

  test('is used as planned once its subnet was named', async () => {
    // The "real" device: a stand-in of somebody else, at the very address that is planned.
    const schedule = new Schedule();
    const real = new StandIn(climateCell((_link, d) => (d.address = '10.99.44.71')).devices[0]!, {
      schedule,
    });
    await real.open();
    const bench = new Bench(realDevice(), { reach: new Reach(['127.99.44.0/24']) });
    await bench.start();
    await until(() => bench.report()[0]!.state === 'open' && bench.report()[0]!.received > 5);
    expect(bench.report()[0]).toMatchObject({ address: '127.99.44.71', reads: true });
    await bench.allow();
    await until(() => bench.report()[0]!.state === 'open' && !bench.report()[0]!.reads);
    bench.write('u1', 'u1-cmd-heater', '1');
    await until(() => climateSeen(real).heaterOn);
    await bench.stop();
    await real.close();
    schedule.stop();
  });

  test('in a subnet where this computer has no address, the reason says so', async () => {
    const cell = climateCell((_link, device) =>
      Object.assign(device, { simulated: false, address: '203.0.113.9' }),
    );
    const bench = new Bench(cell, { reach: new Reach(['203.0.113.0/24']) });
    await bench.start();
    expect(bench.report()[0]).toMatchObject({ state: 'no-stand-in', reason: { code: 'link.noAdapter' } });
    await bench.stop();
  });
});
