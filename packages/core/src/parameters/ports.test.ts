import { readFileSync } from 'node:fs';
import { describe, expect, test } from 'vitest';
import { applyEdit } from '../cell/edits/edit.js';
import { testCell, testDevice } from '../cell/testCell.js';
import { check } from '../checks/check.js';
import { portParameters } from '../describers/iodd/ioddParameters.js';
import type { Iodd } from '../describers/iodd/iodd.js';
import { readDescriber } from '../describers/read.js';
import { Parameter } from '../devices/parameter.js';
import { PortDevice } from '../devices/ports.js';
import { DescribedParameters } from '../devices/plain/parameters.js';
import { replacement } from '../lineup/replace.js';
import { portObject } from '../protocols/ethernetIp/objects/ports.js';
import { answerMessage } from '../protocols/ethernetIp/objectModel.js';
import { encodeRequest } from '../protocols/ethernetIp/messageRouter.js';
import { logical } from '../protocols/ethernetIp/path.js';
import { isduError } from '../devices/isduErrors.js';
import { readPlace, placeText } from '../tables/parameterPlace.js';
import { firstOpen } from '../trouble/ring.js';
import { portRings } from './portRings.js';

/** A master that is not in the demo: eight ports, German labels, addressed by a service of an object. */
const labels = { on: [0, 'Aus', 1, 'On (24 V)'], mode: [0, 'aus', 3, 'IO-Link', 4, 'DI'] } as const;
const labelled = (of: readonly (string | number)[]) =>
  Array.from({ length: of.length / 2 }, (_, i) => ({ value: of[2 * i], text: of[2 * i + 1] }));
const parameter = (id: string, more: object) =>
  Parameter.parse({ id, code: id, name: id, type: 'USINT', bits: 8, ...more });
const settings = [
  parameter('power5', { role: { is: 'load power', number: 5 }, labels: labelled(labels.on), initial: '0' }),
  parameter('mode5', { role: { is: 'port mode', number: 5 }, labels: labelled(labels.mode), initial: '4' }),
  parameter('in5', { role: { is: 'port input length', number: 5 }, initial: '4' }),
];
const gauge = PortDevice.parse({
  ...{ port: 5, name: 'tank gauge', vendorId: 0x1234, deviceId: 0x56789a },
  ...{ productName: 'TG-8', inputBytes: 2 },
});
const direct = parameter('direct', {
  ...{ type: 'BYTES', bits: 128, access: 'read' },
  place: { way: 'port', port: 5, index: 0, subindex: 0 },
});
const rules = {
  requests: {
    ...{ by: 'service', class: 0x96, instance: { first: 0x10, step: 2 }, attribute: null },
    ...{ read: 0x32, write: 0x33, order: 'big' },
  },
};
const master = testDevice({
  ...{ kind: 'IO-Link master' },
  description: {
    ...testDevice({}).description,
    ...{ parameters: [...settings, direct], ports: [gauge], portRules: rules as never },
  },
});

describe('why a port is green and dead, in order', () => {
  const right = {
    power5: '01',
    mode5: '03',
    in5: '02',
    direct: `00 00 00 00 00 00 00 12 34 56 78 9A 00 00 00 00`,
  };
  const open = (read: Record<string, string>, valid?: boolean) =>
    firstOpen(portRings(master, gauge, { read: new Map(Object.entries(read)), valid }));

  test('nothing read: what is delivered already says it; its cure is a value of the plan', () => {
    expect(open({})).toMatchObject({ title: 'load power', reads: ['power5'] });
    expect(open({})?.fix?.edit['parameters']).toMatchObject([{ id: 'power5', planned: '1' }]);
  });
  test.each([
    [{ ...right, power5: '00' }, true, 'load power'],
    [{ ...right, mode5: '04' }, true, 'mode'],
    [right, false, 'talks'],
    [{ ...right, direct: right.direct.replace('9A', '9B') }, true, 'the planned device'],
    [{ ...right, in5: '04' }, true, 'input length'],
    // Of two the first in order.
    [{ ...right, in5: '04', mode5: '00' }, false, 'mode'],
  ])('%# one of them broken', (read, valid, title) => expect(open(read, valid)?.title).toBe(title));
  test('all in order', () => {
    const rings = portRings(master, gauge, { read: new Map(Object.entries(right)), valid: true });
    expect(rings.map((r) => r.state)).toEqual(rings.map(() => 'closed'));
    expect(rings).toHaveLength(5);
  });
  test('the check says power, mode and length without a device', () => {
    const codes = check(testCell([master])).map((f) => f.code);
    expect(codes).toContain('parameter.portLength');
    const without = { ...master, description: { ...master.description, portRules: null } };
    expect(check(testCell([without])).map((f) => f.code)).toContain('parameter.portPlace');
  });
});

