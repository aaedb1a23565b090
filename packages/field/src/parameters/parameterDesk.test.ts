import { compareParameters, hexOf, ParameterCodec, writePlan, type Cell } from '@fadenkreuz/core';
import demo from '@fadenkreuz/demo/ripening-store-3.json' with { type: 'json' };
import { readCellFile } from '@fadenkreuz/core';
import { afterAll, beforeAll, describe, expect, test } from 'vitest';
import { Bench } from '../bench/bench.js';
import { until } from '../testBench.js';

/** All devices of the demo, at addresses of their own. */
function allDevices(): Cell {
  const cell = readCellFile(JSON.stringify(demo));
  const moved = (address: string) => address.replace(/^192\.168/, '10.98');
  return {
    ...cell,
    controller: { ...cell.controller, address: moved(cell.controller.address) },
    machine: [],
    exchanges: [],
    devices: cell.devices.map((d) => ({ ...d, address: moved(d.address) })),
  };
}

describe('parameters of the stand-ins of the demo', () => {
  const cell = allDevices();
  let bench: Bench;
  beforeAll(async () => {
    bench = new Bench(cell);
    await bench.start();
  });
  afterAll(() => bench.stop());
  const idOf = (name: string) => cell.devices.find((d) => d.name === name)!.id;
  const readAll = async (device: string) => {
    await bench.parameters.ended(bench.parameters.read([{ device }]).id);
    const { values } = bench.parameters.since(0);
    return new Map(
      values.flatMap((v) => (v.device === device && v.bytes !== null ? [[v.parameter, v.bytes]] : [])),
    );
  };
  const byCode = (device: string, code: string) =>
    cell.devices.find((d) => d.id === device)!.description.parameters.find((p) => p.code === code)!;
  const write = async (device: string, values: Record<string, string>) => {
    const { parameters } = cell.devices.find((d) => d.id === device)!.description;
    const wanted = new Map(
      Object.entries(values).map(([code, typed]) => {
        const parameter = byCode(device, code);
        return [parameter.id, hexOf(new ParameterCodec(parameter).written(typed))] as const;
      }),
    );
    const { id } = bench.parameters.write([{ device, steps: writePlan(parameters, wanted) }]);
    await bench.parameters.ended(id);
    return bench.parameters.linesOf(id)!.map((l) => l.outcome);
  };

  test('each has as many as its kind should, and gives every one that can be read', async () => {
    const least = { m1: 60, a1: 80, m2: 30, g1: 40 } as Record<string, number>;
    for (const { id, description } of cell.devices)
      expect([id, description.parameters.length >= (least[id] ?? 20)]).toEqual([id, true]);
    // The devices at the ports of the master take a moment until they talk.
    const hub = { device: idOf('port_hub_g1') };
    await until(async () => {
      const { id, counts } = bench.parameters.read([hub]);
      await bench.parameters.ended(id);
      return counts.refused === 0;
    });
    const series = bench.parameters.read(cell.devices.map(({ id }) => ({ device: id })));
    await bench.parameters.ended(series.id);
    const readable = cell.devices
      .flatMap((d) => d.description.parameters)
      .filter((p) => p.access !== 'write');
    expect(series.counts).toMatchObject({ read: readable.length, refused: 0, unknown: 0 });
  });

  test('as delivered they have their defaults, in units', async () => {
    for (const { id, description } of cell.devices) {
      const read = await readAll(id);
      const settings = compareParameters(description.parameters, { device: read }).filter(
        ({ parameter: { access, initial } }) => access === 'read-write' && initial !== null,
      );
      for (const { parameter, values } of settings)
        expect([id, parameter.name, values.device]).toEqual([id, parameter.name, values.default]);
    }
  });

  test('nothing is written before it is allowed; then it is there, by key where one is needed', async () => {
    const scale = idOf('wheel_scale_b1');
    expect(await write(scale, { 1: '250' })).toEqual(['not tried']);
    await bench.allow();
    expect(await write(scale, { 1: '250', 6: '1.0125' })).toEqual([
      'written',
      'written',
      'written',
      'written',
    ]);
    const read = await readAll(scale);
    expect(read.get(byCode(scale, '1').id)).toBe('FA 00');
    expect(read.get(byCode(scale, '6').id)).toBe('8D 27 00 00');
    // The key is taken back.
    expect(read.get(byCode(scale, '915').id)).toBe('00 00');
  });

  test('a drive that takes its start from its terminals does not start; with the network it does', async () => {
    await bench.allow();
    const drive = idOf('brush_belt_m1');
    await until(() => bench.report().find((l) => l.device === drive)!.state === 'open');
    const run = (on: string) => {
      for (const [field, value] of Object.entries({
        net_control: '1',
        net_reference: '1',
        run_forward: on,
        speed_reference: on === '1' ? '20' : '0',
      })) {
        const { id } = cell.devices
          .find((d) => d.id === drive)!
          .links[0]!.command.fields.find((f) => f.name === field)!;
        bench.write(drive, id, value);
      }
    };
    const output = () => (bench.standInOf(drive)!.seen as { output: number }).output;
    expect(await write(drive, { 201: 'terminals' })).toEqual(['written']);
    run('1');
    await new Promise((resolve) => setTimeout(resolve, 400));
    expect(output()).toBe(0);
    expect(await write(drive, { 201: 'network', 121: '5' })).toEqual(['written', 'written']);
    run('1');
    // No faster than its highest frequency.
    await until(() => Math.abs(output() - 5) < 0.01);
    // What needs a standstill is refused while it runs.
    expect(await write(drive, { 205: '1' })).toEqual(['refused']);
    run('0');
    await until(() => output() === 0);
    expect(await write(drive, { 205: '1', 214: 'save to memory' })).toEqual(['written', 'written']);
  });

  test('after a loss of power stands what was saved', async () => {
    await bench.allow();
    const pump = idOf('brine_pump_m2');
    expect(await write(pump, { P4: '8', P26: 'save to memory' })).toEqual(['written', 'written']);
    expect(await write(pump, { P4: '9' })).toEqual(['written']);
    bench.inject(pump, { fault: 'power-cycled', offMs: 300 });
    await until(() => bench.standInOf(pump)!.injected.length === 0);
    expect((await readAll(pump)).get(byCode(pump, 'P4').id)).toBe('00 50');
  });

  test('watched parameters are read by themselves', async () => {
    const camera = idOf('rind_camera_v1');
    const { id: parameter } = byCode(camera, '1');
    bench.parameters.watch([{ device: camera, parameter, everyMs: 100 }]);
    const seen = new Set<number>();
    await until(() => {
      const value = bench.parameters.since(0).values.find((v) => v.parameter === parameter);
      if (value) seen.add(value.number);
      return seen.size >= 3;
    });
    bench.parameters.watch([]);
    expect(bench.parameters.since(0).watched).toEqual([]);
  });

  test('a pulled cable in the middle: what is known is said, and repeating completes it', async () => {
    await bench.allow();
    const axis = idOf('rack_lift_a1');
    const { parameters } = cell.devices.find((d) => d.id === axis)!.description;
    const wanted = new Map(
      parameters
        .filter((p) => p.code.startsWith('5.') || p.code.startsWith('6.'))
        .map((p) => [p.id, hexOf(new ParameterCodec(p).written(p.initial!))] as const),
    );
    const steps = writePlan(parameters, wanted);
    // On an idle computer all of it would be over before anybody looks.
    bench.inject(axis, { fault: 'slow', ms: 40 });
    const series = bench.parameters.write([{ device: axis, steps }]);
    await until(() => series.counts.written >= 2);
    bench.inject(axis, { fault: 'cable-pulled' });
    await bench.parameters.ended(series.id);
    const { counts } = series;
    expect(counts.written + counts.unknown + counts['not tried']).toBe(steps.length);
    expect(counts.unknown).toBe(1);
    bench.clear(axis, 'cable-pulled');
    bench.clear(axis, 'slow');
    const again = bench.parameters.write([{ device: axis, steps }]);
    await bench.parameters.ended(again.id);
    expect(again.counts).toMatchObject({ written: steps.length });
  });
});
