import { spawn } from 'node:child_process';
import { mkdtemp, readFile, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { writeCellFile } from '@fadenkreuz/core';
import { beforeAll, describe, expect, test } from 'vitest';
import { climateCell } from '../testBench.js';
import { tsharkFields } from '../tshark.js';

/** The command line as it is installed: ./test and ./start build it first. */
const script = fileURLToPath(new URL('../../dist/cli.js', import.meta.url));

function run(...args: string[]): Promise<{ code: number; lines: string[]; errors: string }> {
  return new Promise((resolve) => {
    const child = spawn(process.execPath, [script, ...args]);
    let out = '';
    let errors = '';
    child.stdout.on('data', (text: Buffer) => (out += text.toString()));
    child.stderr.on('data', (text: Buffer) => (errors += text.toString()));
    child.on('exit', (code) => resolve({ code: code ?? -1, lines: out.split('\n').filter(Boolean), errors }));
  });
}

let folder: string;
let cellFile: string;
beforeAll(async () => {
  folder = await mkdtemp(join(tmpdir(), 'fadenkreuz-'));
  cellFile = join(folder, 'cell.json');
  await writeFile(cellFile, writeCellFile(climateCell()));
});

describe('command line', () => {
  test('check: the demo has one warning, the three bytes of its valves in 16-bit elements', async () => {
    const { code, lines } = await run('check', 'demo', '--json');
    const findings = lines.map((l) => JSON.parse(l) as { severity: string; code: string });
    const real = findings.filter((f) => f.severity !== 'notice').map((f) => f.code);
    expect(real).toEqual(['image.notWholeElements']);
    expect(code).toBe(1);
  });

  test('check: notices alone exit with 0', async () => {
    expect((await run('check', cellFile)).code).toBe(0);
  });

  test('check: a wrong size is a finding with its factor, exit 1', async () => {
    const wrong = join(folder, 'wrong.json');
    await writeFile(wrong, writeCellFile(climateCell((l) => (l.feedback.size = 24))));
    const { code, lines } = await run('check', wrong, '--json');
    expect(code).toBe(1);
    expect(JSON.parse(lines[0]!)).toMatchObject({
      code: 'image.sizeFactor',
      facts: { planned: 24, actual: 12, factor: 2 },
    });
  });

  test('describe: what a data sheet says, and what is wrong with it, exit 1', async () => {
    const file = fileURLToPath(new URL('../../../../demo/describers/murmel_px8.eds', import.meta.url));
    const { code, lines } = await run('describe', file, '--json');
    const values = lines.map((l) => JSON.parse(l) as { kind: string; name?: string; code?: string });
    expect(code).toBe(1);
    expect(values.filter((v) => v.kind === 'connection').map((v) => v.name)).toEqual([
      'Exclusive owner',
      'Input only',
      'Listen only',
    ]);
    expect(values.filter((v) => v.kind === 'defect').map((v) => v.code)).toEqual([
      'eds.semicolon',
      'eds.count',
    ]);
    const facts = values.filter((v) => v.kind === 'fact') as unknown as {
      section: string;
      name: string;
      text: string;
    }[];
    expect(facts).toContainEqual(
      expect.objectContaining({ section: 'connection Exclusive owner', name: 'triggers and transports' }),
    );
    expect(facts.filter((f) => f.section === 'feedback image').length).toBeGreaterThan(5);
    const plain = await run('describe', file);
    expect(plain.lines[0]).toBe(
      'Murmel PX-8 process I/O, Murmel (65013), product 412, revision 3.4, EtherNet/IP: parameters 21, members of assemblies 14, assemblies 3',
    );
  });

  describe('parameters', () => {
    const ask = (...args: string[]) =>
      run('parameters', cellFile, '--device', 'climate_io_u1', '--json', ...args);
    const values = (lines: string[]) =>
      lines.map(
        (l) => JSON.parse(l) as { code: string; value: string | null; ms?: number; outcome?: string },
      );

    test('as planned without a bench, as they stand in the device with one', async () => {
      const planned = await ask();
      expect(values(planned.lines)[0]).toMatchObject({ code: '1', value: null });
      const read = await ask('--read');
      expect(read.code).toBe(0);
      expect(values(read.lines)).toHaveLength(planned.lines.length);
      expect(values(read.lines)[0]).toMatchObject({ code: '1', value: '500', unit: 'ms', bytes: 'F4 01' });
      expect(values(read.lines)[0]!.ms).toBeGreaterThan(0);
    });

    test('written from a file, read back, and compared with one', async () => {
      const file = join(folder, 'values.csv');
      await writeFile(file, 'name;value\nFilter time;250\n3;1.25\n');
      const { code, lines } = await ask('--write', file);
      expect(code).toBe(0);
      // The key before the calibration, and taken back behind it.
      expect(values(lines).map((l) => `${l.code} ${l.outcome}`)).toEqual([
        '1 written',
        '2 written',
        '3 written',
        '2 written',
      ]);
      const compared = await ask('--compare', file);
      expect(compared.code).toBe(1);
      expect(values(compared.lines)).toMatchObject([
        { code: '1', value: '500', file: '250' },
        { code: '3', value: '0.00', file: '1.25' },
      ]);
    });

    test.each([
      ['another name', 'name,value\nNo such,1\n'],
      ['no number', 'name,value\nFilter time,fast\n'],
      ['more than it holds', 'name,value\nFilter time,70000\n'],
    ])('%s: exit 2, nothing is written', async (_says, text) => {
      const file = join(folder, 'wrong.csv');
      await writeFile(file, text);
      const { code, lines, errors } = await ask('--write', file);
      expect([code, lines, JSON.parse(errors)]).toEqual([
        2,
        [],
        expect.objectContaining({ cure: expect.anything() }),
      ]);
    });
  });

  test('roles: what is given and what is proposed, a line each', async () => {
    const { code, lines } = await run('roles', 'demo', '--json');
    expect(code).toBe(0);
    const all = lines.map((l) => JSON.parse(l) as { device: string; role: string; sure: number });
    expect(all.length).toBeGreaterThan(60);
    expect(all.every((l) => l.sure >= 0.5 && l.sure <= 1)).toBe(true);
    expect(all).toContainEqual(expect.objectContaining({ device: 'rack_lift_a1', role: 'target reached' }));
    expect((await run('roles', 'demo')).lines).toHaveLength(all.length);
  });

  test('describe: texts in the language that is asked for, and which there are', async () => {
    const sensor = new URL('../../../../demo/describers/murmel_pt3_iodd.xml', import.meta.url).pathname;
    const { lines } = await run('describe', sensor, '--language', 'de', '--json');
    const values = lines.map(
      (l) => JSON.parse(l) as { kind: string; languages?: string[]; section?: string },
    );
    expect(values.find((v) => v.kind === 'languages')?.languages).toEqual(['en', 'de']);
    expect(values.filter((v) => v.section?.startsWith('laid out')).length).toBeGreaterThan(3);
    const [english] = (await run('describe', sensor)).lines;
    expect(lines[0]).not.toBe(english);
  });

  test.each([
    ['a missing file', ['check', '/nowhere/cell.json'], /cannot be read/],
    ['a missing description', ['describe', '/nowhere/x.eds'], /cannot be read/],
    ['a description that is none', ['describe', '/etc/hostname'], /no section/],
    ['an unknown verb', ['fly', 'demo'], /unknown command/],
    ['a bench without a time', ['bench', 'demo'], /--for/],
    ['a negative time', ['bench', 'demo', '--for', '-1'], /seconds/],
  ])('%s: exit 2 and a sentence', async (_says, args, message) => {
    const { code, errors, lines } = await run(...args);
    expect(code).toBe(2);
    expect(errors).toMatch(message);
    expect(lines).toEqual([]);
  });

  test('a file that is no cell: exit 2, the report on stderr as JSON', async () => {
    const text = join(folder, 'text.json');
    await writeFile(text, '{"format":"fadenkreuz-cell","version":1,"cell":');
    const { code, errors } = await run('check', text, '--json');
    expect(code).toBe(2);
    expect(JSON.parse(errors)).toMatchObject({ code: 'file.notJson' });
  });

  test('stand-ins: a line per endpoint when it is ready', async () => {
    const { code, lines } = await run('stand-ins', cellFile, '--for', '0.3', '--json');
    expect(code).toBe(0);
    expect(JSON.parse(lines[0]!)).toEqual({
      device: 'climate_io_u1',
      protocol: 'ethernet-ip',
      address: '127.99.40.71',
      port: 44_818,
      ioPort: 2222,
      instances: [
        { instance: 120, use: 'command', size: 8 },
        { instance: 110, use: 'feedback', size: 12 },
        { instance: 150, use: 'configuration', size: 4 },
        { instance: 198, use: 'input-only', size: 0 },
        { instance: 199, use: 'listen-only', size: 0 },
      ],
    });
  });

  test('bench: a fault is injected and taken away, and the trace says when', async () => {
    const fault = 'climate_io_u1:packets-lost,share=0.5@1-2';
    const { code, lines } = await run('bench', cellFile, '--for', '3', '--json', '--fault', fault);
    const told = lines.map(
      (l) => JSON.parse(l) as { trace?: string; fault?: string; device: string; lost?: number },
    );
    expect(told.filter((t) => t.trace === 'injected' || t.trace === 'cleared')).toMatchObject([
      { trace: 'injected', device: 'climate_io_u1', fault: 'lose packets, share 0.5' },
      { trace: 'cleared', device: 'climate_io_u1', fault: 'lose packets, share 0.5' },
    ]);
    expect(told.at(-1)!.lost).toBeGreaterThan(3);
    expect(code).toBe(1);
  });

  test.each([
    ['a fault that is none', 'climate_io_u1:fly', /cannot be injected at climate_io_u1/],
    ['a device that is none', 'nobody:busy', /no device with the id nobody/],
    ['a share of 3', 'climate_io_u1:packets-lost,share=3', /packets-lost, share/],
    ['no fault at all', 'climate_io_u1', /Write it like/],
  ])('bench with %s: exit 2 and a sentence', async (_says, fault, message) => {
    const { code, errors } = await run('bench', cellFile, '--for', '1', '--fault', fault);
    expect(code).toBe(2);
    expect(errors).toMatch(message);
  });

  test('bench: nothing lost, and a capture that tshark reads without complaint', async () => {
    const capture = join(folder, 'x.pcapng');
    const { code, lines } = await run('bench', cellFile, '--for', '3', '--capture', capture, '--json');
    const report = JSON.parse(lines[0]!) as {
      sent: number;
      received: number;
      lost: number;
      interval: { p50: number };
    };
    expect(report).toMatchObject({
      device: 'climate_io_u1',
      state: 'open',
      lost: 0,
      timeouts: 0,
      reconnects: 0,
    });
    expect(code).toBe(0);
    expect(report.received).toBeGreaterThan(100);
    expect(report.interval.p50).toBeGreaterThan(18);
    expect(report.interval.p50).toBeLessThan(22);
    for (const protocol of ['enip', 'cip', 'cipio'])
      expect(tsharkFields(capture, protocol, ['frame.number']).length, protocol).toBeGreaterThan(1);
    expect(tsharkFields(capture, '_ws.malformed', ['frame.number'])).toEqual([]);
    // While the bench takes its leave, the device may send a few packets that belong to no connection any longer.
    const late = tsharkFields(capture, 'cipio', ['frame.number']).length - report.sent - report.received;
    expect(late).toBeGreaterThanOrEqual(0);
    expect(late).toBeLessThanOrEqual(3);
  });

  test('handover: code, signal list and cell file', async () => {
    const out = join(folder, 'out');
    const { code, lines } = await run('handover', cellFile, '--out', out, '--json');
    expect(code).toBe(0);
    expect(lines.map((l) => (JSON.parse(l) as { file: string }).file.split('/').at(-1))).toEqual([
      'Ripening_Store_3.st',
      'Ripening_Store_3_signals.csv',
      'Ripening_Store_3.cell.json',
    ]);
    expect(await readFile(join(out, 'Ripening_Store_3.st'), 'utf8')).toContain(
      'FUNCTION climate_io_u1_unpack',
    );
    expect(await readFile(join(out, 'Ripening_Store_3.cell.json'), 'utf8')).toBe(
      await readFile(cellFile, 'utf8'),
    );
  });
});