describe('what is put at a port', () => {
  const edit = (holds: PortDevice | null, parameters: object[]) =>
    ({ edit: 'port.set', device: master.id, port: 5, holds, parameters }) as never;
  const damping = (id: string, port: number) =>
    parameter(id, { place: { way: 'port', port, index: 102, subindex: 0 }, planned: null });

  test('another device of the kind keeps what is planned for its places; unplugged it takes all with it', () => {
    const cell = testCell([master]);
    const one = applyEdit(cell, edit(gauge, [{ ...damping('a', 5), planned: '20' }]));
    const two = applyEdit(one, edit({ ...gauge, name: 'another gauge' }, [damping('b', 5)]));
    const { ports, parameters } = two.devices[0]!.description;
    expect(ports.map((p) => p.name)).toEqual(['another gauge']);
    expect(parameters.find((p) => p.id === 'b')?.planned).toBe('20');
    expect(parameters.find((p) => p.id === 'a')).toBeUndefined();
    const none = applyEdit(two, edit(null, [])).devices[0]!.description;
    expect(none.ports).toEqual([]);
    expect(none.parameters.map((p) => p.id)).toEqual(settings.map((p) => p.id));
  });

  test('a master that is replaced passes its ports on', () => {
    const fresh = testDevice({
      id: 'fresh',
      description: { ...testDevice({}).description, parameters: [parameter('x', {})] },
    });
    const { description } = replacement(master, fresh).device;
    expect(description.ports).toEqual([gauge]);
    expect(description.portRules).toEqual(rules);
    expect(description.parameters.map((p) => p.id)).toEqual(['x', 'direct']);
  });

  test('places as text, in and out', () => {
    const place = { way: 'port', port: 3, index: 102, subindex: 1 } as const;
    expect(placeText(place)).toBe('port 3 index 102 subindex 1');
    expect(readPlace(placeText(place))).toEqual(place);
    expect(readPlace('port 3 index 16#66')).toEqual({ ...place, subindex: 0 });
  });
});

test('the variables of an IODD behind a port: places, exact scaling, identification where the file lists none', () => {
  const file = new URL('../../../../demo/describers/murmel_pt3_iodd.xml', import.meta.url);
  const { describer } = readDescriber(readFileSync(file), TextDecoder);
  let n = 0;
  const all = portParameters(describer as Iodd, { port: 2, group: 'PT3' }, () => `id${(n += 1)}`);
  expect(all.every((p) => p.place?.way === 'port' && p.place.port === 2)).toBe(true);
  expect(new Set(all.map((p) => p.code)).size).toBe(all.length);
  expect(all.find((p) => p.code === 'P2.100')).toMatchObject({ type: 'INT', access: 'read-write' });
  expect(all.find((p) => p.code === 'P2.0')).toMatchObject({ type: 'BYTES', bits: 128, access: 'read' });
});

describe('the object of a master', () => {
  const described = new DescribedParameters(master.description.parameters, [gauge]);
  const model = [portObject(master.description.portRules!.requests, described.all)!];
  /** Byte by byte: index high byte first, subindex, value. */
  const ask = (service: number, data: number[]) =>
    answerMessage(
      model,
      encodeRequest({
        service,
        path: [logical('class', 0x96), logical('instance', 0x18)],
        data: Uint8Array.from(data),
      }),
      { from: '', maxAnswer: 500 },
    );

  test('port 5 is instance 16#10 + 4 × 2; it answers as the device that is planned there', () => {
    expect([...ask(0x32, [0, 0, 0])].slice(4 + 7, 4 + 12)).toEqual([0x12, 0x34, 0x56, 0x78, 0x9a]);
  });
  test('errors of the device stand in the extended status, low byte first', () => {
    expect([...ask(0x32, [0, 99, 0])]).toEqual([0xb2, 0, 0x1f, 1, 0x11, 0x80]);
    expect([...ask(0x33, [0, 0, 0, 1])]).toEqual([0xb3, 0, 0x1f, 1, 0x23, 0x80]);
    described.show({ 'port valid': [true, true, true, true, false] });
    expect([...ask(0x32, [0, 0, 0])]).toEqual([0xb2, 0, 0x1f, 1, 0x00, 0x11]);
    expect(isduError(0x1100).cure).toContain('IO-Link mode');
  });
});
