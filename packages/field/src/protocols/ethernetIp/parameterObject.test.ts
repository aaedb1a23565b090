import { readCellFile, type Cell } from '@fadenkreuz/core';
import demo from '@fadenkreuz/demo/ripening-store-3.json' with { type: 'json' };
import { afterAll, beforeAll, expect, test } from 'vitest';
import { Bench } from '../../bench/bench.js';

/** A device of which nobody has a data sheet: its own Parameter object says what it has. */
const all = readCellFile(JSON.stringify(demo));
const drive = { ...all.devices.find((d) => d.name === 'brush_belt_m1')!, address: '10.93.40.21' };
const hub = { ...all.devices.find((d) => d.name === 'port_hub_g1')!, address: '10.93.40.22' };
const cell: Cell = {
  ...all,
  controller: { ...all.controller, address: '10.93.40.1' },
  machine: [],
  exchanges: [],
  devices: [drive, hub],
};

let bench: Bench;
beforeAll(async () => {
  bench = new Bench(cell);
  await bench.start();
});
afterAll(() => bench.stop());

test('names, types, limits, scaling and texts come back as the data sheet has them', async () => {
  const listed = await bench.ways.parametersListedBy(drive.id);
  const own = drive.description.parameters.filter(
    (p) => p.place?.way === 'attribute' && p.place.class === 15,
  );
  expect(listed.length).toBe(own.length);
  expect(listed.length).toBeGreaterThan(60);
  for (const { name, place, type, unit, scale, limits, labels, access } of own) {
    const found = listed.find((p) => JSON.stringify(p.place) === JSON.stringify(place));
    expect(found).toMatchObject({ name, place, type, unit, limits, labels });
    expect(found!.scale?.factor ?? '1').toBe(scale?.factor ?? '1');
    expect(found!.access === 'read').toBe(access === 'read');
  }
});

test('a device whose protocol has no such list says so', async () => {
  await expect(bench.ways.parametersListedBy(hub.id)).rejects.toMatchObject({ code: 'parameter.noList' });
});

test('what a device says it is comes from the device, not from the plan', async () => {
  const found = await bench.ways.identityOf(drive.id);
  expect(found).toMatchObject({
    productCode: drive.identity.productCode,
    majorRevision: 2,
    minorRevision: 11,
  });
  expect(found!.serialNumber).toBeGreaterThan(0);
});
