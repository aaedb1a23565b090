import { expect, test } from 'vitest';
import { testCell, testDevice } from '../cell/testCell.js';
import { Field } from '../layout/field.js';
import { fieldTable } from '../tables/fieldTable.js';
import { roleEntry, roleText } from '../layout/role.js';
import { check } from './check.js';

const field = (part: object) => Field.parse({ type: 'BOOL', bits: 1, ...part });
const ready = { is: 'ready' };

/** What is said of the roles of a device with these fields in its feedback image. */
function said(fields: Field[], kind: 'other' | 'weigher' = 'other') {
  const device = testDevice({ kind });
  const link = device.links[0]!;
  const cell = testCell([{ ...device, links: [{ ...link, feedback: { ...link.feedback, fields } }] }]);
  return check(cell).flatMap((f) => (f.code.startsWith('role.') ? [[f.code, f.facts]] : []));
}

test('a role that two fields have', () => {
  const fields = [
    field({ id: 'a', name: 'a', at: 0, role: ready }),
    field({ id: 'b', name: 'b', at: 1, role: ready }),
  ];
  expect(said(fields)).toEqual([
    ['role.twice', expect.objectContaining({ role: 'ready', fields: 'a and b' })],
  ]);
  const numbered = [1, 2].map((number) =>
    field({ id: `i${number}`, name: `i${number}`, at: number, role: { is: 'input', number } }),
  );
  expect(said(numbered)).toEqual([]);
});

test.each([
  [{ name: 'a', at: 0, role: { is: 'start' } }, 'it is a command role'],
  [{ name: 'a', at: 0, role: { is: 'speed actual' } }, 'it is for a number, and this is a bit'],
  [
    { name: 'a', at: 0, type: 'INT', bits: 16, unit: 'kg', role: { is: 'speed actual' } },
    'it is a speed, and kg is a mass',
  ],
  [
    { name: 'a', at: 0, type: 'WORD', bits: 16, bitRoles: [{ bit: 17, role: ready }] },
    'the field has 16 bits',
  ],
])('%o', (part, why) => {
  expect(said([field({ id: 'a', ...part })])).toEqual([['role.unfit', expect.objectContaining({ why })]]);
});

test('what a kind cannot do without is asked for as soon as anything has a role', () => {
  expect(said([field({ id: 'a', name: 'a', at: 0 })], 'weigher')).toEqual([]);
  expect(said([field({ id: 'a', name: 'a', at: 0, role: { is: 'stable' } })], 'weigher')).toEqual([
    ['role.missing', { device: 'pump_m1', kind: 'weigher', role: 'gross' }],
  ]);
});

test('roles are written and read in words', () => {
  for (const role of [
    { is: 'output', number: 3 },
    { is: 'direction', number: null },
    { is: 'at speed', number: null },
  ] as const)
    expect(roleEntry(roleText(role))).toEqual(role);
  expect(roleEntry('Fault Reset')).toEqual({ is: 'fault reset', number: null });
  expect(roleEntry('wonder 3')).toBeUndefined();
  const word = field({
    ...{ id: 'w', name: 'w', at: 0, type: 'WORD', bits: 16, role: { is: 'status word' } },
    bitRoles: [{ bit: 3, role: { is: 'input', number: 2 } }],
  });
  const [heads, row] = fieldTable({ fields: [word], groups: [] } as never);
  expect([row![heads!.indexOf('role')], row![heads!.indexOf('bit roles')]]).toEqual([
    'status word',
    '3 = input 2',
  ]);
});
