import { existsSync } from 'node:fs';
import { mkdtemp } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterEach, describe, expect, test } from 'vitest';
import { CaptureFile } from '../capture/captureFile.js';
import { StandIn } from '../standIns/standIn.js';
import { climateSeen, climateCell, until } from '../testBench.js';
import { tsharkFields } from '../tshark.js';
import { Bench, type BenchOptions } from './bench.js';

let bench: Bench | undefined;
async function start(cell = climateCell(), options: BenchOptions = {}): Promise<Bench> {
  bench = new Bench(cell, options);
  await bench.start();
  return bench;
}
afterEach(async () => {
  await bench?.stop();
  bench = undefined;
});
const link = () => bench!.report()[0]!;
const world = () => climateSeen(bench!.standInOf('u1'));
const feedback = () => Buffer.from(link().feedback, 'base64');

describe('a bench with a real connection', () => {
  test('a command reaches the device, and its answer comes back', async () => {
    // With all the patience there is: a machine that halts for a moment loses nothing.
    await start(climateCell((l) => (l.timeoutMultiplier = 512)));
    await until(() => link().state === 'open' && link().received > 5);
    expect(world().heaterOn).toBe(false);
    bench!.write('u1', 'u1-cmd-heater', '1');
    bench!.write('u1', 'u1-cmd-heater_level', '50');
    await until(() => world().heaterOn);
    await until(() => Math.abs(world().heaterLevel - 50) < 0.1);
    await until(() => (feedback()[0]! & 1) === 1);
    const before = feedback().readUInt16LE(2);
    await until(() => feedback().readUInt16LE(2) > before + 20);
    expect(link()).toMatchObject({ lost: 0, timeouts: 0, reconnects: 0, reason: null });
  });

  test('a value that does not fit is refused and nothing is sent', async () => {
    await start();
    await until(() => link().state === 'open');
    expect(() => bench!.write('u1', 'u1-cmd-heater_level', '250')).toThrow(/does not fit/);
    expect(() => bench!.write('u1', 'u1-cmd-heater', '2')).toThrow(/no value/);
    expect(Buffer.from(link().command, 'base64').every((b) => b === 0)).toBe(true);
  });

  test('raw bytes of the command image reach the device; past its end they are refused', async () => {
    await start(climateCell((l) => (l.timeoutMultiplier = 512)));
    await until(() => link().state === 'open');
    bench!.writeBytes('u1', link().link, 0, [0b101]);
    await until(() => world().heaterOn && world().fanOn);
    expect(() => bench!.writeBytes('u1', link().link, 7, [1, 2])).toThrow(/behind the image/);
    expect(() => bench!.writeBytes('u1', 'another', 0, [1])).toThrow(/climate_io_u1/);
    expect(Buffer.from(link().command, 'base64')[7]).toBe(0);
  });

  test('idle makes the device drop its outputs, run brings them back', async () => {
    // A link that a halt of the machine ends is opened without its commands.
    await start(climateCell((l) => (l.timeoutMultiplier = 512)));
    await until(() => link().state === 'open');
    bench!.write('u1', 'u1-cmd-fan', '1');
    await until(() => world().fanOn);
    bench!.setRun(false);
    await until(() => !world().fanOn);
    bench!.setRun(true);
    await until(() => world().fanOn);
  });

  test('when the device goes silent the originator times out, and opens again when it is back', async () => {
    await start();
    await until(() => link().state === 'open');
    bench!.write('u1', 'u1-cmd-heater', '1');
    await bench!.standInOf('u1')!.close();
    await until(() => link().reason?.code === 'link.silent');
    expect(link().timeouts).toBe(1);
    const { schedule } = bench!;
    const again = new StandIn(bench!.designed.devices[0]!, { schedule });
    await again.open();
    await until(() => link().state === 'open' && link().reconnects === 1);
    // What was commanded before the loss is not commanded again by itself.
    expect(Buffer.from(link().command, 'base64')[0]).toBe(0);
    await again.close();
  });

  test('when the controller vanishes the device times out, drops its outputs and frees the owner', async () => {
    await start();
    await until(() => link().state === 'open');
    bench!.write('u1', 'u1-cmd-heater', '1');
    await until(() => world().heaterOn);
    bench!.inject('u1', { fault: 'cable-pulled' });
    await until(() => !world().heaterOn);
  });

  test('a changed layout is taken over without opening anew; a changed size opens anew and is refused', async () => {
    await start();
    await until(() => link().state === 'open');
    const moved = climateCell((l) => {
      const fan = l.command.fields.find((f) => f.name === 'fan')!;
      const flap = l.command.fields.find((f) => f.name === 'flap')!;
      [fan.at, flap.at] = [flap.at, fan.at];
    });
    await bench!.update(moved);
    bench!.write('u1', 'u1-cmd-fan', '1');
    await until(() => world().flapOpen);
    expect(link().reconnects).toBe(0);
    await bench!.update(climateCell((l) => ((l.command.size = 4), (l.command.fields = []))));
    await until(() => link().state === 'refused');
    await bench!.update(climateCell());
    await until(() => link().state === 'open');
  });
});

