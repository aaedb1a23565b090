import {
  check,
  faultChoices,
  lineUpBudget,
  protocols,
  readCellFile,
  writeCellFile,
  type Cell,
} from '@fadenkreuz/core';
import { afterEach, expect, test } from 'vitest';
import { Bench } from '../src/bench/bench.js';
import { toyDriver } from './driver.js';
import { climateCell, until } from '../src/testBench.js';

/**
 * A protocol that neither package knows: its folders are toyProtocol/ here and in the core, and its two lines are put
 * into the two lists while they are loaded (vitest.config.ts). No other file is touched.
 */
const file = (sizes: { command?: number } = {}): string => {
  const plain = JSON.parse(writeCellFile(climateCell())) as { cell: Cell };
  const [device] = plain.cell.devices;
  const { id, command, feedback } = device!.links[0]!;
  const { description } = climateCell().devices[0]!;
  const parameters = description.parameters.map((parameter) => ({ ...parameter, place: null }));
  device!.description = {
    ...description,
    ...{ parameters, offer: { protocol: 'toy-wire' } },
  } as never;
  device!.links = [
    {
      ...{ id, protocol: 'toy-wire', connection: 'exchange', period: 10_000, onLoss: 'drop' },
      ...{ command: { ...command, size: sizes.command ?? command.size }, feedback },
    } as never,
  ];
  return JSON.stringify(plain);
};
const link = (bench: Bench) => bench.report()[0]!;

let bench: Bench | undefined;
afterEach(() => bench?.stop());

test('it is in the list', () => expect(protocols.map((p) => p.id)).toContain('toy-wire'));

test('a cell with it is opened and written again', () => {
  const cell = readCellFile(file());
  expect(cell.devices[0]!.links[0]).toMatchObject({ protocol: 'toy-wire', period: 10_000 });
  expect(readCellFile(writeCellFile(cell))).toEqual(cell);
  // What belongs to another protocol is no entry of it.
  expect(() => readCellFile(file().replace('"period":10000', '"period":10000,"unit":1'))).toThrow(/unit/);
});

test('it is checked by its own rule', () => {
  const codes = (cell: Cell) => check(cell).map((f) => f.code);
  expect(codes(readCellFile(file()))).toEqual([]);
  expect(codes(readCellFile(file({ command: 10 })))).toContain('image.sizeDiffers');
});

test('it is reckoned with', () => {
  // 8 and 12 bytes with 2 around them fill the shortest frame: 84 bytes on the wire, 100 times a second each way.
  const { packetsPerSecond, command, slowest } = lineUpBudget(readCellFile(file()));
  expect(packetsPerSecond).toBe(200);
  expect(command).toBeCloseTo((84 * 8 * 100) / 100e6, 10);
  expect(slowest?.device).toBe('u1');
});

test('a stand-in is served, connected, commanded, and lost with its cable', async () => {
  bench = new Bench(readCellFile(file()));
  await bench.start();
  await until(() => link(bench!).state === 'open');
  expect(link(bench)).toMatchObject({ address: 'climate_io_u1', port: null });
  bench.write('u1', 'u1-cmd-heater', '1');
  await until(() => (Buffer.from(link(bench!).feedback, 'base64')[0]! & 1) === 1);
  expect(faultChoices(bench.designed.devices[0]!).map((f) => f.fault.fault)).toContain('busy');
  bench.inject('u1', { fault: 'cable-pulled' });
  await until(() => link(bench!).state !== 'open');
  await until(() => link(bench!).causes.some((c) => c.title === 'The toy wire is silent'));
});

test('its parameters are read, and refused in the words of all protocols', async () => {
  bench = new Bench(readCellFile(file()));
  await bench.start();
  const [device] = bench.designed.devices;
  const access = toyDriver.originator(undefined as never).parameters({
    ...{ device: device!, link: device!.links[0] as never, localAddress: '' },
    end: { on: 'wire', station: device!.name },
  });
  const filterTime = { way: 'index', index: 1, subindex: 0 } as const;
  await access.write(filterTime, Uint8Array.of(77));
  expect([...(await access.read(filterTime, 1))]).toEqual([77]);
  await expect(access.write(filterTime, Uint8Array.of(0))).rejects.toMatchObject({
    facts: { refusal: 'range' },
  });
  await expect(access.read({ ...filterTime, index: 99 }, 1)).rejects.toMatchObject({
    facts: { refusal: 'absent' },
  });
  await access.close();
});
