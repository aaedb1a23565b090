import demo from '@fadenkreuz/demo/ripening-store-3.json' with { type: 'json' };
import Fraction from 'fraction.js';
import { readFileSync } from 'node:fs';
import { describe, expect, test } from 'vitest';
import { readCellFile } from '../../cell/cellFile.js';
import { Device } from '../../cell/model.js';
import { firstLink, testDevice } from '../../cell/testCell.js';
import { Field } from '../../layout/field.js';
import { signalsOf } from '../../layout/signals.js';
import { describerOf } from './edsOfDevice.js';
import { deviceOf } from './edsDevice.js';
import { readEds } from './readEds.js';
import { writeEds } from './writeEds.js';

const cell = readCellFile(JSON.stringify(demo));
const place = { name: 'copy_x1', address: '192.168.40.99', commandStart: 0, feedbackStart: 0 };
const ids = () => {
  let n = 0;
  return () => `n${(n += 1)}`;
};

describe.each(
  cell.devices.filter((d) => d.links[0]?.protocol === 'ethernet-ip').map((d) => [d.name, d] as const),
)('%s, written as a data sheet and read again', (_name, device) => {
  const { describer, defects } = readEds(writeEds(describerOf(device)));
  const again = deviceOf(describer, 1, place, ids())!;

  test('is a whole file and a valid device', () => {
    expect(defects).toEqual([]);
    expect(describer).toEqual(describerOf(device));
    expect(Device.parse(again)).toEqual(again);
  });

  test('has the same connection, instances and sizes', () => {
    const [link, wanted] = [firstLink(again, 'ethernet-ip'), firstLink(device, 'ethernet-ip')];
    const facts = ({
      command,
      feedback,
      commandFormat,
      feedbackFormat,
      configuration,
      toController,
    }: typeof link) => ({
      command: [command.instance, command.size],
      feedback: [feedback.instance, feedback.size],
      commandFormat,
      feedbackFormat,
      configuration: configuration.instance,
      toController,
    });
    expect(facts(link)).toEqual(facts(wanted));
    // Requests at a poll time are no connection that a data sheet knows.
    if (!wanted.connection.startsWith('polled')) expect(link.connection).toBe(wanted.connection);
    expect(again.identity).toEqual(device.identity);
  });

  test('has every signal at its place, with its type, scale and labels', () => {
    for (const side of ['command', 'feedback'] as const) {
      const plain = (d: Device) =>
        signalsOf(d.links[0]![side])
          .filter((s) => s.type !== 'STRING' && s.type !== 'BYTES')
          .map((s) => {
            const field = d.links[0]![side].fields.find((f) => f.id === s.of)!;
            // A data sheet knows runs of 8, 16 … bits as BYTE, WORD …, and as numbers where their values have texts.
            const type = /^(BITS|BCD|BYTE|[DL]?WORD|U[SDL]?INT)$/.test(s.type) ? 'bits' : s.type;
            const scale = s.type === 'BOOL' ? null : field.scale;
            const exact = scale && [scale.factor, scale.offset].map((r) => new Fraction(r).toFraction());
            return [s.at, s.bits, type, exact, field.labels];
          })
          .sort((a, b) => (a[0] as number) - (b[0] as number));
      // Of fields over the same bits a data sheet names the first.
      const wanted = plain(device);
      const named = new Set(plain(again).map((s) => s[0]));
      expect(plain(again)).toEqual(
        wanted.filter((s, i) => named.has(s[0]) && wanted.findIndex((o) => o[0] === s[0]) === i),
      );
      expect(named.size).toBeGreaterThanOrEqual(Math.floor(new Set(wanted.map((s) => s[0])).size * 0.9));
    }
  });
});