describe('refusals carry the standard’s code, a sentence and a cure', () => {
  test.each<[string, Parameters<typeof climateCell>[0], string, string]>([
    [
      'command in 16-bit elements',
      (l) => ((l.command.size = 4), (l.command.fields = [])),
      '16#0127',
      '4 is the number of 16-bit elements',
    ],
    [
      'command in 32-bit elements',
      (l) => ((l.command.size = 2), (l.command.fields = [])),
      '16#0127',
      '2 is the number of 32-bit elements',
    ],
    ['feedback doubled', (l) => (l.feedback.size = 24), '16#0128', '12 bytes were taken for 16-bit elements'],
    [
      'feedback halved',
      (l) => ((l.feedback.size = 6), (l.feedback.fields = [])),
      '16#0128',
      '6 is the number of 16-bit elements',
    ],
  ])('%s', async (_says, change, code, reading) => {
    await start(climateCell(change));
    await until(() => link().state === 'refused');
    expect(link().reason).toMatchObject({ code: 'link.sizeRefused' });
    expect(link().reason!.says).toContain(code);
    expect(link().reason!.says).toContain(reading);
  });

  test.each(['command', 'feedback'] as const)('the device has another %s size than its kind', async (use) => {
    const own = { command: 8, feedback: 12 }[use];
    const cell = climateCell((_link, { description }) => {
      for (const point of description.points) if (point.use === use) point.size = own * 2;
    });
    await start(cell);
    await until(() => link().state === 'refused');
    expect(link().reason).toMatchObject({
      code: 'link.sizeRefused',
      facts: { side: use, planned: own, actual: own * 2 },
    });
    expect(link().reason!.says).toContain('16-bit elements');
  });

  test.each<[string, Parameters<typeof climateCell>[0], string]>([
    ['another vendor', (_, d) => (d.identity.vendor = 65_001), '16#0114'],
    ['another product', (_, d) => (d.identity.productCode = 9), '16#0114'],
    ['another device type', (_, d) => (d.identity.deviceType = 2), '16#0115'],
    ['another revision', (_, d) => (d.identity.minorRevision = 9), '16#0116'],
    ['no such configuration', (l) => (l.configuration.instance = 151), '16#0129'],
    ['no such command instance', (l) => (l.command.instance = 121), '16#012A'],
    ['no such feedback instance', (l) => (l.feedback.instance = 120), '16#012B'],
    ['configuration too long', (l) => (l.configuration.data = '00'.repeat(8)), '16#0126'],
    ['too fast', (l) => (l.feedbackRpi = 500), '16#0111'],
  ])('%s', async (_says, change, code) => {
    await start(climateCell(change));
    await until(() => link().state === 'refused');
    expect(link().reason).toMatchObject({
      code: 'link.refused',
      facts: { general: '16#01', extended: code },
    });
    expect(link().reason!.cure.length).toBeGreaterThan(10);
  });

  test('nobody there', async () => {
    const cell = climateCell();
    await start(cell, {
      standIn: () =>
        ({
          open: () => Promise.resolve(),
          close: () => Promise.resolve(),
          address: '127.99.40.71',
          indicators: [],
          injected: [],
          side: { held: [] },
          commanded: { state: 'none', since: 0, bytes: new Uint8Array() },
        }) as never,
    });
    await until(() => link().state === 'unreachable');
    expect(link().reason?.says).toContain('nothing listens there');
  });

  test('a second bench at the same addresses says which port is taken', async () => {
    await start();
    const second = new Bench(climateCell());
    await expect(second.start()).rejects.toMatchObject({ code: 'standIn.cannotBind', facts: { port: 2222 } });
  });
});

