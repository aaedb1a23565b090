import { describe, expect, test } from 'vitest';
import { applyEdit } from '../cell/edits/edit.js';
import type { Device } from '../cell/model.js';
import { testCell, testDevice, testLink } from '../cell/testCell.js';
import { indicatorText } from '../devices/indicators.js';
import { compareLineUp, deviceFound, lightsOf, nameplateEdit, type Found } from './found.js';

/** What the test device says when it is the one that was planned. */
const answer = (part: Partial<Found> = {}): Found => ({
  protocol: 'ethernet-ip',
  address: '192.168.40.21',
  at: '127.168.40.21',
  port: 44818,
  maker: null,
  vendor: 65_000,
  deviceType: 2,
  productCode: 1,
  majorRevision: 1,
  minorRevision: 1,
  productName: 'P',
  serialNumber: 0x1234,
  mac: '02-FA-00-00-12-34',
  status: 0x30,
  state: 3,
  addressFrom: 'stored',
  mask: '255.255.255.0',
  gateway: null,
  ...part,
});
const pump = (part: Partial<Device> = {}) => testDevice({ factoryAddress: '192.168.1.1', ...part });
const second = { id: 'd2', name: 'pump_m2', address: '192.168.40.22' };
const secondLinks = testDevice().links.map((l) => ({
  ...l,
  id: 'l2',
  command: { ...l.command, id: 'j1' },
  feedback: { ...l.feedback, id: 'j2' },
}));

test('a planned device whose protocol is not asked has its line, and is not called missing', () => {
  const profinet = testDevice({ id: 'd7', name: 'rack_k7', links: [{ ...testLink('profinet'), id: 'l7' }] });
  const [line] = compareLineUp(testCell([profinet]), []);
  expect(line).toMatchObject({ verdict: 'not-asked', device: 'd7', found: [], cures: [] });
  expect(line!.finding).toMatchObject({ code: 'wire.notAsked', severity: 'notice' });
  expect(line!.finding.says).toContain('PROFINET');
});

describe('one planned device', () => {
  test.each<[string, Found[], string, string[]]>([
    ['as planned', [answer()], 'right', []],
    ['still asks', [answer({ addressFrom: 'dhcp' })], 'asks', ['stop-asking']],
    ['another revision', [answer({ majorRevision: 2 })], 'wrong-revision', ['edit']],
    ['another product', [answer({ productCode: 9 })], 'wrong-identity', ['edit']],
    ['two of them', [answer(), answer({ serialNumber: 5 })], 'two-at-address', []],
    ['one that answered twice', [answer(), answer()], 'right', []],
    ['at its factory address', [answer({ address: '192.168.1.1' })], 'factory-address', ['set-address']],
    ['elsewhere', [answer({ address: '192.168.40.77' })], 'other-address', ['set-address', 'edit']],
    ['elsewhere outside the subnet', [answer({ address: '10.0.0.7' })], 'other-address', ['set-address']],
    ['nothing', [], 'missing', []],
  ])('%s', (_says, found, verdict, cures) => {
    const [line, ...rest] = compareLineUp(testCell([pump()]), found);
    expect(line!.verdict).toBe(verdict);
    expect(line!.cures.map((c) => c.do)).toEqual(cures);
    expect(rest).toEqual([]);
  });

  test('every edit among the cures makes the line right', () => {
    const cell = testCell([pump()]);
    for (const found of [
      answer({ majorRevision: 2, minorRevision: 7 }),
      answer({ productCode: 9, productName: 'Q' }),
      answer({ address: '192.168.40.77' }),
    ]) {
      const [line] = compareLineUp(cell, [found]);
      const cure = line!.cures.find((c) => c.do === 'edit')!;
      expect(compareLineUp(applyEdit(cell, cure.edit), [found])[0]!.verdict).toBe('right');
    }
  });

  test('a Modbus device is known by the name of its product', () => {
    const cell = testCell([pump({ links: [testLink('modbus-tcp')] })]);
    const told = { protocol: 'modbus-tcp' as const, vendor: null, deviceType: null, serialNumber: null };
    expect(compareLineUp(cell, [answer(told)])[0]!.verdict).toBe('right');
    expect(compareLineUp(cell, [answer({ ...told, productName: 'Q' })])[0]!.verdict).toBe('wrong-identity');
    // Nobody can set its address over the wire.
    const [away] = compareLineUp(cell, [answer({ ...told, address: '192.168.1.1' })]);
    expect([away!.verdict, away!.cures]).toEqual(['factory-address', []]);
  });
});

