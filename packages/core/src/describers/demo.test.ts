import { readdirSync, readFileSync } from 'node:fs';
import { describe, expect, test } from 'vitest';
import { readCellFile } from '../cell/cellFile.js';
import { FeedbackImage } from '../layout/image.js';
import { firstLink, testCell, testDevice } from '../cell/testCell.js';
import { replacement } from '../lineup/replace.js';
import { guessReading, tableCells } from '../tables/guessReading.js';
import { readTable } from '../tables/readTable.js';
import { readDescriber } from './read.js';
import { changesForDevice, factChanges } from './factChanges.js';
import { choicesOf, deviceOfChoice, factsOf, summaryOf } from './list.js';
import { tableDescriberOf, tableDescriberSchema, writeTableDescriber } from './table/tableDescriber.js';

const demo = new URL('../../../../demo/', import.meta.url);
const cell = readCellFile(readFileSync(new URL('ripening-store-3.json', demo), 'utf8'));
const files = readdirSync(new URL('describers/', demo)).map((name) => {
  const { describer, defects } = readDescriber(
    readFileSync(new URL(`describers/${name}`, demo)),
    TextDecoder,
  );
  return { name, describer, defects, summary: summaryOf(describer) };
});
const fileOf = (name: string) => files.find((f) => f.name.startsWith(name))!;
const ids = () => {
  let n = 0;
  return () => `n${(n += 1)}`;
};

test('each device of the demo has its describer, in its planned revision', () => {
  for (const { identity, name } of cell.devices) {
    const revision = `${identity.majorRevision}.${identity.minorRevision}`;
    const own = files.filter(
      ({ summary: s }) =>
        s.vendor === identity.vendor && s.product === identity.productCode && s.revision === revision,
    );
    expect([name, own.length]).toEqual([name, 1]);
  }
});

test('EDS, one GSDML, three IODDs; some with the small faults of real ones', () => {
  const count = (source: string) => files.filter((f) => f.describer.source === source).length;
  expect([count('gsdml'), count('iodd'), count('table')]).toEqual([1, 3, 2]);
  expect(
    files
      .filter((f) => f.defects.length > 0)
      .map((f) => f.describer.source)
      .sort(),
  ).toEqual(['eds', 'gsdml', 'iodd']);
});

// The data sheet of the climate module calls its signals otherwise (device.test.ts compares their places).
const others = cell.devices.filter((d) => d.name !== 'climate_io_u1');
test.each(others.map((d) => [d.name, d] as const))(
  '%s is what its describer says: nothing would change',
  (_name, device) => {
    const { identity } = device;
    const own = files.find(
      ({ summary: s }) =>
        s.vendor === identity.vendor &&
        s.product === identity.productCode &&
        s.revision === `${identity.majorRevision}.${identity.minorRevision}` &&
        s.source !== 'iodd',
    )!;
    expect(changesForDevice(device, own.describer)).toEqual([]);
  },
);