describe('what the wire carries, as tshark’s dissectors read it', () => {
  test('a whole session without a malformed frame, field by field', async () => {
    const file = join(await mkdtemp(join(tmpdir(), 'fadenkreuz-')), 'bench.pcapng');
    const tap = new CaptureFile(file);
    await start(climateCell(), { tap });
    await until(() => link().received > 40);
    bench!.write('u1', 'u1-cmd-heater', '1');
    await until(() => (feedback()[0]! & 1) === 1);
    await bench!.stop();
    await tap.close();
    expect(existsSync(file)).toBe(true);

    expect(
      tsharkFields(file, '_ws.malformed or tcp.checksum.status == "Bad" or ip.checksum.status == "Bad"', [
        'frame.number',
      ]),
    ).toEqual([]);
    const [open] = tsharkFields(file, 'cip.cm.otrpi', [
      'cip.sc',
      'cip.cm.otrpi',
      'cip.cm.torpi',
      'cip.cm.fwo.consize',
      'cip.cm.fwo.type',
      'cip.cm.fwo.prio',
      'cip.cm.timeout_multiplier',
      'cip.cm.fwo.transport',
      'cip.ekey.vendor',
      'cip.ekey.product_code',
      'cip.connpoint',
      'cip.instance',
    ]);
    // Connection sizes: 8 + 2 + 4 towards the device, 12 + 2 back; type 2 point-to-point; priority 2 scheduled; class
    // 1.
    expect(open).toMatchObject({
      'cip.cm.otrpi': '20000',
      'cip.cm.torpi': '20000',
      'cip.cm.fwo.consize': '14,14',
      'cip.cm.fwo.type': '2,2',
      'cip.cm.fwo.prio': '2,2',
      'cip.cm.timeout_multiplier': '4',
      'cip.cm.fwo.transport': '1',
      'cip.ekey.product_code': '0x019c',
    });
    expect(open!['cip.connpoint']!.split(',').map(Number)).toEqual([120, 110]);
    expect(open!['cip.instance']!.split(',').map(Number)).toContain(150);

    const [opened] = tsharkFields(file, 'cip.cm.otapi', [
      'cip.cm.otapi',
      'cip.cm.toapi',
      'cip.cm.ot_connid',
      'cip.genstat',
    ]);
    expect(opened).toMatchObject({ 'cip.cm.otapi': '20000', 'cip.cm.toapi': '20000' });
    const packets = tsharkFields(file, 'cipio', [
      'enip.cpf.sai.connid',
      'enip.cpf.sai.seq',
      'ip.src',
      'udp.dstport',
      'cip.cm.fwo.dir',
    ]);
    expect(packets.length).toBeGreaterThan(60);
    expect(new Set(packets.map((p) => p['udp.dstport']))).toEqual(new Set(['2222']));
    for (const source of ['127.99.40.1', '127.99.40.71']) {
      const sequence = packets
        .filter((p) => p['ip.src'] === source)
        .map((p) => Number(p['enip.cpf.sai.seq']));
      expect(sequence).toEqual(sequence.map((_, i) => i + 1));
    }
    expect(tsharkFields(file, 'cip.sc == 0x4e', ['cip.rr']).length).toBe(2);
  });

  test('a refused size: the maximum size that tshark finds is the one that we mean', async () => {
    const file = join(await mkdtemp(join(tmpdir(), 'fadenkreuz-')), 'refused.pcapng');
    const tap = new CaptureFile(file);
    await start(
      climateCell((l) => ((l.command.size = 4), (l.command.fields = []))),
      { tap },
    );
    await until(() => link().state === 'refused');
    await bench!.stop();
    await tap.close();
    const [refusal] = tsharkFields(file, 'cip.cm.ext_status', [
      'cip.genstat',
      'cip.cm.ext_status',
      'cip.cm.ext127_size',
    ]);
    expect(Number(refusal!['cip.genstat'])).toBe(1);
    expect(Number(refusal!['cip.cm.ext_status'])).toBe(0x127);
    expect(Number(refusal!['cip.cm.ext127_size'])).toBe(8);
  });
});
