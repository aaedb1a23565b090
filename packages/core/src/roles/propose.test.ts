import { describe, expect, test } from 'vitest';
import { deviceKinds, type DeviceKind } from '../devices/kinds.js';
import { Field } from '../layout/field.js';
import { factsOfRole } from '../layout/role.js';
import { rolesOfKind } from './kindRoles.js';
import { proposeRoles } from './propose.js';
import { driveSignals } from './testDriveNames.js';
import { variantsOf, type NamedSignals } from './testNames.js';
import { sensorSignals } from './testSensorNames.js';
import { stationSignals } from './testStationNames.js';
import { wordsOf } from './words.js';

test.each([
  ['bRdy', ['ready']],
  ['SpdRef_01', ['speed', 'reference', '01']],
  ['Drehzahl-Sollwert', ['speed', 'reference']],
  ['Drehzahlsollwert', ['speed', 'reference']],
  ['CMD.FaultRst', ['command', 'fault', 'reset']],
  ['in_pos', ['target', 'reached']],
])('%s', (name, words) => expect(wordsOf(name)).toEqual(words));

const namedSignals = [...driveSignals, ...sensorSignals, ...stationSignals];

/** What is proposed for one name by itself, in an image of its direction. */
function proposed(name: string, { kind, direction, reads, unit = '' }: NamedSignals) {
  const shape = {
    bit: { type: 'BOOL', bits: 1 },
    number: { type: 'INT', bits: 16 },
    text: { type: 'STRING', bits: 160 },
  }[reads];
  const field = Field.parse({ id: 'f', name: 'x', sourceName: name, at: 0, unit, ...shape });
  return proposeRoles({ fields: [field], direction }, rolesOfKind(kind).usual)[0];
}

interface Tally {
  names: number;
  right: number;
  wrong: number;
  missed: number;
}
const precision = ({ right, wrong }: Tally) => right / (right + wrong);
const recall = ({ right, wrong, missed }: Tally) => right / (right + wrong + missed);

/** How names of a kind fare, and those that do not. */
function tallyOf(kind: DeviceKind): { tally: Tally; bad: string[] } {
  const tally = { names: 0, right: 0, wrong: 0, missed: 0 };
  const bad: string[] = [];
  for (const group of namedSignals.filter((g) => g.kind === kind))
    for (const [role, names] of Object.entries(group.names))
      for (const name of names.split('; ').flatMap((n) => variantsOf(n, group.reads))) {
        const found = proposed(name, group)?.role.is ?? '-';
        tally.names += 1;
        if (found === role) tally.right += role === '-' ? 0 : 1;
        else {
          bad.push(`${group.direction} ${name}: ${found}, not ${role}`);
          if (found === '-') tally.missed += 1;
          else tally.wrong += 1;
        }
      }
  return { tally, bad };
}

// `npm run roles -w bench` prints the table; with SHOW=1 the names that fail, too.
test.each(deviceKinds.filter((kind) => kind !== 'other'))(
  'of 150 names or more for a %s 95 of 100 proposals are right, and 80 of 100 roles are found',
  (kind) => {
    const { tally, bad } = tallyOf(kind);
    if (process.env['SHOW'])
      console.log(
        `${kind}: ${tally.names} names, precision ${precision(tally).toFixed(3)}, recall ${recall(tally).toFixed(3)}\n` +
          bad.join('\n'),
      );
    expect(tally.names).toBeGreaterThanOrEqual(150);
    expect(precision(tally)).toBeGreaterThanOrEqual(0.95);
    expect(recall(tally)).toBeGreaterThanOrEqual(0.8);
  },
);

