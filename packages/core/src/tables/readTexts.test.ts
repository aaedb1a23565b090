import { describe, expect, test } from 'vitest';
import { applyEdit } from '../cell/edits/edit.js';
import { allImages } from '../cell/find.js';
import { sceneOf } from '../cell/scene.js';
import { testCell, testDevice } from '../cell/testCell.js';
import { Field } from '../layout/field.js';
import { guessReading, tableCells } from './guessReading.js';
import { readTable } from './readTable.js';
import { readTexts, textEdits } from './readTexts.js';

const fields = [
  { id: 'a', name: 'bit_0_0', type: 'BOOL', at: 0, bits: 1 },
  { id: 'b', name: 'bit_0_1', type: 'BOOL', at: 1, bits: 1, note: 'as it was' },
  { id: 'w', name: 'word_2', type: 'WORD', at: 16, bits: 16 },
].map((f) => Field.parse(f));
const base = testCell([testDevice()]);
const withDirect = applyEdit(base, {
  ...{ edit: 'controller.set', set: { direct: { counts: 'bytes', inputFrom: 0, outputFrom: 0 } } },
});
const cell = applyEdit(withDirect, { edit: 'image.arrange', image: 'i2', title: 'x', fields });
const command = applyEdit(cell, {
  ...{ edit: 'field.add', image: 'i1', field: Field.parse({ ...fields[0], id: 'c', name: 'start' }) },
});
const scenes = (of: typeof cell) => {
  const places = allImages(of).sort((a) => (a.image.id === 'i2' ? -1 : 1));
  return places.map((place) => sceneOf(of, place));
};
function read(text: string, of = command) {
  const rows = tableCells(text);
  const own = scenes(of);
  return readTexts(rows, guessReading(rows, own[0]!.image), own);
}
const brief = (text: string) =>
  read(text).changes.map((c) => `${c.what} ${c.field.id}${c.bit ?? ''}: ${c.before || '-'} > ${c.after}`);

describe('names and comments for what is laid out', () => {
  test('by address of the device', () =>
    expect(brief('Byte\tBit\tName\tComment\n0\t0\tready\tready to run\n0\t1\tbit_0_1\tnow this')).toEqual([
      'name a: bit_0_0 > ready',
      'note a: - > ready to run',
      'note b: as it was > now this',
    ]));

  test('by address of the controller, a bit within a word gets a label', () => {
    const start = scenes(command)[0]!.image.start;
    const direct = (byte: number, bit: number) => `%IX${start + byte}.${bit}`;
    const rows = `Address;Symbol\n${direct(0, 0)};Ready\n${direct(3, 1)};Overload`;
    expect(brief(rows)).toEqual(['name a: bit_0_0 > Ready', 'bit label w9: - > Overload']);
  });

  test('by name, comments alone; with its device in front in any image', () =>
    expect(brief('Name;Comment\nBIT_0_0;first\npump_m1.start;starts it\nword_2;')).toEqual([
      'note a: - > first',
      'note c: - > starts it',
    ]));

  test('what names nothing is said, what is there already is counted', () => {
    const { bad, same, changes } = read('Name;Comment\nnobody;x\nbit_0_1;as it was');
    expect(changes).toEqual([]);
    expect(same).toBe(1);
    expect(bad).toEqual([{ row: 2, text: 'nobody | x', reason: 'nothing is called nobody' }]);
    expect(read('Byte;Bit;Name\n9;0;far').bad[0]!.reason).toMatch(/nothing is laid out/);
  });

  test('an element of a repeated field has no name of its own, and says so', () => {
    const channel = Field.parse({ ...fields[2], name: 'channel', array: { count: 2, stride: 16 } });
    const repeated = applyEdit(cell, { edit: 'image.arrange', image: 'i2', title: 'x', fields: [channel] });
    const { changes, bad } = read('Byte\tName\tComment\n2\tgross\tof the first\n4\tnet\t', repeated);
    expect(changes).toEqual([]);
    expect(bad.map((b) => [b.row, b.reason])).toEqual([
      [2, expect.stringContaining('one of several')],
      [3, expect.stringContaining('one of several')],
    ]);
  });

  test('the edits change texts and nothing else, one an image', () => {
    const { changes } = read('Name;Comment\nbit_0_0;first\nword_2;a word\npump_m1.start;starts it');
    const edits = textEdits({ changes });
    expect(edits.map((e) => e.image)).toEqual(['i2', 'i1']);
    const after = edits.reduce(applyEdit, command);
    const plain = (c: typeof cell) =>
      allImages(c).map(({ image }) =>
        image.fields.map(({ note: _, name: __, bitLabels: ___, ...rest }) => rest),
      );
    expect(plain(after)).toEqual(plain(command));
    expect(allImages(after).flatMap((p) => p.image.fields.map((f) => f.note))).toEqual(
      expect.arrayContaining(['first', 'as it was', 'a word', 'starts it']),
    );
  });
});

test('a list of numbered signals is read by the ranges of its image', () => {
  const numbering = {
    ...{ notation: 'signal', before: 0, slot: 0, subslot: 0, blocks: [] },
    signals: [{ first: 217, count: 16, point: 12 }],
  };
  const rows = tableCells('Signal\tName\n217\tstart\n218\thold\n232\tlast\n240\tnone');
  const image = { size: 8, order: null, groups: [], numbering };
  const reading = guessReading(rows.slice(0, 4), image);
  expect(reading).toMatchObject({
    addressUnit: 'signal',
    reason: expect.stringContaining('ranges') as string,
  });
  let n = 0;
  const { fields: made, bad } = readTable(rows, reading, image, () => `n${(n += 1)}`);
  // Point 12 is bit 11: points count from 1 (common practice, no source).
  expect(made.map((f) => [f.name, f.at, f.bits])).toEqual([
    ['start', 11, 1],
    ['hold', 12, 1],
    ['last', 26, 1],
  ]);
  expect(bad).toEqual([{ row: 5, text: '240 | none', reason: 'no signal range of the image has 240' }]);
});