test('the maker’s file of climate_io_u1 and the demo’s layout agree, signal by signal', () => {
  const file = readFileSync(
    new URL('../../../../../demo/describers/murmel_px8.eds', import.meta.url),
    'utf8',
  );
  const described = deviceOf(readEds(file).describer, 1, place, ids())!;
  const planned = cell.devices.find((d) => d.name === 'climate_io_u1')!;
  expect(described.identity).toEqual(planned.identity);
  for (const side of ['command', 'feedback'] as const) {
    const places = (d: Device) => signalsOf(d.links[0]![side]).map((s) => [s.at, s.bits, s.type]);
    expect(places(described)).toEqual(places(planned));
    expect(described.links[0]![side].size).toBe(planned.links[0]![side].size);
  }
});

test('a device that is in no file: every limit, scale and label comes back as it was', () => {
  const field = (part: object) => Field.parse({ id: 'f', order: null, ...part });
  const device = testDevice();
  const image = firstLink(device, 'ethernet-ip').feedback;
  const labels = [{ value: 0xffff_ffff, text: 'none yet' }];
  const fields = [
    field({
      id: 'a',
      name: 'travel',
      type: 'LINT',
      at: 0,
      bits: 64,
      limits: { minimum: '-9223372036854775808', maximum: '9223372036854775807' },
    }),
    field({
      id: 'b',
      name: 'torque',
      type: 'REAL',
      at: 64,
      bits: 32,
      limits: { minimum: '-340282300000000000000000000000000000000', maximum: '0.5' },
    }),
    field({
      id: 'c',
      name: 'tank',
      type: 'INT',
      at: 96,
      bits: 16,
      scale: { factor: '-1/50', offset: '100' },
      limits: { minimum: '-20', maximum: null },
      unit: '%',
    }),
    field({ id: 'd', name: 'count', type: 'UDINT', at: 112, bits: 32, labels }),
    field({
      id: 'e',
      name: 'mass',
      type: 'DINT',
      at: 144,
      bits: 32,
      decimals: { way: 'fixed', places: 2 },
      limits: { minimum: '-15.25', maximum: '300' },
      unit: 'kg',
    }),
  ];
  device.links = [{ ...firstLink(device, 'ethernet-ip'), feedback: { ...image, size: 22, fields } }];
  const { describer, defects } = readEds(writeEds(describerOf(device)));
  expect(defects).toEqual([]);
  const again = firstLink(deviceOf(describer, 1, place, ids())!, 'ethernet-ip').feedback.fields;
  const facts = (all: readonly Field[]) =>
    all.map(({ name, type, at, unit, labels }) => [name, type, at, unit, labels]);
  expect(facts(again)).toEqual(facts(fields));
  const numbers = ({ limits, scale }: Field) =>
    [limits?.minimum, limits?.maximum, scale?.factor, scale?.offset].map(
      (n) => n && new Fraction(n).toFraction(),
    );
  expect(again.map(numbers)).toEqual([...fields.slice(0, 4).map(numbers), ['-61/4', '300', '1/100', '0']]);
});

test('a connection that is not there gives nothing', () => {
  expect(deviceOf(describerOf(cell.devices[0]!), 7, place, ids())).toBeUndefined();
});

test('the shortest update time of a data sheet is that of the slower direction', () => {
  const file = readFileSync(
    new URL('../../../../../demo/describers/murmel_px8.eds', import.meta.url),
    'utf8',
  );
  const { describer } = readEds(file);
  const [connection] = describer.connections;
  const [first, second] = describer.parameters;
  const asked = {
    ...describer,
    parameters: [
      { ...first!, minimum: 2000 },
      { ...second!, minimum: 16_000 },
      ...describer.parameters.slice(2),
    ],
    connections: [
      {
        ...connection!,
        command: { ...connection!.command, rpi: { parameter: first!.number } },
        feedback: { ...connection!.feedback, rpi: { parameter: second!.number } },
      },
      ...describer.connections.slice(1),
    ],
  };
  const update = (eds: typeof describer) =>
    deviceOf(eds, connection!.number, place, ids())!.description.limits.update;
  expect(update(asked)).toBe(16_000);
});