describe('another revision of the drive', () => {
  const [old, now] = [fileOf('quellwerk_fq2_1_1'), fileOf('quellwerk_fq2_2_11')];
  const drive = cell.devices.find((d) => d.name === 'brush_belt_m1')!;

  test('what differs between the two files', () => {
    const all = factChanges(factsOf(old.describer), factsOf(now.describer));
    const changes = all.filter((c) => /^identity$|^(command|feedback) image$/.test(c.section));
    const parameters = all.filter((c) => c.section === 'parameter');
    // The new revision has connections that the old one had not.
    expect(new Set(all.map((c) => c.section))).toContain('connection basic speed control');
    expect(parameters).toEqual([
      {
        section: 'parameter',
        name: 'Deceleration time',
        before: 'class 15 instance 2 attribute 1, UINT, 0.1 to 300, default 3, read-write, s',
        after: 'class 15 instance 2 attribute 1, UINT, 0.1 to 600, default 3, read-write, s',
      },
      expect.objectContaining({ name: 'Fault code', before: null }),
    ]);
    expect(changes).toEqual([
      { section: 'identity', name: 'revision', before: '1.1', after: '2.11' },
      {
        section: 'feedback image',
        name: 'dc_bus_voltage',
        before: 'byte 4.0, 16 bits, V, × 1/10',
        after: 'byte 6.0, 16 bits, V, × 1/10',
      },
      {
        section: 'feedback image',
        name: 'motor_current',
        before: 'byte 6.0, 16 bits, A, × 1/100',
        after: 'byte 4.0, 16 bits, A, × 1/100',
      },
      expect.objectContaining({ section: 'feedback image', name: 'at_reference', before: null }),
    ]);
  });

  test('what was planned stays, also where a parameter has moved; so do the places of choice', () => {
    const planned = drive.description.parameters.map((p) =>
      p.name === 'Acceleration time' ? { ...p, planned: '4.5', type: 'UDINT' as const, bits: 32 } : p,
    );
    const before = { ...drive, description: { ...drive.description, parameters: planned } };
    const fresh = deviceOfChoice(old.describer, choicesOf(old.describer)[0]!.id, cell, before, ids())!;
    const { description } = replacement(before, fresh).device;
    expect(description.parameters.find((p) => p.name === 'Acceleration time')).toMatchObject({
      ...{ planned: '4.5', type: 'UINT', role: { is: 'acceleration' } },
    });
    expect(description.chosen).toEqual(drive.description.chosen);
  });

  test('what would change in the cell, and what stays when it is replaced', () => {
    const changes = changesForDevice(drive, old.describer);
    expect(changes.map((c) => c.name)).toEqual([
      'revision',
      'at_reference',
      'motor_current',
      'dc_bus_voltage',
      'Deceleration time',
      'Fault code',
    ]);
    const fresh = deviceOfChoice(old.describer, choicesOf(old.describer)[0]!.id, cell, drive, ids())!;
    const { device, fields } = replacement(drive, fresh);
    expect(device).toMatchObject({
      id: drive.id,
      name: drive.name,
      address: drive.address,
      designation: drive.designation,
    });
    expect(device.identity.majorRevision).toBe(1);
    const what = (kind: string) => fields.filter((f) => f.what === kind).map((f) => f.name);
    expect([what('moved').sort(), what('gone'), what('new')]).toEqual([
      ['dc_bus_voltage', 'motor_current'],
      ['at_reference', 'Fault code'],
      [],
    ]);
    // What stays keeps its id and all that was entered for it.
    const [link, before] = [firstLink(device, 'ethernet-ip'), firstLink(drive, 'ethernet-ip')];
    const own = before.feedback.fields.find((f) => f.name === 'speed_actual');
    expect(link.feedback.fields.find((f) => f.name === 'speed_actual')).toEqual({ ...own, group: null });
    expect([link.id, link.feedback.id, link.feedback.start, link.commandRpi]).toEqual([
      before.id,
      before.feedback.id,
      before.feedback.start,
      before.commandRpi,
    ]);
  });
});

describe('a describer of our own', () => {
  test('a device leaves and comes back with all that was laid out, at a new place with new ids', () => {
    for (const original of cell.devices) {
      const text = writeTableDescriber(tableDescriberOf(original, 'manual, page 3'));
      const { describer } = readDescriber(new TextEncoder().encode(text), TextDecoder);
      const device = deviceOfChoice(
        describer,
        1,
        cell,
        { name: 'copy_x1', address: '192.168.40.99' },
        ids(),
      )!;
      expect(changesForDevice(original, describer)).toEqual([]);
      expect(device).toMatchObject({
        name: 'copy_x1',
        identity: original.identity,
      });
      expect(device.links.length).toBe(original.links.length);
      expect(device.id).not.toBe(original.id);
    }
  });

  test.each([
    '{"format": "fadenkreuz-describer"}',
    '{"format": "fadenkreuz-describer", "version": 1, "device": {}}',
    '{"format": "fadenkreuz-describer"',
  ])('%s is refused', (text) =>
    expect(() => readDescriber(new TextEncoder().encode(text), TextDecoder)).toThrow(),
  );

  test('the published JSON Schema is that of the model (npx vitest -u writes it anew)', async () => {
    await expect(JSON.stringify(tableDescriberSchema(), null, 2) + '\n').toMatchFileSnapshot(
      '../../schema/describer.schema.json',
    );
  });
});

test('the table of the pump’s manual gives the image that the cell has', () => {
  const rows = tableCells(readFileSync(new URL('tables/brine_pump_m2_feedback.csv', demo), 'utf8'));
  const { feedback } = cell.devices.find((d) => d.name === 'brine_pump_m2')!.links[0]!;
  const empty = FeedbackImage.parse({ ...feedback, fields: [], groups: [], derived: [] });
  const read = readTable(rows, guessReading(rows, empty), empty, ids());
  expect(read.bad).toEqual([]);
  const device = testDevice();
  const link = { ...device.links[0]!, feedback: { ...empty, fields: read.fields, groups: read.groups } };
  const plain = { ...feedback, derived: [] };
  const changes = factChanges(
    factsOf(tableDescriberOf({ ...device, links: [{ ...link, feedback: plain }] })),
    factsOf(tableDescriberOf({ ...device, links: [link] })),
  );
  expect(changes).toEqual([]);
  expect(testCell([device]).devices).toHaveLength(1);
});