describe('several', () => {
  const cell = testCell([pump(), pump({ ...second, links: secondLinks })]);

  test('two of one kind away from home: neither is guessed', () => {
    const lines = compareLineUp(cell, [
      answer({ address: '192.168.40.70', serialNumber: 1 }),
      answer({ address: '192.168.40.71', serialNumber: 2 }),
    ]);
    expect(lines.map((l) => l.verdict)).toEqual(['missing', 'missing', 'not-planned', 'not-planned']);
    expect(lines[0]!.finding.says).toMatch('192.168.40.70, 192.168.40.71');
  });

  test('a known serial number tells them apart', () => {
    const known = testCell([pump({ serialNumber: 2 }), pump({ ...second, links: secondLinks })]);
    const lines = compareLineUp(known, [
      answer({ address: '192.168.40.70', serialNumber: 1 }),
      answer({ address: '192.168.40.71', serialNumber: 2 }),
    ]);
    expect(lines.map((l) => [l.verdict, l.found[0]?.address])).toEqual([
      ['other-address', '192.168.40.71'],
      ['other-address', '192.168.40.70'],
    ]);
  });

  test('one found device is used for one line', () => {
    const lines = compareLineUp(cell, [answer({ address: '192.168.1.1' })]);
    expect(lines.map((l) => l.verdict)).toEqual(['factory-address', 'missing']);
  });

  test('what stands at the address of a device of another kind is not its own', () => {
    const stranger = answer({ address: '192.168.40.90', productCode: 77, productName: 'Label printer' });
    const lines = compareLineUp(cell, [answer(), stranger]);
    expect(lines.map((l) => l.verdict)).toEqual(['right', 'missing', 'not-planned']);
    const cure = lines[2]!.cures[0]!;
    if (cure.do !== 'add') throw new Error('it should be addable');
    const device = deviceFound(cure.found, 'printer_p1', () => 'new');
    const next = applyEdit(cell, { edit: 'device.add', device });
    expect(next.devices.at(-1)!.identity.productName).toBe('Label printer');
  });
});

test('MAC and serial number go into the plan once', () => {
  const cell = testCell([pump()]);
  const edit = nameplateEdit(cell.devices[0]!, answer())!;
  const next = applyEdit(cell, edit);
  expect(next.devices[0]).toMatchObject({ mac: '02-FA-00-00-12-34', serialNumber: 0x1234 });
  expect(nameplateEdit(next.devices[0]!, answer())).toBeUndefined();
});

// Status words of CIP Vol. 1, table 5-2.4, and what Vol. 2, 9-4, has the lights show for them (from memory).
test.each([
  [0x0030, 3, ['steady green', 'flashing green']],
  [0x0061, 3, ['steady green', 'steady green']],
  [0x0071, 3, ['flashing green', 'steady green']],
  [0x0020, 3, ['steady green', 'flashing red']],
  [0x0130, 4, ['flashing red', 'flashing green']],
  [0x0430, 5, ['steady red', 'flashing green']],
])('status %i, state %i: what its lights should show', (status, state, shows) => {
  const lights = lightsOf(answer({ status, state })).map(indicatorText);
  lights.forEach((light, i) => expect(light.startsWith(shows[i]!)).toBe(true));
  expect(lights).toHaveLength(2);
});