describe('of an image', () => {
  const bit = (name: string, at: number, more: object = {}) =>
    Field.parse({ id: `f${at}`, name, type: 'BOOL', at, bits: 1, ...more });

  test('points that are counted from 0 are numbered from 1', () => {
    const fields = ['DI0', 'DI1', 'DI2'].map((name, i) => bit(name, i));
    expect(proposeRoles({ fields, direction: 'feedback' }).map((p) => p.role)).toEqual([
      { is: 'input', number: 1 },
      { is: 'input', number: 2 },
      { is: 'input', number: 3 },
    ]);
  });

  test('a role that only one can have is proposed for the surest, and not again once it is given', () => {
    const fields = [bit('ready', 0), bit('ready_2_of_the_gate', 1)];
    expect(proposeRoles({ fields, direction: 'feedback' }).map((p) => p.field)).toEqual(['f0']);
    const given = [bit('ready', 0, { role: { is: 'ready' } }), bit('bRdy', 1)];
    expect(proposeRoles({ fields: given, direction: 'feedback' })).toEqual([]);
  });

  test('bits of a word have roles by their labels', () => {
    const word = Field.parse({
      ...{ id: 'w', name: 'control_word', type: 'WORD', at: 0, bits: 16 },
      bitLabels: [
        { bit: 0, text: 'start' },
        { bit: 7, text: 'fault reset' },
      ],
    });
    expect(proposeRoles({ fields: [word], direction: 'command' }).map((p) => [p.bit, p.role.is])).toEqual([
      [null, 'control word'],
      [0, 'start'],
      [7, 'fault reset'],
    ]);
  });

  test('where the name says nothing, the text of its value or the note of the manual does', () => {
    const labels = [
      { value: 0, text: 'stands' },
      { value: 1, text: 'running' },
    ];
    const fields = [
      bit('X17', 0, { labels }),
      bit('X18', 1, { labels, normallyClosed: true }),
      bit('X19', 2, { note: 'Fault active' }),
      bit('X20', 3, { note: 'shows whether the fault memory of the drive was read' }),
    ];
    expect(
      proposeRoles({ fields, direction: 'feedback' }).map((p) => [p.field, p.role.is, p.reason]),
    ).toEqual([
      ['f0', 'running', 'its value “running” says “running”'],
      ['f2', 'faulted', 'its note “Fault active” says “fault active”'],
    ]);
    // A name goes before, and is surer.
    const [named] = proposeRoles({ fields: [bit('running', 0)], direction: 'feedback' });
    const [labelled] = proposeRoles({ fields, direction: 'feedback' });
    expect(named!.sure).toBeGreaterThan(labelled!.sure);
  });

  test('what is about safety is asked for, never taken by itself', () => {
    const fields = [bit('Emergency stop', 0), bit('muting_active', 1), bit('STO active', 2)];
    for (const { role, ask } of proposeRoles({ fields, direction: 'feedback' }))
      expect([role.is, ask]).toEqual([role.is, factsOfRole(role.is).safety === true]);
    expect(proposeRoles({ fields, direction: 'feedback' })[0]).toMatchObject({ ask: true });
  });

  test('a unit of another quantity speaks against a role', () => {
    const field = Field.parse({ id: 'f', name: 'speed', type: 'INT', at: 0, bits: 16, unit: 'kg' });
    expect(proposeRoles({ fields: [field], direction: 'feedback' })).toEqual([]);
  });
});

describe('standards know their places, whatever the names', () => {
  // CIP Vol. 1, 6-29.6: assembly 71 (from memory).
  test('extended speed control: single bits, or the bits of a byte', () => {
    const bits = [0, 1, 2, 3, 4, 5, 6, 7].map((at) =>
      Field.parse({ id: `b${at}`, name: `x${at}`, type: 'BOOL', at, bits: 1 }),
    );
    const speed = Field.parse({ id: 's', name: 'n_ist', type: 'INT', at: 16, bits: 16 });
    const wanted = [
      ...(['faulted', 'warning', 'runs forward', 'runs reverse', 'ready', 'network has control'] as const),
      ...(['network has reference', 'at speed', 'speed actual'] as const),
    ];
    const image = { direction: 'feedback', instance: 71, size: 4 } as const;
    expect(proposeRoles({ ...image, fields: [...bits, speed] }).map((p) => p.role.is)).toEqual(wanted);
    const byte = Field.parse({ id: 'b', name: 'zsw', type: 'BYTE', at: 0, bits: 8 });
    const ofByte = proposeRoles({ ...image, fields: [byte, speed] });
    expect(ofByte.map((p) => p.role.is)).toEqual(wanted);
    expect(ofByte.map((p) => p.bit)).toEqual([0, 1, 2, 3, 4, 5, 6, 7, null]);
    // Another size is another assembly of the same number.
    expect(proposeRoles({ ...image, size: 6, fields: bits })).toEqual([]);
  });

  // IEC 61800-7-201, statusword (from memory): bits 0 to 7 of the states, 10 target reached, 12 set-point acknowledge.
  test('the bits of a status word of an axis; not of a drive', () => {
    const word = Field.parse({ id: 'w', name: 'Statusword', type: 'UINT', at: 0, bits: 16 });
    const image = { direction: 'feedback' as const, fields: [word] };
    const axis = proposeRoles(image, rolesOfKind('servo axis').usual);
    expect(axis.map((p) => [p.bit, p.role.is])).toEqual([
      [null, 'status word'],
      [0, 'ready to switch on'],
      [1, 'switched on'],
      [2, 'enabled'],
      [3, 'faulted'],
      [4, 'voltage enabled'],
      [6, 'switch on disabled'],
      [7, 'warning'],
      [10, 'target reached'],
      [11, 'limit active'],
      [12, 'setpoint acknowledge'],
      [13, 'following error'],
    ]);
    const drive = proposeRoles(image, rolesOfKind('variable-speed drive').usual);
    expect(drive.map((p) => p.role.is)).toEqual(['status word']);
  });
});
