import { describe, expect, test } from 'vitest';
import { Parameter } from '../devices/parameter.js';
import demo from '@fadenkreuz/demo/ripening-store-3.json' with { type: 'json' };
import { readCellFile } from '../cell/cellFile.js';
import type { Device } from '../cell/model.js';
import { check } from '../checks/check.js';
import { compareParameters } from './compare.js';
import { proposedSets } from './sets.js';
import { fitOf, restorable, snapshotValues } from './snapshot.js';
import { writePlan } from './writePlan.js';

const cell = readCellFile(JSON.stringify(demo));
const parameter = (id: string, more: Partial<Parameter> = {}): Parameter =>
  Parameter.parse({
    ...{ id, code: id, name: `name ${id}`, type: 'UINT', bits: 16 },
    place: { way: 'register', table: 'holding', start: Number(id) || 0 },
    ...more,
  });

describe('values side by side', () => {
  const list = [
    parameter('1', { planned: '5.0', initial: '2', scale: { factor: '1/10', offset: '0' } }),
    parameter('2', { planned: '7' }),
    parameter('3', { planned: '12.5', decimals: '4' }),
    parameter('4', { initial: '1' }),
    parameter('5', { planned: 'nothing' }),
  ];
  const rows = compareParameters(list, {
    device: new Map([
      ['1', '00 32'],
      ['2', '00 08'],
      ['4', '00 02'],
    ]),
    other: new Map([['1', '00 33']]),
  });
  const texts = (source: 'planned' | 'device' | 'default' | 'other') =>
    rows.map(({ values }) => {
      const value = values[source];
      return value && ('text' in value ? value.text : value.problem.code);
    });

  test('each as its parameter reads it; the places of one stand in another, as it was read', () => {
    expect(texts('planned')).toEqual(['5.0', '7', '12.50', undefined, 'value.notANumber']);
    expect(texts('device')).toEqual(['5.0', '8', undefined, '2', undefined]);
    expect(texts('default')).toEqual(['2.0', undefined, undefined, '1', undefined]);
    expect(texts('other')).toEqual(['5.1', undefined, undefined, undefined, undefined]);
  });
  test('what differs: plan, device and the other one; a default alone does not', () => {
    expect(rows.map((r) => r.differs)).toEqual([true, true, false, false, false]);
  });
});

describe('writes in their order', () => {
  const key = parameter('9', { initial: '0', retained: 'never' });
  const list = [
    parameter('1'),
    parameter('2', { key: { code: '9', raw: '4711' } }),
    parameter('3', { key: { code: '9', raw: '4711' } }),
    parameter('4'),
    key,
  ];
  const plan = (...ids: string[]) =>
    writePlan(list, new Map(ids.map((id) => [id, '00 01']))).map((s) => `${s.why} ${s.parameter} ${s.bytes}`);

  test('a key opens once for those that follow each other, and is taken back', () => {
    expect(plan('1', '2', '3', '4')).toEqual([
      'value 1 00 01',
      'key 9 12 67',
      'value 2 00 01',
      'value 3 00 01',
      'lock 9 00 00',
      'value 4 00 01',
    ]);
    expect(plan('4', '2')).toEqual(['key 9 12 67', 'value 2 00 01', 'lock 9 00 00', 'value 4 00 01']);
  });
  test('a key that is among the values is left to them', () => {
    expect(plan('2', '9')).toEqual(['value 2 00 01', 'value 9 00 01']);
  });
});

describe('snapshots', () => {
  const [device] = cell.devices;
  const identity = device!.identity;
  const list = [
    parameter('1'),
    parameter('2', { access: 'read' }),
    parameter('3', { type: 'UDINT', bits: 32 }),
  ];
  const of = (parameters: Parameter[]) => ({ description: { ...device!.description, parameters } });

  test('what was read is found again by its place, also under another name', () => {
    const values = snapshotValues(
      list,
      new Map([
        ['1', '00 07'],
        ['2', '00 08'],
        ['3', '00 00 00 09'],
      ]),
    );
    expect(values.map((v) => v.text)).toEqual(['7', '8', '9']);
    const renamed = [
      parameter('1', { id: 'x', name: 'another' }),
      parameter('2', { access: 'read' }),
      parameter('3'),
    ];
    const { values: found, left } = restorable(of(renamed), values);
    expect([...found]).toEqual([['x', '00 07']]);
    expect(left).toEqual([
      { name: 'name 2', why: 'it can only be read' },
      { name: 'name 3', why: 'it has another length there' },
    ]);
    expect(restorable(of([]), values).left).toHaveLength(3);
  });

  test.each([
    ['the same', {}, 'same'],
    ['a later minor revision', { minorRevision: identity.minorRevision + 1 }, 'revision'],
    ['another major revision', { majorRevision: identity.majorRevision + 1 }, 'revision'],
    ['another product', { productCode: identity.productCode + 1 }, 'other'],
    ['another maker', { vendor: identity.vendor + 1 }, 'other'],
  ])('%s: %s', (_says, change, fits) => {
    expect(fitOf(identity, { ...identity, ...change }).fits).toBe(fits);
  });
});

