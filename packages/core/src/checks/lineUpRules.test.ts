import { describe, expect, test } from 'vitest';
import { unknownCapacity } from '../devices/capacity.js';
import type { Cell } from '../cell/model.js';
import type { LinkOf } from '../cell/link.js';
import { testCell, testDevice, withFields } from '../cell/testCell.js';
import { Field } from '../layout/field.js';
import { check } from './check.js';

const codes = (cell: Cell) => check(cell).map((f) => f.code);
const base = testCell();
const planned = (network: object, cell: Cell = base): Cell => ({
  ...cell,
  network: { ...cell.network, ...network },
});
const range = (first: number, last: number, part: object = {}) => ({
  id: `r${first}`,
  first: `192.168.40.${first}`,
  last: `192.168.40.${last}`,
  kind: null,
  title: '',
  ...part,
});

describe('the address plan', () => {
  // The test device is of the kind 'other' and stands at 192.168.40.21; the controller at 192.168.40.1.
  test.each<[string, object, string[]]>([
    ['nothing said', {}, []],
    ['a reserved range', { ranges: [range(20, 30)] }, ['address.inReservedRange']],
    ['a range of its kind', { ranges: [range(20, 30, { kind: 'other' })] }, []],
    [
      'a range of its kind elsewhere',
      { ranges: [range(60, 70, { kind: 'other' })] },
      ['address.outsideKindRange'],
    ],
    ['a range of another kind', { ranges: [range(20, 30, { kind: 'robot' })] }, ['address.otherKindRange']],
    ['two ranges over each other', { ranges: [range(60, 70), range(70, 80)] }, ['network.rangesOverlap']],
    ['two ranges side by side', { ranges: [range(60, 69), range(70, 80)] }, []],
    ['a range outside', { ranges: [range(60, 70, { last: '192.168.41.3' })] }, ['network.rangeOutside']],
    ['a gateway', { gateway: '192.168.40.254' }, []],
    ['a gateway outside', { gateway: '192.168.41.254' }, ['network.gatewayOutside']],
    ['the broadcast address as gateway', { gateway: '192.168.40.255' }, ['network.gatewayOutside']],
    ['a subnet inside the first', { further: ['192.168.40.128/25'] }, ['network.subnetsOverlap']],
    ['a subnet beside the first', { further: ['192.168.41.0/24'] }, []],
  ])('%s', (_says, network, expected) => expect(codes(planned(network))).toEqual(expected));

  test('a device in another subnet needs a gateway', () => {
    const cell = planned({ further: ['10.9.0.0/16'] }, testCell([testDevice({ address: '10.9.0.7' })]));
    expect(codes(cell)).toEqual(['network.noGateway']);
    expect(codes(planned({ gateway: '192.168.40.254' }, cell))).toEqual([]);
  });
});

describe('names', () => {
  const named = (naming: object): Cell => ({ ...base, naming: { ...base.naming, ...naming } });
  test.each<[object, string[]]>([
    [{ pattern: '{words}_{class}{number}' }, []],
    [{ pattern: '{Words}{number}' }, ['device.namePattern']],
    [{ pattern: '{x}' }, ['naming.pattern']],
    [{ longest: 6 }, ['device.nameTooLong']],
    [{ longest: 7 }, []],
  ])('%j', (naming, expected) => expect(codes(named(naming))).toEqual(expected));
});

describe('what controller, device and port can carry', () => {
  // 20 ms each way: one connection, 100 packets a second.
  const limited = (limits: object) => ({ limits: { ...unknownCapacity, ...limits } });
  test.each<[object, string[]]>([
    [{ connections: 1 }, []],
    [{ packets: 100 }, []],
    [{ packets: 99 }, ['limits.packets']],
  ])('%j', (limits, expected) => {
    expect(codes(testCell([testDevice({}, limited(limits))]))).toEqual(expected);
    expect(codes({ ...base, controller: { ...base.controller, ...limited(limits) } })).toEqual(expected);
  });

  test('a port that is more than half full', () => {
    const link = { ...testDevice().links[0]!, commandRpi: 500, feedbackRpi: 500 };
    const [first] = [testDevice({ links: [link] })];
    expect(codes(testCell([first!]))).toEqual([]);
    // 60 links of 2000 packets of 98 bytes a second each: 94 Mbit/s.
    const devices = Array.from({ length: 60 }, (_, i) => ({
      ...first!,
      id: `d${i}`,
      name: `pump_m${i}`,
      address: `192.168.40.${i + 20}`,
      links: [{ ...link, id: `l${i}` }],
    }));
    const ports = (cell: Cell) => check(cell).filter((f) => f.code === 'limits.port');
    expect(ports(testCell(devices)).map((f) => f.facts)).toEqual([{ name: 'plc_c1', share: 94, rate: 100 }]);
    expect(ports(planned({ rate: 1000 }, testCell(devices)))).toEqual([]);
  });
});

describe('times', () => {
  const limited = (update: number | null) => ({ limits: { ...unknownCapacity, update } });
  const link = testDevice().links[0] as LinkOf<'ethernet-ip'>;
  const findings = (cell: Cell) => check(cell).map((f) => [f.code, f.facts, f.fix?.edit]);

  test('2 ms at a device that keeps 16 ms, with the cure', () => {
    const quick = { ...link, commandRpi: 2000, feedbackRpi: 2000 };
    const cell = testCell([testDevice({ links: [quick] }, limited(16_000))]);
    const facts = { device: 'pump_m1', name: 'pump_m1', update: 2, limit: 16 };
    expect(findings(cell)).toEqual([
      [
        'limits.update',
        facts,
        { edit: 'link.set', link: link.id, set: { commandRpi: 16_000, feedbackRpi: 16_000 } },
      ],
    ]);
    expect(codes(testCell([testDevice({ links: [quick] }, limited(2000))]))).toEqual([]);
    const controller = { ...base.controller, ...limited(4000) };
    expect(codes({ ...testCell([testDevice({ links: [quick] })]), controller })).toEqual(['limits.update']);
  });

  test('the reaction that is wanted is kept', () => {
    // Worst: feedback 20 ms, cycle 10 ms twice, command 20 ms.
    const wanting = (reaction: number | null) => testCell([testDevice({ links: [{ ...link, reaction }] })]);
    expect(codes(wanting(null))).toEqual([]);
    expect(codes(wanting(60_000))).toEqual([]);
    expect(findings(wanting(59_000)).map(([code, facts]) => [code, facts])).toEqual([
      ['limits.reaction', { device: 'pump_m1', worst: 60, wanted: 59 }],
    ]);
  });
});

test('a safety function that a drive reports is found; a safety controller has its own notice', () => {
  const field = Field.parse({ id: 's', name: 'safe_torque_off', type: 'BOOL', at: 0, bits: 1, safety: true });
  const cell = withFields([field]);
  const of = (kind: Cell['devices'][number]['kind']) => ({
    ...cell,
    devices: cell.devices.map((d) => ({ ...d, kind })),
  });
  expect(codes(of('variable-speed drive'))).toEqual(['field.safetyFeedback']);
  expect(codes(of('safety controller'))).toEqual(['safety.statusOnly']);
});