describe('what settings mean, by their labels', () => {
  const source = (labels: string[], more: Partial<Parameter> = {}) =>
    parameter('20', {
      name: 'Quelle',
      role: { is: 'start source', number: null },
      labels: labels.map((text, value) => ({ value, text })),
      ...more,
    });
  const pump = cell.devices.find((d) => d.kind === 'soft starter')!;
  const withParameters = (...parameters: Parameter[]): Device => ({
    ...pump,
    description: { ...pump.description, parameters },
  });
  const codes = (...parameters: Parameter[]) =>
    check({ ...cell, devices: [withParameters(...parameters)] })
      .filter((f) => f.place.parameter)
      .map((f) => f.code);

  test.each([
    [['panel', 'terminals', 'fieldbus'], '2'],
    [['Ethernet', 'local'], '0'],
    [['hand', 'Modbus bus', 'inputs'], '1'],
  ])('%j: the network is %s', (labels, to) => {
    const [set] = proposedSets(withParameters(source(labels)));
    expect(set).toMatchObject({ set: { id: 'network-commands' }, values: [{ to }], planned: false });
    expect(proposedSets(withParameters(source(labels, { planned: to })))[0]!.planned).toBe(true);
  });
  test('two labels that could be meant are left to a person', () => {
    const [set] = proposedSets(withParameters(source(['network 1', 'network 2'])));
    expect([set!.values, set!.unclear.map((p) => p.name)]).toEqual([[], ['Quelle']]);
  });

  test('a source that is not the network is found while the network commands, with its cure', () => {
    const local = source(['panel', 'network'], { initial: '0' });
    expect(codes(local)).toEqual(['parameter.notNetwork']);
    expect(codes({ ...local, planned: '1' })).toEqual([]);
    expect(codes({ ...local, initial: null })).toEqual([]);
    const [found] = check({ ...cell, devices: [withParameters(local)] }).filter((f) => f.place.parameter);
    expect(found!.fix!.edit).toMatchObject({ parameters: [{ id: '20', planned: '1' }] });
  });

  test.each([
    ['loss reaction', ['ignore', 'ramp to stop'], 'parameter.noLossReaction'],
    ['loss reaction', ['fault', 'ignore'], undefined],
    ['address method', ['DHCP', 'stored address'], 'parameter.addressAsked'],
    ['address method', ['stored address', 'DHCP'], undefined],
    ['value order', ['low byte first', 'high byte first'], 'parameter.orderDiffers'],
    ['value order', ['big end first', 'little end first'], undefined],
  ] as const)('%s %j by default: %s', (is, labels, code) => {
    expect(
      codes(
        parameter('20', {
          ...{ role: { is, number: null }, initial: '0' },
          labels: labels.map((text, value) => ({ value, text })),
        }),
      ),
    ).toEqual(code ? [code] : []);
  });

  test('a planned value has the decimal places that another parameter says', () => {
    const places = parameter('21', { initial: '2' });
    const fine = parameter('20', { planned: '655.35', decimals: '21' });
    expect(codes(places, fine)).toEqual([]);
    expect(codes(places, { ...fine, planned: '655.36' })).toEqual(['parameter.value']);
  });

  test('a planned value that cannot be written is found', () => {
    expect(codes(parameter('20', { planned: '70000' }))).toEqual(['parameter.value']);
    expect(codes(parameter('20', { planned: '7', access: 'read' }))).toEqual(['parameter.value']);
    expect(codes(parameter('20', { planned: '7', limits: { minimum: '8', maximum: null } }))).toEqual([
      'parameter.value',
    ]);
    expect(codes(parameter('20', { planned: '8', limits: { minimum: '8', maximum: null } }))).toEqual([]);
  });
});
